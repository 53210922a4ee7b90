using ArchTalk.Core.Lessons;
using ArchTalk.Web.Lessons;

namespace ArchTalk.Web.Pages.Steps;

/// <summary>What a lesson takes on the disk.</summary>
public sealed class DiskModel(LessonService lessons, DiskService disk) : StepPageModel(lessons, LessonStep.Publish)
{
    public DiskUse Use { get; private set; } = null!;

    public object PageData => new { lesson = Lesson.Id };

    protected override async Task LoadAsync(CancellationToken cancel) => Use = await disk.UseAsync(Lesson.Id, cancel);
}
