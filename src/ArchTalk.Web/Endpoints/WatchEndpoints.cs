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
        [".webp"] = "image/webp",
        [".svg"] = "image/svg+xml",
        [".bin"] = "application/octet-stream",
        [".mp4"] = "video/mp4",
        [".m4a"] = "audio/mp4",
        [".webm"] = "audio/webm",
    };

    /// <summary>Whether a path is sound or a picture, which must not be compressed: ranges count the bytes as they are.</summary>
    public static bool IsMedia(PathString path) =>
        Path.GetExtension(path.Value ?? "") is ".m4a" or ".webm" or ".wav" or ".jpg" or ".webp" or ".mp4" or ".bin";

    public static void MapWatchEndpoints(this IEndpointRouteBuilder routes) =>
        routes.MapMethods("/w/{token}/{number:int}/{*file:minlength(1)}", [HttpMethods.Get, HttpMethods.Head], FileAsync);

    private static async Task<IResult> FileAsync(
        string token, int number, string file, WatchIndex index, PublicationFiles files, HttpResponse response, CancellationToken cancel)
    {
        if ((await index.FindAsync(token, cancel))?.Open(number) is not { } opened)
        {
            return Results.NotFound();
        }

        if (opened.IsClosed)
        {
            return Results.StatusCode(StatusCodes.Status410Gone);
        }

        if (!Types.TryGetValue(Path.GetExtension(file), out var type) || files.Find(opened.Lesson, number, file) is not { } found)
        {
            return Results.NotFound();
        }

        // What a teacher takes back is gone from every cache within minutes; until then nothing is loaded twice.
        response.Headers.CacheControl = "public, max-age=300, must-revalidate";
        return Results.File(found.Path, type, lastModified: found.Written, entityTag: found.Tag, enableRangeProcessing: true);
    }
}
