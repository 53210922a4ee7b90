using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>Gathers the records of one segment and places its sound and its events in take time, each as it comes.</summary>
/// <param name="begin">Where it begins in the take.</param>
internal sealed class SegmentReader(SegmentStart start, TakeTime begin)
{
    private readonly List<(long From, long? To)> pauses = [];
    private readonly List<(TimeRange<TakeTime> Take, long FirstSample)> runs = [];
    private long expected;
    private ClockFit? fit;

    // Sound is missing while a computer stands still, or where a browser threw records away. When the count jumps farther than
    // this, nobody spoke into it, and the take goes on without that time.
    private static readonly Duration LongestMissing = Duration.FromSeconds(600);

    /// <summary>Missing sound of a whole take that is kept as silence.</summary>
    public static readonly Duration MostMissing = Duration.FromSeconds(3600);

    public SegmentStart Start { get; } = start;

    public List<ClockAnchor> Anchors { get; } = [];

    public List<TakeEvent> Events { get; } = [];

    public TakeTime Begin { get; } = begin;

    public TakeTime End { get; private set; } = begin;

    public void Pause(long sample) => pauses.Add((sample, null));

    public void Resume(long sample)
    {
        if (pauses.Count > 0 && pauses[^1].To is null)
        {
            pauses[^1] = (pauses[^1].From, Math.Max(sample, pauses[^1].From));
        }
    }

    /// <summary>
    /// Lays a chunk of the segment's sound behind the one before. A gap in the count that no pause explains is missing sound, added as
    /// such. What overlaps earlier chunks (sent twice by another epoch) gives only what is new.
    /// </summary>
    /// <param name="offset">Of its first byte in the journal.</param>
    /// <param name="missingLeft">How much of <see cref="MostMissing"/> is left.</param>
    public void Lay(AudioChunk chunk, long offset, List<TakeSound> sound, ref Duration missingLeft)
    {
        var first = Math.Max(chunk.FirstSample, expected);
        var kept = chunk.FirstSample + chunk.Length - first;
        if (kept <= 0)
        {
            return;
        }

        var missing = first - expected - PausedWithin(expected, first);
        if (missing > 0 && missing <= LongestMissing.Samples && missing <= missingLeft.Samples)
        {
            missingLeft -= new Duration(missing);
            Add(sound, new Duration(missing), -1, first - missing);
        }

        Add(sound, new Duration(kept), offset + ((first - chunk.FirstSample) * sizeof(short)), first);
        expected = first + kept;
    }

    /// <summary>
    /// The take time of a stamp of the browser's clock: the sample captured then, plus the microphone's delay. Before the
    /// segment, in a pause or after the end it is the nearest time that was recorded.
    /// </summary>
    public TakeTime At(double performanceMs)
    {
        if (Anchors.Count == 0 || runs.Count == 0)
        {
            return Begin;
        }

        fit ??= new ClockFit(Anchors);
        return AtSample((long)Math.Round(fit.SampleAt(performanceMs + Start.InputOffsetMs)));
    }

    /// <summary>The take time of a sample of the segment's count.</summary>
    public TakeTime AtSample(long sample)
    {
        if (runs.Count == 0)
        {
            return Begin;
        }

        var (range, first) = runs[Math.Max(0, Search.CountTo(runs.Count, i => runs[i].FirstSample <= sample) - 1)];
        return range.Start + new Duration(Math.Clamp(sample - first, 0, (range.End - range.Start).Samples));
    }

    /// <summary>The sample of the segment's count that lies at a take time between its begin and its end.</summary>
    public long SampleAt(TakeTime time)
    {
        if (runs.Count == 0)
        {
            return 0;
        }

        var (range, first) = runs[Math.Max(0, Search.CountTo(runs.Count, i => runs[i].Take.Start <= time) - 1)];
        return first + Math.Min((time - range.Start).Samples, (range.End - range.Start).Samples);
    }

    private void Add(List<TakeSound> sound, Duration length, long offset, long firstSample)
    {
        var time = End;
        sound.Add(new TakeSound(time, length, offset));
        End += length;

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
