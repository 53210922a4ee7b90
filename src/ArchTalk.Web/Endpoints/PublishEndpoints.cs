using ArchTalk.Data.Entities;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Publishing;

namespace ArchTalk.Web.Endpoints;

/// <summary>Publishing and withdrawing.</summary>
public static class PublishEndpoints
{
    public sealed record Choice(bool Is);

    public static void MapPublishEndpoints(this IEndpointRouteBuilder routes)
    {
        var api = routes.MapLessonApi();
        api.MapPost("/publish", async (Guid lesson, PublishingService publishing, CancellationToken cancel) =>
            Results.Accepted(value: new { job = (await publishing.PublishAsync(lesson, cancel)).Id }));
        api.MapGet("/publish/jobs", (Guid lesson, JobService jobs, CancellationToken cancel) => jobs.ListAsync(lesson, JobKind.Publish, cancel));
        api.MapPut("/findable", async (Guid lesson, Choice body, PublishingService publishing, CancellationToken cancel) =>
        {
            await publishing.SetFindableAsync(lesson, body.Is, cancel);
            return Results.NoContent();
        });
        api.MapPut("/publications/{number:int}/kept-open", async (Guid lesson, int number, Choice body, PublishingService publishing, CancellationToken cancel) =>
        {
            await publishing.SetKeptOpenAsync(lesson, number, body.Is, cancel);
            return Results.NoContent();
        });
        api.MapPost("/withdraw", async (Guid lesson, PublishingService publishing, CancellationToken cancel) =>
        {
            await publishing.SetWithdrawnAsync(lesson, withdrawn: true, cancel);
            return Results.NoContent();
        });
        api.MapPost("/reopen", async (Guid lesson, PublishingService publishing, CancellationToken cancel) =>
        {
            await publishing.SetWithdrawnAsync(lesson, withdrawn: false, cancel);
            return Results.NoContent();
        });
    }
}
