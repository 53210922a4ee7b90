namespace ArchTalk.Core.Audio;

/// <summary>Samples as numbers of 16 bits.</summary>
public static class Pcm
{
    private const float FullScale = 32768;

    /// <summary>Rounds samples to 16 bits; what is above full scale is cut off.</summary>
    /// <param name="samples">Full scale being 1.</param>
    /// <param name="rounded">As many as there are samples.</param>
    public static void To16Bit(ReadOnlySpan<float> samples, Span<short> rounded)
    {
        for (var i = 0; i < samples.Length; i++)
        {
            rounded[i] = (short)Math.Clamp(MathF.Round(samples[i] * FullScale), short.MinValue, short.MaxValue);
        }
    }
}
