namespace ArchTalk.Core.Ink;

/// <summary>What was typed, and how its letters look.</summary>
/// <param name="Text">Lines end at a line feed.</param>
/// <param name="Looks">
/// A character for each UTF-16 unit of the text, as <see cref="LookOf"/> gives it; empty when all letters are in the text's own ink, without
/// a highlight.
/// </param>
public readonly record struct Writing(string Text, string Looks = "")
{
    /// <summary>Of letters in the text's own ink without a highlight.</summary>
    public const char Plain = '0';

    public static readonly Writing Empty = new("");

    private const string Signs = "0123456789abcdefghijklmnopqrstuvwxyz";

    private static readonly string[] Inks = ["", .. Names(InkStyle.Pen)];

    private static readonly string[] Highlights = ["", .. Names(InkStyle.Highlighter)];

    /// <summary>The writing, with its looks empty when they say nothing.</summary>
    public static Writing Of(string text, string? looks) => new(text, looks is not null && looks.Any(l => l != Plain) ? looks : "");

    /// <summary>Whether looks can be those of a text.</summary>
    public static bool AreLooks(string? looks, string text) =>
        string.IsNullOrEmpty(looks) || (looks.Length == text.Length && looks.All(l => Signs.Contains(l, StringComparison.Ordinal)));

    /// <summary>The character for letters in a writing ink over a highlight; each may be empty, for the text's own and for none.</summary>
    public static char LookOf(string ink, string highlight) =>
        Signs[(Math.Max(0, Array.IndexOf(Inks, ink)) * Highlights.Length) + Math.Max(0, Array.IndexOf(Highlights, highlight))];

    /// <summary>The writing ink and the highlight that a character stands for; each may be empty.</summary>
    public static (string Ink, string Highlight) InkOf(char look)
    {
        var number = Math.Max(0, Signs.IndexOf(look, StringComparison.Ordinal));
        return (Inks[number / Highlights.Length], Highlights[number % Highlights.Length]);
    }

    /// <summary>The lines of the text, each with its letters' looks.</summary>
    public IEnumerable<Writing> Lines()
    {
        var start = 0;
        foreach (var line in Text.Split('\n'))
        {
            yield return Of(line, Looks.Length == 0 ? "" : Looks.Substring(start, line.Length));
            start += line.Length + 1;
        }
    }

    private static IEnumerable<string> Names(string tool) => InkStyle.All.Where(s => s.Tool == tool).Select(s => s.Ink).Distinct();
}
