using System.Runtime.InteropServices;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>
/// Finds where somebody speaks. It adapts to the room: in each of the bands of <see cref="SpeechBands"/> the noise is what is there in
/// the quietest tenth of the half minute around, and what rises above it is a voice. The result follows from the levels alone, so it
/// is the same whether they came at once or bit by bit.
/// </summary>
public static class PhraseFinder
{
    private const int Levels = byte.MaxValue + 1;
    private const int FramesOfSecond = Clock.SampleRate / SpeechBands.Frame;
    private const float StepsPerDb = (float)SpeechBands.StepsPerDb;
    private const float FaintestStep = (float)((PhraseRules.FaintestDb - SpeechBands.LowestDb) * SpeechBands.StepsPerDb);

    /// <summary>The stretches in which somebody speaks, in order, to 10 ms. What lies between them is silence.</summary>
    /// <param name="levels">Eight for each frame, as <see cref="SpeechBands"/> keeps them.</param>
    public static IReadOnlyList<TimeRange<TakeTime>> Find(List<byte> levels) => Find(CollectionsMarshal.AsSpan(levels), 0);

    /// <summary>The phrases of <see cref="Find(List{byte})"/> that end after a moment; what lies a minute before it isn't gone through.</summary>
    public static IReadOnlyList<TimeRange<TakeTime>> FindSince(List<byte> levels, TakeTime since)
    {
        // A stretch that begins at a whole second and one window earlier has the same noise around every frame that counts.
        var seconds = Math.Max(0, (since.Samples / Clock.SampleRate) - (4 * PhraseRules.HalfWindow / FramesOfSecond));
        var skipped = (int)seconds * FramesOfSecond;
        var phrases = Find(CollectionsMarshal.AsSpan(levels)[Math.Min(levels.Count, skipped * SpeechBands.Count)..], skipped);
        return [.. phrases.Where(p => p.End > since)];
    }

    private static IReadOnlyList<TimeRange<TakeTime>> Find(ReadOnlySpan<byte> levels, int skipped)
    {
        var rise = Rise(levels);
        var phrases = new List<(int From, int To)>();
        for (var i = 0; i < rise.Length; i++)
        {
            if (Smooth(rise, i) >= PhraseRules.SpeaksDb)
            {
                // From what is surely voice out to where it can no longer be told from the room.
                var (from, to) = (i, i + 1);
                for (; from > 0 && Smooth(rise, from - 1) >= PhraseRules.FaintDb; from--)
                {
                }

                for (; to < rise.Length && Smooth(rise, to) >= PhraseRules.FaintDb; to++)
                {
                }

                Add(phrases, from, to);
                i = to;
            }
        }

        return [.. phrases.Select(p => new TimeRange<TakeTime>(TimeOf(skipped + p.From), TimeOf(skipped + p.To)))];
    }

    /// <summary>The loudest that the room itself is at a place, in dB of full scale in all bands together.</summary>
    public static double NoiseFloorDb(List<byte> levels)
    {
        var counts = new int[SpeechBands.Count * Levels];
        var all = CollectionsMarshal.AsSpan(levels);
        var frames = levels.Count / SpeechBands.Count;
        for (var frame = 0; frame < frames; frame++)
        {
            Count(counts, all, frame, 1);
        }

        var power = Enumerable.Range(0, SpeechBands.Count)
            .Select(band => SpeechBands.LowestDb + (Percentile(Own(counts, band), frames, PhraseRules.NoiseShare) / SpeechBands.StepsPerDb))
            .Sum(db => Math.Pow(10, (db + PhraseRules.NoiseOverDb) / 10));
        return 10 * Math.Log10(power);
    }

    private static TakeTime TimeOf(int frame) => new((long)frame * SpeechBands.Frame);

    private static void Add(List<(int From, int To)> phrases, int from, int to)
    {
        if (phrases.Count > 0 && from - phrases[^1].To < PhraseRules.ShortestSilence)
        {
            phrases[^1] = (phrases[^1].From, to);
        }
        else if (to - from >= PhraseRules.ShortestSound)
        {
            phrases.Add((from, to));
        }
    }

    // How far each frame rises above the noise around it, in dB.
    private static float[] Rise(ReadOnlySpan<byte> levels)
    {
        var rise = new float[levels.Length / SpeechBands.Count];
        var counts = new int[SpeechBands.Count * Levels];
        Span<float> floors = stackalloc float[SpeechBands.Count];
        var (from, to) = (0, 0);
        for (var begin = 0; begin < rise.Length; begin += FramesOfSecond)
        {
            // At either end the window keeps its length, so that the beginning of a take has as much to go by as its middle.
            const int Window = 2 * PhraseRules.HalfWindow;
            var last = Math.Min(rise.Length, Math.Max(begin + PhraseRules.HalfWindow, Window));
            var first = Math.Max(0, Math.Min(begin - PhraseRules.HalfWindow, rise.Length - Window));
            for (; to < last; to++)
            {
                Count(counts, levels, to, 1);
            }

            for (; from < first; from++)
            {
                Count(counts, levels, from, -1);
            }

            for (var band = 0; band < SpeechBands.Count; band++)
            {
                var noise = Percentile(Own(counts, band), to - from, PhraseRules.NoiseShare) + (PhraseRules.NoiseOverDb * StepsPerDb);
                var loud = Percentile(Own(counts, band), to - from, PhraseRules.LoudShare) - (PhraseRules.RangeDb * StepsPerDb);
                floors[band] = Math.Max(Math.Max(noise, loud), FaintestStep);
            }

            for (var frame = begin; frame < Math.Min(rise.Length, begin + FramesOfSecond); frame++)
            {
                rise[frame] = RiseOf(levels.Slice(frame * SpeechBands.Count, SpeechBands.Count), floors);
            }
        }

        return rise;
    }

    // The mean of the bands that rise most.
    private static float RiseOf(ReadOnlySpan<byte> levels, ReadOnlySpan<float> floors)
    {
        Span<float> over = stackalloc float[SpeechBands.Count];
        for (var band = 0; band < over.Length; band++)
        {
            over[band] = Math.Clamp((levels[band] - floors[band]) / StepsPerDb, 0, PhraseRules.MostOfBandDb);
        }

        over.Sort();
        var sum = 0f;
        foreach (var best in over[^PhraseRules.BestBands..])
        {
            sum += best;
        }

        return sum / PhraseRules.BestBands;
    }

    // Over three frames, since single ones of noise leap.
    private static float Smooth(float[] rise, int i) =>
        (rise[Math.Max(0, i - 1)] + rise[i] + rise[Math.Min(rise.Length - 1, i + 1)]) / 3;

    private static Span<int> Own(int[] counts, int band) => counts.AsSpan(band * Levels, Levels);

    private static void Count(int[] counts, ReadOnlySpan<byte> levels, int frame, int by)
    {
        for (var band = 0; band < SpeechBands.Count; band++)
        {
            counts[(band * Levels) + levels[(frame * SpeechBands.Count) + band]] += by;
        }
    }

    // The level under which a share of all frames lies.
    private static int Percentile(ReadOnlySpan<int> counts, int total, double share)
    {
        var wanted = (int)(total * share);
        var level = 0;
        for (var seen = counts[0]; seen <= wanted && level < counts.Length - 1; seen += counts[level])
        {
            level++;
        }

        return level;
    }
}
