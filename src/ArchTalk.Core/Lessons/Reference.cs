namespace ArchTalk.Core.Lessons;

/// <summary>Where a student can read on.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Kind">"web", "tool", "book", "exercise" or "file".</param>
/// <param name="Title">The page's, book's or file's title.</param>
/// <param name="Address">The web address, for "web" and "tool".</param>
/// <param name="Pages">The pages, for "book"; page and number, for "exercise".</param>
/// <param name="Note">What to look for there.</param>
public sealed record Reference(Guid Id, string Kind, string Title, string Address, string Pages, string Note)
{
    public const string Web = "web";

    /// <summary>Something on the web to work with, not to read.</summary>
    public const string Tool = "tool";

    public const string Book = "book";

    /// <summary>A numbered exercise of a book or workbook.</summary>
    public const string Exercise = "exercise";

    public const string File = "file";

    public static readonly IReadOnlyList<string> Kinds = [Web, Tool, Book, Exercise, File];

    /// <summary>Whether it has an address on the web.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsOnWeb => Kind is Web or Tool;

    /// <summary>When the web page was looked at (yyyy-MM-dd), or empty.</summary>
    public string Accessed { get; init; } = "";

    /// <summary>Under which name the file to download is kept with the lesson, for "file".</summary>
    public string Stored { get; init; } = "";

    /// <summary>The file's own name, under which students get it.</summary>
    public string FileName { get; init; } = "";
}
