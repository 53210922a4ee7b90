using System.Numerics;
using System.Numerics.Tensors;
using System.Runtime.InteropServices;

namespace ArchTalk.Core.Audio;

/// <summary>
/// The peak of the waveform between the samples, by interpolation to four times the rate (ITU-R BS.1770-4, annex 2; checked against
/// EBU Tech 3341 and ffmpeg). The interpolating filter is longer than the annex's example, which misses half a decibel of hiss.
/// </summary>
public static class TruePeak
{
    /// <summary>Samples that are looked at before and after one: the filter reaches so far.</summary>
    public const int Reach = 16;

    private const int Taps = 2 * Reach;

    // Of the Kaiser window: what it lets through beside the band lies 80 dB lower.
    private const double Beta = 8;

    // The value a quarter, a half and three quarters of the way to the next sample; the last are the first backwards.
    private static readonly float[] Quarter = Filter(0.25);
    private static readonly float[] Half = Filter(0.5);

    /// <summary>No peak between samples is higher than this times the highest sample: the sum of the coefficients.</summary>
    public static float MostOverSample { get; } = Half.Sum(Math.Abs);

    /// <summary>The true peak in dBTP; negative infinity for silence.</summary>
    public static double Decibels(double peak) => 20 * Math.Log10(peak);

    /// <summary>The highest absolute value at and between samples.</summary>
    /// <param name="samples">With <see cref="Reach"/> more on either side than are looked at.</param>
    /// <param name="known">A peak that is known already: what can't be above it isn't looked at.</param>
    public static float Of(ReadOnlySpan<float> samples, float known = 0)
    {
        var count = samples.Length - (2 * Reach);
        var highest = known;
        if (Math.Abs(TensorPrimitives.MaxMagnitude(samples)) * MostOverSample <= known)
        {
            return known;
        }

        var i = 0;
        if (Vector.IsHardwareAccelerated)
        {
            var most = Vector<float>.Zero;
            for (; i <= count - Vector<float>.Count; i += Vector<float>.Count)
            {
                most = Vector.Max(most, At(samples[i..]));
            }

            for (var lane = 0; lane < Vector<float>.Count; lane++)
            {
                highest = Math.Max(highest, most[lane]);
            }
        }

        for (; i < count; i++)
        {
            highest = Math.Max(highest, AtOne(samples[i..]));
        }

        return highest;
    }

    /// <summary>For each sample the highest absolute value at it and up to the next.</summary>
    /// <param name="samples">With <see cref="Reach"/> more on either side than there are peaks.</param>
    public static void Each(ReadOnlySpan<float> samples, Span<float> peaks)
    {
        var i = 0;
        for (; Vector.IsHardwareAccelerated && i <= peaks.Length - Vector<float>.Count; i += Vector<float>.Count)
        {
            At(samples[i..]).CopyTo(peaks[i..]);
        }

        for (; i < peaks.Length; i++)
        {
            peaks[i] = AtOne(samples[i..]);
        }
    }

    // Sums over the taps for as many places at once as the processor has lanes.
    private static Vector<float> At(ReadOnlySpan<float> samples)
    {
        ref var start = ref MemoryMarshal.GetReference(samples);
        Vector<float> quarter = default, half = default, threeQuarters = default;
        for (var tap = 0; tap < Taps; tap++)
        {
            var x = Vector.LoadUnsafe(ref start, (nuint)(tap + 1));
            quarter = Vector.FusedMultiplyAdd(x, new Vector<float>(Quarter[tap]), quarter);
            half = Vector.FusedMultiplyAdd(x, new Vector<float>(Half[tap]), half);
            threeQuarters = Vector.FusedMultiplyAdd(x, new Vector<float>(Quarter[Taps - 1 - tap]), threeQuarters);
        }

        var own = Vector.Abs(Vector.LoadUnsafe(ref start, Reach));
        return Vector.Max(Vector.Max(own, Vector.Abs(half)), Vector.Max(Vector.Abs(quarter), Vector.Abs(threeQuarters)));
    }

    private static float AtOne(ReadOnlySpan<float> samples)
    {
        float quarter = 0, half = 0, threeQuarters = 0;
        for (var tap = 0; tap < Taps; tap++)
        {
            var x = samples[tap + 1];
            quarter = MathF.FusedMultiplyAdd(x, Quarter[tap], quarter);
            half = MathF.FusedMultiplyAdd(x, Half[tap], half);
            threeQuarters = MathF.FusedMultiplyAdd(x, Quarter[Taps - 1 - tap], threeQuarters);
        }

        return Math.Max(Math.Max(Math.Abs(samples[Reach]), Math.Abs(half)), Math.Max(Math.Abs(quarter), Math.Abs(threeQuarters)));
    }

    // A sinc under a Kaiser window (Kaiser 1974, from memory), its sum made one. The taps are the samples from 15 before to 16 after.
    private static float[] Filter(double place)
    {
        var taps = Enumerable.Range(1 - Reach, Taps).Select(n =>
        {
            var x = n - place;
            var within = x / Reach;
            return Math.Sin(Math.PI * x) / (Math.PI * x) * Bessel(Beta * Math.Sqrt(Math.Max(0, 1 - (within * within)))) / Bessel(Beta);
        }).ToArray();
        return [.. taps.Select(t => (float)(t / taps.Sum()))];
    }

    // The modified Bessel function of order 0, by its power series.
    private static double Bessel(double x)
    {
        double sum = 1, term = 1;
        for (var k = 1; term > sum * 1e-12; k++)
        {
            term *= x * x / (4.0 * k * k);
            sum += term;
        }

        return sum;
    }
}
