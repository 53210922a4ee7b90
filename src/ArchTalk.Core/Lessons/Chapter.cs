using ArchTalk.Core.Time;

namespace ArchTalk.Core.Lessons;

/// <summary>A part of the lesson and the moment it begins. No moment means the very beginning, whatever is recorded there.</summary>
public sealed record Chapter(Guid Id, string Title, Guid? Take, long TakeSample)
{
    public const int LongestTitle = 120;

    /// <summary>The moment it begins; null for the beginning of the lesson.</summary>
    public Moment? Moment() => Take is { } take ? new Moment(new TakeId(take), new TakeTime(Math.Max(0, TakeSample))) : null;
}

/// <summary>A chapter with the lesson time it begins at.</summary>
public readonly record struct TimedChapter(LessonTime At, string Title, Guid Id);
