using ArchTalk.Core.Lessons;
using ArchTalk.Web.Endpoints;
using ArchTalk.Web.Lessons;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace ArchTalk.Web.Pages;

public sealed class IndexModel(LessonService lessons) : PageModel
{
    public IReadOnlyList<UnitSummary> Units { get; private set; } = [];

    public IReadOnlyList<LessonSummary> Deleted { get; private set; } = [];

    /// <summary>The lesson that was deleted a moment ago, so that it can be restored at once.</summary>
    public LessonSummary? JustDeleted { get; private set; }

    public static string Word(LessonState state) => state switch
    {
        LessonState.Empty => "New",
        LessonState.Prepared => "Prepared",
        LessonState.Recorded => "Recorded",
        LessonState.Withdrawn => "Withdrawn",
        _ => "Published",
    };

    public static string Clock(TimeSpan length) => $"{(int)length.TotalMinutes}:{length.Seconds:00}";

    public async Task OnGetAsync(Guid? deleted, CancellationToken cancel)
    {
        Units = await lessons.ListAsync(User.TeacherId(), cancel);
        Deleted = await lessons.ListDeletedAsync(User.TeacherId(), cancel);
        JustDeleted = Deleted.FirstOrDefault(l => l.Id == deleted);
    }

    public async Task<IActionResult> OnPostCreateAsync(string? title, CancellationToken cancel)
    {
        var lesson = await lessons.CreateAsync(User.TeacherId(), title, unit: null, cancel);
        return Redirect($"/lessons/{lesson.Id:N}/prepare");
    }

    public Task<IActionResult> OnPostRenameAsync(Guid id, string? title, CancellationToken cancel) =>
        ThenListAsync(lessons.RenameAsync(User.TeacherId(), id, title, cancel));

    public async Task<IActionResult> OnPostDeleteAsync(Guid id, CancellationToken cancel)
    {
        await lessons.DeleteAsync(User.TeacherId(), id, cancel);
        return Redirect($"/?deleted={id}");
    }

    public Task<IActionResult> OnPostRestoreAsync(Guid id, CancellationToken cancel) =>
        ThenListAsync(lessons.RestoreAsync(User.TeacherId(), id, cancel));

    public Task<IActionResult> OnPostMoveAsync(Guid id, int by, CancellationToken cancel) =>
        ThenListAsync(lessons.MoveAsync(User.TeacherId(), id, by, cancel));

    public Task<IActionResult> OnPostMoveToUnitAsync(Guid id, Guid? unit, CancellationToken cancel) =>
        ThenListAsync(lessons.MoveToUnitAsync(User.TeacherId(), id, unit, cancel));

    public Task<IActionResult> OnPostCreateUnitAsync(string? title, CancellationToken cancel) =>
        ThenListAsync(lessons.CreateUnitAsync(User.TeacherId(), title, cancel));

    public Task<IActionResult> OnPostRenameUnitAsync(Guid id, string? title, CancellationToken cancel) =>
        ThenListAsync(lessons.RenameUnitAsync(User.TeacherId(), id, title, cancel));

    public Task<IActionResult> OnPostDeleteUnitAsync(Guid id, CancellationToken cancel) =>
        ThenListAsync(lessons.DeleteUnitAsync(User.TeacherId(), id, cancel));

    private async Task<IActionResult> ThenListAsync(Task work)
    {
        await work;
        return Redirect("/");
    }
}
