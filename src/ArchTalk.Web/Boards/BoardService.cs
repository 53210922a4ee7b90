using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using ArchTalk.Core.Boards;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Data.Queries;
using ArchTalk.Media;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Boards;

/// <summary>A board as pages show it.</summary>
public sealed record BoardView(
    Guid Id, string Title, string Kind, int Height, string? Small, string? Medium, string? Large, int LargeWidth, string Source, string Notes,
    string AlternativeText, bool CanBeScanned, BoardClip? Clip)
{
    /// <summary>The address of a picture of its items, when it has any.</summary>
    public string? Items { get; init; }

    public static BoardView Of(BoardRow board)
    {
        string? Address(int fromEnd) => board.Pictures.Count == 0 ? null : Folder(board) + board.Pictures[fromEnd].File;
        var last = board.Pictures.Count - 1;
        return new(
            board.Id, board.Title, board.Kind.ToString().ToLowerInvariant(), board.Height,
            Address(0), Address(Math.Min(1, Math.Max(0, last))), Address(Math.Max(0, last)), last < 0 ? 0 : board.Pictures[last].Width, board.Source,
            board.Notes, board.AlternativeText, board.Original is not null, board.Clip);
    }

    /// <summary>The address under which the files of a board are served to its teacher.</summary>
    public static string Folder(BoardRow board) => Folder(board.LessonId, board.Id);

    public static string Folder(Guid lesson, Guid board) => $"/lessons/{lesson:N}/boards/{board:N}/";
}

/// <summary>What a page may change of a board; null leaves it as it is.</summary>
public sealed record BoardChange(
    string? Title = null, string? Notes = null, string? AlternativeText = null, int? ClipStartMs = null, int? ClipEndMs = null);

/// <summary>The boards of a lesson: their order, names, and what is known of them.</summary>
public sealed partial class BoardService(ArchTalkDb db, LessonFiles files, TimeProvider clock)
{
    private const int LongestNotes = 20_000;
    private const int LongestAlternative = 2_000;

    public Task<List<BoardRow>> ListAsync(Guid lesson, CancellationToken cancel) => db.Boards.InLesson(lesson).ToListAsync(cancel);

    /// <summary>Boards that are only offered, such as hidden slides.</summary>
    public Task<List<BoardRow>> ListOfferedAsync(Guid lesson, CancellationToken cancel) =>
        db.Boards.Where(b => b.LessonId == lesson && b.DeletedAt == null && b.IsOffered).OrderBy(b => b.Order).ToListAsync(cancel);

    /// <exception cref="Refusal">It isn't there.</exception>
    public async Task<BoardRow> GetAsync(Guid lesson, Guid id, CancellationToken cancel) =>
        await db.Boards.SingleOrDefaultAsync(b => b.Id == id && b.LessonId == lesson, cancel)
        ?? throw new Refusal("The board is not there any more. Reload the page to see the boards as they are.");

    /// <summary>The names of a board's files that may be looked at; null when there is no such board.</summary>
    public async Task<string[]?> FilesAsync(Guid lesson, Guid id, CancellationToken cancel) =>
        await db.Boards.AsNoTracking().SingleOrDefaultAsync(b => b.Id == id && b.LessonId == lesson, cancel) is { } board
            ? [.. board.Pictures.Select(p => p.File), .. board.Clip?.Files ?? []] : null;

    public Task<BoardRow> AddEmptyAsync(Guid lesson, string? title, CancellationToken cancel) =>
        AddAsync(
            lesson,
            new BoardRow { Kind = BoardKind.Empty, Title = LessonService.Tidy(title, "Empty board"), Height = Board.SlideHeight },
            cancel);

    /// <summary>Adds an empty board right after another.</summary>
    public async Task<BoardRow> AddEmptyAfterAsync(Guid lesson, Guid after, CancellationToken cancel) => await AddAfterAsync(
        await GetAsync(lesson, after, cancel),
        new BoardRow { Kind = BoardKind.Empty, Title = "Empty board", Height = Board.SlideHeight },
        cancel);

    /// <summary>Adds a board whose copies were already written to the folder of its identity.</summary>
    public async Task<BoardRow> AddPictureAsync(
        Guid lesson,
        BoardRow board,
        IReadOnlyList<PictureFile> copies,
        TextLayer words,
        CancellationToken cancel)
    {
        board.Title = LessonService.Tidy(board.Title, "Board");
        board.Source = board.Source[..Math.Min(board.Source.Length, 260)];
        board.Notes = board.Notes[..Math.Min(board.Notes.Length, LongestNotes)];
        board.AlternativeText = board.AlternativeText[..Math.Min(board.AlternativeText.Length, LongestAlternative)];
        SetPictures(board, copies);
        await WriteWordsAsync(lesson, board.Id, words, cancel);
        return await AddAsync(lesson, board, cancel);
    }

