namespace ArchTalk.Core.Lessons;

/// <summary>Where a student can read on.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Kind">"web", "book" or "file".</param>
/// <param name="Title">The page's, book's or file's title.</param>
/// <param name="Address">The web address, for "web".</param>
/// <param name="Pages">The pages, for "book".</param>
/// <param name="Note">What to look for there.</param>
public sealed record Reference(Guid Id, string Kind, string Title, string Address, string Pages, string Note)
{
    public const string Web = "web";

    public const string Book = "book";

    public const string File = "file";

    /// <summary>When the web page was looked at (yyyy-MM-dd), or empty.</summary>
    public string Accessed { get; init; } = "";

    /// <summary>Under which name the file to download is kept with the lesson, for "file".</summary>
    public string Stored { get; init; } = "";

    /// <summary>The file's own name, under which students get it.</summary>
    public string FileName { get; init; } = "";
}
