using ArchTalk.Web.Recording;
using Microsoft.AspNetCore.Mvc;

namespace ArchTalk.Web.Endpoints;

/// <summary>Takes: starting them, sending what was recorded, ending them.</summary>
public static class RecordEndpoints
{
    // A recorder that was offline sends up to a minute at once: 96 kB a second.
    private const int LargestUpload = 8 << 20;

    public static void MapRecordEndpoints(this IEndpointRouteBuilder routes)
    {
        var api = routes.MapLessonApi();
        api.MapGet("/takes", (Guid lesson, RecordingService recording, CancellationToken cancel) => recording.ListAsync(lesson, cancel));
        api.MapPost("/takes", (Guid lesson, RecordingService recording, CancellationToken cancel) => recording.StartAsync(lesson, cancel));
        api.MapPost("/takes/{take:guid}/reopen", (Guid lesson, Guid take, RecordingService recording, CancellationToken cancel) =>
            recording.ReopenAsync(lesson, take, cancel));
        api.MapPost("/takes/{take:guid}/finish", async (Guid lesson, Guid take, RecordingService recording, CancellationToken cancel) =>
        {
            await recording.FinishAsync(lesson, take, cancel);
            return Results.NoContent();
        });
        api.MapDelete("/takes/{take:guid}", async (Guid lesson, Guid take, RecordingService recording, CancellationToken cancel) =>
        {
            await recording.SetDeletedAsync(lesson, take, deleted: true, cancel);
            return Results.NoContent();
        });
        api.MapPost("/takes/{take:guid}/restore", async (Guid lesson, Guid take, RecordingService recording, CancellationToken cancel) =>
        {
            await recording.SetDeletedAsync(lesson, take, deleted: false, cancel);
            return Results.NoContent();
        });

        // These two are let in by the take's token, not by the sign-in, which may expire during a lesson. A page of another
        // site can't send the token's header, so no antiforgery token is needed.
        routes.MapPost("/api/takes/{take:guid}/epochs", ResumeAsync);
        routes.MapPost("/api/takes/{take:guid}/records", AppendAsync).WithMetadata(new RequestSizeLimitAttribute(LargestUpload));
    }

    private static async Task<IResult> ResumeAsync(
        Guid take, [FromHeader(Name = "X-Take-Token")] string token, RecordingService recording, CancellationToken cancel) =>
        await recording.ResumeAsync(take, token, cancel) is { } opened ? Results.Ok(opened) : Results.Unauthorized();

    private static async Task<IResult> AppendAsync(
        Guid take, [FromHeader(Name = "X-Take-Token")] string token, [FromHeader(Name = "X-Take-Epoch")] int epoch,
        HttpRequest request, RecordingService recording, CancellationToken cancel)
    {
        using var body = new MemoryStream();
        await request.Body.CopyToAsync(body, cancel);

        // Once all bytes are here they are saved, even if the tab is closed at this moment.
        var answer = await recording.AppendAsync(take, token, epoch, body.GetBuffer().AsMemory(0, (int)body.Length), CancellationToken.None);
        var problem = answer.Outcome.ToString().ToLowerInvariant();
        return Results.Json(new { problem, answer.Next, answer.SavedMs }, statusCode: answer.Outcome switch
        {
            UploadOutcome.Saved => StatusCodes.Status200OK,
            UploadOutcome.WrongToken => StatusCodes.Status401Unauthorized,
            UploadOutcome.Damaged => StatusCodes.Status400BadRequest,
            UploadOutcome.Gap => StatusCodes.Status422UnprocessableEntity,
            _ => StatusCodes.Status409Conflict,
        });
    }
}
