using ArchTalk.Core.Lessons;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Queries;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Publishing;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Lessons;

/// <summary>A lesson as the list of lessons shows it.</summary>
public sealed record LessonSummary(
    Guid Id, string Title, Guid? UnitId, LessonState State, int Boards, TimeSpan Length, string? Picture, DateTimeOffset ChangedAt,
    string? WatchToken)
{
    /// <summary>"12 boards", "1 board".</summary>
    public string BoardCount => Boards == 1 ? "1 board" : $"{Boards} boards";
}

/// <summary>A unit with its lessons in order; the unit is null for lessons that are in none.</summary>
public sealed record UnitSummary(Unit? Unit, IReadOnlyList<LessonSummary> Lessons);

/// <summary>Makes, finds and orders lessons and units. Every function sees only what belongs to the teacher given.</summary>
public sealed class LessonService(ArchTalkDb db, WatchIndex index, TimeProvider clock)
{
    /// <summary>The teacher's lesson, with nothing of it loaded; null when there is none or it was deleted.</summary>
    public Task<Lesson?> FindAsync(string teacher, Guid id, CancellationToken cancel) =>
        db.Lessons.SingleOrDefaultAsync(l => l.Id == id && l.TeacherId == teacher && l.DeletedAt == null, cancel);

    /// <summary>What there is of a lesson that exists.</summary>
    public async Task<LessonProgress> ProgressAsync(Guid id, CancellationToken cancel) => new(
        await db.Boards.InLesson(id).CountAsync(cancel),
        await db.Takes.AnyAsync(t => t.LessonId == id && t.DeletedAt == null && t.Samples > 0, cancel),
        await db.SectionStates.AnyAsync(s => s.LessonId == id && s.Kind == SectionKind.Chapters && s.IsCurrent, cancel),
        await db.Publications.CountAsync(p => p.LessonId == id, cancel),
        await db.Lessons.AnyAsync(l => l.Id == id && l.IsWithdrawn, cancel));

    public async Task<Lesson> CreateAsync(string teacher, string? title, Guid? unit, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        var lesson = new Lesson
        {
            Id = Guid.CreateVersion7(),
            TeacherId = teacher,
            Title = Tidy(title, "Untitled lesson"),
            UnitId = await OwnUnitAsync(teacher, unit, cancel),
            Order = await db.Lessons.CountAsync(l => l.TeacherId == teacher, cancel),
            CreatedAt = now,
            ChangedAt = now,
        };
        db.Lessons.Add(lesson);
        await db.SaveChangesAsync(cancel);
        return lesson;
    }

    public Task RenameAsync(string teacher, Guid id, string? title, CancellationToken cancel) =>
        ChangeAsync(teacher, id, l => l.Title = Tidy(title, l.Title), cancel);

    /// <summary>Puts a lesson aside; nothing of it is removed. Its link is closed until it is restored.</summary>
    public Task DeleteAsync(string teacher, Guid id, CancellationToken cancel) =>
        ChangeAsync(teacher, id, l => l.DeletedAt = clock.GetUtcNow(), cancel);

    public Task RestoreAsync(string teacher, Guid id, CancellationToken cancel) =>
        ChangeAsync(teacher, id, l => l.DeletedAt = null, cancel);

    public async Task MoveToUnitAsync(string teacher, Guid id, Guid? unit, CancellationToken cancel)
    {
        var own = await OwnUnitAsync(teacher, unit, cancel);
        await ChangeAsync(teacher, id, l => l.UnitId = own, cancel);
    }

    /// <summary>Exchanges a lesson with its neighbour within its unit: -1 for earlier, +1 for later.</summary>
    public async Task MoveAsync(string teacher, Guid id, int by, CancellationToken cancel)
    {
        var lesson = await FindAsync(teacher, id, cancel);
        if (lesson is null)
        {
            return;
        }

        var siblings = await db.Lessons.Where(l => l.TeacherId == teacher && l.UnitId == lesson.UnitId && l.DeletedAt == null)
            .OrderBy(l => l.Order).ThenBy(l => l.CreatedAt).ToListAsync(cancel);
        var from = siblings.IndexOf(lesson);
        var to = Math.Clamp(from + Math.Sign(by), 0, siblings.Count - 1);
        (siblings[from], siblings[to]) = (siblings[to], siblings[from]);
        for (var i = 0; i < siblings.Count; i++)
        {
            siblings[i].Order = i;
        }

        await db.SaveChangesAsync(cancel);
    }

    public async Task<Unit> CreateUnitAsync(string teacher, string? title, CancellationToken cancel)
    {
        var unit = new Unit
        {
            Id = Guid.CreateVersion7(),
            TeacherId = teacher,
            Title = Tidy(title, "Untitled unit"),
            Order = await db.Units.CountAsync(u => u.TeacherId == teacher, cancel),
        };
        db.Units.Add(unit);
        await db.SaveChangesAsync(cancel);
        return unit;
    }

