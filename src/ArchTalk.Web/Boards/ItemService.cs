using System.Text.Json;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Lessons;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Setup;

namespace ArchTalk.Web.Boards;

/// <summary>A label in the list beside the board.</summary>
public sealed record LabelView(Guid Id, int Number, string Text, Guid? TermId);

/// <summary>The items of a board as its page edits them.</summary>
/// <param name="Drawings">In the order of the items.</param>
/// <param name="Notices">What is wrong with items, or isn't drawn of them, by their identity.</param>
/// <param name="Labels">By number.</param>
/// <param name="Alphabetical">The identities of the labels in the order of the alphabet.</param>
public sealed record ItemsView(
    JsonElement Content, int Version, bool CanUndo, bool CanRedo,
    IReadOnlyList<PlacedDrawing> Drawings, IReadOnlyDictionary<Guid, string> Notices, IReadOnlyList<LabelView> Labels,
    IReadOnlyList<Guid> Alphabetical) : SectionView(Content, Version, CanUndo, CanRedo);

/// <summary>What lies on a board.</summary>
/// <param name="Description">What there is to see, in words.</param>
/// <param name="Blanks">What is to be filled in.</param>
public sealed record BoardDescription(IReadOnlyList<PlacedDrawing> Drawings, string Description, IReadOnlyList<BlankPlace> Blanks);

/// <summary>A board as students load it: first without what its covers hide, and what they hide for when one is lifted.</summary>
/// <param name="Drawings">Of all items, from back to front; empty drawings where a part is hidden.</param>
/// <param name="Under">Of the items of which a part is hidden.</param>
/// <param name="Boxes">Where the covers lie.</param>
/// <param name="Blanks">What is to be filled in; nothing of which a part is hidden.</param>
public sealed record StudentsBoard(
    IReadOnlyList<PlacedDrawing> Drawings, string Description, IReadOnlyList<PlacedDrawing> Under, string DescriptionUnder,
    IReadOnlyList<CoveredBox> Boxes, IReadOnlyList<BlankPlace> Blanks);

/// <summary>The items on boards: saved, drawn, copied.</summary>
public sealed class ItemService(SectionService sections, BoardService boards, ItemDrawings drawings, Pictures pictures, LessonFiles files)
{
    // A new picture is seen whole.
    private const double MostHigh = 600;

    /// <summary>
    /// Keeps a picture that was brought onto a board, and gives the item that shows it, as wide as half the board or as its
    /// pixels.
    /// </summary>
    /// <exception cref="MediaException">The file isn't a picture that can be used.</exception>
    public async Task<PictureItem> AddPictureAsync(Guid lesson, Guid board, string upload, CancellationToken cancel)
    {
        await boards.GetAsync(lesson, board, cancel);
        var id = Guid.CreateVersion7();
        var made = await pictures.MakeItemAsync(upload, Path.Combine(files.Board(lesson, board), PictureFiles.Name(id)), cancel);
        var width = Math.Min(Math.Min(made.Width, Core.Boards.Board.Width / 2.0), MostHigh * made.Width / made.Height);
        return new PictureItem
        {
            Id = id,
            File = made.Name,
            Shape = (double)made.Width / made.Height,
            Width = Math.Round(width, 1),
            Height = Math.Round(width * made.Height / made.Width, 1)
        };
    }

    public async Task<ItemsView> GetAsync(SectionKey key, CancellationToken cancel) =>
        await ViewAsync(await sections.GetAsync(key, cancel), key, cancel);

    /// <exception cref="Refusal">Something among the items is wrong, or another window saved in between.</exception>
    public async Task<ItemsView> SaveAsync(SectionKey key, JsonElement content, int version, CancellationToken cancel)
    {
        await boards.GetAsync(key.Lesson, key.Board, cancel);
        return await ViewAsync(await sections.SaveAsync(key, content, version, cancel), key, cancel);
    }

    /// <exception cref="Refusal">Another window saved in between.</exception>
    public async Task<ItemsView> StepAsync(SectionKey key, int by, int version, CancellationToken cancel) =>
        await ViewAsync(await sections.StepAsync(key, by, version, cancel), key, cancel);

    /// <summary>The addresses of pictures of the items of each board that has any; an address changes when they do.</summary>
    public async Task<IReadOnlyDictionary<Guid, string>> PicturesAsync(Guid lesson, CancellationToken cancel) =>
        (await sections.ItemVersionsAsync(lesson, cancel)).ToDictionary(v => v.Key, v => $"{BoardView.Folder(lesson, v.Key)}items.svg?v={v.Value}");

