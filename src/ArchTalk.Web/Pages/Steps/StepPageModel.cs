using ArchTalk.Core.Lessons;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Endpoints;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.TagHelpers;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace ArchTalk.Web.Pages.Steps;

/// <summary>A page of one step of a lesson: finds the lesson, and knows which steps are done.</summary>
public abstract class StepPageModel(LessonService lessons, LessonStep step) : PageModel
{
    public Lesson Lesson { get; private set; } = null!;

    public LessonProgress Progress { get; private set; } = null!;

    /// <summary>The steps as an arch, an svg element.</summary>
    public string Arch => ArchDrawing.Svg(Lesson.Id, Lesson.WatchToken, Progress, step);

    /// <summary>Where the arch is fetched anew.</summary>
    public string ArchAddress => $"/lessons/{Lesson.Id:N}/arch/{step}";

    public string AddressOf(LessonStep other) => ArchDrawing.Address(Lesson.Id, other);

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken cancel)
    {
        if (await lessons.FindAsync(User.TeacherId(), id, cancel) is not { } lesson)
        {
            return NotFound();
        }

        Lesson = lesson;
        Progress = await lessons.ProgressAsync(id, cancel);
        await LoadAsync(cancel);
        return IsGone ? NotFound() : Page();
    }

    /// <summary>A step's page shows; what it changes, its scripts send elsewhere.</summary>
    public IActionResult OnPost() => StatusCode(StatusCodes.Status405MethodNotAllowed);

    /// <summary>Whether what the page is about turned out, on loading, not to be in the lesson.</summary>
    protected virtual bool IsGone => false;

    /// <summary>Loads what the page of this step shows.</summary>
    protected abstract Task LoadAsync(CancellationToken cancel);
}
