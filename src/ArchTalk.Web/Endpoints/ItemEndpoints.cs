using System.Xml.Linq;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;

namespace ArchTalk.Web.Endpoints;

/// <summary>The items on a board.</summary>
public static class ItemEndpoints
{
    public sealed record CopyBody(Guid[] Ids, Guid[] To);

    public sealed record HeightBody(int? Height = null);

    public sealed record HeightView(int Height);

    public static void MapItemEndpoints(this IEndpointRouteBuilder routes)
    {
        var api = routes.MapLessonApi().MapGroup("/boards/{board:guid}");
        api.MapGet("/items", (Guid lesson, Guid board, ItemService items, CancellationToken cancel) => items.GetAsync(Key(lesson, board), cancel));
        api.MapPut("/items", (Guid lesson, Guid board, SectionEndpoints.SaveBody body, ItemService items, CancellationToken cancel) =>
            items.SaveAsync(Key(lesson, board), body.Content, body.Version, cancel));
        api.MapPost("/items/undo", (Guid lesson, Guid board, SectionEndpoints.StepBody body, ItemService items, CancellationToken cancel) =>
            items.StepAsync(Key(lesson, board), -1, body.Version, cancel));
        api.MapPost("/items/redo", (Guid lesson, Guid board, SectionEndpoints.StepBody body, ItemService items, CancellationToken cancel) =>
            items.StepAsync(Key(lesson, board), +1, body.Version, cancel));
        api.MapPost("/items/copy", (Guid lesson, Guid board, CopyBody body, ItemService items, CancellationToken cancel) =>
            BoardEndpoints.DoneAsync(items.CopyAsync(lesson, board, body.Ids, body.To, cancel)));
        api.MapPost("/pictures", AddPictureAsync).DisableRequestTimeout();
        api.MapPut("/height", async (Guid lesson, Guid board, HeightBody body, ItemService items, CancellationToken cancel) =>
            new HeightView(await items.SetHeightAsync(lesson, board, body.Height, cancel)));
        api.MapPost("/unlabelled", async (Guid lesson, Guid board, ItemService items, CancellationToken cancel) =>
            Results.Ok(BoardView.Of(await items.AddUnlabelledAsync(lesson, board, cancel))));
        routes.MapLessonGroup("/lessons/{lesson:guid}").MapGet("/boards/{board:guid}/items.svg", PictureAsync);
    }

    private static Task<IResult> AddPictureAsync(
        Guid lesson, Guid board, HttpRequest request, LessonFiles files, MediaLimits limits, ItemService items, CancellationToken cancel) =>
        Upload.UseAsync(request, files.Uploads(lesson), limits, async upload => 
            Results.Json<Item>(await items.AddPictureAsync(lesson, board, upload.Path, cancel), SectionService.Json), cancel);

    private static SectionKey Key(Guid lesson, Guid board) => new(lesson, SectionKind.Items, board);

    // All items as one picture, for the board strip.
    private static async Task<IResult> PictureAsync(
        Guid lesson, Guid board, BoardService boards, SectionService sections, ItemService items, LessonFiles files, HttpResponse response,
        CancellationToken cancel)
    {
        var found = await boards.GetAsync(lesson, board, cancel);
        var drawn = items.Draw(await sections.ItemsAsync(lesson, board, cancel), "");

        // A picture that is shown as one loads no other, so those on the board are written into it.
        string? Inside(string name) => System.IO.File.Exists(Path.Combine(files.Board(lesson, board), name)) && PictureFiles.IsName(name)
            ? $"data:image/webp;base64,{Convert.ToBase64String(System.IO.File.ReadAllBytes(Path.Combine(files.Board(lesson, board), name)))}" : null;
        var root = SvgDrawing.Write(new Drawing(Core.Boards.Board.Width, found.Height, []));
        root.SetAttributeValue("font-family", "Atkinson Hyperlegible Next, Noto Sans, sans-serif");
        foreach (var item in drawn)
        {
            var group = new XElement(
                root.Name.Namespace + "g",
                new XAttribute("transform", FormattableString.Invariant($"translate({item.X} {item.Y})")));
            group.Add(SvgDrawing.Write(item.Drawing, Inside).Elements());
            root.Add(group);
        }

        response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return Results.Text(root.ToString(SaveOptions.DisableFormatting), "image/svg+xml");
    }
}