    /// <summary>Where something is to be filled in on the boards of a lesson that have anything.</summary>
    public async Task<IReadOnlyDictionary<Guid, IReadOnlyList<BlankPlace>>> BlanksAsync(Guid lesson, CancellationToken cancel) =>
        (await sections.ItemsAsync(lesson, cancel))
            .Select(b => (b.Key, Places: (IReadOnlyList<BlankPlace>)[.. b.Value.SelectMany(drawings.Blanks)]))
            .Where(b => b.Places.Count > 0).ToDictionary(b => b.Key, b => b.Places);

    /// <summary>What lies on each of a lesson's boards, corrections over everything else, as its teacher loads it.</summary>
    public async Task<IReadOnlyList<BoardDescription>> DescribeAsync(
        Guid lesson, IReadOnlyList<BoardRow> boards, IReadOnlyList<Correction> corrections, CancellationToken cancel)
    {
        var all = await sections.ItemsAsync(lesson, cancel);
        return [.. boards.Select(board =>
        {
            var items = On(board, all, corrections);
            return new BoardDescription(Draw(items, BoardView.Folder(board)), Words(board, items), [.. items.SelectMany(drawings.Blanks)]);
        })];
    }

    /// <summary>The same of one board as students load it.</summary>
    /// <param name="all">The items of all boards.</param>
    public StudentsBoard DescribeForStudents(
        BoardRow board, IReadOnlyDictionary<Guid, IReadOnlyList<Item>> all, IReadOnlyList<Correction> corrections)
    {
        var items = On(board, all, corrections);
        var (hidden, drawn) = (Covers.Hidden(items), Draw(items, $"boards/{board.Id:N}/"));
        return new(
            [.. drawn.Select(d => hidden.Contains(d.Id) ? d with { Drawing = Drawing.Empty } : d)], Words(board, items),
            [.. drawn.Where(d => hidden.Contains(d.Id))], Words(board, [.. items.Where(i => i is not CoverItem)]), Covers.Boxes(items),
            [.. items.Where(i => !hidden.Contains(i.Id)).SelectMany(drawings.Blanks)]);
    }

    /// <summary>Makes a board higher, or as high as what is on it.</summary>
    /// <exception cref="Refusal">It can't be as high or as low.</exception>
    public async Task<int> SetHeightAsync(Guid lesson, Guid board, int? height, CancellationToken cancel)
    {
        var items = await sections.TypedItemsAsync(lesson, board, cancel);
        return await boards.SetHeightAsync(lesson, board, height, items.Length == 0 ? null : items.Max(i => i.Y + i.Height), cancel);
    }

    /// <summary>Adds a copy of a board right after it: the same picture, numbers for the words of its labels.</summary>
    /// <exception cref="Refusal">The board has no labels.</exception>
    public async Task<BoardRow> AddUnlabelledAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        var board = await boards.GetAsync(lesson, id, cancel);
        var items = await sections.TypedItemsAsync(lesson, id, cancel);
        if (!items.OfType<LabelItem>().Any())
        {
            throw new Refusal("This board has no labels yet. Add labels with their lines, then make the copy.");
        }

