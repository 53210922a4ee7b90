using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using CsCheck;

namespace ArchTalk.Core.Tests.Ink;

public class SimplificationTests
{
    private static TakePoint Point(int x, int y, byte pressure, int milliseconds) => new(x, y, pressure, TakeTime.FromMilliseconds(milliseconds));

    private static readonly Gen<TakePoint[]> Strokes =
        Gen.Select(Gen.Int[-40, 40], Gen.Int[-40, 40], Gen.Int[0, 255], Gen.Int[0, 30]).Array[1, 120].Select(steps =>
        {
            int x = 5000, y = 5000, t = 0;
            return steps.Select(s => Point(x += s.Item1, y += s.Item2, (byte)s.Item3, t += s.Item4)).ToArray();
        });

    /// <summary>Ramer (1972), Douglas and Peucker (1973): no dropped point is farther than the tolerance from the kept line.</summary>
    [Fact]
    public void No_dropped_point_is_farther_than_the_tolerance() => Gen.Select(Strokes, Gen.Double[1, 50]).Sample((points, tolerance) =>
    {
        var kept = Simplification.Simplify(points, tolerance);
        kept[0].ShouldBe(points[0]);
        kept[^1].ShouldBe(points[^1]);

        var segment = 0;
        var at = 0;
        for (var i = 0; i < kept.Length; i++)
        {
            // Kept points are points of the stroke, in order.
            at = Array.IndexOf(points, kept[i], at);
            at.ShouldBeGreaterThanOrEqualTo(0);
        }

        foreach (var point in points)
        {
            while (segment + 2 < kept.Length && kept[segment + 1].At.Milliseconds < point.At.Milliseconds)
            {
                segment++;
            }

            var nearest = Enumerable.Range(0, Math.Max(1, kept.Length - 1))
                .Min(s => Simplification.Distance(point, kept[s], kept[Math.Min(s + 1, kept.Length - 1)]));
            nearest.ShouldBeLessThanOrEqualTo(tolerance + 1e-9);
        }
    });

    [Fact]
    public void A_straight_even_line_keeps_only_its_ends()
    {
        var points = Enumerable.Range(0, 100).Select(i => Point(i * 10, i * 20, 128, i * 5)).ToArray();

        Simplification.Simplify(points, 3).ShouldBe([points[0], points[^1]]);
    }

    [Fact]
    public void A_pen_that_rests_within_a_straight_line_is_seen_resting()
    {
        // Half a second of movement, a second of rest, half a second of movement along the same line.
        var points = Enumerable.Range(0, 200)
            .Select(i => Point(i < 50 ? i * 20 : i < 150 ? 1000 : (i - 100) * 20, 0, 128, i * 10)).ToArray();
        var kept = Simplification.Simplify(points, 3);

        foreach (var point in points)
        {
            var after = Array.FindIndex(kept, k => k.At.Milliseconds >= point.At.Milliseconds);
            var (from, to) = (kept[Math.Max(0, after - 1)], kept[after]);
            var share = to.At == from.At ? 1 : (double)(point.At.Milliseconds - from.At.Milliseconds) / (to.At.Milliseconds - from.At.Milliseconds);
            Math.Abs(from.X + (share * (to.X - from.X)) - point.X).ShouldBeLessThanOrEqualTo(Simplification.TipTolerance + 1e-9);
        }
    }

    [Fact]
    public void Smoothing_keeps_ends_times_and_stays_within_its_bound() => Strokes.Sample(points =>
    {
        var smooth = Smoothing.Smooth(points);
        smooth.Length.ShouldBe(points.Length);
        smooth[0].ShouldBe(points[0]);
        smooth[^1].ShouldBe(points[^1]);
        for (var i = 0; i < points.Length; i++)
        {
            smooth[i].At.Milliseconds.ShouldBe(points[i].At.Milliseconds);
            var (dx, dy) = (smooth[i].X - points[i].X, smooth[i].Y - points[i].Y);
            Math.Sqrt((dx * dx) + (dy * dy)).ShouldBeLessThanOrEqualTo(Smoothing.MaxShift);
        }
    });

    /// <summary>WCAG 2.2, relative luminance and contrast ratio (formula from memory).</summary>
    [Fact]
    public void Every_pen_reaches_the_contrast_of_text_on_white()
    {
        foreach (var style in InkStyle.All.Where(s => s.Tool == InkStyle.Pen))
        {
            var channels = new[] { 1, 3, 5 }.Select(i => Convert.ToInt32(style.Color.Substring(i, 2), 16) / 255.0)
                .Select(c => c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4)).ToArray();
            var luminance = (0.2126 * channels[0]) + (0.7152 * channels[1]) + (0.0722 * channels[2]);
            (1.05 / (luminance + 0.05)).ShouldBeGreaterThanOrEqualTo(4.5, style.Ink);
        }
    }

    [Fact]
    public void A_style_is_found_by_its_names_and_an_unknown_one_is_of_the_same_tool()
    {
        InkStyle.All[InkStyle.IndexOf("highlighter", "mint", "broad")].ShouldBe(new InkStyle("highlighter", "mint", "broad", "#8FD9BF", 48));
        InkStyle.All[InkStyle.IndexOf("highlighter", "no such ink", "broad")].Tool.ShouldBe("highlighter");
        InkStyle.All[InkStyle.IndexOf("pen", "blue-black", "fine")].Units.ShouldBe(3);
    }
}
