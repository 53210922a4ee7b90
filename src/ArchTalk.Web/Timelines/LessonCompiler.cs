using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Data.Queries;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Recording;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Timelines;

/// <summary>Loads what a lesson is compiled from, compiles it, and keeps what was worked out.</summary>
public sealed class LessonCompiler(IServiceScopeFactory scopes, LessonFiles files, ComputedCache cache)
{
    // About what a board's words and a shape of its drawings take in memory.
    private const int BytesOfBoard = 500;
    private const int BytesOfShape = 300;

    public async Task<CompiledLesson> CompileAsync(Guid lesson, CancellationToken cancel)
    {
        var key = await KeyAsync(lesson, cancel);
        return await cache.GetAsync(key, () => CompileAsync(key), cancel);
    }

    /// <summary>timeline.json for the teacher's own player; addresses are those of the lesson's files.</summary>
    public async Task<byte[]> TimelineAsync(Guid lesson, CancellationToken cancel)
    {
        var compiled = await CompileAsync(lesson, cancel);
        await using var scope = scopes.CreateAsyncScope();
        var chapters = await scope.ServiceProvider.GetRequiredService<SectionService>().ChaptersAsync(lesson, cancel);
        return TimelineFiles.ToBytes(TimelineFiles.Timeline(
            compiled.Timeline, compiled.Pictures(BoardView.Folder), Chapters.Place(chapters, compiled.Arrangement)));
    }

    /// <summary>What lies on one board; null when there is no such board.</summary>
    public async Task<byte[]?> BoardAsync(Guid lesson, int index, CancellationToken cancel)
    {
        var compiled = await CompileAsync(lesson, cancel);
        return index < 0 || index >= compiled.Boards.Count ? null : await cache.GetAsync((compiled.Key, index), async () =>
        {
            var (drawings, description, blanks) = (await DescribeAsync(compiled))[index];
            return Sized(TimelineFiles.ToBytes(TimelineFiles.Board(compiled.Timeline.Boards[index], drawings, description, blanks)));
        }, cancel);
    }

    /// <summary>All boards as the lesson leaves them, for a take to go on from.</summary>
    public async Task<byte[]> BoardsAtEndAsync(Guid lesson, CancellationToken cancel)
    {
        var compiled = await CompileAsync(lesson, cancel);
        return await cache.GetAsync((compiled.Key, "end"), async () =>
        {
            var described = await DescribeAsync(compiled);
            return Sized(TimelineFiles.ToBytes(new BoardsFile(
                [.. compiled.Timeline.Boards.Select((b, i) => TimelineFiles.BoardAtEnd(b, described[i].Drawings, described[i].Description))])));
        }, cancel);
    }

    /// <summary>Where the pointer is within a minute.</summary>
    public async Task<byte[]> PointerAsync(Guid lesson, int minute, CancellationToken cancel) =>
        TimelineFiles.ToBytes(TimelineFiles.Pointer((await CompileAsync(lesson, cancel)).Timeline, minute));

    private static (byte[] Bytes, long Size) Sized(byte[] bytes) => (bytes, bytes.Length);

    // The revision is read first: what is written meanwhile is compiled anew under the next one.
    private async Task<CompiledKey> KeyAsync(Guid lesson, CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<ArchTalkDb>();
        var known = await db.Lessons.Where(l => l.Id == lesson)
            .Select(
                l => new { l.Revision, Open = l.Takes.Where(t => t.DeletedAt == null && t.EndedAt == null).Select(t => t.Id).ToList() })
                .SingleAsync(cancel);
        return new CompiledKey(
            lesson,
            known.Revision,
            known.Open.Sum(t => new FileInfo(files.Journal(lesson, t)) is { Exists: true } file ? file.Length : 0));
    }

    private async Task<(CompiledLesson Value, long Bytes)> CompileAsync(CompiledKey key)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<ArchTalkDb>();
        var boards = await db.Boards.InLesson(key.Lesson).AsNoTracking().ToListAsync();
        var takes = await db.Takes.AsNoTracking().Where(t => t.LessonId == key.Lesson && t.DeletedAt == null).OrderBy(t => t.Order).ToListAsync();
        var logs = new List<TakeLog>();
        foreach (var take in takes)
        {
            // One that was only just begun, or ended at once, has no sound. One that was interrupted counts as far as it is saved.
            if (await LogAsync(key.Lesson, take) is { Length.Samples: > 0 } log)
            {
                logs.Add(log);
            }
        }

        var edits = await scope.ServiceProvider.GetRequiredService<SectionService>().EditsAsync(key.Lesson, CancellationToken.None);
        var arrangement = Arrangement.Resolve(logs, edits);
        var compiled = new CompiledLesson(key, arrangement, TimelineCompiler.Compile([.. boards.Select(b => b.ToCore())], arrangement), boards);
        return (compiled, compiled.Bytes);
    }

    // Reading a take is what costs; an edit of the lesson leaves it as it is.
    private async Task<TakeLog?> LogAsync(Guid lesson, TakeRow take)
    {
        var path = files.Journal(lesson, take.Id);
        return !File.Exists(path) ? null : await cache.GetAsync((take.Id, new FileInfo(path).Length), () =>
        {
            var log = TakeJournals.Read(path);
            return Task.FromResult((log, CompiledLesson.BytesOf(log)));
        }, CancellationToken.None);
    }

    // A player asks for board after board: the items of all are drawn once.
    private Task<IReadOnlyList<BoardDescription>> DescribeAsync(CompiledLesson compiled) => cache.GetAsync((compiled.Key, "described"), async () =>
    {
        await using var scope = scopes.CreateAsyncScope();
        var described = await scope.ServiceProvider.GetRequiredService<ItemService>().DescribeAsync(
            compiled.Key.Lesson, compiled.Boards, compiled.Arrangement.Edits.Corrections, CancellationToken.None);
        return (described, described.Sum(d => BytesOfBoard + (BytesOfShape * (long)d.Drawings.Sum(i => i.Drawing.Shapes.Count))));
    }, CancellationToken.None);
}