        var copy = await boards.AddAfterAsync(board, CopyOf(board, $"{board.Title}: find the parts"), cancel);
        await SaveItemsAsync(new(lesson, SectionKind.Items, copy.Id), LabelSet.Unlabelled(items, Guid.CreateVersion7), cancel);
        return copy;
    }

    /// <summary>Adds a clean copy of a board right after it: the same picture and items, nothing that was drawn.</summary>
    public async Task<BoardRow> AddCleanAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        var board = await boards.GetAsync(lesson, id, cancel);
        var copy = await boards.AddAfterAsync(board, CopyOf(board, $"{board.Title} (clean)"), cancel);
        if (await sections.TypedItemsAsync(lesson, id, cancel) is { Length: > 0 } items)
        {
            await SaveItemsAsync(
                new(lesson, SectionKind.Items, copy.Id), [.. items.Select(i => i with { Id = Guid.CreateVersion7() })], cancel);
        }

        return copy;
    }

    /// <summary>Copies items to other boards, at the same places.</summary>
    public async Task CopyAsync(Guid lesson, Guid from, IReadOnlyCollection<Guid> ids, IReadOnlyCollection<Guid> to, CancellationToken cancel)
    {
        var items = (await sections.TypedItemsAsync(lesson, from, cancel)).Where(i => ids.Contains(i.Id)).ToArray();
        foreach (var target in to.Where(t => t != from))
        {
            await boards.GetAsync(lesson, target, cancel);
            var there = await sections.TypedItemsAsync(lesson, target, cancel);
            foreach (var picture in items.OfType<PictureItem>().Where(p => PictureFiles.IsName(p.File)))
            {
                Directory.CreateDirectory(files.Board(lesson, target));
                File.Copy(
                    Path.Combine(files.Board(lesson, from), picture.File),
                    Path.Combine(files.Board(lesson, target), picture.File),
                    overwrite: true);
            }

            await SaveItemsAsync(
                new(lesson, SectionKind.Items, target),
                [.. there, .. items.Select(i => i with { Id = Guid.CreateVersion7() })],
                cancel);
        }
    }

    /// <param name="folder">Where the files of the board are, as those who load the drawings name it.</param>
    public IReadOnlyList<PlacedDrawing> Draw(IReadOnlyList<Item> items, string folder) =>
        [.. items.Select(i => new PlacedDrawing(i.Id, i.X, i.Y, Addressed(drawings.Draw(i), folder), i is CoverItem))];

    private static IReadOnlyList<Item> On(
        BoardRow board,
        IReadOnlyDictionary<Guid, IReadOnlyList<Item>> all,
        IReadOnlyList<Correction> corrections) =>
        [.. all.TryGetValue(board.Id, out var items) ? items : [], .. corrections.Where(c => c.Board == board.Id).Select(c => c.Note)];

    private static Drawing Addressed(Drawing drawing, string folder) => drawing.Shapes.Any(s => s is PictureShape)
        ? drawing with
        {
            Shapes = [.. drawing.Shapes
            .Select(s => s is PictureShape picture ? picture with { Src = folder + picture.Src } : s)]
        } : drawing;

    private static Dictionary<Guid, string> Notices(IEnumerable<Item> items) =>
        items.Select(i => (i.Id, Notice: ItemRules.Notice(i))).Where(n => n.Notice is not null).ToDictionary(n => n.Id, n => n.Notice!);

    private static string Words(BoardRow board, IReadOnlyList<Item> items) => $"{board.AlternativeText} {ItemWords.Describe(items)}".Trim();

    // The picture's files are shared by copying them: either board can be changed or go without the other.
    private BoardRow CopyOf(BoardRow board, string title)
    {
        var copy = new BoardRow
        {
            Id = Guid.CreateVersion7(),
            Kind = board.Kind,
            Title = LessonService.Tidy(title, board.Title),
            Height = board.Height,
            Source = board.Source,
            AlternativeText = board.AlternativeText,
            Pictures = [.. board.Pictures],
            Original = board.Original,
            Scan = board.Scan,
            Revision = board.Revision,
            Clip = board.Clip,
        };
        var (from, to) = (files.Board(board.LessonId, board.Id), files.Board(board.LessonId, copy.Id));
        if (Directory.Exists(from))
        {
            Directory.CreateDirectory(to);
            foreach (var file in Directory.EnumerateFiles(from))
            {
                File.Copy(file, Path.Combine(to, Path.GetFileName(file)));
            }
        }

        return copy;
    }

    private async Task SaveItemsAsync(SectionKey key, IReadOnlyList<Item> items, CancellationToken cancel)
    {
        var version = (await sections.GetAsync(key, cancel)).Version;
        await sections.SaveAsync(key, JsonSerializer.SerializeToElement(items, SectionService.Json), version, cancel);
    }

    private async Task<ItemsView> ViewAsync(SectionView section, SectionKey key, CancellationToken cancel)
    {
        var items = section.Content.Deserialize<Item[]>(SectionService.Json) ?? [];
        var labels = LabelSet.Number(items);
        var language = (await sections.DetailsAsync(key.Lesson, cancel)).Language;
        return new(
            section.Content, section.Version, section.CanUndo, section.CanRedo, Draw(items, BoardView.Folder(key.Lesson, key
                .Board)), Notices(items), [.. labels.Select(l => new LabelView(l.Label.Id, l.Number, l.Label.Text, l.Label.TermId))],
            [.. LabelSet.Alphabetical(labels, language).Select(l => l.Label.Id)]);
    }
}
