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
            Results.Accepted(value: new { job = (await publishing.PublishAsync(lesson, cancel))?.Id }));
        api.MapGet("/publish/jobs", (Guid lesson, JobService jobs, CancellationToken cancel) => jobs.ListAsync(lesson, [JobKind.Publish], cancel));
        api.MapPut("/findable", (Guid lesson, Choice body, PublishingService publishing, CancellationToken cancel) =>
            BoardEndpoints.DoneAsync(publishing.SetFindableAsync(lesson, body.Is, cancel)));
        api.MapPut("/publications/{number:int}/kept-open", (Guid lesson, int number, Choice body, PublishingService publishing,
            CancellationToken cancel) =>
            BoardEndpoints.DoneAsync(publishing.SetKeptOpenAsync(lesson, number, body.Is, cancel)));
        api.MapPost("/withdraw", (Guid lesson, PublishingService publishing, CancellationToken cancel) =>
            BoardEndpoints.DoneAsync(publishing.SetWithdrawnAsync(lesson, withdrawn: true, cancel)));
        api.MapPost("/reopen", (Guid lesson, PublishingService publishing, CancellationToken cancel) =>
            BoardEndpoints.DoneAsync(publishing.SetWithdrawnAsync(lesson, withdrawn: false, cancel)));
    }
}
