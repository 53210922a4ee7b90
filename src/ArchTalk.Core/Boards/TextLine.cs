using ArchTalk.Core.Boards.Items;

namespace ArchTalk.Core.Boards;

/// <summary>Words of a board that stand in one line, in the order in which they are read.</summary>
public sealed class TextLine
{
    // Words without a tall letter begin lower; this share of a line's words may.
    private const double ShareThatBeginsLower = 0.8;

    private readonly double start;

    internal TextLine(IReadOnlyList<TextWord> words, double slope)
    {
        var isRightToLeft = words.Count(w => TextSetter.Direction(w.Text) is true) * 2 > words.Count(
            w => TextSetter.Direction(w.Text) is not null);
        Words = [.. isRightToLeft ? words.OrderByDescending(w => w.X) : words.OrderBy(w => w.X)];
        Slope = slope;
        double[] tops = [.. words.Select(w => w.Y - (slope * (w.X + (w.Width / 2)))).Order()];
        start = tops[(int)((1 - ShareThatBeginsLower) * tops.Length)];

        // The middle one, so that a number set large or a mark beside the line doesn't count for all of it.
        Size = words.Select(w => w.Height).Order().ElementAt(words.Count / 2);
    }

    public IReadOnlyList<TextWord> Words { get; }

    /// <summary>How far it sinks on the way to the right, as a share of the way.</summary>
    public double Slope { get; }

    /// <summary>The height of its writing in board units.</summary>
    public double Size { get; }

    /// <summary>The least Y of its words.</summary>
    public double Top => Words.Min(w => w.Y);

    public string Text => string.Join(' ', Words.Select(w => w.Text));

    private double Left => Words.Min(w => w.X);

    private double Right => Words.Max(w => w.X + w.Width);

    /// <summary>Where its writing begins above a place, in board units.</summary>
    public double TopAt(double x) => start + (Slope * x);

    /// <summary>Whether it goes on under another line, and isn't beside it.</summary>
    public bool IsBelow(TextLine other) => Top - other.Top > 0.5 * other.Size && Left < other.Right && other.Left < Right;
}
