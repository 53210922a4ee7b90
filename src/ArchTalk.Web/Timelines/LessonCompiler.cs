using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using ArchTalk.Data;
using ArchTalk.Data.Queries;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Recording;
using Microsoft.EntityFrameworkCore;
using Board = ArchTalk.Data.Entities.Board;

namespace ArchTalk.Web.Timelines;

/// <summary>A lesson compiled from its boards and takes as they are now.</summary>
/// <param name="Version">Changes when anything it was compiled from changes.</param>
public sealed record CompiledLesson(string Version, LessonTimeline Timeline, IReadOnlyList<Board> Boards, IReadOnlyList<Take> Takes)
{
    /// <summary>The whole voice: the samples of the take ranges one after another.</summary>
    public short[] ToSamples() => [.. Takes.SelectMany(t => t.ToSamples())];
}

/// <summary>Loads what a lesson is compiled from, and keeps the last result of each lesson.</summary>
public sealed class LessonCompiler(ArchTalkDb db, LessonFiles files, SectionService sections)
{
    // A lesson at a time is worked on; a few are kept so that switching between them is quick.
    private const int MostKept = 8;
    private static readonly ConcurrentDictionary<Guid, CompiledLesson> Kept = new();
    private static readonly SemaphoreSlim PreviewTurn = new(1);

    public async Task<CompiledLesson> CompileAsync(Guid lesson, CancellationToken cancel)
    {
        var boards = await db.Boards.InLesson(lesson).AsNoTracking().ToListAsync(cancel);
        var takes = await db.Takes.AsNoTracking().Where(t => t.LessonId == lesson && t.DeletedAt == null)
            .OrderBy(t => t.Order).ToListAsync(cancel);

        // A take that was interrupted, or is being recorded, counts as far as it is saved.
        takes.RemoveAll(t => !File.Exists(files.Journal(lesson, t.Id)));
        var version = VersionOf(boards, takes);
        if (Kept.TryGetValue(lesson, out var known) && known.Version == version)
        {
            return known;
        }

        var read = new List<Take>();
        foreach (var take in takes)
        {
            // One that was only just begun, or ended at once, has no sound.
            if (await TakeJournals.ReadAsync(files.Journal(lesson, take.Id), cancel) is { Length.Samples: > 0 } heard)
            {
                read.Add(heard);
            }
        }

        var timeline = TimelineCompiler.Compile([.. boards.Select(b => b.ToCore())], TakeRange.EndToEnd(read));
        var compiled = new CompiledLesson(version, timeline, boards, read);
        if (Kept.Count >= MostKept)
        {
            Kept.Clear();
        }

        Kept[lesson] = compiled;
        return compiled;
    }

    /// <summary>timeline.json for the teacher's own player; addresses are those of the lesson's files.</summary>
    public async Task<byte[]> TimelineJsonAsync(Guid lesson, CancellationToken cancel)
    {
        var compiled = await CompileAsync(lesson, cancel);
        var chapters = Chapters.Place(await sections.ChaptersAsync(lesson, cancel), compiled.Timeline);
        return TimelineJson.Write(compiled.Timeline, PicturesOf(compiled.Boards, BoardView.Folder), chapters);
    }

    /// <summary>The lesson's voice as it is now, as a WAV file that stays until something changes.</summary>
    public async Task<string> PreviewVoiceAsync(Guid lesson, CancellationToken cancel)
    {
        var compiled = await CompileAsync(lesson, cancel);
        var target = files.Preview(lesson, compiled.Version);
        await PreviewTurn.WaitAsync(cancel);
        try
        {
            if (!File.Exists(target))
            {
                var folder = Path.GetDirectoryName(target)!;
                LessonFiles.Discard(folder);
                Directory.CreateDirectory(folder);
                await Voice.WriteWavAsync(compiled.ToSamples(), target, cancel);
            }

            return target;
        }
        finally
        {
            PreviewTurn.Release();
        }
    }

    /// <summary>Chapters proposed from the boards shown and the long silences.</summary>
    public async Task<IReadOnlyList<Chapter>> ProposeChaptersAsync(Guid lesson, CancellationToken cancel)
    {
        var compiled = await CompileAsync(lesson, cancel);
        var silences = SilenceFinder.Find(compiled.ToSamples(), Chapters.LongSilence);
        return [.. Chapters.Propose(compiled.Timeline, silences).Select(c =>
        {
            var moment = c.At == LessonTime.Zero ? null : compiled.Timeline.MomentAt(c.At);
            return new Chapter(Guid.CreateVersion7(), c.Title, moment?.Take.Value, moment?.At.Samples ?? 0);
        })];
    }

    public static IReadOnlyList<IReadOnlyList<BoardPicture>> PicturesOf(IReadOnlyList<Board> boards, Func<Board, string> folder) =>
        [.. boards.Select(b => b.Pictures.Select(p => new BoardPicture(folder(b) + p.File, p.Width, p.Height)).ToArray())];

    private string VersionOf(List<Board> boards, List<Data.Entities.Take> takes)
    {
        var text = JsonSerializer.Serialize(new
        {
            Boards = boards.Select(b => new { b.Id, b.Title, b.Height }),
            Takes = takes.Select(t => new { t.Id, t.Samples, Open = t.EndedAt is null ? new FileInfo(files.Journal(t.LessonId, t.Id)).Length : 0 }),
        });
        return Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(text)))[..16];
    }
}
