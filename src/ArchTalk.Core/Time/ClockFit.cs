namespace ArchTalk.Core.Time;

/// <summary>
/// One observation of both clocks: sample <paramref name="Sample"/> of a segment had arrived by
/// <paramref name="PerformanceMs"/> (the browser's monotonic clock). Arrivals are late by a varying amount, never early.
/// </summary>
public readonly record struct ClockAnchor(long Sample, double PerformanceMs);

/// <summary>
/// Relates the browser's clock (pen events) to the sample count of a segment (voice), from anchors.
/// <para>
/// The offset between both clocks is the lower envelope of the observed lateness, allowed to change by at most
/// <see cref="MaxDrift"/>: any anchor proves that the offset there was not greater than its lateness, and near it not
/// greater by more than the drift allows. So late arrivals are ignored, and a drifting sound card is followed.
/// Where sound was lost the sample count falls behind for good; such steps are found and the envelope starts anew.
/// </para>
/// </summary>
public sealed class ClockFit
{
    /// <summary>The largest difference in speed between both clocks that is followed: 500 parts in a million.</summary>
    public const double MaxDrift = 500e-6;

    /// <summary>A lasting change of the offset by more than this many milliseconds is a step, not drift or lateness.</summary>
    public const double StepMs = 6;

    /// <summary>How long, in milliseconds, a change must last to count as a step.</summary>
    public const double StepWindowMs = 4000;

    // Within this window arrivals that are late but steady are told from a stall, which is uneven.
    private const double SteadyMs = 3;

    private readonly double[] times;
    private readonly double[] offsets;
    private readonly long[] samples;
    private readonly int[] stretchStarts;

    /// <param name="anchors">In any order; at least one.</param>
    /// <exception cref="ArgumentException">There is no anchor.</exception>
    public ClockFit(IEnumerable<ClockAnchor> anchors)
    {
        var ordered = anchors.OrderBy(a => a.Sample).ThenBy(a => a.PerformanceMs).DistinctBy(a => a.Sample).ToArray();
        if (ordered.Length == 0)
        {
            throw new ArgumentException("The clocks can't be related without an anchor.", nameof(anchors));
        }

        samples = [.. ordered.Select(a => a.Sample)];
        times = [.. ordered.Select(a => a.PerformanceMs)];
        for (var i = 1; i < times.Length; i++)
        {
            // What was seen with a later sample had not arrived before the earlier one: calling it later only makes it count less.
            times[i] = Math.Max(times[i], times[i - 1]);
        }

        var lateness = times.Select((t, i) => t - ((double)samples[i] / Clock.SamplesPerMillisecond)).ToArray();
        stretchStarts = FindSteps(times, lateness);
        offsets = Envelope(times, lateness, stretchStarts);
    }

    /// <summary>How many stretches the segment falls into: one more than the steps found.</summary>
    public int Stretches => stretchStarts.Length;

    /// <summary>The sample (with fraction) that was being captured at a time of the browser's clock; may lie outside the anchors.</summary>
    public double SampleAt(double performanceMs)
    {
        var stretch = stretchStarts.Length - 1;
        while (stretch > 0 && times[stretchStarts[stretch]] > performanceMs)
        {
            stretch--;
        }

        var first = stretchStarts[stretch];
        var last = stretch + 1 < stretchStarts.Length ? stretchStarts[stretch + 1] - 1 : times.Length - 1;
        var sample = (performanceMs - OffsetAt(performanceMs, first, last)) * Clock.SamplesPerMillisecond;

        // Between two stretches time passes without samples; there the count stands still.
        if (stretch > 0)
        {
            sample = Math.Max(sample, samples[first - 1]);
        }

        return last + 1 < times.Length ? Math.Min(sample, samples[last + 1]) : sample;
    }

    // Straight between anchors; outside them the nearest offset holds.
    private double OffsetAt(double time, int first, int last)
    {
        var index = Array.BinarySearch(times, first, last - first + 1, time);
        var after = index >= 0 ? index : ~index;
        if (after == first || after > last || times[after] <= times[after - 1])
        {
            return offsets[Math.Min(after, last)];
        }

        var share = (time - times[after - 1]) / (times[after] - times[after - 1]);
        return offsets[after - 1] + (share * (offsets[after] - offsets[after - 1]));
    }

    /// <summary>The greatest function below all lateness that changes by at most <see cref="MaxDrift"/>, within each stretch.</summary>
    private static double[] Envelope(double[] times, double[] lateness, int[] stretchStarts)
    {
        var envelope = (double[])lateness.Clone();
        for (var s = 0; s < stretchStarts.Length; s++)
        {
            var first = stretchStarts[s];
            var end = s + 1 < stretchStarts.Length ? stretchStarts[s + 1] : times.Length;
            for (var i = first + 1; i < end; i++)
            {
                envelope[i] = Math.Min(envelope[i], envelope[i - 1] + (MaxDrift * (times[i] - times[i - 1])));
            }

            for (var i = end - 2; i >= first; i--)
            {
                envelope[i] = Math.Min(envelope[i], envelope[i + 1] + (MaxDrift * (times[i + 1] - times[i])));
            }
        }

        return envelope;
    }

    private static int[] FindSteps(double[] times, double[] lateness)
    {
        var starts = new List<int> { 0 };
        for (var i = 1; i < times.Length; i++)
        {
            if (StepAt(times, lateness, starts[^1], i) is 0)
            {
                continue;
            }

            // An anchor that arrived late just before the step looks like its beginning; the step is where the change is whole.
            var best = i;
            for (var j = i + 1; j < times.Length && times[j] - times[i] < StepWindowMs / 4; j++)
            {
                if (Math.Abs(StepAt(times, lateness, starts[^1], j)) > Math.Abs(StepAt(times, lateness, starts[^1], best)) + 1)
                {
                    best = j;
                }
            }

            starts.Add(best);
            i = best;
        }

        return [.. starts];
    }

    /// <summary>By how many ms the offset changes for good between anchors i-1 and i; 0 where it doesn't.</summary>
    private static double StepAt(double[] times, double[] lateness, int stretchStart, int i)
    {
        var before = Window(times, i - 1, -1, stretchStart);
        var after = Window(times, i, +1, times.Length - 1);

        // Too little on either side to tell a step from lateness.
        if (times[i - 1] - times[before] < StepWindowMs / 4 || times[after] - times[i] < StepWindowMs / 2)
        {
            return 0;
        }

        var (minBefore, middleBefore) = MinAndMiddle(lateness, before, i - 1);
        var (minAfter, middleAfter) = MinAndMiddle(lateness, i, after);
        var lost = minAfter - minBefore > StepMs;
        var gained = minBefore - minAfter > StepMs
            && middleBefore - minBefore < SteadyMs && middleAfter - minAfter < SteadyMs
            && lateness[i - 1] - lateness[i] > StepMs;
        return lost || gained ? minAfter - minBefore : 0;
    }

    /// <summary>The farthest index from <paramref name="from"/> within the step window, not beyond <paramref name="limit"/>.</summary>
    private static int Window(double[] times, int from, int direction, int limit)
    {
        var index = from;
        while (index != limit && Math.Abs(times[index + direction] - times[from]) <= StepWindowMs)
        {
            index += direction;
        }

        return index;
    }

    private static (double Min, double Middle) MinAndMiddle(double[] values, int first, int last)
    {
        var slice = values[first..(last + 1)];
        Array.Sort(slice);
        return (slice[0], slice[slice.Length / 2]);
    }
}
