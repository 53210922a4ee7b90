using ArchTalk.Data.Files;
using ArchTalk.Web.Publishing;

namespace ArchTalk.Web.Endpoints;

/// <summary>The files of a publication, for anyone who has its link.</summary>
public static class WatchEndpoints
{
    private static readonly Dictionary<string, string> Types = new(StringComparer.Ordinal)
    {
        [".json"] = "application/json",
        [".jsonld"] = "application/ld+json",
        [".vtt"] = "text/vtt",
        [".jpg"] = "image/jpeg",
        [".svg"] = "image/svg+xml",
        [".bin"] = "application/octet-stream",
        [".m4a"] = "audio/mp4",
        [".webm"] = "audio/webm",
    };

    /// <summary>Whether a path is sound or a picture, which must not be compressed: ranges count the bytes as they are.</summary>
    public static bool IsMedia(PathString path) =>
        Path.GetExtension(path.Value ?? "") is ".m4a" or ".webm" or ".wav" or ".jpg" or ".mp4" or ".bin";

    public static void MapWatchEndpoints(this IEndpointRouteBuilder routes) =>
        routes.MapMethods("/w/{token}/{number:int}/{**file}", [HttpMethods.Get, HttpMethods.Head], FileAsync);

    private static async Task<IResult> FileAsync(
        string token, int number, string file, PublishingService publishing, LessonFiles files, HttpResponse response, CancellationToken cancel)
    {
        if (await publishing.OpenAsync(token, number, cancel) is not { } opened)
        {
            return Results.NotFound();
        }

        if (opened.IsWithdrawn)
        {
            return Results.StatusCode(StatusCodes.Status410Gone);
        }

        var folder = files.Publication(opened.Lesson, number) + Path.DirectorySeparatorChar;
        var path = Path.GetFullPath(Path.Combine(folder, file));
        if (!path.StartsWith(folder, StringComparison.Ordinal) || !Types.TryGetValue(Path.GetExtension(path), out var type) || !File.Exists(path))
        {
            return Results.NotFound();
        }

        response.Headers.CacheControl = "public, max-age=31536000, immutable";
        return Results.File(path, type, enableRangeProcessing: true);
    }
}
