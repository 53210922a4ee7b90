using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Lessons;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Pages;

public sealed class FirstRunModel(ArchTalkDb db, UserManager<Teacher> teachers, SignInManager<Teacher> signIn) : PageModel
{
    // Whoever comes first is the teacher; who comes at the same moment is not.
    private static readonly SemaphoreSlim Turn = new(1);

    public string Name { get; private set; } = "";

    public string Email { get; private set; } = "";

    public string? Fault { get; private set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel) =>
        await db.Users.AnyAsync(cancel) ? Redirect("/sign-in") : Page();

    public async Task<IActionResult> OnPostAsync(string? name, string? email, string? password, CancellationToken cancel)
    {
        await Turn.WaitAsync(cancel);
        try
        {
            return await BeginAsync(name, email, password, cancel);
        }
        finally
        {
            Turn.Release();
        }
    }

    private async Task<IActionResult> BeginAsync(string? name, string? email, string? password, CancellationToken cancel)
    {
        if (await db.Users.AnyAsync(cancel))
        {
            return Redirect("/sign-in");
        }

        (Name, Email) = (LessonService.Tidy(name, ""), LessonService.Tidy(email, ""));
        var teacher = new Teacher { UserName = Email, Email = Email, DisplayName = Name };
        var result = Name.Length == 0
            ? IdentityResult.Failed(new IdentityError { Description = "Type your name; students see it with your lessons." })
            : await teachers.CreateAsync(teacher, password ?? "");
        if (!result.Succeeded)
        {
            Fault = string.Join(' ', result.Errors.Select(e => e.Description));
            return Page();
        }

        await signIn.SignInAsync(teacher, isPersistent: true);
        return Redirect("/");
    }
}
