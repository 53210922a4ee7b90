using ArchTalk.Core.Lessons;
using ArchTalk.Core.Time;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Recording;
using Microsoft.AspNetCore.Mvc;

namespace ArchTalk.Web.Pages.Steps;

public sealed class RefineModel(LessonService lessons, RecordingService recording) : StepPageModel(lessons, LessonStep.Refine)
{
    private double lastTakeMs;

    /// <summary>"last" after recording: listening begins with that take.</summary>
    [FromQuery(Name = "take")]
    public string? From { get; set; }

    public object PageData => new { lesson = Lesson.Id, lastTakeMs };

    protected override async Task LoadAsync(CancellationToken cancel)
    {
        var takes = (await recording.ListAsync(Lesson.Id, cancel)).Where(t => t is { IsOpen: false, IsAside: false, LengthMs: > 0 }).ToArray();
        lastTakeMs = string.Equals(From, "last", StringComparison.Ordinal) && takes.Length > 1
            ? takes[..^1].Sum(t => Math.Round(t.LengthMs * Clock.SamplesPerMillisecond)) / Clock.SamplesPerMillisecond
            : 0;
    }
}
