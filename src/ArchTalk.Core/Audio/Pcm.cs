using System.Numerics;

namespace ArchTalk.Core.Audio;

/// <summary>Samples as numbers of 16 bits.</summary>
public static class Pcm
{
    private const float FullScale = 32768;

    /// <summary>Rounds samples to 16 bits, halves to the even one; what is above full scale is cut off.</summary>
    /// <param name="samples">Full scale being 1.</param>
    /// <param name="rounded">As many as there are samples.</param>
    public static void To16Bit(ReadOnlySpan<float> samples, Span<short> rounded)
    {
        var i = 0;
        for (; Vector.IsHardwareAccelerated && i <= samples.Length - Vector<short>.Count; i += Vector<short>.Count)
        {
            var (low, high) = (Rounded(samples[i..]), Rounded(samples[(i + Vector<float>.Count)..]));
            Vector.Narrow(low, high).CopyTo(rounded[i..]);
        }

        for (; i < samples.Length; i++)
        {
            rounded[i] = (short)MathF.Round(Math.Clamp(samples[i] * FullScale, short.MinValue, short.MaxValue));
        }
    }

    private static Vector<int> Rounded(ReadOnlySpan<float> samples)
    {
        var (lowest, highest) = (new Vector<float>(short.MinValue), new Vector<float>(short.MaxValue));
        return Vector.ConvertToInt32(Vector.Round(Vector.Min(Vector.Max(new Vector<float>(samples) * FullScale, lowest), highest)));
    }
}
