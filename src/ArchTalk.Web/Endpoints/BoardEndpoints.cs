using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Boards.Scans;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Lessons;
using Microsoft.AspNetCore.Mvc;

namespace ArchTalk.Web.Endpoints;

/// <summary>Boards, the files they come from, and their pictures.</summary>
public static class BoardEndpoints
{
    // The first pages are shown while the rest is still being made.
    private const int ShownEarly = 12;
    private const string FirstCopy = "small.jpg";

    private static readonly Dictionary<string, string> Types = new(StringComparer.Ordinal)
    {
        [".jpg"] = "image/jpeg",
        [".webp"] = "image/webp",
        [".svg"] = "image/svg+xml",
        [".mp4"] = "video/mp4",
        [".webm"] = "video/webm",
    };

    public sealed record TitleBody(string? Title = null);

    public sealed record TickedBody(Guid[] Ticked);

    public sealed record PairBody(Guid Left, Guid Right);

    public sealed record LinkBody(string Address);

    public static void MapBoardEndpoints(this IEndpointRouteBuilder routes)
    {
        var api = routes.MapLessonApi();
        api.MapGet("/boards", ListAsync);
        api.MapPost("/boards", async (Guid lesson, TitleBody body, BoardService boards, CancellationToken cancel) =>
            Results.Ok(BoardView.Of(await boards.AddEmptyAsync(lesson, body.Title, cancel))));
        api.MapPut("/boards/order", (Guid lesson, [FromBody] Guid[] order, BoardService boards, CancellationToken cancel) =>
            DoneAsync(boards.OrderAsync(lesson, order, cancel)));
        api.MapPost("/boards/offer", (Guid lesson, TickedBody body, BoardService boards, CancellationToken cancel) =>
            DoneAsync(boards.AnswerOfferAsync(lesson, body.Ticked, cancel)));
        api.MapPost("/boards/side-by-side", async (Guid lesson, PairBody body, BoardPictures pictures, CancellationToken cancel) =>
            Results.Ok(BoardView.Of(await pictures.PutSideBySideAsync(lesson, body.Left, body.Right, cancel))));
        api.MapPost("/links/dismiss", (Guid lesson, LinkBody body, BoardService boards, CancellationToken cancel) =>
            DoneAsync(boards.DismissLinkAsync(lesson, body.Address, cancel)));

        var board = api.MapGroup("/boards/{board:guid}");
        board.MapGet("", async (Guid lesson, Guid board, BoardService boards, CancellationToken cancel) => BoardView.Of(
            await boards.GetAsync(lesson, board, cancel)));
        board.MapPatch("", (Guid lesson, Guid board, BoardChange body, BoardService boards, CancellationToken cancel) =>
            DoneAsync(boards.ChangeAsync(lesson, board, body, cancel)));
        board.MapPost("/empty-after", async (Guid lesson, Guid board, BoardService boards, CancellationToken cancel) =>
            Results.Ok(BoardView.Of(await boards.AddEmptyAfterAsync(lesson, board, cancel))));
        board.MapPost("/clean-copy", async (Guid lesson, Guid board, ItemService items, CancellationToken cancel) =>
            Results.Ok(BoardView.Of(await items.AddCleanAsync(lesson, board, cancel))));
        board.MapDelete(
            "",
            (Guid lesson, Guid board, BoardService boards, CancellationToken cancel) => DoneAsync(boards.DeleteAsync(lesson, board, cancel)));
        board.MapDelete("/for-good", (Guid lesson, Guid board, DiskService disk, CancellationToken cancel) =>
            DoneAsync(disk.DeleteBoardAsync(lesson, board, cancel)));
        board.MapPost("/restore", (Guid lesson, Guid board, BoardService boards, CancellationToken cancel) =>
            DoneAsync(boards.RestoreAsync(lesson, board, cancel)));
        board.MapPut("/picture", ReplaceAsync).DisableRequestTimeout();
        board.MapGet(
            "/scan",
            (Guid lesson, Guid board, BoardPictures pictures, CancellationToken cancel) => pictures.SettingsAsync(lesson, board, cancel));
        board.MapGet(
            "/scan/proposal",
            (Guid lesson, Guid board, BoardPictures pictures, CancellationToken cancel) => pictures.ProposeAsync(lesson, board, cancel));
        board.MapGet("/scan/original", async (Guid lesson, Guid board, int turn, BoardPictures pictures, CancellationToken cancel) =>
            Results.Bytes(await pictures.OriginalAsync(lesson, board, turn, cancel), "image/jpeg"));
        board.MapPost("/scan/divide", async (Guid lesson, Guid board, BoardPictures pictures, CancellationToken cancel) =>
            Results.Ok(BoardView.Of(await pictures.DivideAsync(lesson, board, cancel))));
        board.MapPut("/scan", async (Guid lesson, Guid board, ScanSettings body, BoardPictures pictures, CancellationToken cancel) =>
            Results.Ok(BoardView.Of(await pictures.SetAsync(lesson, board, body, cancel))));
        board.MapGet("/words", WordsAsync);
        board.MapPost("/words", ReadAsync);
        board.MapGet("/seen", (Guid lesson, Guid board, SeenService seen, CancellationToken cancel) => seen.CheckAsync(lesson, board, cancel));

        api.MapPost("/files", UploadAsync).DisableRequestTimeout();
        api.MapPost(
            "/jobs/{job:guid}/cancel",
            (Guid lesson, Guid job, JobService jobs, CancellationToken cancel) => DoneAsync(jobs.CancelAsync(lesson, job, cancel)));
        api.MapDelete(
            "/jobs/{job:guid}",
            (Guid lesson, Guid job, JobService jobs, CancellationToken cancel) => DoneAsync(jobs.DismissAsync(lesson, job, cancel)));
        routes.MapLessonGroup("/lessons/{lesson:guid}").MapGet("/boards/{board:guid}/{file}", FileAsync);
    }

