using ArchTalk.Data;
using ArchTalk.Media;
using ArchTalk.Web.Lessons;

namespace ArchTalk.Web.Pages.Steps;

public sealed class PrepareModel(LessonService lessons, ArchTalkDb db, MediaLimits limits) : StepPageModel(lessons, db, "Prepare")
{
    public object PageData => new { lesson = Lesson.Id, limitMb = limits.FileBytes >> 20 };

    protected override Task LoadAsync(CancellationToken cancel) => Task.CompletedTask;
}
