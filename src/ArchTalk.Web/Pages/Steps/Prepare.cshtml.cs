using ArchTalk.Core.Lessons;
using ArchTalk.Data.Entities;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;

namespace ArchTalk.Web.Pages.Steps;

public sealed class PrepareModel(
    LessonService lessons,
    BoardService boards,
    SectionService sections,
    MediaLimits limits) : StepPageModel(lessons, LessonStep.Prepare)
{
    private readonly LessonService lessons = lessons;

    public IReadOnlyList<BoardRow> Boards { get; private set; } = [];

    /// <summary>Where the lesson stands in its unit: "Second of 5 in How buildings stand".</summary>
    public string Place { get; private set; } = "";

    /// <summary>Whether there is any word yet; until then adding many at once is offered openly.</summary>
    public bool HasTerms { get; private set; }

    public object PageData => new { lesson = Lesson.Id, limitMb = limits.FileBytes >> 20, templates = ItemTemplates.All };

    protected override async Task LoadAsync(CancellationToken cancel)
    {
        Boards = await boards.ListAsync(Lesson.Id, cancel);
        HasTerms = (await sections.TermsAsync(Lesson.Id, cancel)).Count > 0;
        Place = await lessons.PlaceInUnitAsync(Lesson, cancel);
    }
}
