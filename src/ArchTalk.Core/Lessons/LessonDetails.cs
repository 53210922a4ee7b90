namespace ArchTalk.Core.Lessons;

/// <summary>What a lesson says about itself before it begins.</summary>
public sealed record LessonDetails
{
    public static readonly LessonDetails Empty = new();

    /// <summary>The lesson's own language, a BCP 47 tag.</summary>
    public string Language { get; init; } = "en";

    /// <summary>Other languages used in it.</summary>
    public IReadOnlyList<string> OtherLanguages { get; init; } = [];

    public string AgeGroup { get; init; } = "";

    /// <summary>What students will be able to do.</summary>
    public IReadOnlyList<string> Aims { get; init; } = [];

    /// <summary>What came before.</summary>
    public string Before { get; init; } = "";

    public string NotCovered { get; init; } = "";

    /// <summary>The parts of the lesson, in order. A line may end with the time it is to take (<see cref="AgendaPart"/>).</summary>
    public IReadOnlyList<string> Agenda { get; init; } = [];

    /// <summary>What to have ready before watching.</summary>
    public string Ready { get; init; } = "";

    /// <summary>How to reach the teacher.</summary>
    public string Contact { get; init; } = "";

    /// <summary>The board to fill while watching, or null.</summary>
    public Guid? OrganiserBoard { get; init; }
}
