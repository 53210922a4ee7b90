using System.Text.Json;
using System.Text.Json.Nodes;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Lessons;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Lessons;

/// <summary>Which list: one of the lesson's, or the items of one of its boards.</summary>
public readonly record struct SectionKey(Guid Lesson, SectionKind Kind, Guid Board = default);

/// <summary>One list of a lesson as the pages edit it.</summary>
/// <param name="Version">Names this state; a save must say which state it started from.</param>
public record SectionView(JsonElement Content, int Version, bool CanUndo, bool CanRedo);

/// <summary>
/// The lists of a lesson (chapters, vocabulary, references, the task, its details) and the items of its boards. Every save adds a
/// state, so undo and redo go through what was there, also after a reload.
/// </summary>
public sealed class SectionService(ArchTalkDb db, AttachmentService attachments, ItemDrawings drawings, TimeProvider clock)
{
    /// <summary>How sections are written; what kind an item is may stand anywhere among its members.</summary>
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { AllowOutOfOrderMetadataProperties = true };

    // What pages send has no holes; what was stored by an earlier release may have.
    private static readonly JsonSerializerOptions Typed = new(Json) { RespectNullableAnnotations = true };

    // Enough to take back an evening's work; of smaller lists so many as this much memory holds.
    private const int LeastStates = 200;
    private const int BytesOfStates = 32 << 20;

    /// <summary>So many steps are shown; undo goes farther back.</summary>
    private const int MostShown = 500;

    private const string ChangedElsewhere
        = "This list was changed in another window. Reload the page to see it; what you typed last was not saved over it.";

    public async Task<SectionView> GetAsync(SectionKey key, CancellationToken cancel) =>
        await ViewAsync(key, await CurrentAsync(key, cancel), cancel);

    public async Task<IReadOnlyList<Chapter>> ChaptersAsync(Guid lesson, CancellationToken cancel) =>
        await ReadAsync<Chapter[]>(new(lesson, SectionKind.Chapters), cancel) ?? [];

    public async Task<IReadOnlyList<Term>> TermsAsync(Guid lesson, CancellationToken cancel) =>
        await ReadAsync<Term[]>(new(lesson, SectionKind.Terms), cancel) ?? [];

    /// <summary>The terms of several lessons, in one query.</summary>
    public async Task<ILookup<Guid, Term>> TermsAsync(IReadOnlyCollection<Guid> lessons, CancellationToken cancel)
    {
        var states = await db.SectionStates.AsNoTracking().Where(s => lessons.Contains(s.LessonId) && s.Kind == SectionKind.Terms && s.IsCurrent)
            .ToListAsync(cancel);
        return states.SelectMany(s => JsonSerializer.Deserialize<Term[]>(s.Json, Json)!.Select(t => (s.LessonId, Term: t)))
            .ToLookup(t => t.LessonId, t => t.Term);
    }

    public async Task<IReadOnlyList<Reference>> ReferencesAsync(Guid lesson, CancellationToken cancel) =>
        await ReadAsync<Reference[]>(new(lesson, SectionKind.References), cancel) ?? [];

    public async Task<LessonTask> TaskAsync(Guid lesson, CancellationToken cancel) =>
        await ReadAsync<LessonTask>(new(lesson, SectionKind.Task), cancel) ?? LessonTask.Empty;

    public async Task<LessonDetails> DetailsAsync(Guid lesson, CancellationToken cancel) =>
        await ReadAsync<LessonDetails>(new(lesson, SectionKind.Details), cancel) ?? LessonDetails.Empty;

    public async Task<VoiceSettings> VoiceAsync(Guid lesson, CancellationToken cancel) =>
        await ReadAsync<VoiceSettings>(new(lesson, SectionKind.Voice), cancel) ?? VoiceSettings.None;

    public async Task<EditList> EditsAsync(Guid lesson, CancellationToken cancel) =>
        await ReadAsync<EditList>(new(lesson, SectionKind.Edits), cancel) ?? EditList.Empty;

    /// <summary>
    /// The items of every board that has any, from back to front, as everybody but their teacher sees them: without those that
    /// are wrong.
    /// </summary>
    public async Task<IReadOnlyDictionary<Guid, IReadOnlyList<Item>>> ItemsAsync(Guid lesson, CancellationToken cancel)
    {
        var states = await db.SectionStates.AsNoTracking().Where(s => s.LessonId == lesson && s.Kind == SectionKind.Items && s.IsCurrent)
            .ToListAsync(cancel);
        return states.ToDictionary(s => s.BoardId, s => Right(JsonSerializer.Deserialize<Item[]>(s.Json, Json)));
    }

    /// <summary>Which state the items of each board are in; boards without items are left out.</summary>
    public Task<Dictionary<Guid, long>> ItemVersionsAsync(Guid lesson, CancellationToken cancel) =>
        db.SectionStates.AsNoTracking().Where(s => s.LessonId == lesson && s.Kind == SectionKind.Items && s.IsCurrent && s.Json != "[]")
            .ToDictionaryAsync(s => s.BoardId, s => s.Id, cancel);

