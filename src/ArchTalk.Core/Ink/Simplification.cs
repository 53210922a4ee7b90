using System.Buffers;
using ArchTalk.Core.Recording;

namespace ArchTalk.Core.Ink;

/// <summary>Leaves out the points of a stroke that its shape and its movement can do without.</summary>
public static class Simplification
{
    /// <summary>
    /// How far the pen's tip may be from where it was at that time, in tenths of a board unit: it moves along the same line,
    /// so this is a matter of a few milliseconds.
    /// </summary>
    public const double TipTolerance = 60;

    /// <summary>
    /// Drawn lines stay within this of what the hand did, in tenths of a board unit (half a unit): smoothing and simplification
    /// share it.
    /// </summary>
    public const double InkTolerance = 5;

    /// <summary>How far pressure may be off, of 255: about 6 % of the stroke's width.</summary>
    public const double PressureTolerance = 16;

    /// <summary>
    /// Ramer (1972), Douglas and Peucker (1973): keeps the ends and, as long as one exists, the point that is farthest from
    /// the line between kept neighbours, if farther than <paramref name="tolerance"/>. Kept points keep their times. A point
    /// also counts as too far when leaving it out would move the tip or the pressure visibly at that time.
    /// </summary>
    /// <param name="points">In order of time.</param>
    /// <param name="tolerance">In tenths of a board unit.</param>
    public static TakePoint[] Simplify(ReadOnlySpan<TakePoint> points, double tolerance)
    {
        if (points.Length <= 2)
        {
            return points.ToArray();
        }

        var keep = ArrayPool<bool>.Shared.Rent(points.Length);
        try
        {
            Array.Clear(keep, 0, points.Length);
            keep[0] = keep[points.Length - 1] = true;
            var kept = 2;
            var open = new Stack<(int First, int Last)>();
            open.Push((0, points.Length - 1));
            while (open.TryPop(out var span))
            {
                var farthest = Farthest(points, span.First, span.Last, tolerance);
                if (farthest > 0)
                {
                    keep[farthest] = true;
                    kept++;
                    open.Push((span.First, farthest));
                    open.Push((farthest, span.Last));
                }
            }

            var result = new TakePoint[kept];
            for (int i = 0, n = 0; i < points.Length; i++)
            {
                if (keep[i])
                {
                    result[n++] = points[i];
                }
            }

            return result;
        }
        finally
        {
            ArrayPool<bool>.Shared.Return(keep);
        }
    }

    /// <summary>The distance of a point from the line segment between two others, in the unit of the points.</summary>
    public static double Distance(TakePoint point, TakePoint from, TakePoint to)
    {
        double dx = to.X - from.X, dy = to.Y - from.Y;
        double px = point.X - from.X, py = point.Y - from.Y;
        var square = (dx * dx) + (dy * dy);
        var along = square == 0 ? 0 : Math.Clamp(((px * dx) + (py * dy)) / square, 0, 1);
        px -= along * dx;
        py -= along * dy;
        return Math.Sqrt((px * px) + (py * py));
    }

    // The point that exceeds its tolerances the most, relative to them; 0 when none does.
    private static int Farthest(ReadOnlySpan<TakePoint> points, int first, int last, double tolerance)
    {
        var worst = 1.0;
        var found = 0;
        var from = points[first];
        var to = points[last];
        double length = (to.At - from.At).Samples;
        for (var i = first + 1; i < last; i++)
        {
            var point = points[i];
            var share = length <= 0 ? 0 : (point.At - from.At).Samples / length;
            double tx = point.X - (from.X + (share * (to.X - from.X)));
            double ty = point.Y - (from.Y + (share * (to.Y - from.Y)));
            var pressure = Math.Abs(point.Pressure - (from.Pressure + (share * (to.Pressure - from.Pressure))));
            var error = Math.Max(
                Distance(point, from, to) / tolerance,
                Math.Max(Math.Sqrt((tx * tx) + (ty * ty)) / TipTolerance, pressure / PressureTolerance));
            if (error > worst)
            {
                worst = error;
                found = i;
            }
        }

        return found;
    }
}
