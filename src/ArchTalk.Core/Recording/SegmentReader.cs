using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>Sound as it lies in a journal: its place in the segment's count, and the offset of its first byte.</summary>
internal readonly record struct SoundChunk(long FirstSample, int Length, long Offset);

/// <summary>Gathers the records of one segment and places its sound and its events in take time.</summary>
internal sealed class SegmentReader(SegmentStart start)
{
    private readonly List<(long From, long? To)> pauses = [];
    private readonly List<(TimeRange<TakeTime> Take, long FirstSample)> runs = [];
    private ClockFit? fit;

    // Sound is missing while a computer stands still, or where a browser threw records away. When the count jumps farther than
    // this, nobody spoke into it, and the take goes on without that time.
    private static readonly Duration LongestMissing = Duration.FromSeconds(600);

    /// <summary>Missing sound of a whole take that is kept as silence.</summary>
    public static readonly Duration MostMissing = Duration.FromSeconds(3600);

    public SegmentStart Start { get; } = start;

    public List<SoundChunk> Chunks { get; } = [];

    public List<ClockAnchor> Anchors { get; } = [];

    public List<TakeEvent> Events { get; } = [];

    public TakeTime Begin { get; private set; }

    public TakeTime End { get; private set; }

    public void Pause(long sample) => pauses.Add((sample, null));

    public void Resume(long sample)
    {
        if (pauses.Count > 0 && pauses[^1].To is null)
        {
            pauses[^1] = (pauses[^1].From, Math.Max(sample, pauses[^1].From));
        }
    }

    /// <summary>
    /// Lays the segment's sound into the take from <paramref name="begin"/>. A gap in the count that no pause explains is
    /// missing sound, added as such. Chunks that overlap earlier ones (sent twice by another epoch) give only what is new.
    /// </summary>
    /// <param name="missingLeft">How much of <see cref="MostMissing"/> the segments before have left.</param>
    public void LayOut(TakeTime begin, List<TakeSound> sound, ref Duration missingLeft)
    {
        Begin = begin;
        var time = begin;
        var expected = 0L;
        foreach (var chunk in Chunks.OrderBy(c => c.FirstSample))
        {
            var first = Math.Max(chunk.FirstSample, expected);
            var kept = chunk.FirstSample + chunk.Length - first;
            if (kept <= 0)
            {
                continue;
            }

            var missing = first - expected - PausedWithin(expected, first);
            if (missing > 0 && missing <= LongestMissing.Samples && missing <= missingLeft.Samples)
            {
                missingLeft -= new Duration(missing);
                sound.Add(new TakeSound(time, new Duration(missing), -1));
                AddRun(time, new Duration(missing), first - missing);
                time += new Duration(missing);
            }

            sound.Add(new TakeSound(time, new Duration(kept), chunk.Offset + ((first - chunk.FirstSample) * sizeof(short))));
            AddRun(time, new Duration(kept), first);
            time += new Duration(kept);
            expected = first + kept;
        }

        End = time;
        fit = Anchors.Count > 0 ? new ClockFit(Anchors) : null;
    }

    /// <summary>
    /// The take time of a stamp of the browser's clock: the sample captured then, plus the microphone's delay. Before the
    /// segment, in a pause or after the end it is the nearest time that was recorded.
    /// </summary>
    public TakeTime At(double performanceMs)
    {
        if (fit is null || runs.Count == 0)
        {
            return Begin;
        }

        return AtSample((long)Math.Round(fit.SampleAt(performanceMs + Start.InputOffsetMs)));
    }

    /// <summary>The take time of a sample of the segment's count.</summary>
    public TakeTime AtSample(long sample)
    {
        if (runs.Count == 0)
        {
            return Begin;
        }

        int low = 0, high = runs.Count - 1;
        while (low < high)
        {
            var middle = (low + high + 1) / 2;
            if (runs[middle].FirstSample <= sample)
            {
                low = middle;
            }
            else
            {
                high = middle - 1;
            }
        }

        var (range, first) = runs[low];
        return range.Start + new Duration(Math.Clamp(sample - first, 0, (range.End - range.Start).Samples));
    }

    private void AddRun(TakeTime time, Duration length, long firstSample)
    {
        // Chunks that follow each other in both counts make one run.
        if (runs.Count > 0 && runs[^1] is var (range, first) && range.End == time
            && first + (range.End - range.Start).Samples == firstSample)
        {
            runs[^1] = (new(range.Start, time + length), first);
        }
        else
        {
            runs.Add((new(time, time + length), firstSample));
        }
    }

    private long PausedWithin(long from, long to) =>
        pauses.Sum(p => Math.Max(0, Math.Min(p.To ?? to, to) - Math.Max(p.From, from)));
}
