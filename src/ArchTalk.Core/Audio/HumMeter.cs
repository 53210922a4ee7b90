namespace ArchTalk.Core.Audio;

/// <summary>Mains hum in a voice.</summary>
/// <param name="Hertz">50 or 60.</param>
/// <param name="Decibels">How loud it is, with its first three overtones, in dB of full scale.</param>
public sealed record Hum(int Hertz, double Decibels);

/// <summary>
/// Listens for the hum of the mains, 50 or 60 Hz with three overtones, half a second at a time. What is there also when nobody speaks is
/// hum; a low voice is not.
/// </summary>
internal sealed class HumMeter
{
    // Hum lies below 250 Hz, so one value for 1 ms holds all of it. Half a second tells tones apart that lie 2 Hz from each other, and
    // fits between two sentences.
    private const int Decimation = Time.Clock.SamplesPerMillisecond;
    private const int ValuesInSecond = 1000;
    private const int Window = ValuesInSecond / 2;
    private const int Tones = 4;

    // A share of windows that are the quietest: between sentences, where the voice adds nothing. Hum is there too.
    private const double QuietShare = 0.1;

    // It stands out from what lies beside it by so much, and isn't fainter than this: below, nobody hears it.
    private const double LeastOverDb = 10;
    private const double FaintestDb = -75;

    private static readonly int[] Mains = [50, 60];

    // Neither mains has a tone there.
    private static readonly int[] Beside = [56, 64, 84, 110, 136, 160, 190, 210];

    private readonly float[] values = new float[Window];
    private readonly List<(double Fifty, double Sixty, double Beside)> windows = [];
    private int filled;

    public Hum? Found
    {
        get
        {
            var beside = Quietest(w => w.Beside);
            var hum = new[] { (Hertz: Mains[0], Power: Quietest(w => w.Fifty)), (Hertz: Mains[1], Power: Quietest(w => w.Sixty)) }
                .MaxBy(h => h.Power);
            var found = new Hum(hum.Hertz, Decibels(hum.Power));
            return found.Decibels - Decibels(beside) >= LeastOverDb && found.Decibels >= FaintestDb ? found : null;
        }
    }

    // How loud it is at least, but for a few windows in which the voice happened to cancel it.
    private double Quietest(Func<(double Fifty, double Sixty, double Beside), double> power)
    {
        var sorted = windows.Select(power).Order().ToArray();
        return sorted.Length == 0 ? 0 : sorted[(int)(sorted.Length * QuietShare)];
    }

    private static double Decibels(double power) => 10 * Math.Log10(power + 1e-12);

    /// <param name="frame">Whole milliwindows, full scale being 1.</param>
    public void Add(ReadOnlySpan<float> frame)
    {
        for (; !frame.IsEmpty; frame = frame[Decimation..])
        {
            var sum = 0f;
            foreach (var sample in frame[..Decimation])
            {
                sum += sample;
            }

            values[filled++] = sum / Decimation;
            if (filled == Window)
            {
                filled = 0;
                double Of(int hertz) => Enumerable.Range(1, Tones).Sum(k => Power(hertz * k));
                windows.Add((Of(Mains[0]), Of(Mains[1]), Beside.Average(Power) * Tones));
            }
        }
    }

    // The power of one tone (Goertzel 1958, from memory).
    private double Power(int hertz)
    {
        var turn = 2 * Math.Cos(2 * Math.PI * hertz / ValuesInSecond);
        double last = 0, before = 0;
        foreach (var value in values)
        {
            (last, before) = (value + (turn * last) - before, last);
        }

        // Half the square of the amplitude.
        return ((last * last) + (before * before) - (turn * last * before)) * 2 / ((double)Window * Window);
    }
}
