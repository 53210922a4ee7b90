using ArchTalk.Core.Editing;
using ArchTalk.Core.Lessons;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Timelines;
using Microsoft.AspNetCore.Mvc;

namespace ArchTalk.Web.Pages.Steps;

public sealed class RefineModel(LessonService lessons, LessonCompiler compiler, SectionService sections) : StepPageModel(lessons, LessonStep.Refine)
{
    private double lastTakeMs;
    private IReadOnlyList<Term> terms = [];

    /// <summary>"last" after recording: listening begins with that take.</summary>
    [FromQuery(Name = "take")]
    public string? From { get; set; }

    public object PageData => new { lesson = Lesson.Id, lastTakeMs, terms = terms.ToDictionary(t => t.Id, t => t.Word) };

    protected override async Task LoadAsync(CancellationToken cancel)
    {
        terms = await sections.TermsAsync(Lesson.Id, cancel);
        lastTakeMs = string.Equals(From, "last", StringComparison.Ordinal)
            ? StartOfLast((await compiler.CompileAsync(Lesson.Id, cancel)).Arrangement)
            : 0;
    }

    // The last that was recorded may lie in the middle of the lesson.
    private static double StartOfLast(Arrangement arrangement)
    {
        var last = arrangement.Placements.FirstOrDefault(p => p.Log == arrangement.Logs.LastOrDefault()) ?? arrangement.Placements.LastOrDefault();
        return last?.Map.Target.Start.Milliseconds ?? 0;
    }
}
