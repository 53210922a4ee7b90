namespace ArchTalk.Core.Audio;

/// <summary>
/// Loudness by ITU-R BS.1770-4 (its figures from memory; checked against EBU Tech 3341 and ffmpeg). One channel is read as students hear
/// it, from both of two speakers, so it counts twice.
/// </summary>
public static class Loudness
{
    /// <summary>Blocks below this, in LUFS, are no programme.</summary>
    public const double AbsoluteGate = -70;

    /// <summary>Blocks that are quieter than the mean of the rest by more than this, in LU, don't count.</summary>
    public const double RelativeGate = -10;

    /// <summary>Mean squares are kept in steps of 100 ms; a block is four of them, 400 ms, and overlaps the next by 75 %.</summary>
    public const int StepsOfBlock = 4;

    /// <summary>Samples of a step.</summary>
    public const int Step = Time.Clock.SampleRate / 10;

    private const double Offset = -0.691;
    private const int Channels = 2;

    /// <summary>LUFS of a K-weighted mean square of one channel, full scale being 1.</summary>
    public static double Of(double meanSquare) => Offset + (10 * Math.Log10(Channels * meanSquare));

    /// <summary>The K-weighted mean square of one channel that has a loudness.</summary>
    public static double MeanSquareOf(double lufs) => Math.Pow(10, (lufs - Offset) / 10) / Channels;

    /// <summary>The loudness of a whole programme in LUFS; null when nothing of it is above <see cref="AbsoluteGate"/>.</summary>
    /// <param name="steps">K-weighted mean squares of steps of 100 ms.</param>
    public static double? Integrated(ReadOnlySpan<float> steps)
    {
        var absolute = MeanSquareOf(AbsoluteGate);
        return Mean(steps, absolute) is { } ungated ? Of(Mean(steps, Math.Max(absolute, ungated * Math.Pow(10, RelativeGate / 10)))!.Value) : null;
    }

    // The mean of the blocks above a gate.
    private static double? Mean(ReadOnlySpan<float> steps, double gate)
    {
        double sum = 0;
        var count = 0;
        for (var i = 0; i + StepsOfBlock <= steps.Length; i++)
        {
            var block = ((double)steps[i] + steps[i + 1] + steps[i + 2] + steps[i + 3]) / StepsOfBlock;
            if (block > gate)
            {
                sum += block;
                count++;
            }
        }

        return count == 0 ? null : sum / count;
    }
}
