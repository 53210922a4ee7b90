using ArchTalk.Data.Entities;
using ArchTalk.Web.Setup;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;

namespace ArchTalk.Web.Pages;

[EnableRateLimiting(ArchTalkSetup.StrangersLimit)]
public sealed class SignInModel(SignInManager<Teacher> signIn) : PageModel
{
    public string Email { get; private set; } = "";

    public string? Fault { get; private set; }

    public IActionResult OnGet() => User.Identity?.IsAuthenticated == true ? Redirect("/") : Page();

    public async Task<IActionResult> OnPostAsync(string? email, string? password, string? returnUrl)
    {
        Email = email ?? "";
        var result = await signIn.PasswordSignInAsync(Email, password ?? "", isPersistent: true, lockoutOnFailure: true);
        if (result.Succeeded)
        {
            return LocalRedirect(Url.IsLocalUrl(returnUrl) ? returnUrl : "/");
        }

        Fault = result.IsLockedOut
            ? "Too many attempts. Wait five minutes and try again."
            : "The e-mail address and the password don't belong together. Check both and try again.";
        return Page();
    }
}
