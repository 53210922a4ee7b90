using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using ArchTalk.Data.Entities;

namespace ArchTalk.Web.Timelines;

/// <summary>What a compiled lesson is known by: it changes when anything does that the lesson is compiled from.</summary>
/// <param name="Revision">The lesson's.</param>
/// <param name="OpenBytes">How much is saved of takes that are being recorded.</param>
public sealed record CompiledKey(Guid Lesson, long Revision, long OpenBytes);

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

    /// <summary>About how much memory it takes, beside the takes, when all of it was asked for: as much as they do.</summary>
    public long Bytes => 10_000 + (2000L * Boards.Count) + Arrangement.Placements.Select(p => p.Log).Distinct().Sum(BytesOf)
        + Timeline.Pointer.Sum(p => BytesOfStroke + (BytesOfPoint * (long)p.Points.Count));

    /// <summary>About how much memory a take takes.</summary>
    public static long BytesOf(TakeLog log) => 10_000 + (log.Sound.Count * 24L)
        + log.Actions.Sum(a => BytesOfStroke + (a is StrokeDrawn s ? BytesOfPoint * (long)s.Points.Count : 0));
}
