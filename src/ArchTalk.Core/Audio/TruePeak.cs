using System.Numerics;
using System.Runtime.InteropServices;

namespace ArchTalk.Core.Audio;

/// <summary>
/// The peak of the waveform between the samples, by the interpolation to four times the rate of ITU-R BS.1770-4, annex 2 (its
/// coefficients from memory; checked against EBU Tech 3341 and ffmpeg).
/// </summary>
public static class TruePeak
{
    /// <summary>Samples that are looked at before and after one: the filter reaches so far.</summary>
    public const int Reach = 6;

    /// <summary>No peak between samples is higher than this times the highest sample: the sum of the largest phase's coefficients.</summary>
    public const float MostOverSample = 2.03f;

    private const int Taps = 12;

    // The other two phases are these two backwards.
    private static readonly float[] First =
    [
        0.0017089843750f, 0.0109863281250f, -0.0196533203125f, 0.0332031250000f, -0.0594482421875f, 0.1373291015625f,
        0.9721679687500f, -0.1022949218750f, 0.0476074218750f, -0.0266113281250f, 0.0148925781250f, -0.0083007812500f,
    ];

    private static readonly float[] Second =
    [
        -0.0291748046875f, 0.0292968750000f, -0.0517578125000f, 0.0891113281250f, -0.1665039062500f, 0.4650878906250f,
        0.7797851562500f, -0.2003173828125f, 0.1015625000000f, -0.0582275390625f, 0.0330810546875f, -0.0189208984375f,
    ];

    /// <summary>The true peak in dBTP; negative infinity for silence.</summary>
    public static double Decibels(double peak) => 20 * Math.Log10(peak);

    /// <summary>The highest absolute value at and between samples.</summary>
    /// <param name="samples">With <see cref="Reach"/> more on either side than are looked at.</param>
    public static float Of(ReadOnlySpan<float> samples)
    {
        var count = samples.Length - (2 * Reach);
        var highest = 0f;
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
        Vector<float> one = default, two = default, three = default, four = default;
        for (var tap = 0; tap < Taps; tap++)
        {
            var x = Vector.LoadUnsafe(ref start, (nuint)(tap + 1));
            one = Vector.FusedMultiplyAdd(x, new Vector<float>(First[Taps - 1 - tap]), one);
            two = Vector.FusedMultiplyAdd(x, new Vector<float>(Second[Taps - 1 - tap]), two);
            three = Vector.FusedMultiplyAdd(x, new Vector<float>(Second[tap]), three);
            four = Vector.FusedMultiplyAdd(x, new Vector<float>(First[tap]), four);
        }

        var own = Vector.Abs(Vector.LoadUnsafe(ref start, Reach));
        return Vector.Max(own, Vector.Max(Vector.Max(Vector.Abs(one), Vector.Abs(two)), Vector.Max(Vector.Abs(three), Vector.Abs(four))));
    }

    private static float AtOne(ReadOnlySpan<float> samples)
    {
        float one = 0, two = 0, three = 0, four = 0;
        for (var tap = 0; tap < Taps; tap++)
        {
            var x = samples[tap + 1];
            one = MathF.FusedMultiplyAdd(x, First[Taps - 1 - tap], one);
            two = MathF.FusedMultiplyAdd(x, Second[Taps - 1 - tap], two);
            three = MathF.FusedMultiplyAdd(x, Second[tap], three);
            four = MathF.FusedMultiplyAdd(x, First[tap], four);
        }

        return Math.Max(
            Math.Abs(samples[Reach]),
            Math.Max(Math.Max(Math.Abs(one), Math.Abs(two)), Math.Max(Math.Abs(three), Math.Abs(four))));
    }
}
