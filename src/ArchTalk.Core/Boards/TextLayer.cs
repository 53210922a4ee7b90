using ArchTalk.Core.Boards.Items;

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
    /// The largest writing on the board, whole lines of it with their numbers, which is what the board is usually called; null when there
    /// is none. Lines that follow a largest one and are nearly as large belong to it.
    /// </summary>
    public string? LargestLines()
    {
        var lines = Lines().Where(l => l.Words.Any(w => w.Text.Any(char.IsLetter))).ToArray();
        if (lines.Length == 0)
        {
            return null;
        }

        var largest = lines.Max(l => l.Size);
        var first = Array.FindIndex(lines, l => l.Size >= largest * 0.95);
        var (title, last) = (lines[first].Text, lines[first]);
        foreach (var line in lines.Skip(first + 1).Where(l => l.IsBelow(last)))
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

    // Words on one level that are about as large, divided where there is a wide gap; from top to bottom, each line in the order in which
    // it is read.
    private List<Line> Lines()
    {
        var rows = new List<List<TextWord>>();
        foreach (var word in Words.OrderBy(w => w.Y + (w.Height / 2)))
        {
            var middle = word.Y + (word.Height / 2);
            var row = rows.FindLast(
                r => r.TrueForAll(w => middle > w.Y && middle < w.Y + w.Height && w.Height < 1.6 * word.Height && word.Height < 1.6 * w.Height));
            if (row is null)
            {
                rows.Add([word]);
            }
            else
            {
                row.Add(word);
            }
        }

        return [.. rows.SelectMany(Divided).Select(l => new Line(l)).OrderBy(l => l.Top)];
    }

    private static List<List<TextWord>> Divided(List<TextWord> row)
    {
        var parts = new List<List<TextWord>>();
        foreach (var word in row.OrderBy(w => w.X))
        {
            if (parts.Count > 0 && word.X - parts[^1].Max(w => w.X + w.Width) < 1.5 * word.Height)
            {
                parts[^1].Add(word);
            }
            else
            {
                parts.Add([word]);
            }
        }

        return parts;
    }

    private sealed class Line
    {
        public Line(List<TextWord> words)
        {
            var isRightToLeft = words.Count(w => TextSetter.Direction(w.Text) is true) * 2 > words.Count(
                w => TextSetter.Direction(w.Text) is not null);
            Words = [.. isRightToLeft ? words.OrderByDescending(w => w.X) : words.OrderBy(w => w.X)];
            Top = words.Min(w => w.Y);

            // The middle one, so that a number set large or a mark beside the line doesn't count for all of it.
            Size = words.Select(w => w.Height).Order().ElementAt(words.Count / 2);
        }

        public IReadOnlyList<TextWord> Words { get; }

        public double Top { get; }

        public double Size { get; }

        private double Left => Words.Min(w => w.X);

        private double Right => Words.Max(w => w.X + w.Width);

        /// <summary>Whether it goes on under another line, and isn't beside it.</summary>
        public bool IsBelow(Line other) => Top - other.Top > 0.5 * other.Size && Left < other.Right && other.Left < Right;

        public string Text => string.Join(' ', Words.Select(w => w.Text));
    }
}
