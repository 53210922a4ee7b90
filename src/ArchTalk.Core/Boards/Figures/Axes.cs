using System.Globalization;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Boards.Figures;

/// <summary>A point on axes.</summary>
/// <param name="Name">Written beside it, or empty.</param>
public sealed record AxesPoint(double X, double Y, string Name);

/// <summary>Axes with points and a curve.</summary>
public sealed record Axes : Figure
{
    private const int MostSteps = 60;
    private const int MostPoints = 200;
    private const int LongestName = 60;
    private const double Margin = 56;

    public double XFrom { get; init; } = -5;

    public double XTo { get; init; } = 5;

    public double XStep { get; init; } = 1;

    public double YFrom { get; init; } = -5;

    public double YTo { get; init; } = 5;

    public double YStep { get; init; } = 1;

    public string XName { get; init; } = "x";

    public string YName { get; init; } = "y";

    public bool ShowsGrid { get; init; } = true;

    public IReadOnlyList<AxesPoint> Points { get; init; } = [];

    /// <summary>A function of x as <see cref="Figures.Curve"/> reads it, or empty.</summary>
    public string Curve { get; init; } = "";

    public string Locale { get; init; } = "en";

    public override string? Fault() =>
        (Points.Count > MostPoints ? $"Axes have at most {MostPoints} points." : null)
        ?? (Points.Any(p => !double.IsFinite(p.X) || !double.IsFinite(p.Y)) ? "A point needs a number for x and one for y." : null)
        ?? (Points.Select(p => p.Name).Append(XName).Append(YName).Any(n => n.Length > LongestName)
            ? $"A name on axes has at most {LongestName} characters."
            : null)
        ?? Range("x", XFrom, XTo, XStep) ?? Range("y", YFrom, YTo, YStep) ?? (Curve.Length > 0
            ? Figures.Curve.Parse(Curve, LanguageTag.Culture(Locale)).Fault
            : null);

    public override string? Notice() => Points.FirstOrDefault(p => p.X < XFrom || p.X > XTo || p.Y < YFrom || p.Y > YTo) is { } outside
        ? $"The point {NameOf(outside)} lies outside the axes, so it isn't drawn. Make the axes longer, or change the point."
        : null;

    private string NameOf(AxesPoint point) => point.Name.Length > 0
        ? point.Name
        : $"{WrittenNumber.Write(point.X, LanguageTag.Culture(Locale))}; {WrittenNumber.Write(point.Y, LanguageTag.Culture(Locale))}";

    /// <summary>Where a point lies in the drawing of a box.</summary>
    public (double X, double Y) Place(double x, double y, double width, double height) =>
        (Margin + ((x - XFrom) / (XTo - XFrom) * (width - (2 * Margin))), height - Margin - ((y - YFrom) / (YTo - YFrom) * (height - (2 * Margin))));

    public override Drawing Draw(double width, double height)
    {
        var culture = LanguageTag.Culture(Locale);
        var shapes = new List<Shape> { PathShape.Rectangle(0, 0, width, height, Palette.Paper) };
        (double X, double Y) At(double x, double y) => Place(x, y, width, height);
        void Line(double x0, double y0, double x1, double y1, string color, double thick)
        {
            var ((ax, ay), (bx, by)) = (At(x0, y0), At(x1, y1));
            shapes.Add(new PathShape(Outline.Line(ax, ay, bx, by), null, color, thick));
        }

        // An axis stands at zero where zero is in sight, else at the nearest edge.
        var (xAxis, yAxis) = (Math.Clamp(0, YFrom, YTo), Math.Clamp(0, XFrom, XTo));
        var letters = 30.0;
        var longest = Steps(XFrom, XTo, XStep).Select(x => WrittenNumber.Write(x, culture).Length).DefaultIfEmpty(1).Max();
        var xEvery = RoomEvery(longest, letters, (width - (2 * Margin)) * XStep / (XTo - XFrom));
        var yEvery = RoomEvery(1, letters, (height - (2 * Margin)) * YStep / (YTo - YFrom));
        foreach (var x in Steps(XFrom, XTo, XStep))
        {
            if (ShowsGrid)
            {
                Line(x, YFrom, x, YTo, Palette.Hairline, 2);
            }

            var (px, py) = At(x, xAxis);
            if ((x != yAxis || xAxis != 0) && IsWritten(x, XStep, xEvery))
            {
                shapes.Add(new TextShape(WrittenNumber.Write(x, culture), px, py + 12 + (0.8 * letters), letters, Palette.Ink, TextShape.Middle));
            }
        }

        foreach (var y in Steps(YFrom, YTo, YStep))
        {
            if (ShowsGrid)
            {
                Line(XFrom, y, XTo, y, Palette.Hairline, 2);
            }

            var (px, py) = At(yAxis, y);
            if ((y != xAxis || yAxis != 0) && IsWritten(y, YStep, yEvery))
            {
                shapes.Add(new TextShape(WrittenNumber.Write(y, culture), px - 12, py + (0.34 * letters), letters, Palette.Ink, TextShape.End));
            }
        }

        Line(XFrom, xAxis, XTo, xAxis, Palette.Ink, 4);
        Line(yAxis, YFrom, yAxis, YTo, Palette.Ink, 4);
        AddArrows(shapes, At(XTo, xAxis), At(yAxis, YTo));
        if (Curve.Length > 0 && Figures.Curve.Parse(Curve, culture).Curve is { } curve)
        {
            shapes.AddRange(CurveRuns(curve, width, height).Select(run => new PathShape(Outline.Run([.. run]), null, Palette.Blue, 5)));
        }

        foreach (var point in Points.Where(p => p.X >= XFrom && p.X <= XTo && p.Y >= YFrom && p.Y <= YTo))
        {
            var (px, py) = At(point.X, point.Y);
            shapes.Add(PathShape.Circle(px, py, 9, Palette.Vermilion, Palette.Paper, 3));
            if (point.Name.Length > 0)
            {
                shapes.Add(new TextShape(point.Name, px + 14, py - 14, 34, Palette.Vermilion, IsBold: true));
            }
        }

        return new Drawing(width, height, shapes);
    }