    /// <summary>The items of one board, without those that are wrong.</summary>
    public async Task<IReadOnlyList<Item>> ItemsAsync(Guid lesson, Guid board, CancellationToken cancel) =>
        Right(await TypedItemsAsync(lesson, board, cancel));

    /// <summary>The items of one board as they were typed.</summary>
    public async Task<Item[]> TypedItemsAsync(Guid lesson, Guid board, CancellationToken cancel) =>
        await ReadAsync<Item[]>(new(lesson, SectionKind.Items, board), cancel) ?? [];

    /// <summary>How many items of each board are wrong and are left out for students; boards without any are left out.</summary>
    public async Task<IReadOnlyDictionary<Guid, int>> WrongItemsAsync(Guid lesson, CancellationToken cancel)
    {
        var states = await db.SectionStates.AsNoTracking().Where(s => s.LessonId == lesson && s.Kind == SectionKind.Items && s.IsCurrent)
            .ToListAsync(cancel);
        return states.Select(s => (s.BoardId, Wrong: JsonSerializer.Deserialize<Item[]>(s.Json, Json)!.Count(i => ItemRules.Fault(i) is not null)))
            .Where(w => w.Wrong > 0).ToDictionary(w => w.BoardId, w => w.Wrong);
    }

    /// <summary>Saves a list after checking it.</summary>
    /// <exception cref="Refusal">Something in it is wrong, or another window saved in between.</exception>
    /// <param name="said">What was done, for the history.</param>
    public async Task<SectionView> SaveAsync(SectionKey key, JsonElement content, int version, CancellationToken cancel, string? said = null)
    {
        var clean = TypedContent.Clean(content);
        var json = Check(key.Kind, key.Kind == SectionKind.Items ? await ReadTypedAsync(key.Lesson, clean, cancel) : clean);
        if (key.Kind == SectionKind.References)
        {
            await attachments.CheckAsync(key.Lesson, JsonSerializer.Deserialize<Reference[]>(json, Json)!, cancel);
        }

        return await FromVersionAsync(key, version, async current =>
        {
            if (current?.Json == json)
            {
                return current;
            }

            // A change after an undo begins a new line: what could have been redone is gone.
            await States(key).Where(s => s.Number > version || s.Number <= version - StatesFor(json)).ExecuteDeleteAsync(cancel);
            var state = new SectionState
            {
                LessonId = key.Lesson,
                Kind = key.Kind,
                BoardId = key.Board,
                Number = version + 1,
                Json = json,
                Said = said,
                SavedAt = clock.GetUtcNow(),
            };
            db.SectionStates.Add(state);
            return state;
        }, cancel);
    }

    /// <summary>Changes a list as it is now, whoever changed it last; if somebody does at this moment, it is tried again.</summary>
    /// <exception cref="Refusal">What it becomes isn't allowed.</exception>
    public async Task ChangeAsync<T>(SectionKey key, Func<T, T> change, CancellationToken cancel, string? said = null)
    {
        const int MostTries = 3;
        for (var tries = 1; ; tries++)
        {
            var now = await GetAsync(key, cancel);
            var after = JsonSerializer.SerializeToElement(change(now.Content.Deserialize<T>(Json)!), Json);
            try
            {
                await SaveAsync(key, after, now.Version, cancel, said);
                return;
            }
            catch (Refusal) when (tries < MostTries)
            {
            }
        }
    }

    /// <summary>Goes one state back (-1) or forward (+1) from the state the window shows; at the end of the line nothing changes.</summary>
    /// <exception cref="Refusal">Another window saved in between.</exception>
    public Task<SectionView> StepAsync(SectionKey key, int by, int version, CancellationToken cancel) =>
        GoToAsync(key, version + Math.Sign(by), version, cancel);

    /// <summary>Goes to any state that is kept, 0 being the one before the first change; to one that isn't, nothing changes.</summary>
    /// <exception cref="Refusal">Another window saved in between.</exception>
    public Task<SectionView> GoToAsync(SectionKey key, int number, int version, CancellationToken cancel) => FromVersionAsync(
        key,
        version,
        async current => number == 0 ? null : await States(key).SingleOrDefaultAsync(s => s.Number == number, cancel) ?? current,
        cancel);

    /// <summary>The last states that are kept, from the first to the last, without what they hold.</summary>
    public async Task<IReadOnlyList<(int Number, string? Said, DateTimeOffset SavedAt)>> HistoryAsync(SectionKey key, CancellationToken cancel) =>
    [
        .. (await States(key).AsNoTracking().OrderByDescending(s => s.Number).Take(MostShown)
            .Select(s => new { s.Number, s.Said, s.SavedAt }).ToListAsync(cancel)).AsEnumerable().Reverse()
            .Select(s => (s.Number, s.Said, s.SavedAt)),
    ];

    // How many states are kept of a list like this one.
    private static int StatesFor(string json) => Math.Max(LeastStates, BytesOfStates / (json.Length + 1));

