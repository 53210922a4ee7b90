using ArchTalk.Core.Recording;

namespace ArchTalk.Core.Ink;

/// <summary>Takes the tremble of a mouse or a digitiser out of a stroke.</summary>
public static class Smoothing
{
    /// <summary>No point is moved farther than this, in tenths of a board unit.</summary>
    public const double MaxShift = 2;

    /// <summary>
    /// Moves each inner point towards the weighted mean of itself and its neighbours (1-2-1), by at most
    /// <see cref="MaxShift"/> on either side. First and last point, times and pressure stay.
    /// </summary>
    public static TakePoint[] Smooth(ReadOnlySpan<TakePoint> points)
    {
        var smooth = points.ToArray();
        for (var i = 1; i < smooth.Length - 1; i++)
        {
            double dx = (points[i - 1].X - (2.0 * points[i].X) + points[i + 1].X) / 4;
            double dy = (points[i - 1].Y - (2.0 * points[i].Y) + points[i + 1].Y) / 4;
            var length = Math.Sqrt((dx * dx) + (dy * dy));
            var scale = length > MaxShift ? MaxShift / length : 1;

            // Truncated, so that rounding never carries a point beyond the bound.
            smooth[i] = points[i] with { X = points[i].X + (int)(dx * scale), Y = points[i].Y + (int)(dy * scale) };
        }

        return smooth;
    }
}