    public override string Describe()
    {
        var points = Points.Count == 0 ? "" : $" with {Points.Count.ToString(CultureInfo.InvariantCulture)} points";
        var curve = Curve.Length == 0 ? "" : $" and the curve {YName} = {Curve}";
        return $"Axes {XName} and {YName}{points}{curve}.";
    }

    /// <summary>The curve as runs of points inside the plot; it is left out where it has no value or leaves the plot.</summary>
    public IEnumerable<IReadOnlyList<(double X, double Y)>> CurveRuns(Curve curve, double width, double height)
    {
        var samples = (int)Math.Max(2, (width - (2 * Margin)) / 2);
        var run = new List<(double X, double Y)>();
        (double X, double Y)? last = null;
        for (var i = 0; i <= samples; i++)
        {
            var x = XFrom + ((XTo - XFrom) * i / samples);
            var y = curve.At(x);
            var isInside = double.IsFinite(y) && y >= YFrom && y <= YTo;
            if (i > 0 && double.IsFinite(y) != last.HasValue)
            {
                // The curve begins or ends between two samples.
                var end = EndOfDomain(curve, XFrom + ((XTo - XFrom) * (i - 1) / samples), x);
                if (curve.At(end) is var value && value >= YFrom && value <= YTo)
                {
                    run.Add(Place(end, value, width, height));
                }
            }

            if (last is { } before && double.IsFinite(y) && Math.Abs(y - before.Y) < 3 * (YTo - YFrom))
            {
                var wasInside = before.Y >= YFrom && before.Y <= YTo;
                if (isInside != wasInside)
                {
                    // The edge is met on the straight piece between the two samples.
                    var edge = (isInside ? before.Y : y) > YTo ? YTo : YFrom;
                    var share = (edge - before.Y) / (y - before.Y);
                    run.Add(Place(before.X + ((x - before.X) * share), edge, width, height));
                }
            }

            if (isInside)
            {
                run.Add(Place(x, y, width, height));
            }
            else if (run.Count > 0)
            {
                yield return run;
                run = [];
            }

            last = double.IsFinite(y) ? (x, y) : null;
        }

        if (run.Count > 1)
        {
            yield return run;
        }
    }

    // The last x with a value, between one that has it and one that hasn't.
    private static double EndOfDomain(Curve curve, double left, double right)
    {
        var (inside, outside) = double.IsFinite(curve.At(left)) ? (left, right) : (right, left);
        for (var i = 0; i < 40; i++)
        {
            var middle = (inside + outside) / 2;
            (inside, outside) = double.IsFinite(curve.At(middle)) ? (middle, outside) : (inside, middle);
        }

        return inside;
    }

    private void AddArrows(List<Shape> shapes, (double X, double Y) right, (double X, double Y) top)
    {
        shapes.Add(new PathShape(Outline.Polygon((right.X + 18, right.Y), (right.X, right.Y - 10), (right.X, right.Y + 10)), Palette.Ink));
        shapes.Add(new PathShape(Outline.Polygon((top.X, top.Y - 18), (top.X - 10, top.Y), (top.X + 10, top.Y)), Palette.Ink));
        shapes.Add(new TextShape(XName, right.X + 22, right.Y - 18, 34, Palette.Ink, TextShape.Middle, IsBold: true));
        shapes.Add(new TextShape(YName, top.X + 16, top.Y - 14, 34, Palette.Ink, IsBold: true));
    }

    private static string? Range(string axis, double from, double to, double step) =>
        !(double.IsFinite(from) && double.IsFinite(to) && double.IsFinite(step)) || from >= to
            ? $"The {axis} axis has to end at a larger number than it begins."
            : step <= 0 || (to - from) / step > MostSteps ? $"The step of the {axis} axis has to be more than 0 and give at most {MostSteps} strokes."
        : null;

    private static bool IsWritten(double value, double step, int every) => Math.Round(value / step) % every == 0;

    // Strokes stand at whole multiples of the step, so that zero is always one of them.
    private static IEnumerable<double> Steps(double from, double to, double step)
    {
        for (var i = Math.Ceiling((from / step) - 1e-9); i <= (to / step) + 1e-9; i++)
        {
            yield return i * step;
        }
    }
}
