using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>How a thinking stop ends.</summary>
public enum StopKind
{
    /// <summary>When the student goes on.</summary>
    UntilStudentGoesOn = 0,

    /// <summary>After a set time: say after me.</summary>
    SetTime = 1,

    /// <summary>When the student has the answer shown.</summary>
    UntilAnswerShown = 2,
}

/// <summary>Playback halts with a question. It takes no lesson time; one whose moment was taken out halts at the join.</summary>
/// <param name="Wait">For <see cref="StopKind.SetTime"/>: how long.</param>
/// <param name="Answer">For <see cref="StopKind.UntilAnswerShown"/>: the cover over the answer, when the teacher names one.</param>
public sealed record ThinkingStop(Guid Id, TakeId Take, TakeTime At, StopKind Kind, string Question)
{
    public Duration Wait { get; init; }

    public Guid? Answer { get; init; }
}