    /// <summary>Adds a board right after another.</summary>
    public async Task<BoardRow> AddAfterAsync(BoardRow after, BoardRow board, CancellationToken cancel)
    {
        var added = await AddAsync(after.LessonId, board, cancel);
        var order = (await ListAsync(after.LessonId, cancel)).Select(b => b.Id).Where(id => id != added.Id).ToList();
        order.Insert(order.IndexOf(after.Id) + 1, added.Id);
        await OrderAsync(after.LessonId, order, cancel);
        return added;
    }

    /// <summary>Puts a board that took long to make before those that were brought in after it, as far as they stand at the end.</summary>
    public async Task PlaceByTimeAsync(BoardRow board, CancellationToken cancel)
    {
        // Identities of boards begin with the time at which they, or their file, came (UUID version 7).
        static string Time(Guid id) => id.ToString("N")[..12];
        var order = (await ListAsync(board.LessonId, cancel)).Select(b => b.Id).Where(id => id != board.Id).ToList();
        var at = order.Count;
        while (at > 0 && string.CompareOrdinal(Time(order[at - 1]), Time(board.Id)) > 0)
        {
            at--;
        }

        order.Insert(at, board.Id);
        await OrderAsync(board.LessonId, order, cancel);
    }

    public static void SetPictures(BoardRow board, IReadOnlyList<PictureFile> copies)
    {
        // A board that was made longer than its picture stays as long.
        var isLonger = board.Pictures.LastOrDefault() is { } before && board.Height > Board.HeightFor(before.Width, before.Height);
        var height = Board.HeightFor(copies[^1].Width, copies[^1].Height);
        board.Pictures = [.. copies.Select(c => new PictureCopy(c.Name, c.Width, c.Height))];
        board.Height = isLonger ? Math.Max(board.Height, height) : height;
    }

    /// <summary>The words of a board's picture.</summary>
    public async Task<TextLayer> WordsAsync(Guid lesson, Guid board, CancellationToken cancel)
    {
        var file = files.BoardText(lesson, board);
        return File.Exists(file)
            ? JsonSerializer.Deserialize<TextLayer>(await File.ReadAllBytesAsync(file, cancel), JsonSerializerOptions.Web)!
            : TextLayer.Empty;
    }

    public async Task WriteWordsAsync(Guid lesson, Guid board, TextLayer words, CancellationToken cancel)
    {
        Directory.CreateDirectory(files.Board(lesson, board));
        await File.WriteAllBytesAsync(files.BoardText(lesson, board), JsonSerializer.SerializeToUtf8Bytes(words, JsonSerializerOptions.Web), cancel);
    }

    /// <summary>What a page is called that says nothing of itself.</summary>
    public static string PageTitle(int page) => string.Create(CultureInfo.InvariantCulture, $"Page {page}");

    /// <summary>Names a board that is called by nothing but its page's number after the words found on it.</summary>
    public async Task NameAsync(Guid lesson, Guid id, TextLayer words, CancellationToken cancel)
    {
        var board = await GetAsync(lesson, id, cancel);
        if (IsPageTitle().IsMatch(board.Title) && words.LargestLines() is { } name)
        {
            board.Title = LessonService.Tidy(name, board.Title);
            await TouchAsync(lesson, cancel);
        }
    }

    /// <exception cref="Refusal">A text is too long, or the part of a clip is none.</exception>
    public Task ChangeAsync(Guid lesson, Guid board, BoardChange change, CancellationToken cancel) => ChangeAsync(lesson, board, b =>
    {
        b.Title = LessonService.Tidy(change.Title, b.Title);
        b.Notes = Within(change.Notes is { } notes ? TypedContent.Clean(notes) : null, LongestNotes, "The notes are") ?? b.Notes;
        b.AlternativeText = Within(change.AlternativeText is { } text ? TypedContent.Clean(text) : null, LongestAlternative, "The description is")
            ?? b.AlternativeText;
        if (b.Clip is { } clip && (change.ClipStartMs is not null || change.ClipEndMs is not null))
        {
            var (start, end) = (change.ClipStartMs ?? clip.StartMs, change.ClipEndMs ?? clip.EndMs);
            b.Clip = start >= 0 && end <= clip.LengthMs && start < end
                ? clip with { StartMs = start, EndMs = end }
                : throw new Refusal("A clip has to end after it starts, and within its length. Nothing was changed.");
        }
    }, cancel);

