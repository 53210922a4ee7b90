using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Web.Recording;

namespace ArchTalk.Web.Timelines;

/// <summary>What a compiled lesson is known by: it changes when anything does that the lesson is compiled from.</summary>
/// <param name="Revision">The lesson's.</param>
/// <param name="OpenBytes">How much is saved of takes that are being recorded.</param>
public sealed record CompiledKey(Guid Lesson, long Revision, LessonVariant Variant, long OpenBytes)
{
    /// <summary>The same as a part of a file's name.</summary>
    public string Name => $"{Revision:x}-{(int)Variant}-{OpenBytes:x}";
}

/// <summary>A lesson compiled from its boards, takes and edits as they are now.</summary>
/// <param name="Boards">In order, as those of the timeline.</param>
public sealed record CompiledLesson(CompiledKey Key, Arrangement Arrangement, LessonTimeline Timeline, IReadOnlyList<BoardRow> Boards)
{
    // A point of ink and a pair of coordinates in lists, rounded up.
    private const int BytesOfPoint = 24;
    private const int BytesOfStroke = 400;

    /// <summary>The copies of the boards' pictures.</summary>
    /// <param name="folder">The address of a board's files.</param>
    public IReadOnlyList<IReadOnlyList<BoardPicture>> Pictures(Func<BoardRow, string> folder) => [.. Boards.Select(b => PicturesOf(b, folder(b)))];

    public static IReadOnlyList<BoardPicture> PicturesOf(BoardRow board, string folder) =>
        [.. board.Pictures.Select(p => new BoardPicture(folder + p.File, p.Width, p.Height))];

    /// <summary>About how much memory it takes, beside the takes.</summary>
    public long Bytes => 10_000 + Timeline.Boards.Sum(b => 2000L + b.Strokes.Sum(s => BytesOfStroke + (BytesOfPoint * (long)s.Points.Count)))
        + Timeline.Pointer.Sum(p => BytesOfStroke + (BytesOfPoint * (long)p.Points.Count));

    /// <summary>About how much memory a take takes.</summary>
    public static long BytesOf(TakeLog log) => 10_000 + (log.Sound.Count * 24L)
        + log.Actions.Sum(a => BytesOfStroke + (a is StrokeDrawn s ? BytesOfPoint * (long)s.Points.Count : 0));

    /// <summary>The whole voice as the arrangement has it.</summary>
    public short[] ReadVoice(LessonFiles files)
    {
        var samples = new short[Timeline.Length.Samples];
        var voices = new Dictionary<TakeId, (FileStream File, TakeVoice Voice)>();
        try
        {
            foreach (var stretch in VoicePlan.Of(Arrangement))
            {
                if (stretch.From is { } moment)
                {
                    var voice = voices.TryGetValue(moment.Take, out var open) ? open : voices[moment.Take] = Open(files, moment.Take);
                    var (from, to) = ((int)stretch.Target.Start.Samples, (int)stretch.Target.End.Samples);
                    voice.Voice.Read(moment.At, samples.AsSpan(from, to - from));
                }
            }

            return samples;
        }
        finally
        {
            foreach (var (file, _) in voices.Values)
            {
                file.Dispose();
            }
        }
    }

    private (FileStream File, TakeVoice Voice) Open(LessonFiles files, TakeId take)
    {
        var file = TakeJournals.OpenToRead(files.Journal(Key.Lesson, take.Value));
        return (file, new TakeVoice(file, Arrangement.Placements.First(p => p.Take == take).Log));
    }
}
