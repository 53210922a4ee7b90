using System.Text.Json;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Setup;

namespace ArchTalk.Web.Endpoints;

/// <summary>The lists of a lesson: chapters, vocabulary, references, task, details.</summary>
public static class SectionEndpoints
{
    public sealed record SaveBody(JsonElement Content, int Version);

    /// <param name="Version">The state that the window shows.</param>
    public sealed record StepBody(int Version);

    public static void MapSectionEndpoints(this IEndpointRouteBuilder routes)
    {
        var api = routes.MapLessonApi();
        api.MapGet("/sections/{kind}", (Guid lesson, SectionKind kind, SectionService sections, CancellationToken cancel) =>
            sections.GetAsync(Key(lesson, kind), cancel));
        api.MapPut("/sections/{kind}", (Guid lesson, SectionKind kind, SaveBody body, SectionService sections, CancellationToken cancel) =>
            sections.SaveAsync(Key(lesson, kind), body.Content, body.Version, cancel));
        api.MapPost("/sections/{kind}/undo", (Guid lesson, SectionKind kind, StepBody body, SectionService sections, CancellationToken cancel) =>
            sections.StepAsync(Key(lesson, kind), -1, body.Version, cancel));
        api.MapPost("/sections/{kind}/redo", (Guid lesson, SectionKind kind, StepBody body, SectionService sections, CancellationToken cancel) =>
            sections.StepAsync(Key(lesson, kind), +1, body.Version, cancel));
    }

    // Items belong to a board and are saved under its address.
    private static SectionKey Key(Guid lesson, SectionKind kind) => kind == SectionKind.Items
        ? throw new Refusal("Items lie on a board. Open the board to change them.")
        : new SectionKey(lesson, kind);
}
