namespace ArchTalk.Core.Audio;

/// <summary>Measures the K-weighted mean squares of a voice as it comes; <see cref="Loudness"/> makes figures of them.</summary>
public sealed class LoudnessMeter
{
    private readonly List<float> steps = [];
    private KWeighting filter;
    private double sum;
    private int filled;

    /// <summary>Of whole steps of 100 ms.</summary>
    public IReadOnlyList<float> Steps => steps;

    /// <summary>Of all that has come, in LUFS; null for silence.</summary>
    public double? Integrated => Loudness.Integrated(System.Runtime.InteropServices.CollectionsMarshal.AsSpan(steps));

    /// <param name="samples">Mono at 48 kHz, full scale being 1.</param>
    public void Add(ReadOnlySpan<float> samples)
    {
        while (!samples.IsEmpty)
        {
            var part = samples[..Math.Min(samples.Length, Loudness.Step - filled)];
            sum += filter.Energy(part);
            filled += part.Length;
            samples = samples[part.Length..];
            if (filled == Loudness.Step)
            {
                steps.Add((float)(sum / Loudness.Step));
                (sum, filled) = (0, 0);
            }
        }
    }

    /// <summary>
    /// The K-weighting of ITU-R BS.1770-4 at 48 kHz: a shelf for the head, and a high pass. Coefficients of its tables 1 and 2, from
    /// memory.
    /// </summary>
    private struct KWeighting
    {
        private double shelf1;
        private double shelf2;
        private double high1;
        private double high2;

        public double Energy(ReadOnlySpan<float> samples)
        {
            var (s1, s2, h1, h2) = (shelf1, shelf2, high1, high2);
            double energy = 0;
            foreach (var sample in samples)
            {
                double x = sample;
                var y = (1.53512485958697 * x) + s1;
                s1 = (-2.69169618940638 * x) + (1.69065929318241 * y) + s2;
                s2 = (1.19839281085285 * x) - (0.73248077421585 * y);
                var z = y + h1;
                h1 = (-2 * y) + (1.99004745483398 * z) + h2;
                h2 = y - (0.99007225036621 * z);
                energy += z * z;
            }

            // What fades away below anything that can be heard makes processors slow.
            (shelf1, shelf2, high1, high2) = (Settle(s1), Settle(s2), Settle(h1), Settle(h2));
            return energy;
        }

        private static double Settle(double state) => Math.Abs(state) < 1e-15 ? 0 : state;
    }
}
