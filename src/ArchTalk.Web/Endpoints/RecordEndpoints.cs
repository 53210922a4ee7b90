using System.Runtime.InteropServices;
using System.Text.Json;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Recording;
using ArchTalk.Web.Setup;
using Microsoft.AspNetCore.Mvc;

namespace ArchTalk.Web.Endpoints;

/// <summary>Takes: starting them, sending what was recorded, ending them.</summary>
public static class RecordEndpoints
{
    // A recorder sends at most 1 MiB at once, and never less than a record.
    private const int LargestUpload = (1 << 20) + JournalRecord.MaxPayload;

    private const int LargestStroke = 256 * 1024;

    // Half a minute of 16-bit sound.
    private const int LargestSoundCheck = 30 * Clock.SampleRate * sizeof(short);

    public static void MapRecordEndpoints(this IEndpointRouteBuilder routes)
    {
        var api = routes.MapLessonApi();
        api.MapGet("/takes", (Guid lesson, RecordingService recording, CancellationToken cancel) => recording.ListAsync(lesson, cancel));
        api.MapPost("/takes", (Guid lesson, RecordingService recording, CancellationToken cancel) => recording.StartAsync(lesson, cancel));
        api.MapPost("/takes/{take:guid}/reopen", (Guid lesson, Guid take, RecordingService recording, CancellationToken cancel) =>
            recording.ReopenAsync(lesson, take, cancel));
        api.MapPost("/takes/{take:guid}/finish", (Guid lesson, Guid take, RecordingService recording, CancellationToken cancel) =>
            BoardEndpoints.DoneAsync(recording.FinishAsync(lesson, take, cancel)));
        api.MapDelete("/takes/{take:guid}", (Guid lesson, Guid take, RecordingService recording, CancellationToken cancel) =>
            BoardEndpoints.DoneAsync(recording.SetDeletedAsync(lesson, take, deleted: true, cancel)));
        api.MapDelete("/takes/{take:guid}/for-good", (Guid lesson, Guid take, DiskService disk, CancellationToken cancel) =>
            BoardEndpoints.DoneAsync(disk.DeleteTakeAsync(lesson, take, cancel)));
        api.MapPost("/takes/{take:guid}/restore", (Guid lesson, Guid take, RecordingService recording, CancellationToken cancel) =>
            BoardEndpoints.DoneAsync(recording.SetDeletedAsync(lesson, take, deleted: false, cancel)));
        api.MapPost("/settle", async (Guid lesson, DrawnStroke stroke, SettlingService settling, CancellationToken cancel) =>
            Settled(await settling.SettleAsync(lesson, stroke, cancel)));
        api.MapPost("/sound-check", SoundCheckAsync).WithMetadata(new RequestSizeLimitAttribute(LargestSoundCheck));

        // Let in by the take's token, not by the sign-in, which may expire during a lesson. A page of another site can't send the
        // token's header, so no antiforgery token is needed.
        routes.MapPost("/api/takes/{take:guid}/records", AppendAsync)
            .WithMetadata(new RequestSizeLimitAttribute(LargestUpload)).RequireRateLimiting(ArchTalkSetup.RecordersLimit);
        routes.MapGet("/api/takes/{take:guid}/phrases", PhrasesAsync).RequireRateLimiting(ArchTalkSetup.RecordersLimit);
        routes.MapPost("/api/takes/{take:guid}/settle", SettleAsync)
            .WithMetadata(new RequestSizeLimitAttribute(LargestStroke)).RequireRateLimiting(ArchTalkSetup.RecordersLimit);
    }

