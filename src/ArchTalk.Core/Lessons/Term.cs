namespace ArchTalk.Core.Lessons;

/// <summary>An entry of the vocabulary.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Word">The word itself.</param>
/// <param name="Reading">How it is said or read: phonetic spelling, or a reading in another script.</param>
/// <param name="Meaning">What it means.</param>
/// <param name="Language">BCP 47 tag of the word's language, or empty for the lesson's own.</param>
public sealed record Term(Guid Id, string Word, string Reading, string Meaning, string Language);

/// <summary>Where a student can read on.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Kind">"web" or "book".</param>
/// <param name="Title">The page's or book's title.</param>
/// <param name="Address">The web address, for "web".</param>
/// <param name="Pages">The pages, for "book".</param>
/// <param name="Note">What to look for there.</param>
public sealed record Reference(Guid Id, string Kind, string Title, string Address, string Pages, string Note)
{
    public const string Web = "web";

    public const string Book = "book";
}

/// <summary>What students do after the lesson.</summary>
/// <param name="Steps">Numbered steps in order.</param>
/// <param name="Ready">What to have ready before starting.</param>
/// <param name="HandIn">What to hand in.</param>
/// <param name="Where">Where and how.</param>
/// <param name="When">By when.</param>
public sealed record LessonTask(IReadOnlyList<string> Steps, string Ready, string HandIn, string Where, string When)
{
    public static readonly LessonTask Empty = new([], "", "", "", "");

    public bool IsEmpty => Steps.Count == 0 && Ready.Length + HandIn.Length + Where.Length + When.Length == 0;
}
