namespace ArchTalk.Web.Setup;

/// <summary>Pages can be looked at and sent; the rest of HTTP is for scripts, and TRACE for nobody.</summary>
public sealed class KnownMethods(RequestDelegate next)
{
    public Task InvokeAsync(HttpContext context)
    {
        var method = context.Request.Method;
        var isKnown = HttpMethods.IsGet(method) || HttpMethods.IsHead(method) || HttpMethods.IsPost(method)
            || (Faults.IsForScripts(context) && (HttpMethods.IsPut(method) || HttpMethods.IsPatch(method) || HttpMethods.IsDelete(method)));
        if (isKnown)
        {
            return next(context);
        }

        context.Response.StatusCode = StatusCodes.Status405MethodNotAllowed;
        return Task.CompletedTask;
    }
}
