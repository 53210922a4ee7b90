using ArchTalk.Core.Editing;
using ArchTalk.Web.Timelines;

namespace ArchTalk.Web.Endpoints;

/// <summary>The edits of a lesson: what they are and what can be done next.</summary>
public static class RefineEndpoints
{
    /// <param name="Version">The state that the window shows.</param>
    public sealed record DoBody(EditStep Step, int Version);

    /// <param name="Number">The state to go to.</param>
    public sealed record GoToBody(int Number, int Version);

    public static void MapRefineEndpoints(this IEndpointRouteBuilder routes)
    {
        var api = routes.MapLessonApi();
        api.MapGet("/edits", (Guid lesson, RefineService refine, CancellationToken cancel) => refine.GetAsync(lesson, cancel));
        api.MapPost("/edits", (Guid lesson, DoBody body, RefineService refine, CancellationToken cancel) =>
            refine.DoAsync(lesson, body.Step, body.Version, cancel));
        api.MapPost("/edits/go-to", (Guid lesson, GoToBody body, RefineService refine, CancellationToken cancel) =>
            refine.GoToAsync(lesson, body.Number, body.Version, cancel));
        var files = routes.MapLessonGroup("/lessons/{lesson:guid}");
        files.MapGet("/marks", async (Guid lesson, RefineService refine, HttpResponse response, CancellationToken cancel) =>
        {
            response.Headers.CacheControl = "no-store";
            return Results.Bytes(await refine.MarksAsync(lesson, cancel), "application/octet-stream");
        });
        files.MapGet("/peaks/{take:guid}/{resolution:int}", async (
            Guid lesson, Guid take, int resolution, int from, int count, RefineService refine, HttpResponse response, CancellationToken cancel) =>
        {
            response.Headers.CacheControl = "no-store";
            return await refine.PeaksAsync(lesson, take, resolution, from, count, cancel) is { } peaks
                ? Results.Bytes(peaks, "application/octet-stream")
                : Results.NotFound();
        });
    }
}
