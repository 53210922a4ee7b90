using ArchTalk.Data;
using ArchTalk.Data.Queries;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Endpoints;
using ArchTalk.Web.Lessons;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Pages.Steps;

/// <summary>A page of one step of a lesson: finds the lesson, and knows which steps are done.</summary>
public abstract class StepPageModel(LessonService lessons, ArchTalkDb db, string step) : PageModel
{
    public Lesson Lesson { get; private set; } = null!;

    public IReadOnlyList<StepStone> Steps { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken cancel)
    {
        if (await lessons.FindAsync(User.TeacherId(), id, cancel) is not { } lesson)
        {
            return NotFound();
        }

        Lesson = lesson;
        var boards = await db.Boards.InLesson(id).CountAsync(cancel);
        var recorded = await db.Takes.AnyAsync(t => t.LessonId == id && t.DeletedAt == null && t.Samples > 0, cancel);
        var chapters = await db.SectionStates.AnyAsync(s => s.LessonId == id && s.Kind == SectionKind.Chapters && s.IsCurrent, cancel);
        var published = await db.Publications.AnyAsync(p => p.LessonId == id, cancel) && !lesson.IsWithdrawn;
        var address = $"/lessons/{id:N}";
        StepStone Stone(string word, string? to, bool done, string hint) => new(word, to, done, word == step, hint);
        Steps =
        [
            Stone("Prepare", $"{address}/prepare", boards > 0, "Boards, vocabulary, references and the task"),
            Stone("Record", boards > 0 ? $"{address}/record" : null, recorded, boards > 0 ? "Talk and draw on the boards" : "Add a board first"),
            Stone("Refine", recorded ? $"{address}/refine" : null, recorded && chapters, recorded ? "Listen again, set the chapters" : "Record a take first"),
            Stone("Publish", recorded ? $"{address}/publish" : null, published, recorded ? "Make the link for students" : "Record a take first"),
            Stone("Watch", published ? $"/w/{lesson.WatchToken}" : null, false, published ? "See it as students do" : "Publish the lesson first"),
        ];
        await LoadAsync(cancel);
        return IsGone ? NotFound() : Page();
    }

    /// <summary>Whether what the page is about turned out, on loading, not to be in the lesson.</summary>
    protected virtual bool IsGone => false;

    /// <summary>Loads what the page of this step shows.</summary>
    protected abstract Task LoadAsync(CancellationToken cancel);
}
