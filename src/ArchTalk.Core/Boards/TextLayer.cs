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

    /// <summary>
    /// The words of the largest writing on the board, which is what it is usually called; null when there is none. Words of
    /// at least 90 % of the greatest height that follow each other count as one title.
    /// </summary>
    public string? LargestWords()
    {
        var candidates = Words.Where(w => w.Text.Any(char.IsLetter)).ToArray();
        if (candidates.Length == 0)
        {
            return null;
        }

        var largest = candidates.Max(w => w.Height);
        var title = new List<string>();
        foreach (var word in candidates.SkipWhile(w => w.Height < largest * 0.9).TakeWhile(w => w.Height >= largest * 0.75))
        {
            if (title.Sum(t => t.Length + 1) + word.Text.Length > LongestTitle)
            {
                break;
            }

            title.Add(word.Text);
        }

        return string.Join(' ', title);
    }
}
