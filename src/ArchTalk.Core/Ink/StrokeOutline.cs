namespace ArchTalk.Core.Ink;

/// <summary>A place of a stroke, with half the width of the ink there; all in tenths of a board unit.</summary>
public readonly record struct InkDisc(double X, double Y, double Radius);

/// <summary>A part of a stroke's outline: a polygon of at least three corners, or a disc around one place when it has none.</summary>
/// <param name="Corners">X and y in tenths of a board unit.</param>
public readonly record struct OutlinePart(IReadOnlyList<(double X, double Y)> Corners, InkDisc Disc)
{
    public bool IsDisc => Corners.Count == 0;
}

/// <summary>
/// The shape of a stroke as one filled outline: the same that the pages draw (Client/ink/outline.ts). Where a stroke hardly turns its
/// pieces share their corners, since edges of their own would show as hair lines; every part runs the same way round, so that filling by
/// the nonzero rule leaves no holes.
/// </summary>
public static class StrokeOutline
{
    // Up to this turn (its cosine; about 25°) two pieces of a stroke share their corners; a sharper one gets a disc.
    private const double SharpestTurn = 0.906;

    /// <summary>Half the width of ink in tenths of a board unit. A highlighter has one width, a pen from 0.4 of its width on.</summary>
    /// <param name="pressure">0 to 255.</param>
    /// <param name="band">How broad a highlighter is that settled on words, in tenths of a unit; 0 for as broad as its style.</param>
    public static double HalfWidth(InkStyle style, double pressure, int band = 0)
    {
        var full = band > 0 ? band / 2.0 : style.Units * 5;
        return style.Tool == InkStyle.Highlighter ? full : full * (0.4 + (0.6 * pressure / 255));
    }

    /// <summary>The outline of the first points of a stroke, and of a tip that has moved on towards the next point.</summary>
    /// <param name="tip">X, y (tenths of a unit) and pressure; null when the stroke is complete.</param>
    /// <param name="band">As in <see cref="HalfWidth"/>; its ends are square.</param>
    public static IReadOnlyList<OutlinePart> Of(
        InkStyle style, IReadOnlyList<InkPoint> points, int count, (double X, double Y, double Pressure)? tip = null, int band = 0)
    {
        var line = Spread(style, points, count, tip, band);
        if (band > 0)
        {
            return line.Count > 1 ? [Strip(line, 0, line.Count - 1)] : [];
        }

        List<OutlinePart> parts = [Around(line[0])];
        var from = 0;
        for (var i = 1; i < line.Count; i++)
        {
            if (i == line.Count - 1 || !IsSmooth(line, i))
            {
                parts.Add(Strip(line, from, i));
                parts.Add(Around(line[i]));
                from = i;
            }
        }

        return parts;
    }

    private static OutlinePart Around(InkDisc place) => new([], place);

    // Points that lie on each other have no direction between them, so only the last of them counts.
    private static List<InkDisc> Spread(
        InkStyle style, IReadOnlyList<InkPoint> points, int count, (double X, double Y, double Pressure)? tip, int band)
    {
        var line = new List<InkDisc>(count + 1);
        void Add(double x, double y, double pressure)
        {
            var radius = HalfWidth(style, pressure, band);
            if (line.Count > 0 && line[^1] is var last && last.X == x && last.Y == y)
            {
                line[^1] = last with { Radius = Math.Max(last.Radius, radius) };
            }
            else
            {
                line.Add(new(x, y, radius));
            }
        }

        for (var i = 0; i < count; i++)
        {
            Add(points[i].X, points[i].Y, points[i].Pressure);
        }

        if (tip is { } end)
        {
            Add(end.X, end.Y, end.Pressure);
        }

        return line;
    }

    // Whether the pieces before and after a point can share their corners there: a small turn, and pieces long enough that the inner edge
    // doesn't run backwards.
    private static bool IsSmooth(List<InkDisc> line, int i)
    {
        var (a, b, c) = (line[i - 1], line[i], line[i + 1]);
        var (ax, ay, bx, by) = (b.X - a.X, b.Y - a.Y, c.X - b.X, c.Y - b.Y);
        var (la, lb) = (Math.Sqrt((ax * ax) + (ay * ay)), Math.Sqrt((bx * bx) + (by * by)));
        var cosine = ((ax * bx) + (ay * by)) / (la * lb);
        var halfTangent = Math.Sqrt(Math.Max(0, (1 - cosine) / (1 + cosine)));
        return cosine > SharpestTurn && b.Radius * halfTangent < 0.5 * Math.Min(la, lb);
    }

    // One polygon along the places, once along the left side and back along the right.
    private static OutlinePart Strip(List<InkDisc> line, int from, int to)
    {
        var corners = new (double, double)[2 * (to - from + 1)];
        for (var i = from; i <= to; i++)
        {
            var (x, y) = Normal(line, i, from, to);
            var place = line[i];
            corners[i - from] = (place.X + (x * place.Radius), place.Y + (y * place.Radius));
            corners[^(i - from + 1)] = (place.X - (x * place.Radius), place.Y - (y * place.Radius));
        }

        return new(corners, default);
    }

    // Square to the direction in which the stroke passes a place, within a strip.
    private static (double X, double Y) Normal(List<InkDisc> line, int i, int from, int to)
    {
        var (a, b) = (line[Math.Max(from, i - 1)], line[Math.Min(to, i + 1)]);
        var length = Math.Sqrt(((b.X - a.X) * (b.X - a.X)) + ((b.Y - a.Y) * (b.Y - a.Y)));
        return length > 0 ? ((b.Y - a.Y) / length, (a.X - b.X) / length) : (b.Y - a.Y, a.X - b.X);
    }
}
