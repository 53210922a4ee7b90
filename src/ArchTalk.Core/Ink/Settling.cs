using System.Globalization;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Items;

namespace ArchTalk.Core.Ink;

/// <summary>A place on a board in tenths of a board unit.</summary>
public readonly record struct InkPlace(int X, int Y);

/// <summary>Where a stroke lies once it has settled on a line of words.</summary>
/// <param name="Height">Of the line of words, in tenths of a board unit; a highlighter becomes as high.</param>
/// <param name="Text">The words, or letters, it lies on.</param>
public sealed record SettledStroke(InkPlace From, InkPlace To, int Height, string Text);

/// <summary>
/// Lays a highlighter or an underline that a hand drew along a line of words on that line: straight, of its height, on whole words; on
/// letters when it was drawn across a few letters only. What this page says of how hands draw is common practice, no source.
/// </summary>
/// <param name="measure">Says how much of a word's box each of its letters takes.</param>
public sealed class Settling(ITextMeasure measure)
{
    // All in heights of the line. An underline lies at the foot of the writing; one much higher crosses words out.
    private const double MiddleOfLine = 0.5;
    private const double FootOfLine = 1.0;
    private const double FarthestHighlight = 0.6;
    private const double FarthestUnderline = 0.6;
    private const double HighestUnderline = 0.42;
    private const double MostBent = 0.35;
    private const double MostAslant = 1.0;
    private const double SameLevel = 0.25;
    private const double ShortestHighlight = 0.25;
    private const double ShortestUnderline = 0.6;
    private const double RoomOfLine = 1.12;

    // The tremble of any hand, in board units.
    private const double Tremble = 4;

    // Shares of a word that is drawn across.
    private const double MostOfIt = 0.5;
    private const double SomeOfIt = 0.25;
    private const double TouchOfIt = 0.1;
    private const double NearlyAllOfIt = 0.7;

    // So much of the stroke lies on the words it settles on.
    private const double ShareOnWords = 0.6;

    private readonly record struct Drawn(double Left, double Right, double Middle, double Bent, double Sinks);

    private readonly record struct Stretch(double Left, double Right, string Text);

    /// <param name="points">As the hand drew them, in tenths of a board unit.</param>
    /// <param name="isHighlighter">Otherwise it is a pen, which underlines.</param>
    /// <param name="lines">The lines of words on the board, as <see cref="TextLines"/> finds them.</param>
    /// <returns>Null when it was drawn along no words.</returns>
    public SettledStroke? Settle(IReadOnlyList<InkPlace> points, bool isHighlighter, IReadOnlyList<TextLine> lines)
    {
        var (aim, highest, lowest) = isHighlighter
            ? (MiddleOfLine, FarthestHighlight, FarthestHighlight)
            : (FootOfLine, HighestUnderline, FarthestUnderline);
        if (lines.Count == 0)
        {
            return null;
        }

        // All lines of a board lie alike.
        var drawn = Along(points, lines[0].Slope);
        var near = lines.Select(l => (Line: l, Off: (drawn.Middle - TopOf(l) - (aim * l.Size)) / l.Size))
            .Where(d => d.Off <= lowest && d.Off >= -highest && IsLine(drawn, d.Line, isHighlighter) && d.Line.Words.Any(w => Share(w, drawn) > 0))
            .OrderBy(d => Math.Abs(d.Off)).Select(d => d.Line).ToArray();
        if (near.Length == 0)
        {
            return null;
        }

        // A line that is divided by wide gaps, as in a table, is one for the hand.
        var line = near[0];
        var words = near.Where(l => Math.Abs(TopOf(l) - TopOf(line)) < SameLevel * line.Size)
            .OrderBy(l => l.Words.Min(w => w.X)).SelectMany(l => l.Words).ToArray();
        return On(words, drawn) is { } on && on.Right - on.Left >= ShareOnWords * (drawn.Right - drawn.Left)
            ? Laid(on, line, isHighlighter)
            : null;
    }

    private static double TopOf(TextLine line) => line.TopAt(0);

