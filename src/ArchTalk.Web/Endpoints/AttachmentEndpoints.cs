using ArchTalk.Data.Files;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Lessons;

namespace ArchTalk.Web.Endpoints;

/// <summary>Files that students download, kept with the lesson.</summary>
public static class AttachmentEndpoints
{
    public static void MapAttachmentEndpoints(this IEndpointRouteBuilder routes)
    {
        routes.MapLessonApi().MapPost("/attachments", async (Guid lesson, HttpRequest request, LessonFiles files, MediaLimits limits, CancellationToken cancel) =>
        {
            var upload = await Upload.ReceiveAsync(request, files.Attachments(lesson), limits, cancel);
            return Results.Ok(new { stored = upload.Stored, fileName = upload.Name });
        }).DisableRequestTimeout();
        routes.MapLessonGroup("/lessons/{lesson:guid}").MapGet("/attachments/{stored}", GetAsync);
    }

    // Always as a download: what a teacher keeps here may be of any kind, and must not run as a page.
    private static async Task<IResult> GetAsync(Guid lesson, string stored, LessonFiles files, SectionService sections, CancellationToken cancel)
    {
        var reference = (await sections.ReferencesAsync(lesson, cancel)).FirstOrDefault(r => r.Stored == stored && stored.Length > 0);
        var path = Path.Combine(files.Attachments(lesson), Path.GetFileName(stored));
        return reference is not null && File.Exists(path) ? Results.File(path, "application/octet-stream", reference.FileName) : Results.NotFound();
    }
}
