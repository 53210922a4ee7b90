namespace ArchTalk.Core.Lessons;

/// <summary>Where and by when one class hands in.</summary>
public sealed record ClassHandIn(string Class, string Where, string When);

/// <summary>What students do after the lesson.</summary>
/// <param name="Steps">Numbered steps in order.</param>
/// <param name="Ready">What to have ready before starting.</param>
/// <param name="HandIn">What to hand in.</param>
/// <param name="Where">Where and how, for every class that has no place of its own.</param>
/// <param name="When">By when, likewise.</param>
public sealed record LessonTask(IReadOnlyList<string> Steps, string Ready, string HandIn, string Where, string When)
{
    public static readonly LessonTask Empty = new([], "", "", "", "");

    /// <summary>Ways to choose from.</summary>
    public IReadOnlyList<string> Choices { get; init; } = [];

    /// <summary>A first item, worked as an example.</summary>
    public string Worked { get; init; } = "";

    /// <summary>How it is marked.</summary>
    public string Marking { get; init; } = "";

    public IReadOnlyList<ClassHandIn> Classes { get; init; } = [];

    public bool IsEmpty => Steps.Count + Choices.Count + Classes.Count == 0
        && Ready.Length + HandIn.Length + Where.Length + When.Length + Worked.Length + Marking.Length == 0;
}
