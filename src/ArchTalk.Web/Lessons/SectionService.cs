using System.Text.Json;
using ArchTalk.Core.Lessons;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Lessons;

/// <summary>One list of a lesson as the pages edit it.</summary>
/// <param name="Version">Names this state; a save must say which state it started from.</param>
public sealed record SectionView(JsonElement Content, int Version, bool CanUndo, bool CanRedo);

/// <summary>
/// The lists of a lesson: chapters, vocabulary, references and the task. Every save adds a state, so undo and redo go
/// through what was there, also after a reload.
/// </summary>
public sealed class SectionService(ArchTalkDb db, TimeProvider clock)
{
    // Enough to take back an evening's work, and bounded.
    private const int MostStates = 200;

    public async Task<SectionView> GetAsync(Guid lesson, SectionKind kind, CancellationToken cancel) =>
        await ViewAsync(lesson, kind, await CurrentAsync(lesson, kind, cancel), cancel);

    public async Task<IReadOnlyList<Chapter>> ChaptersAsync(Guid lesson, CancellationToken cancel) =>
        await ReadAsync<Chapter[]>(lesson, SectionKind.Chapters, cancel) ?? [];

    public async Task<IReadOnlyList<Term>> TermsAsync(Guid lesson, CancellationToken cancel) =>
        await ReadAsync<Term[]>(lesson, SectionKind.Terms, cancel) ?? [];

    public async Task<IReadOnlyList<Reference>> ReferencesAsync(Guid lesson, CancellationToken cancel) =>
        await ReadAsync<Reference[]>(lesson, SectionKind.References, cancel) ?? [];

    public async Task<LessonTask> TaskAsync(Guid lesson, CancellationToken cancel) =>
        await ReadAsync<LessonTask>(lesson, SectionKind.Task, cancel) ?? LessonTask.Empty;

    /// <summary>Saves a list after checking it.</summary>
    /// <exception cref="Refusal">Something in it is wrong, or another window saved in between.</exception>
    public async Task<SectionView> SaveAsync(Guid lesson, SectionKind kind, JsonElement content, int version, CancellationToken cancel)
    {
        var json = Check(kind, content);
        var current = await CurrentAsync(lesson, kind, cancel);
        if ((current?.Number ?? 0) != version)
        {
            throw new Refusal("This list was changed in another window. Reload the page to see it; what you typed last was not saved over it.");
        }

        if (current?.Json == json)
        {
            return await ViewAsync(lesson, kind, current, cancel);
        }

        // A change after an undo begins a new line: what could have been redone is gone.
        await db.SectionStates.Where(s => s.LessonId == lesson && s.Kind == kind && (s.Number > version || s.Number <= version - MostStates))
            .ExecuteDeleteAsync(cancel);
        if (current is not null)
        {
            current.IsCurrent = false;
        }

        var state = new SectionState
        {
            LessonId = lesson,
            Kind = kind,
            Number = version + 1,
            IsCurrent = true,
            Json = json,
            SavedAt = clock.GetUtcNow(),
        };
        db.SectionStates.Add(state);
        await TouchAsync(lesson, cancel);
        return await ViewAsync(lesson, kind, state, cancel);
    }

    /// <summary>Goes one state back (-1) or forward (+1); at the end of the line nothing changes.</summary>
    public async Task<SectionView> StepAsync(Guid lesson, SectionKind kind, int by, CancellationToken cancel)
    {
        var current = await CurrentAsync(lesson, kind, cancel);
        var number = (current?.Number ?? 0) + Math.Sign(by);
        var next = await db.SectionStates.SingleOrDefaultAsync(s => s.LessonId == lesson && s.Kind == kind && s.Number == number, cancel);
        if (next is null && number != 0)
        {
            return await ViewAsync(lesson, kind, current, cancel);
        }

        if (current is not null)
        {
            current.IsCurrent = false;
        }

        if (next is not null)
        {
            next.IsCurrent = true;
        }

        await TouchAsync(lesson, cancel);
        return await ViewAsync(lesson, kind, next, cancel);
    }

    private static string Check(SectionKind kind, JsonElement content)
    {
        try
        {
            return kind switch
            {
                SectionKind.Chapters => Pass(LessonRules.Chapters(Read<Chapter[]>(content))),
                SectionKind.Terms => Pass(LessonRules.Terms(Read<Term[]>(content))),
                SectionKind.References => Pass(LessonRules.References(Read<Reference[]>(content))),
                _ => Pass(LessonRules.Task(Read<LessonTask>(content))),
            };
        }
        catch (JsonException e)
        {
            throw new Refusal("The list could not be read, so nothing was changed. Reload the page and try again.", e);
        }
    }

    private static T Read<T>(JsonElement content) =>
        content.Deserialize<T>(JsonSerializerOptions.Web) ?? throw new JsonException("Nothing was sent.");

    private static string Pass<T>(Checked<T> found)
        where T : class => found.Fault is { } fault ? throw new Refusal(fault) : JsonSerializer.Serialize(found.Value, JsonSerializerOptions.Web);

    private async Task<T?> ReadAsync<T>(Guid lesson, SectionKind kind, CancellationToken cancel)
        where T : class =>
        await CurrentAsync(lesson, kind, cancel) is { } state ? JsonSerializer.Deserialize<T>(state.Json, JsonSerializerOptions.Web) : null;

    private Task<SectionState?> CurrentAsync(Guid lesson, SectionKind kind, CancellationToken cancel) =>
        db.SectionStates.SingleOrDefaultAsync(s => s.LessonId == lesson && s.Kind == kind && s.IsCurrent, cancel);

    private async Task<SectionView> ViewAsync(Guid lesson, SectionKind kind, SectionState? state, CancellationToken cancel)
    {
        var number = state?.Number ?? 0;
        var canRedo = await db.SectionStates.AnyAsync(s => s.LessonId == lesson && s.Kind == kind && s.Number == number + 1, cancel);
        var canUndo = number > 0 && (number == 1
            || await db.SectionStates.AnyAsync(s => s.LessonId == lesson && s.Kind == kind && s.Number == number - 1, cancel));
        var json = state?.Json ?? (kind == SectionKind.Task ? JsonSerializer.Serialize(LessonTask.Empty, JsonSerializerOptions.Web) : "[]");
        using var document = JsonDocument.Parse(json);
        return new SectionView(document.RootElement.Clone(), number, canUndo, canRedo);
    }

    private async Task TouchAsync(Guid lesson, CancellationToken cancel)
    {
        if (await db.Lessons.FindAsync([lesson], cancel) is { } found)
        {
            found.ChangedAt = clock.GetUtcNow();
        }

        await db.SaveChangesAsync(cancel);
    }
}
