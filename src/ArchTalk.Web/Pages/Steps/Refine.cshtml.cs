using ArchTalk.Core.Time;
using ArchTalk.Data;
using ArchTalk.Data.Queries;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Recording;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Pages.Steps;

public sealed class RefineModel(LessonService lessons, ArchTalkDb db, RecordingService recording) : StepPageModel(lessons, db, "Refine")
{
    private readonly ArchTalkDb db = db;
    private double lastTakeMs;

    public bool HasRecording { get; private set; }

    public bool HasBoards { get; private set; }

    /// <summary>"last" after recording: listening begins with that take.</summary>
    [FromQuery(Name = "take")]
    public string? From { get; set; }

    public object PageData => new { lesson = Lesson.Id, hasRecording = HasRecording, lastTakeMs };

    protected override async Task LoadAsync(CancellationToken cancel)
    {
        var takes = (await recording.ListAsync(Lesson.Id, cancel)).Where(t => !t.IsOpen && t.LengthMs > 0).ToArray();
        HasRecording = takes.Length > 0;
        HasBoards = await db.Boards.InLesson(Lesson.Id).AnyAsync(cancel);
        lastTakeMs = string.Equals(From, "last", StringComparison.Ordinal) && takes.Length > 1
            ? takes[..^1].Sum(t => Math.Round(t.LengthMs * Clock.SamplesPerMillisecond)) / Clock.SamplesPerMillisecond
            : 0;
    }
}
