using ArchTalk.Data;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Setup;

/// <summary>As long as there is no teacher, every page leads to the first-run page.</summary>
public sealed class FirstRunRedirect(RequestDelegate next)
{
    private bool hasTeacher;

    public async Task InvokeAsync(HttpContext context)
    {
        if (!hasTeacher)
        {
            var db = context.RequestServices.GetRequiredService<ArchTalkDb>();
            hasTeacher = await db.Users.AnyAsync(context.RequestAborted);
            if (!hasTeacher && !context.Request.Path.StartsWithSegments("/first-run", StringComparison.Ordinal))
            {
                context.Response.Redirect("/first-run");
                return;
            }
        }

        await next(context);
    }
}
