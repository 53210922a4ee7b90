using System.Security.Claims;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Setup;
using Microsoft.AspNetCore.Antiforgery;

namespace ArchTalk.Web.Endpoints;

/// <summary>What all endpoints of a lesson have in common: its own teacher only, antiforgery on every write, refusals as messages.</summary>
public static class LessonGroup
{
    /// <summary>Endpoints under /api/lessons/{lesson}.</summary>
    public static RouteGroupBuilder MapLessonApi(this IEndpointRouteBuilder routes) => routes.MapLessonGroup("/api/lessons/{lesson:guid}");

    public static RouteGroupBuilder MapLessonGroup(this IEndpointRouteBuilder routes, string prefix)
    {
        var group = routes.MapGroup(prefix).RequireAuthorization();
        group.AddEndpointFilter(RefusalsAsMessagesAsync);
        group.AddEndpointFilter(OwnLessonOnlyAsync);
        group.AddEndpointFilter(AntiforgeryAsync);
        return group;
    }

    public static string TeacherId(this ClaimsPrincipal user) => user.FindFirstValue(ClaimTypes.NameIdentifier) ?? "";

    private static async ValueTask<object?> RefusalsAsMessagesAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        try
        {
            return await next(context);
        }
        catch (Exception e) when (e is Refusal or MediaException)
        {
            return Results.Json(new { message = e.Message }, statusCode: Fault.Of(e).Status);
        }
    }

    // Another teacher's lesson is not told from one that doesn't exist.
    private static async ValueTask<object?> OwnLessonOnlyAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var http = context.HttpContext;
        var lessons = http.RequestServices.GetRequiredService<LessonService>();
        return Guid.TryParse(http.GetRouteValue("lesson") as string, out var id)
            && await lessons.FindAsync(http.User.TeacherId(), id, http.RequestAborted) is not null
            ? await next(context)
            : Results.NotFound(new { message = "The lesson is not there any more. Go back to your lessons and open it again." });
    }

    private static async ValueTask<object?> AntiforgeryAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var http = context.HttpContext;
        if (!HttpMethods.IsGet(http.Request.Method) && !HttpMethods.IsHead(http.Request.Method))
        {
            try
            {
                await http.RequestServices.GetRequiredService<IAntiforgery>().ValidateRequestAsync(http);
            }
            catch (AntiforgeryValidationException)
            {
                return Results.Json(
                    new { message = "This page has been open too long. Reload it and try again; nothing was changed." }, statusCode: StatusCodes
                        .Status400BadRequest);
            }
        }

        return await next(context);
    }
}