    // Looks at the current state and makes another current in one transaction, which SQLite lets only one writer be in: of two
    // windows that start from the same state one is told so.
    private async Task<SectionView> FromVersionAsync(
        SectionKey key, int version, Func<SectionState?, Task<SectionState?>> next, CancellationToken cancel)
    {
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var current = await CurrentAsync(key, cancel);
        if ((current?.Number ?? 0) != version)
        {
            throw new Refusal(ChangedElsewhere);
        }

        try
        {
            var after = await next(current);
            if (after != current)
            {
                await MakeCurrentAsync(key.Lesson, current, after, cancel);
            }

            var view = await ViewAsync(key, after, cancel);
            await turn.CommitAsync(cancel);
            return view;
        }
        catch (DbUpdateException e)
        {
            // The database itself allows one current state only, should the turn ever not hold.
            throw new Refusal(ChangedElsewhere, e);
        }
    }

    private async Task MakeCurrentAsync(Guid lesson, SectionState? before, SectionState? after, CancellationToken cancel)
    {
        if (before is not null)
        {
            before.IsCurrent = false;
            await db.SaveChangesAsync(cancel);
        }

        if (after is not null)
        {
            after.IsCurrent = true;
        }

        await TouchAsync(lesson, cancel);
    }

    private static IReadOnlyList<Item> Right(IEnumerable<Item>? items) => [.. (items ?? []).Where(i => ItemRules.Fault(i) is null)];

    // Fields that hold numbers are sent as they were typed.
    private async Task<JsonElement> ReadTypedAsync(Guid lesson, JsonElement content, CancellationToken cancel)
    {
        if (JsonSerializer.SerializeToNode(content) is not JsonArray items)
        {
            return content;
        }

        var language = (await DetailsAsync(lesson, cancel)).Language;
        foreach (var item in items.OfType<JsonObject>())
        {
            TypedFields.Read(item, language);
        }

        return JsonSerializer.SerializeToElement(items);
    }

    private string Check(SectionKind kind, JsonElement content)
    {
        try
        {
            return kind switch
            {
                SectionKind.Chapters => Pass(LessonRules.Chapters(Read<Chapter[]>(content))),
                SectionKind.Terms => Pass(LessonRules.Terms(Read<Term[]>(content))),
                SectionKind.References => Pass(LessonRules.References(Read<Reference[]>(content))),
                SectionKind.Details => Pass(LessonRules.Details(Read<LessonDetails>(content))),
                SectionKind.Voice => JsonSerializer.Serialize(Read<VoiceSettings>(content), Json),
                SectionKind.Edits => Pass(Sized(EditRules.Check(Read<EditList>(content)))),
                SectionKind.Items => Pass(Sized(ItemRules.Check(Read<Item[]>(content)))),
                _ => Pass(LessonRules.Task(Read<LessonTask>(content))),
            };
        }
        catch (Exception e) when (e is JsonException or NotSupportedException or ArgumentException)
        {
            throw new Refusal("The list could not be read, so nothing was changed. Reload the page and try again.", e);
        }
    }

    // Writing, tables and labels are as large as their content; the pages are told so by what is stored.
    private Checked<IReadOnlyList<Item>> Sized(Checked<IReadOnlyList<Item>> items) =>
        items.Value is { } found ? new Checked<IReadOnlyList<Item>>([.. found.Select(drawings.Sized)], null) : items;

    private Checked<EditList> Sized(Checked<EditList> edits) => edits.Value is { } found
        ? new Checked<EditList>(
            found with { Corrections = [.. found.Corrections.Select(c => c with { Note = (TextItem)drawings.Sized(c.Note) })] },
            null)
        : edits;

    private static T Read<T>(JsonElement content) =>
        content.Deserialize<T>(Typed) ?? throw new JsonException("Nothing was sent.");

    private static string Pass<T>(Checked<T> found)
        where T : class => found.Fault is { } fault ? throw new Refusal(fault) : JsonSerializer.Serialize(found.Value, Json);

    private async Task<T?> ReadAsync<T>(SectionKey key, CancellationToken cancel)
        where T : class =>
        await CurrentAsync(key, cancel) is { } state ? JsonSerializer.Deserialize<T>(state.Json, Json) : null;

    private IQueryable<SectionState> States(SectionKey key) =>
        db.SectionStates.Where(s => s.LessonId == key.Lesson && s.Kind == key.Kind && s.BoardId == key.Board);

    private Task<SectionState?> CurrentAsync(SectionKey key, CancellationToken cancel) => States(key).SingleOrDefaultAsync(s => s.IsCurrent, cancel);

    private async Task<SectionView> ViewAsync(SectionKey key, SectionState? state, CancellationToken cancel)
    {
        var number = state?.Number ?? 0;
        var canRedo = await States(key).AnyAsync(s => s.Number == number + 1, cancel);
        var canUndo = number > 0 && (number == 1 || await States(key).AnyAsync(s => s.Number == number - 1, cancel));
        var json = state?.Json ?? key.Kind switch
        {
            SectionKind.Edits => JsonSerializer.Serialize(EditList.Empty, Json),
            SectionKind.Voice => JsonSerializer.Serialize(VoiceSettings.None, Json),
            SectionKind.Task => JsonSerializer.Serialize(LessonTask.Empty, Json),
            SectionKind.Details => JsonSerializer.Serialize(LessonDetails.Empty, Json),
            _ => "[]",
        };
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
