using System.Numerics.Tensors;

namespace ArchTalk.Core.Audio;

/// <summary>The lowest and the highest sample of each stretch of a voice, for drawing it at several sizes.</summary>
public sealed class Waveform
{
    /// <summary>Samples of a stretch of the finest resolution, 5 ms; each further one is ten times as coarse.</summary>
    public const int Finest = Time.Clock.SampleRate / 200;

    /// <summary>5, 50 and 500 ms: an hour is 7,200 stretches of the last, about what the widest screen shows.</summary>
    public const int Resolutions = 3;

    public const int Coarser = 10;

    private readonly List<short>[] peaks;

    public Waveform()
        : this([[], [], []])
    {
    }

    internal Waveform(List<short>[] peaks) => this.peaks = peaks;

    /// <summary>Lowest and highest of each whole stretch in turn, in 16-bit samples.</summary>
    /// <param name="resolution">0 for the finest.</param>
    public IReadOnlyList<short> Peaks(int resolution) => peaks[resolution];

    /// <param name="samples"><see cref="Finest"/> samples, full scale being 1.</param>
    internal void Add(ReadOnlySpan<float> samples)
    {
        Add(
            0,
            (short)Math.Clamp(MathF.Round(TensorPrimitives.Min(samples) * 32768), short.MinValue, short.MaxValue),
            (short)Math.Clamp(MathF.Round(TensorPrimitives.Max(samples) * 32768), short.MinValue, short.MaxValue));
    }

    private void Add(int resolution, short low, short high)
    {
        var own = peaks[resolution];
        own.Add(low);
        own.Add(high);
        const int Pairs = 2 * Coarser;
        if (own.Count % Pairs == 0 && resolution + 1 < Resolutions)
        {
            for (var i = own.Count - Pairs; i < own.Count; i += 2)
            {
                (low, high) = (Math.Min(low, own[i]), Math.Max(high, own[i + 1]));
            }

            Add(resolution + 1, low, high);
        }
    }
}
