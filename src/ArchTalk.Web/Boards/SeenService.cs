using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Boards.Seen;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Lessons;

namespace ArchTalk.Web.Boards;

/// <summary>How students see a board on a phone and on a laptop.</summary>
public sealed class SeenService(BoardService boards, SectionService sections, ItemDrawings drawings, Pictures pictures, LessonFiles files)
{
    // Letters of the medium copy have firm strokes, and it is read quickly.
    private const int CheckedWidth = 1600;

    public async Task<IReadOnlyList<SeenBoard>> CheckAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        var board = await boards.GetAsync(lesson, id, cancel);
        var items = await sections.ItemsAsync(lesson, id, cancel);
        var words = await boards.WordsAsync(lesson, id, cancel);
        var picture = board.InPixels.LastOrDefault(p => p.Width <= CheckedWidth) ?? board.InPixels.FirstOrDefault();
        var pixels = picture is null ? null : await pictures.PixelsAsync(Path.Combine(files.Board(lesson, id), picture.File), cancel);
        return await Task.Run(
            () =>
            {
                var drawn = items.Select(i => (i, drawings.Draw(i))).ToArray();
                return SeenOn.All.Select(screen => BoardCheck.Check(screen, board.Height, words, drawn, pixels)).ToArray();
            }, cancel);
    }
}
