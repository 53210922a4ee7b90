using ArchTalk.Data.Entities;
using ArchTalk.Web.Setup;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace ArchTalk.Web.Pages;

public sealed class SignInModel(SignInManager<Teacher> signIn, SignInLimits limits) : PageModel
{
    private const int LongestPassword = 200;

    // Verified when there is no such teacher, so that an answer takes as long for an unknown address as for a known one.
    private static readonly Teacher Nobody = new();
    private static string? nobodysHash;

    public string Email { get; private set; } = "";

    public string? Fault { get; private set; }

    public IActionResult OnGet() => User.Identity?.IsAuthenticated == true ? Redirect("/") : Page();

    public async Task<IActionResult> OnPostAsync(string? email, string? password, string? returnUrl)
    {
        Email = email ?? "";
        if (!limits.Begin(Email, HttpContext))
        {
            Response.StatusCode = StatusCodes.Status429TooManyRequests;
            Fault = SignInLimits.TooMany;
            return Page();
        }

        if (await FindAsync(password ?? "") is { } teacher)
        {
            limits.Succeeded(Email, HttpContext);
            await signIn.SignInAsync(teacher, isPersistent: true);
            return LocalRedirect(Url.IsLocalUrl(returnUrl) ? returnUrl : "/");
        }

        Fault = "The e-mail address and the password don't belong together. Check both and try again.";
        return Page();
    }

    private async Task<Teacher?> FindAsync(string password)
    {
        var teacher = Email.Length is > 0 and <= LongestPassword && password.Length <= LongestPassword
            ? await signIn.UserManager.FindByNameAsync(Email)
            : null;
        if (teacher is null)
        {
            var hasher = signIn.UserManager.PasswordHasher;
            nobodysHash ??= hasher.HashPassword(Nobody, Guid.NewGuid().ToString());
            hasher.VerifyHashedPassword(Nobody, nobodysHash, password[..Math.Min(password.Length, LongestPassword)]);
            return null;
        }

        return await signIn.UserManager.CheckPasswordAsync(teacher, password) ? teacher : null;
    }
}
