namespace ArchTalk.Core.Boards;

/// <summary>A word on a board's picture: its box in board units from the top left.</summary>
public sealed record TextWord(string Text, double X, double Y, double Width, double Height)
{
    /// <summary>How sure a reader of pictures is of it, 0 to 100; null for words the file itself gives.</summary>
    public int? Confidence { get; init; }
}

/// <summary>The words of a board's picture, in reading order as the source gives them.</summary>
public sealed record TextLayer(IReadOnlyList<TextWord> Words)
{
    private const int LongestTitle = 80;

    public static readonly TextLayer Empty = new([]);

    /// <summary>The lines in which they stand, from top to bottom.</summary>
    public IReadOnlyList<TextLine> Lines() => TextLines.Of(Words);

    /// <summary>
    /// The largest writing on the board, whole lines of it with their numbers, which is what the board is usually called; null when there
    /// is none. Lines that follow a largest one and are nearly as large belong to it.
    /// </summary>
    public string? LargestLines()
    {
        var written = Lines().Where(l => l.Words.Any(w => w.Text.Any(char.IsLetter))).ToArray();
        if (written.Length == 0)
        {
            return null;
        }

        var largest = written.Max(l => l.Size);
        var first = Array.FindIndex(written, l => l.Size >= largest * 0.95);
        var (title, last) = (written[first].Text, written[first]);
        foreach (var line in written.Skip(first + 1).Where(l => l.IsBelow(last)))
        {
            if (line.Size < largest * 0.85 || line.Top - last.Top > 2 * largest)
            {
                break;
            }

            (title, last) = ($"{title} {line.Text}", line);
        }

        return title.Length <= LongestTitle
            ? title
            : string.Concat(title.AsSpan(0, title.LastIndexOf(' ', LongestTitle - 1) is > 0 and var end ? end : LongestTitle - 1), "…");
    }
}
