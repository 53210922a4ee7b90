using System.Text.Json;
using ArchTalk.Core.Boards;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;
using Board = ArchTalk.Data.Entities.Board;

namespace ArchTalk.Web.Boards;

/// <summary>A board as pages show it.</summary>
public sealed record BoardView(Guid Id, string Title, string Kind, int Height, string? Small, string? Medium, string? Large, int LargeWidth, string Source)
{
    public static BoardView Of(Board board)
    {
        string? Address(int fromEnd) => board.Pictures.Count == 0 ? null
            : $"/lessons/{board.LessonId:N}/boards/{board.Id:N}/{board.Pictures[fromEnd].File}";
        var last = board.Pictures.Count - 1;
        return new(
            board.Id, board.Title, board.Kind.ToString().ToLowerInvariant(), board.Height,
            Address(0), Address(Math.Min(1, Math.Max(0, last))), Address(Math.Max(0, last)), last < 0 ? 0 : board.Pictures[last].Width, board.Source);
    }
}

/// <summary>The boards of a lesson: their order, names, and what is on them.</summary>
public sealed class BoardService(ArchTalkDb db, LessonFiles files, TimeProvider clock)
{
    public Task<List<Board>> ListAsync(Guid lesson, CancellationToken cancel) =>
        db.Boards.Where(b => b.LessonId == lesson && b.DeletedAt == null).OrderBy(b => b.Order).ToListAsync(cancel);

    public Task<Board> AddEmptyAsync(Guid lesson, string? title, CancellationToken cancel) =>
        AddAsync(lesson, new Board { Kind = BoardKind.Empty, Title = LessonService.Tidy(title, "Empty board"), Height = Core.Boards.Board.SlideHeight }, cancel);

    /// <summary>Adds a board whose copies were already written to the folder of <paramref name="id"/>.</summary>
    public async Task<Board> AddPictureAsync(
        Guid lesson, Guid id, BoardKind kind, string title, string source, IReadOnlyList<PictureFile> copies, TextLayer words, CancellationToken cancel)
    {
        var largest = copies[^1];
        await File.WriteAllBytesAsync(files.BoardText(lesson, id), JsonSerializer.SerializeToUtf8Bytes(words, JsonSerializerOptions.Web), cancel);
        return await AddAsync(
            lesson,
            new Board
            {
                Id = id,
                Kind = kind,
                Title = title[..Math.Min(title.Length, 200)],
                Source = source[..Math.Min(source.Length, 260)],
                Height = Core.Boards.Board.HeightFor(largest.Width, largest.Height),
                Pictures = [.. copies.Select(c => new PictureCopy(c.Name, c.Width, c.Height))],
            },
            cancel);
    }

    public Task RenameAsync(Guid lesson, Guid board, string? title, CancellationToken cancel) =>
        ChangeAsync(lesson, board, b => b.Title = LessonService.Tidy(title, b.Title), cancel);

    /// <summary>Puts a board aside; what was drawn on it stays in the takes and comes back with it.</summary>
    public Task DeleteAsync(Guid lesson, Guid board, CancellationToken cancel) =>
        ChangeAsync(lesson, board, b => b.DeletedAt = clock.GetUtcNow(), cancel);

    public Task RestoreAsync(Guid lesson, Guid board, CancellationToken cancel) =>
        ChangeAsync(lesson, board, b => b.DeletedAt = null, cancel);

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

    private async Task<Board> AddAsync(Guid lesson, Board board, CancellationToken cancel)
    {
        board.Id = board.Id == Guid.Empty ? Guid.CreateVersion7() : board.Id;
        board.LessonId = lesson;
        board.Order = 1 + (await db.Boards.Where(b => b.LessonId == lesson).MaxAsync(b => (int?)b.Order, cancel) ?? -1);
        db.Boards.Add(board);
        await TouchAsync(lesson, cancel);
        return board;
    }

    private async Task ChangeAsync(Guid lesson, Guid id, Action<Board> change, CancellationToken cancel)
    {
        var board = await db.Boards.SingleOrDefaultAsync(b => b.Id == id && b.LessonId == lesson, cancel)
            ?? throw new Refusal("The board is not there any more. Reload the page to see the boards as they are.");
        change(board);
        await TouchAsync(lesson, cancel);
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