    // Here too nothing is read of whoever has no token.
    private static async Task<IResult> SettleAsync(
        Guid take, [FromHeader(Name = "X-Take-Token")] string? token, HttpRequest request, RecordingService recording, SettlingService settling,
            CancellationToken cancel)
    {
        if (request.ContentLength > LargestStroke)
        {
            return Results.StatusCode(StatusCodes.Status413PayloadTooLarge);
        }

        if (await recording.AdmitAsync(take, token ?? "", cancel) is not { } admitted)
        {
            return Answer(new UploadAnswer(UploadOutcome.WrongToken, 0, 0));
        }

        try
        {
            return JsonSerializer.Deserialize<DrawnStroke>((await BodyAsync(request, cancel)).Span, JsonSerializerOptions.Web) is { } stroke
                ? Settled(await settling.SettleAsync(admitted.LessonId, stroke, cancel))
                : Results.BadRequest();
        }
        catch (JsonException)
        {
            return Results.BadRequest();
        }
    }

    // Nothing by itself is no JSON.
    private static IResult Settled(SettledStroke? settled) => Results.Json(new { settled });

    private static async Task<IResult> PhrasesAsync(
        Guid take, [FromHeader(Name = "X-Take-Token")] string? token, RecordingService recording, CancellationToken cancel) =>
        await recording.AdmitAsync(take, token ?? "", cancel) is { } admitted
            ? Results.Json(await recording.LastPhrasesAsync(admitted, cancel))
            : Answer(new UploadAnswer(UploadOutcome.WrongToken, 0, 0));

    /// <param name="quiet">How many samples of a quiet room come first; the rest is speech.</param>
    private static async Task<IResult> SoundCheckAsync(Guid lesson, int quiet, HttpRequest request, CancellationToken cancel)
    {
        if (request.ContentLength is null or > LargestSoundCheck)
        {
            return Results.StatusCode(StatusCodes.Status413PayloadTooLarge);
        }

        var samples = MemoryMarshal.Cast<byte, short>((await BodyAsync(request, cancel)).Span).ToArray();
        var least = SoundCheck.Shortest.Samples;
        if (quiet < least || samples.Length - quiet < least)
        {
            throw new Refusal("Too little sound arrived from the microphone. Check that it is switched on, and try again.");
        }

        var check = SoundCheck.Of(samples.AsSpan(0, quiet), samples.AsSpan(quiet));
        var advice = JsonNamingPolicy.CamelCase.ConvertName(check.Advice.ToString());
        return Results.Json(new { check.SpeechLufs, check.NoiseDb, check.Hum, check.Clipped, advice });
    }

    // Whoever has no token and whatever is too large is turned away before a byte of it is read.
    private static async Task<IResult> AppendAsync(
        Guid take, [FromHeader(Name = "X-Take-Token")] string token, HttpRequest request, RecordingService recording, CancellationToken cancel)
    {
        if (request.ContentLength > LargestUpload)
        {
            return Results.StatusCode(StatusCodes.Status413PayloadTooLarge);
        }

        if (await recording.AdmitAsync(take, token, cancel) is not { } admitted)
        {
            return Answer(new UploadAnswer(UploadOutcome.WrongToken, 0, 0));
        }

        var body = await BodyAsync(request, cancel);

        // Once all bytes are here they are saved, even if the tab is closed at this moment.
        return Answer(await recording.AppendAsync(admitted, token, body, CancellationToken.None));
    }

    private static async Task<ReadOnlyMemory<byte>> BodyAsync(HttpRequest request, CancellationToken cancel)
    {
        using var body = new MemoryStream();
        await request.Body.CopyToAsync(body, cancel);
        return body.GetBuffer().AsMemory(0, (int)body.Length);
    }

    private static IResult Answer(UploadAnswer answer)
    {
        var problem = answer.Outcome.ToString().ToLowerInvariant();
        return Results.Json(new { problem, answer.Next, answer.SavedMs }, statusCode: answer.Outcome switch
        {
            UploadOutcome.Saved => StatusCodes.Status200OK,
            UploadOutcome.WrongToken => StatusCodes.Status401Unauthorized,
            UploadOutcome.Damaged => StatusCodes.Status400BadRequest,
            UploadOutcome.Gap => StatusCodes.Status422UnprocessableEntity,
            UploadOutcome.Disk => StatusCodes.Status507InsufficientStorage,
            _ => StatusCodes.Status409Conflict,
        });
    }
}