    private static bool IsLine(Drawn drawn, TextLine line, bool isHighlighter) =>
        drawn.Bent <= (MostBent * line.Size) + Tremble
        && Math.Abs(drawn.Sinks) <= (MostAslant * line.Size) + Tremble
        && drawn.Right - drawn.Left >= (isHighlighter ? ShortestHighlight : ShortestUnderline) * line.Size;

    // The stroke seen along a line that sinks: how far it reaches, and the straight line nearest to it (least squares).
    private static Drawn Along(IReadOnlyList<InkPlace> points, double slope)
    {
        (double X, double Y)[] places = [.. points.Select(p => (p.X / 10.0, (p.Y / 10.0) - (slope * p.X / 10.0)))];
        var (meanX, meanY) = (places.Average(p => p.X), places.Average(p => p.Y));
        var square = places.Sum(p => (p.X - meanX) * (p.X - meanX));
        var own = square > 0 ? places.Sum(p => (p.X - meanX) * (p.Y - meanY)) / square : 0;
        var (left, right) = (places.Min(p => p.X), places.Max(p => p.X));
        return new(
            left, right, meanY + (own * (((left + right) / 2) - meanX)),
            places.Max(p => Math.Abs(p.Y - meanY - (own * (p.X - meanX)))), own * (right - left));
    }

    private static double Share(TextWord word, Drawn drawn) =>
        Math.Max(0, Math.Min(drawn.Right, word.X + word.Width) - Math.Max(drawn.Left, word.X)) / Math.Max(1, word.Width);

    private Stretch? On(TextWord[] words, Drawn drawn)
    {
        (TextWord Word, double Share)[] touched = [.. words.Select(w => (w, Share(w, drawn))).Where(w => w.Item2 >= TouchOfIt)];
        if (touched is [var (word, share)] && share < NearlyAllOfIt)
        {
            return Letters(word, drawn);
        }

        var least = touched.Any(t => t.Share >= MostOfIt) ? MostOfIt : SomeOfIt;
        TextWord[] whole = [.. touched.Where(t => t.Share >= least).Select(t => t.Word)];
        return whole.Length == 0
            ? null
            : new(whole.Min(w => w.X), whole.Max(w => w.X + w.Width), string.Join(' ', whole.Select(w => w.Text)));
    }

    // The letters whose middles were drawn across. Letters that are written as one sign stay together.
    private Stretch? Letters(TextWord word, Drawn drawn)
    {
        var signs = new List<string>();
        for (var each = StringInfo.GetTextElementEnumerator(word.Text); each.MoveNext();)
        {
            signs.Add(each.GetTextElement());
        }

        double Until(int count) => measure.Width(string.Concat(signs.Take(count)), 100, isBold: false);
        var all = Until(signs.Count);
        var isRightToLeft = TextSetter.Direction(word.Text) is true;
        double Edge(int count) => all <= 0 ? word.X : isRightToLeft
            ? word.X + (word.Width * (1 - (Until(count) / all)))
            : word.X + (word.Width * Until(count) / all);
        int[] hit = [.. Enumerable.Range(0, signs.Count).Where(i => ((Edge(i) + Edge(i + 1)) / 2) is var middle
            && middle >= drawn.Left && middle <= drawn.Right)];
        return hit.Length == 0 ? null : new(
            Math.Min(Edge(hit[0]), Edge(hit[^1] + 1)), Math.Max(Edge(hit[0]), Edge(hit[^1] + 1)), string.Concat(hit.Select(i => signs[i])));
    }

    private static SettledStroke Laid(Stretch on, TextLine line, bool isHighlighter)
    {
        var down = (isHighlighter ? MiddleOfLine : FootOfLine) * line.Size;
        InkPlace At(double x) => new((int)Math.Round(x * 10), (int)Math.Round((line.TopAt(x) + down) * 10));
        return new(At(on.Left), At(on.Right), (int)Math.Round(line.Size * RoomOfLine * 10), on.Text);
    }
}
