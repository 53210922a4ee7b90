using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>Where a pen or a pointer was between the points that are known of it: it moved straight.</summary>
internal static class PenPath
{
    /// <summary>The place and pressure at a time from one point to the next.</summary>
    public static TakePoint Between(TakePoint from, TakePoint to, TakeTime at)
    {
        double length = (to.At - from.At).Samples;
        var share = length <= 0 ? 1 : (at - from.At).Samples / length;
        int Mix(int a, int b) => a + (int)Math.Round((b - a) * share);
        return new(Mix(from.X, to.X), Mix(from.Y, to.Y), (byte)Mix(from.Pressure, to.Pressure), at);
    }

    /// <summary>The part of a path before a time, with the point it had reached then.</summary>
    public static IReadOnlyList<TakePoint> Before(IReadOnlyList<TakePoint> points, TakeTime time)
    {
        var before = points.TakeWhile(p => p.At < time).ToList();
        if (before.Count < points.Count && before.Count > 0)
        {
            before.Add(Between(before[^1], points[before.Count], time));
        }

        return before;
    }
}
