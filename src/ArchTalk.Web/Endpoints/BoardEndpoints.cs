using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Setup;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Mvc;

namespace ArchTalk.Web.Endpoints;

/// <summary>Boards, the files they come from, and their pictures.</summary>
public static class BoardEndpoints
{
    public sealed record TitleBody(string? Title);

    public static void MapBoardEndpoints(this IEndpointRouteBuilder routes)
    {
        var api = routes.MapLessonApi();
        api.MapGet("/boards", async (Guid lesson, BoardService boards, JobService jobs, CancellationToken cancel) => Results.Ok(new
        {
            boards = (await boards.ListAsync(lesson, cancel)).Select(BoardView.Of),
            jobs = await jobs.ListAsync(lesson, JobKind.Import, cancel),
        }));
        api.MapPost("/boards", async (Guid lesson, TitleBody body, BoardService boards, CancellationToken cancel) =>
            Results.Ok(BoardView.Of(await boards.AddEmptyAsync(lesson, body.Title, cancel))));
        api.MapPut("/boards/order", async (Guid lesson, Guid[] order, BoardService boards, CancellationToken cancel) =>
        {
            await boards.OrderAsync(lesson, order, cancel);
            return Results.NoContent();
        });
        api.MapPatch("/boards/{board:guid}", async (Guid lesson, Guid board, TitleBody body, BoardService boards, CancellationToken cancel) =>
        {
            await boards.RenameAsync(lesson, board, body.Title, cancel);
            return Results.NoContent();
        });
        api.MapDelete("/boards/{board:guid}", async (Guid lesson, Guid board, BoardService boards, CancellationToken cancel) =>
        {
            await boards.DeleteAsync(lesson, board, cancel);
            return Results.NoContent();
        });
        api.MapPost("/boards/{board:guid}/restore", async (Guid lesson, Guid board, BoardService boards, CancellationToken cancel) =>
        {
            await boards.RestoreAsync(lesson, board, cancel);
            return Results.NoContent();
        });
        api.MapPost("/files", UploadAsync).DisableRequestTimeout();
        api.MapPost("/jobs/{job:guid}/cancel", async (Guid lesson, Guid job, JobService jobs, CancellationToken cancel) =>
        {
            await jobs.CancelAsync(lesson, job, cancel);
            return Results.NoContent();
        });
        api.MapDelete("/jobs/{job:guid}", async (Guid lesson, Guid job, JobService jobs, CancellationToken cancel) =>
        {
            await jobs.DismissAsync(lesson, job, cancel);
            return Results.NoContent();
        });
        routes.MapLessonGroup("/lessons/{lesson:guid}").MapGet("/boards/{board:guid}/{file}", PictureAsync);
    }

    // The file is the body itself, its name a header: no form, so nothing is buffered twice.
    private static async Task<IResult> UploadAsync(
        Guid lesson, [FromHeader(Name = "X-File-Name")] string? name, HttpRequest request, LessonFiles files, MediaLimits limits, JobService jobs, CancellationToken cancel)
    {
        if (request.HttpContext.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } size)
        {
            size.MaxRequestBodySize = null;
        }

        var title = Path.GetFileName(Uri.UnescapeDataString(name ?? "file"));
        if (request.ContentLength > limits.FileBytes)
        {
            throw new Refusal($"“{title}” is larger than {limits.FileBytes >> 20} MB. Save it in parts, or with smaller pictures.");
        }

        var stored = Guid.NewGuid().ToString("N");
        Directory.CreateDirectory(files.Uploads(lesson));
        var path = Path.Combine(files.Uploads(lesson), stored);
        try
        {
            await using var file = File.Create(path);
            await request.Body.CopyToAsync(file, cancel);
        }
        catch
        {
            File.Delete(path);
            throw;
        }

        await jobs.AddAsync(JobKind.Import, lesson, stored, title, cancel);
        return Results.Accepted();
    }

    private static IResult PictureAsync(Guid lesson, Guid board, string file, LessonFiles files, HttpResponse response)
    {
        var path = Path.Combine(files.Board(lesson, board), Path.GetFileName(file));
        if (!path.EndsWith(".jpg", StringComparison.Ordinal) || !File.Exists(path))
        {
            return Results.NotFound();
        }

        response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return Results.File(path, "image/jpeg");
    }
}
