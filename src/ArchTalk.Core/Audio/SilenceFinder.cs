using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>Finds the silences of a voice by its level, with the room's own noise as the measure.</summary>
public static class SilenceFinder
{
    private const int Frame = Clock.SampleRate / 100;
    private const double QuietestDb = -75;

    // Speech is at least this far above the room's noise, and a silence ends within this share of the way up.
    private const double LeastRiseDb = 8;
    private const double RiseShare = 0.3;

    // A click or a breath shorter than this doesn't end a silence.
    private const int ShortestSoundFrames = 4;

    /// <summary>
    /// The stretches of at least <paramref name="shortest"/> in which nobody speaks, in order, to 10 ms.
    /// </summary>
    /// <param name="samples">16-bit mono at 48 kHz.</param>
    public static IReadOnlyList<TimeRange<LessonTime>> Find(ReadOnlySpan<short> samples, Duration shortest)
    {
        var levels = Levels(samples);
        if (levels.Length == 0)
        {
            return [];
        }

        var threshold = Threshold(levels);
        var silences = new List<TimeRange<LessonTime>>();
        int start = -1, loud = 0;
        for (var i = 0; i <= levels.Length; i++)
        {
            var isLoud = i == levels.Length || levels[i] > threshold;
            if (!isLoud)
            {
                start = start < 0 ? i : start;
                loud = 0;
            }
            else if (start >= 0 && (++loud >= ShortestSoundFrames || i == levels.Length))
            {
                Add(silences, start, i - loud + 1, samples.Length, shortest);
                (start, loud) = (-1, 0);
            }
        }

        return silences;
    }

    private static void Add(List<TimeRange<LessonTime>> silences, int first, int end, int length, Duration shortest)
    {
        var from = (long)first * Frame;
        var to = Math.Min((long)end * Frame, length);
        if (to - from >= shortest.Samples)
        {
            silences.Add(new(new LessonTime(from), new LessonTime(to)));
        }
    }

    private static double Threshold(double[] levels)
    {
        var sorted = (double[])levels.Clone();
        Array.Sort(sorted);
        var floor = sorted[sorted.Length / 20];
        var speech = sorted[(int)(sorted.Length * 0.9)];
        return floor + Math.Max(LeastRiseDb, (speech - floor) * RiseShare);
    }

    private static double[] Levels(ReadOnlySpan<short> samples)
    {
        var levels = new double[samples.Length / Frame];
        for (var i = 0; i < levels.Length; i++)
        {
            double sum = 0;
            foreach (var sample in samples.Slice(i * Frame, Frame))
            {
                sum += (double)sample * sample;
            }

            var rms = Math.Sqrt(sum / Frame) / short.MaxValue;
            levels[i] = Math.Max(QuietestDb, 20 * Math.Log10(Math.Max(rms, 1e-9)));
        }

        return levels;
    }
}
