using ArchTalk.Data.Files;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Lessons;

namespace ArchTalk.Web.Endpoints;

/// <summary>Files that students download, kept with the lesson.</summary>
public static class AttachmentEndpoints
{
    public static void MapAttachmentEndpoints(this IEndpointRouteBuilder routes)
    {
        routes.MapLessonApi().MapPost("/attachments", async (Guid lesson, HttpRequest request, LessonFiles files, AttachmentService attachments,
            MediaLimits limits, CancellationToken cancel) =>
        {
            var upload = await Upload.ReceiveAsync(request, files.Attachments(lesson), limits, cancel);
            return Results.Ok(new { stored = await attachments.AddAsync(lesson, upload.Path, upload.Name, cancel), fileName = upload.Name });
        }).DisableRequestTimeout();
        routes.MapLessonGroup("/lessons/{lesson:guid}").MapGet("/attachments/{stored}", GetAsync);
    }

    // Always as a download: what a teacher keeps here may be of any kind, and must not run as a page.
    private static async Task<IResult> GetAsync(
        Guid lesson,
        string stored,
        AttachmentService attachments,
        SectionService sections,
        CancellationToken cancel)
    {
        var reference = (await sections.ReferencesAsync(lesson, cancel)).FirstOrDefault(r => r.Stored == stored);
        return reference is not null && await attachments.FindAsync(lesson, stored, cancel) is { } found
            ? Results.File(found.Path, "application/octet-stream", reference.FileName)
            : Results.NotFound();
    }
}
