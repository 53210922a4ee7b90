using ArchTalk.Web.Setup;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace ArchTalk.Web.Pages;

[ResponseCache(NoStore = true)]
[IgnoreAntiforgeryToken]
public sealed class ErrorModel : PageModel
{
    public string Heading { get; private set; } = "Something went wrong";

    public string What { get; private set; }
        = "The server could not do that. What was saved before is kept. Try again; if it happens again, tell whoever runs the server.";

    public void OnGet(int? status) => Describe(status);

    public void OnPost(int? status) => Describe(status);

    private void Describe(int? status)
    {
        if (HttpContext.Features.Get<IExceptionHandlerFeature>() is { Error: { } error })
        {
            var fault = Fault.Of(error);
            (status, What, Response.StatusCode) = (fault.Status, fault.Message, fault.Status);
        }

        (Heading, What) = status switch
        {
            StatusCodes.Status404NotFound => ("This page is not here", "The address may be incomplete, or what it led to was taken away. Check the "
                + "link, or ask whoever gave it to you."),
            StatusCodes.Status410Gone => ("This lesson is closed", "Its teacher has withdrawn it. Ask the teacher for the lesson you need."),
            StatusCodes.Status405MethodNotAllowed => ("That did not work", "Pages can only be looked at and sent. Go back and try again."),
            StatusCodes.Status413PayloadTooLarge => ("That is too large", Fault.Of(StatusCodes.Status413PayloadTooLarge).Message),
            StatusCodes.Status429TooManyRequests => ("Too many attempts", "Wait a minute and try again."),
            StatusCodes.Status400BadRequest => ("That did not work", "The page was open too long, or was sent incompletely. Go back, reload it, "
                + "and try again; nothing was changed."),
            _ => (Heading, What),
        };
    }
}