    public async Task RenameUnitAsync(string teacher, Guid id, string? title, CancellationToken cancel)
    {
        if (await db.Units.SingleOrDefaultAsync(u => u.Id == id && u.TeacherId == teacher, cancel) is { } unit)
        {
            unit.Title = Tidy(title, unit.Title);
            await db.SaveChangesAsync(cancel);
        }
    }

    /// <summary>Takes a unit away; its lessons are kept and stand outside any unit.</summary>
    public Task DeleteUnitAsync(string teacher, Guid id, CancellationToken cancel) =>
        db.Units.Where(u => u.Id == id && u.TeacherId == teacher).ExecuteDeleteAsync(cancel);

    /// <summary>"Lesson 2 of 5 in How buildings stand", or that it is in no unit.</summary>
    public async Task<string> PlaceInUnitAsync(Lesson lesson, CancellationToken cancel)
    {
        if (await db.Units.AsNoTracking().SingleOrDefaultAsync(u => u.Id == lesson.UnitId, cancel) is not { } unit)
        {
            return "In no unit. Units are made and ordered among your lessons.";
        }

        var siblings = await db.Lessons.Where(l => l.UnitId == unit.Id && l.DeletedAt == null).OrderBy(l => l.Order).ThenBy(l => l.CreatedAt)
            .Select(l => l.Id)
            .ToListAsync(cancel);
        return $"Lesson {siblings.IndexOf(lesson.Id) + 1} of {siblings.Count} in {unit.Title}";
    }

    /// <summary>All lessons by unit: units in order, then the lessons that are in none.</summary>
    public async Task<IReadOnlyList<UnitSummary>> ListAsync(string teacher, CancellationToken cancel)
    {
        var units = await db.Units.Where(u => u.TeacherId == teacher).OrderBy(u => u.Order).AsNoTracking().ToListAsync(cancel);
        var lessons = await SummariesAsync(db.Lessons.Where(l => l.TeacherId == teacher && l.DeletedAt == null), cancel);
        var groups = units.Select(u => new UnitSummary(u, [.. lessons.Where(l => l.UnitId == u.Id)])).ToList();
        var loose = lessons.Where(l => l.UnitId is null).ToArray();
        if (loose.Length > 0 || groups.Count == 0)
        {
            groups.Add(new UnitSummary(null, loose));
        }

        return groups;
    }

    /// <summary>The lessons that were deleted and can be restored, the latest first.</summary>
    public Task<List<LessonSummary>> ListDeletedAsync(string teacher, CancellationToken cancel) =>
        SummariesAsync(db.Lessons.Where(l => l.TeacherId == teacher && l.DeletedAt != null), cancel);

    internal static string Tidy(string? title, string otherwise)
    {
        var tidy = TypedContent.Clean(title ?? "").Trim();
        return tidy.Length == 0 ? otherwise : tidy[..Math.Min(tidy.Length, 200)];
    }

    private static async Task<List<LessonSummary>> SummariesAsync(IQueryable<Lesson> lessons, CancellationToken cancel)
    {
        var rows = await lessons.OrderBy(l => l.Order).ThenBy(l => l.CreatedAt).Select(l => new
        {
            Lesson = l,
            Boards = l.Boards.Count(b => b.DeletedAt == null && !b.IsOffered),
            First = l.Boards.Where(b => b.DeletedAt == null && !b.IsOffered).OrderBy(b => b.Order).FirstOrDefault(),
            Samples = l.Takes.Where(t => t.DeletedAt == null).Sum(t => t.Samples),
            Publications = l.Publications.Count,
        }).AsNoTracking().ToListAsync(cancel);
        return [.. rows.Select(r => new LessonSummary(
            r.Lesson.Id, r.Lesson.Title, r.Lesson.UnitId,
            new LessonProgress(r.Boards, r.Samples > 0, HasChapters: false, r.Publications, r.Lesson.IsWithdrawn).State,
            r.Boards, TimeSpan.FromSeconds((double)r.Samples / Core.Time.Clock.SampleRate),
            r.First is { Pictures: [var small, ..] } ? BoardView.Folder(r.First) + small.File : null,
            r.Lesson.ChangedAt, r.Lesson.WatchToken))];
    }

    private async Task ChangeAsync(string teacher, Guid id, Action<Lesson> change, CancellationToken cancel)
    {
        var lesson = await db.Lessons.SingleOrDefaultAsync(l => l.Id == id && l.TeacherId == teacher, cancel)
            ?? throw new Refusal("The lesson is not there any more. Go back to your lessons and open it again.");
        change(lesson);
        lesson.ChangedAt = clock.GetUtcNow();
        await db.SaveChangesAsync(cancel);
        index.Forget(id);
    }

    private async Task<Guid?> OwnUnitAsync(string teacher, Guid? unit, CancellationToken cancel) =>
        unit is { } id && await db.Units.AnyAsync(u => u.Id == id && u.TeacherId == teacher, cancel) ? id : null;
}
