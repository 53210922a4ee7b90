using ArchTalk.Core.Time;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Web.Pages;
using ArchTalk.Web.Recording;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Lessons;

/// <summary>What a part of a lesson takes on the disk.</summary>
public sealed record DiskPart(string Name, string What, long Bytes);

/// <summary>Something that was put aside and can be put back or deleted for good.</summary>
/// <param name="Kind">"takes" or "boards", as in its address.</param>
public sealed record PutAside(string Kind, Guid Id, string Name, string What, long Bytes);

/// <summary>What a lesson takes on the disk.</summary>
public sealed record DiskUse(IReadOnlyList<DiskPart> Parts, IReadOnlyList<PutAside> Aside)
{
    public long Bytes => Parts.Sum(p => p.Bytes) + Aside.Sum(a => a.Bytes);
}

/// <summary>Shows what a lesson takes on the disk, and lets what was put aside go for good.</summary>
public sealed class DiskService(ArchTalkDb db, LessonFiles files, TakeJournals journals)
{
    /// <summary>A file that several have counts once, for the first of them.</summary>
    public async Task<DiskUse> UseAsync(Guid lesson, CancellationToken cancel)
    {
        var takes = await db.Takes.AsNoTracking().Where(t => t.LessonId == lesson).OrderBy(t => t.Order).ToListAsync(cancel);
        var boards = await db.Boards.AsNoTracking().Where(b => b.LessonId == lesson).OrderBy(b => b.Order).ToListAsync(cancel);
        var publications = await db.Publications.CountAsync(p => p.LessonId == lesson, cancel);
        var counted = new HashSet<ulong>();
        long Take(TakeRow take) => Count(files.Take(lesson, take.Id), counted);
        long Board(BoardRow board) => Count(files.Board(lesson, board.Id), counted);
        var here = takes.Where(t => t.DeletedAt is null).ToArray();
        var shown = boards.Where(b => b.DeletedAt is null).ToArray();
        DiskPart[] parts =
        [
            new("Recording", Words.Count(here.Length, "take"), here.Sum(Take)),
            new("Boards", Words.Count(shown.Length, "board"), shown.Sum(Board)),
            new("Files for students", "to download", Count(files.Attachments(lesson), counted)),
            new("The voice as students hear it", "made ready to be published", Count(files.Encoded(lesson), counted)),
        ];
        PutAside[] aside =
        [
            .. takes.Where(t => t.DeletedAt is not null).Select(t => new PutAside(
                "takes",
                t.Id,
                $"Take of {Words.Day(t.StartedAt)}",
                t.EndedAt is null ? "not finished" : IndexModel.Clock(TimeSpan.FromSeconds(new Duration(t.Samples).Seconds)),
                Take(t))),
            .. boards.Where(b => b.DeletedAt is not null).Select(b => new PutAside("boards", b.Id, b.Title, "Board", Board(b))),
        ];

        // Versions come last: what they share with the lesson takes no room of their own.
        var versions = new DiskPart(
            "Versions published",
            publications == 0 ? "none yet" : $"{Words.Count(publications, "version")}; what they share with the lesson or each other counts once",
            Count(Path.Combine(files.Lesson(lesson), "publications"), counted));
        return new DiskUse([.. parts, versions], aside);
    }

    /// <summary>Deletes a take that was put aside, with its sound. Versions that were published with it stay as they are.</summary>
    /// <exception cref="Refusal">It isn't there, or wasn't put aside.</exception>
    public async Task DeleteTakeAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        var take = await db.Takes.SingleOrDefaultAsync(t => t.Id == id && t.LessonId == lesson && t.DeletedAt != null, cancel) ?? throw NotAside();

        // The row goes last: what is left of a folder after a kill has a row by which it can be deleted again.
        await journals.CloseAsync(id);
        LessonFiles.Discard(files.Take(lesson, id));
        db.Takes.Remove(take);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Deletes a board that was put aside, with its pictures and items.</summary>
    /// <exception cref="Refusal">It isn't there, or wasn't put aside.</exception>
    public async Task DeleteBoardAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        var board = await db.Boards.SingleOrDefaultAsync(b => b.Id == id && b.LessonId == lesson && b.DeletedAt != null, cancel) ?? throw NotAside();
        LessonFiles.Discard(files.Board(lesson, id));
        await db.SectionStates.Where(s => s.LessonId == lesson && s.BoardId == id).ExecuteDeleteAsync(cancel);
        db.Boards.Remove(board);
        await db.SaveChangesAsync(cancel);
    }

    private static Refusal NotAside() => new("It is not among what was put aside any more. Reload the page to see what is there.");

    private static long Count(string folder, HashSet<ulong> counted)
    {
        var bytes = 0L;
        foreach (var file in Directory.Exists(folder) ? Directory.EnumerateFiles(folder, "*", SearchOption.AllDirectories) : [])
        {
            try
            {
                var (place, size) = SharedFiles.Identity(file);
                bytes += counted.Add(place) ? size : 0;
            }
            catch (FileNotFoundException)
            {
                // Gone since the folder was looked at.
            }
        }

        return bytes;
    }
}
