using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Ink;
using ArchTalk.Web.Lessons;

namespace ArchTalk.Web.Boards;

/// <summary>A stroke that was drawn, and that may have been drawn along words.</summary>
/// <param name="Points">Flat: x, y in tenths of a board unit.</param>
public sealed record DrawnStroke(Guid Board, bool IsHighlighter, int[] Points);

/// <summary>Says on which words of a board a stroke settles.</summary>
public sealed class SettlingService(BoardService boards, SectionService sections, ItemDrawings drawings, ITextMeasure measure)
{
    // A line of words is drawn across in a few seconds, 240 places each at most.
    private const int MostPoints = 4000;

    /// <returns>Null when it was drawn along no words.</returns>
    /// <exception cref="Refusal">The board isn't there any more.</exception>
    public async Task<SettledStroke?> SettleAsync(Guid lesson, DrawnStroke stroke, CancellationToken cancel)
    {
        if (stroke.Points is not { Length: >= 4 and <= 2 * MostPoints } points || points.Length % 2 != 0)
        {
            return null;
        }

        var board = await boards.GetAsync(lesson, stroke.Board, cancel);
        var page = await boards.WordsAsync(lesson, board.Id, cancel);
        var typed = (await sections.ItemsAsync(lesson, board.Id, cancel))
            .SelectMany(i => DrawnWords.Of(new PlacedDrawing(i.Id, i.X, i.Y, drawings.Draw(i)), measure));
        var words = new TextLayer([.. page.Words, .. typed]);
        return words.Words.Count == 0
            ? null
            : new Settling(measure).Settle([.. points.Chunk(2).Select(p => new InkPlace(p[0], p[1]))], stroke.IsHighlighter, words.Lines());
    }
}
