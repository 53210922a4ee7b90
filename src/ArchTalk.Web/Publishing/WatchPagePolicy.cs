using System.Globalization;
using Microsoft.AspNetCore.OutputCaching;
using Microsoft.Net.Http.Headers;

namespace ArchTalk.Web.Publishing;

/// <summary>
/// Lets the students' page be written once for a publication, and compressed once for each way of compressing. It is kept under the stamp
/// of what its link leads to, so that nothing kept outlives a change.
/// </summary>
public sealed class WatchPagePolicy(WatchIndex index) : IOutputCachePolicy
{
    private static readonly TimeSpan Longest = TimeSpan.FromHours(6);
    private static readonly string[] Compressions = ["br", "gzip"];

    public async ValueTask CacheRequestAsync(OutputCacheContext context, CancellationToken cancellation)
    {
        var request = context.HttpContext.Request;
        var token = request.RouteValues["token"] as string ?? "";
        if (!HttpMethods.IsGet(request.Method) || await index.FindAsync(token, cancellation) is not { } facts)
        {
            context.EnableOutputCaching = false;
            return;
        }

        context.EnableOutputCaching = context.AllowCacheLookup = context.AllowCacheStorage = context.AllowLocking = true;
        context.ResponseExpirationTimeSpan = Longest;
        context.CacheVaryByRules.QueryKeys = "";
        context.CacheVaryByRules.VaryByHost = false;
        context.CacheVaryByRules.VaryByValues["stamp"] = facts.Stamp.ToString(CultureInfo.InvariantCulture);

        // A client may name any compression in any order; the page is kept for those that are used.
        var accepted = request.Headers.AcceptEncoding.ToString();
        context.CacheVaryByRules.VaryByValues["compression"] =
            Array.Find(Compressions, c => accepted.Contains(c, StringComparison.OrdinalIgnoreCase)) ?? "";
    }

    public ValueTask ServeFromCacheAsync(OutputCacheContext context, CancellationToken cancellation) => ValueTask.CompletedTask;

    // What says that a link is closed is made each time: nobody comes often.
    public ValueTask ServeResponseAsync(OutputCacheContext context, CancellationToken cancellation)
    {
        var response = context.HttpContext.Response;
        context.AllowCacheStorage = response.StatusCode == StatusCodes.Status200OK && !response.Headers.ContainsKey(HeaderNames.SetCookie);
        return ValueTask.CompletedTask;
    }
}
