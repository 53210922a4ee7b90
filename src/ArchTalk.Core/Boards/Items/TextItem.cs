namespace ArchTalk.Core.Boards.Items;

/// <summary>Letters that look alike and stand together.</summary>
/// <param name="Color">Name of a writing ink, or empty for blue-black.</param>
/// <param name="Highlight">Name of a highlighter, or empty for none.</param>
/// <param name="Ruby">A reading written small above the letters, or empty.</param>
/// <param name="Language">BCP 47 tag, or empty for the lesson's own.</param>
public sealed record TextRun(string Text, bool IsBold = false, string Color = "", string Highlight = "", string Ruby = "", string Language = "");

/// <summary>How a text item is set.</summary>
public static class TextSettings
{
    public const string AlignStart = "start";
    public const string AlignMiddle = "middle";
    public const string AlignEnd = "end";
    public const string ListNone = "none";
    public const string ListDots = "dots";
    public const string ListNumbers = "numbers";
}

/// <summary>Writing. Its width breaks the lines and never changes the size of the letters.</summary>
public sealed record TextItem : Item
{
    /// <summary>Name of one of <see cref="TextSizes.All"/>.</summary>
    public string Size { get; init; } = TextSizes.Reading;

    /// <summary>"start" (of the direction of writing), "middle" or "end".</summary>
    public string Align { get; init; } = TextSettings.AlignStart;

    /// <summary>"none", "dots" or "numbers".</summary>
    public string List { get; init; } = TextSettings.ListNone;

    public IReadOnlyList<IReadOnlyList<TextRun>> Paragraphs { get; init; } = [];
}
