using ArchTalk.Data.Entities;
using ArchTalk.Web.Endpoints;
using ArchTalk.Web.Setup;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace ArchTalk.Web.Pages;

public sealed class PasswordModel(SignInManager<Teacher> signIn, Sessions sessions, SignInLimits limits) : PageModel
{
    public string? Fault { get; private set; }

    public bool IsDone { get; private set; }

    public async Task<IActionResult> OnPostAsync(string? current, string? next, CancellationToken cancel)
    {
        var teachers = signIn.UserManager;
        var id = User.TeacherId();
        if (await teachers.FindByIdAsync(id) is not { } teacher)
        {
            return Redirect("/sign-in");
        }

        if (!limits.Begin(id, HttpContext))
        {
            Fault = SignInLimits.TooMany;
            return Page();
        }

        var result = await teachers.ChangePasswordAsync(teacher, current ?? "", next ?? "");
        if (!result.Succeeded)
        {
            Fault = string.Join(' ', result.Errors.Select(e => e.Code == nameof(IdentityErrorDescriber.PasswordMismatch)
                ? "The password until now is not right. Nothing was changed."
                : e.Description));
            return Page();
        }

        limits.Succeeded(id, HttpContext);
        await signIn.RefreshSignInAsync(teacher);
        await sessions.EndOthersAsync(id, HttpContext, cancel);
        IsDone = true;
        return Page();
    }
}