    /// <summary>Makes a board higher, or as high as what is on it.</summary>
    /// <param name="height">In board units; null for what is on it.</param>
    /// <param name="lowest">The lowest edge of its items; null when it has none.</param>
    /// <exception cref="Refusal">It would be higher than a board can be, or there is ink that may lie lower.</exception>
    public async Task<int> SetHeightAsync(Guid lesson, Guid id, int? height, double? lowest, CancellationToken cancel)
    {
        var board = await GetAsync(lesson, id, cancel);
        var picture = board.Pictures.LastOrDefault() is { } copy ? Board.HeightFor(copy.Width, copy.Height) : (int?)null;
        var wanted = height ?? Board.LeastHeight(picture, lowest);
        if (wanted > Board.MaxHeight || wanted < (picture ?? 1))
        {
            throw new Refusal(wanted < (picture ?? 1) ? "A board can't be lower than its picture. Nothing was changed."
                : $"A board can't be longer than {Board.MaxHeight / Board.SlideHeight} slides. Add another board and go on there.");
        }

        if (wanted < board.Height && await db.Takes.AnyAsync(t => t.LessonId == lesson && t.DeletedAt == null, cancel))
        {
            throw new Refusal(
                "The board can't be shortened, because there is a recording of this lesson and its ink may lie lower. Nothing was changed.");
        }

        board.Height = wanted;
        await TouchAsync(lesson, cancel);
        return wanted;
    }

    /// <summary>Puts a board aside; what was drawn on it stays in the takes and comes back with it.</summary>
    public Task DeleteAsync(Guid lesson, Guid board, CancellationToken cancel) =>
        ChangeAsync(lesson, board, b => b.DeletedAt = clock.GetUtcNow(), cancel);

    public Task RestoreAsync(Guid lesson, Guid board, CancellationToken cancel) =>
        ChangeAsync(lesson, board, b => b.DeletedAt = null, cancel);

    /// <summary>Takes the ticked ones of the offered boards into the lesson and puts the others aside.</summary>
    public async Task AnswerOfferAsync(Guid lesson, IReadOnlyCollection<Guid> ticked, CancellationToken cancel)
    {
        foreach (var board in await ListOfferedAsync(lesson, cancel))
        {
            board.IsOffered = false;
            board.DeletedAt = ticked.Contains(board.Id) ? null : clock.GetUtcNow();
        }

        await TouchAsync(lesson, cancel);
    }

    /// <summary>A proposed link is dealt with: it became a reference, or isn't wanted.</summary>
    public async Task DismissLinkAsync(Guid lesson, string address, CancellationToken cancel)
    {
        foreach (var board in await ListAsync(lesson, cancel))
        {
            board.Links = [.. board.Links.Select(l => l.Address == address ? l with { IsDismissed = true } : l)];
        }

        await TouchAsync(lesson, cancel);
    }

    /// <summary>Puts the boards into the order given; boards not named keep their order after those that are.</summary>
    public async Task OrderAsync(Guid lesson, IReadOnlyList<Guid> order, CancellationToken cancel)
    {
        var boards = await ListAsync(lesson, cancel);
        var places = order.Distinct().Select((id, i) => (id, i)).ToDictionary(p => p.id, p => p.i);
        var sorted = boards.OrderBy(b => places.GetValueOrDefault(b.Id, int.MaxValue)).ToArray();
        for (var i = 0; i < sorted.Length; i++)
        {
            sorted[i].Order = i;
        }

        await TouchAsync(lesson, cancel);
    }

    private static string? Within(string? text, int longest, string what) => text is null || text.Length <= longest ? text
        : throw new Refusal($"{what} longer than {longest} characters. Shorten them; nothing was changed.");

    private async Task<BoardRow> AddAsync(Guid lesson, BoardRow board, CancellationToken cancel)
    {
        board.Id = board.Id == Guid.Empty ? Guid.CreateVersion7() : board.Id;
        board.LessonId = lesson;
        board.Order = 1 + (await db.Boards.Where(b => b.LessonId == lesson).MaxAsync(b => (int?)b.Order, cancel) ?? -1);
        db.Boards.Add(board);
        await TouchAsync(lesson, cancel);
        return board;
    }

    private async Task ChangeAsync(Guid lesson, Guid id, Action<BoardRow> change, CancellationToken cancel)
    {
        change(await GetAsync(lesson, id, cancel));
        await TouchAsync(lesson, cancel);
    }

    [GeneratedRegex("^Page [0-9]+$", RegexOptions.None, 1000)]
    private static partial Regex IsPageTitle();

    private async Task TouchAsync(Guid lesson, CancellationToken cancel)
    {
        if (await db.Lessons.FindAsync([lesson], cancel) is { } found)
        {
            found.ChangedAt = clock.GetUtcNow();
        }

        await db.SaveChangesAsync(cancel);
    }
}
