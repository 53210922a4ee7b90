using System.Globalization;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Boards.Figures;

/// <summary>A number line.</summary>
public sealed record NumberLine : Figure
{
    private const int MostSteps = 200;
    private const int MostMarked = 200;

    public double From { get; init; }

    public double To { get; init; } = 10;

    /// <summary>From one stroke to the next.</summary>
    public double Step { get; init; } = 1;

    /// <summary>Every how many strokes a number is written; 0 writes none.</summary>
    public int NumberEvery { get; init; } = 1;

    /// <summary>Values marked with a dot.</summary>
    public IReadOnlyList<double> Marked { get; init; } = [];

    /// <summary>BCP 47 tag of the way numbers are written.</summary>
    public string Locale { get; init; } = "en";

    public override string? Fault() =>
        !(double.IsFinite(From) && double.IsFinite(To) && double.IsFinite(Step)) ? "A number line needs numbers for its ends and its step."
        : From >= To ? "A number line has to end at a larger number than it begins."
        : Step <= 0 || (To - From) / Step > MostSteps ? $"The step of a number line has to be more than 0 and give at most {MostSteps} strokes."
        : NumberEvery < 0 ? "Numbers stand at every first, second or later stroke of a number line; 0 writes none."
        : Marked.Count > MostMarked ? $"A number line has at most {MostMarked} marked values."
        : Marked.Any(m => m < From || m > To) ? "A marked value lies outside the number line."
        : null;

    public override Drawing Draw(double width, double height)
    {
        var culture = LanguageTag.Culture(Locale);
        var letters = Math.Clamp(height * 0.36, 24, 60);
        var (left, right, line) = (letters, width - letters, Math.Max(20, height * 0.35));
        double Place(double value) => left + ((value - From) / (To - From) * (right - left));
        var shapes = new List<Shape>
        {
            new PathShape(Outline.Line(left / 3, line, width - (left / 3), line), null, Palette.Ink, 4),
            new PathShape(Outline.Polygon((0, line), (16, line - 10), (16, line + 10)), Palette.Ink),
            new PathShape(Outline.Polygon((width, line), (width - 16, line - 10), (width - 16, line + 10)), Palette.Ink),
        };
        var steps = (int)Math.Floor(((To - From) / Step) + 1e-9);
        var longest = Enumerable.Range(0, steps + 1).Max(i => WrittenNumber.Write(From + (i * Step), culture).Length);
        var every = NumberEvery * RoomEvery(longest, letters, (right - left) * Step * NumberEvery / (To - From));
        for (var i = 0; i <= steps; i++)
        {
            var x = Place(From + (i * Step));
            var isNumbered = NumberEvery > 0 && i % every == 0;
            var half = isNumbered ? 16 : 10;
            shapes.Add(new PathShape(Outline.Line(x, line - half, x, line + half), null, Palette.Ink, 3));
            if (isNumbered)
            {
                shapes.Add(new TextShape(
                    WrittenNumber.Write(From + (i * Step), culture),
                    x,
                    line + 20 + (0.8 * letters),
                    letters,
                    Palette.Ink,
                    TextShape.Middle));
            }
        }

        shapes.AddRange(Marked.Select(m => PathShape.Circle(Place(m), line, 12, Palette.Vermilion, Palette.Paper, 3)));
        return new Drawing(width, Math.Max(height, line + 24 + letters), shapes);
    }

    public override string Describe()
    {
        var marked = Marked.Count == 0
            ? ""
            : $", with {string.Join(", ", Marked.Select(m => WrittenNumber.Write(m, CultureInfo.InvariantCulture)))} marked";
        return $"A number line from {WrittenNumber.Write(From, CultureInfo.InvariantCulture)} to "
            + $"{WrittenNumber.Write(To, CultureInfo.InvariantCulture)}{marked}.";
    }
}
