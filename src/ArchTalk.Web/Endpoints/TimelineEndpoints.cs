using ArchTalk.Core.Formats;
using System.Security.Claims;
using ArchTalk.Core.Lessons;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.TagHelpers;
using ArchTalk.Web.Timelines;

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
            return Results.Bytes(await compiler.TimelineJsonAsync(lesson, cancel), "application/json");
        });
        lesson.MapGet("/ink/{board:int}.json", async (Guid lesson, int board, LessonCompiler compiler, ItemService items, HttpResponse response, CancellationToken cancel) =>
        {
            response.Headers.CacheControl = "no-store";
            var compiled = await compiler.CompileAsync(lesson, cancel);
            if (board < 0 || board >= compiled.Timeline.Boards.Count)
            {
                return Results.NotFound();
            }

            var (drawings, description) = await items.DescribeAsync(compiled.Boards[board], cancel);
            return Results.Bytes(TimelineJson.WriteInk(compiled.Timeline.Boards[board].Strokes, drawings, description), "application/json");
        });
        lesson.MapGet("/voice.wav", async (Guid lesson, LessonCompiler compiler, HttpResponse response, CancellationToken cancel) =>
        {
            response.Headers.CacheControl = "no-store";
            return Results.File(await compiler.PreviewVoiceAsync(lesson, cancel), "audio/wav", enableRangeProcessing: true);
        });
        lesson.MapGet("/arch/{step}", async (Guid lesson, LessonStep step, LessonService lessons, ClaimsPrincipal user, HttpResponse response, CancellationToken cancel) =>
        {
            response.Headers.CacheControl = "no-store";
            var found = await lessons.FindAsync(user.TeacherId(), lesson, cancel);
            return Results.Content(ArchDrawing.Svg(lesson, found!.WatchToken, await lessons.ProgressAsync(lesson, cancel), step), "image/svg+xml");
        });
        routes.MapLessonApi().MapGet("/chapters/proposed", (Guid lesson, LessonCompiler compiler, CancellationToken cancel) =>
            compiler.ProposeChaptersAsync(lesson, cancel));
    }
}