    internal static async Task<IResult> DoneAsync(Task work)
    {
        await work;
        return Results.NoContent();
    }

    private static async Task<IResult> ListAsync(
        Guid lesson, BoardService boards, ItemService items, JobService jobs, SectionService sections, LessonFiles files, CancellationToken cancel)
    {
        var list = await boards.ListAsync(lesson, cancel);
        var pictures = await items.PicturesAsync(lesson, cancel);
        var known = (await sections.ReferencesAsync(lesson, cancel)).Select(r => r.Address).ToHashSet(StringComparer.Ordinal);
        return Results.Ok(new
        {
            boards = list.Select(b => BoardView.Of(b) with { Items = pictures.GetValueOrDefault(b.Id) }),
            offered = (await boards.ListOfferedAsync(lesson, cancel)).Select(BoardView.Of),
            links = list.SelectMany(b => b.Links).Where(l => !l.IsDismissed && !known.Contains(l.Address)).DistinctBy(l => l.Address),
            jobs = (await jobs.ListAsync(lesson, ImportJob.Kinds, cancel)).Select(j => j with { Pictures = EarlyPictures(lesson, j, files) }),
        });
    }

    private static string[] EarlyPictures(Guid lesson, JobView job, LessonFiles files) => job is not { State: "running", Done: > 0 } ? []
        : [.. Enumerable.Range(1, Math.Min(job.Total, ShownEarly)).Select(page => ImportJob.BoardId(job.Id, page))
            .Where(id => System.IO.File.Exists(Path.Combine(files
                .Board(lesson, id), FirstCopy))).Select(id => BoardView.Folder(lesson, id) + FirstCopy)];

    private static async Task<IResult> UploadAsync(
        Guid lesson,
        HttpRequest request,
        LessonFiles files,
        MediaLimits limits,
        JobService jobs,
        CancellationToken cancel)
    {
        var upload = await Upload.ReceiveAsync(request, files.Uploads(lesson), limits, cancel);
        var kind = await FileKinds.OfAsync(upload.Path, cancel) == FileKind.Clip ? JobKind.Film : JobKind.Import;
        await jobs.AddAsync(kind, lesson, upload.Stored, upload.Name, cancel);
        return Results.Accepted();
    }

    private static Task<IResult> ReplaceAsync(
        Guid lesson, Guid board, HttpRequest request, LessonFiles files, MediaLimits limits, BoardPictures pictures, CancellationToken cancel) =>
        Upload.UseAsync(request, files.Uploads(lesson), limits, async upload => 
            Results.Ok(BoardView.Of(await pictures.ReplaceAsync(lesson, board, upload.Path, cancel))), cancel);

    private static async Task<IResult> WordsAsync(Guid lesson, Guid board, BoardService boards, JobService jobs, CancellationToken cancel)
    {
        var reading = await jobs.LatestAsync(lesson, JobKind.Read, board.ToString("N"), cancel);
        return Results.Ok(new { words = (await boards.WordsAsync(lesson, board, cancel)).Words, reading });
    }

    private static async Task<IResult> ReadAsync(Guid lesson, Guid board, BoardService boards, JobService jobs, CancellationToken cancel)
    {
        var found = await boards.GetAsync(lesson, board, cancel);
        await jobs.AddAsync(JobKind.Read, lesson, board.ToString("N"), found.Title, cancel);
        return Results.Accepted();
    }

    // A board's files are those that its row names; before it has one, its first copy may be looked at.
    private static async Task<IResult> FileAsync(
        Guid lesson,
        Guid board,
        string file,
        BoardService boards,
        LessonFiles files,
        HttpResponse response,
        CancellationToken cancel)
    {
        var names = await boards.FilesAsync(lesson, board, cancel) ?? [FirstCopy];
        var name = PictureFiles.IsName(file) ? file : Array.Find(names, n => n == file);
        var path = name is null ? "" : Path.Combine(files.Board(lesson, board), name);
        if (!Types.TryGetValue(Path.GetExtension(path), out var type) || !System.IO.File.Exists(path))
        {
            return Results.NotFound();
        }

        response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return Results.File(path, type, enableRangeProcessing: true);
    }
}
