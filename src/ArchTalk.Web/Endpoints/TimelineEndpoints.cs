using System.Security.Claims;
using ArchTalk.Core.Lessons;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.TagHelpers;
using ArchTalk.Web.Timelines;
using Microsoft.Net.Http.Headers;

namespace ArchTalk.Web.Endpoints;

/// <summary>The lesson as it is now, for the teacher's own player.</summary>
public static class TimelineEndpoints
{
    public static void MapTimelineEndpoints(this IEndpointRouteBuilder routes)
    {
        var lesson = routes.MapLessonGroup("/lessons/{lesson:guid}");
        lesson.MapGet("/timeline.json", async (Guid lesson, LessonCompiler compiler, HttpResponse response, CancellationToken cancel) =>
        {
            response.Headers.CacheControl = "no-store";
            return Results.Bytes(await compiler.TimelineAsync(lesson, cancel), "application/json");
        });
        lesson.MapGet("/ink/{board:int}.json", async (Guid lesson, int board, LessonCompiler compiler, HttpResponse response,
            CancellationToken cancel) =>
        {
            response.Headers.CacheControl = "no-store";
            return await compiler.BoardAsync(lesson, board, cancel) is { } file ? Results.Bytes(file, "application/json") : Results.NotFound();
        });
        lesson.MapGet("/ink/end.json", async (Guid lesson, LessonCompiler compiler, HttpResponse response, CancellationToken cancel) =>
        {
            response.Headers.CacheControl = "no-store";
            return Results.Bytes(await compiler.BoardsAtEndAsync(lesson, cancel), "application/json");
        });
        lesson.MapGet("/pointer/{minute:int:min(0):max(10000)}.json", async (
            Guid lesson, int minute, LessonCompiler compiler, HttpResponse response, CancellationToken cancel) =>
        {
            response.Headers.CacheControl = "no-store";
            return Results.Bytes(await compiler.PointerAsync(lesson, minute, cancel), "application/json");
        });
        lesson.MapMethods("/voice.wav", [HttpMethods.Get, HttpMethods.Head], VoiceAsync);
        lesson.MapGet("/arch/{step}", async (Guid lesson, LessonStep step, LessonService lessons, ClaimsPrincipal user, HttpResponse response,
            CancellationToken cancel) =>
        {
            response.Headers.CacheControl = "no-store";
            var found = await lessons.FindAsync(user.TeacherId(), lesson, cancel);
            return Results.Content(ArchDrawing.Svg(lesson, found!.WatchToken, await lessons.ProgressAsync(lesson, cancel), step), "image/svg+xml");
        });
        routes.MapLessonApi().MapGet("/voice", (Guid lesson, LessonVoices voices, CancellationToken cancel) => voices.FactsAsync(lesson, cancel));
        routes.MapLessonApi().MapGet("/chapters/proposed", (Guid lesson, ChapterProposals proposals, CancellationToken cancel) =>
            proposals.OfAsync(lesson, cancel));
    }

    // Kept by the browser while it is the same: a player asks for it piece by piece.
    private static async Task<IResult> VoiceAsync(
        Guid lesson, Guid? take, double? from, double? to, VoiceAs? @as, LessonVoices voices, HttpResponse response, CancellationToken cancel)
    {
        var answer = await voices.HearAsync(lesson, new VoiceAsked(take, from, to, @as ?? VoiceAs.Preview), cancel);
        response.Headers.CacheControl = "private, no-cache";
        return Results.Stream(answer.Wav, "audio/wav", entityTag: new EntityTagHeaderValue($"\"{answer.Tag}\""), enableRangeProcessing: true);
    }
}
