using System.Runtime.Intrinsics;

namespace ArchTalk.Core.Audio;

/// <summary>
/// The level of a voice in eight bands, every 10 ms. The bands widen towards the top about as hearing does; rumble and most of mains hum
/// lie below them, and hissing sounds, with which words often begin and end, in the upper ones. The eight are filtered side by side.
/// </summary>
public sealed class SpeechBands
{
    /// <summary>How many bands there are.</summary>
    public const int Count = 8;

    /// <summary>Samples of a frame, 10 ms: three of them are the 30 ms within which a pause's edges are to be found.</summary>
    public const int Frame = Time.Clock.SampleRate / 100;

    /// <summary>Levels are kept in steps of half a decibel above this (dB of full scale).</summary>
    public const double LowestDb = -110;

    public const double StepsPerDb = 2;

    // In Hz, the edges between bands: each about 1.5 times the one before.
    private static readonly double[] Edges = [180, 350, 600, 950, 1500, 2300, 3500, 5300, 8500];

    private readonly (Vector256<float> B0, Vector256<float> B1, Vector256<float> B2, Vector256<float> A1, Vector256<float> A2)[] sections =
        [Sections(high: true), Sections(high: false)];

    private readonly Vector256<float>[] states = new Vector256<float>[4];
    private readonly List<byte> levels = [];

    /// <summary>Eight levels for each frame that has come.</summary>
    public List<byte> Levels => levels;

    /// <param name="frame"><see cref="Frame"/> samples, full scale being 1.</param>
    public void Add(ReadOnlySpan<float> frame)
    {
        var (high, low) = (sections[0], sections[1]);
        var (h1, h2, l1, l2) = (states[0], states[1], states[2], states[3]);
        var energy = Vector256<float>.Zero;
        foreach (var sample in frame)
        {
            // Transposed direct form II.
            var x = Vector256.Create(sample);
            var y = Vector256.FusedMultiplyAdd(high.B0, x, h1);
            h1 = Vector256.FusedMultiplyAdd(high.B1, x, h2) - (high.A1 * y);
            h2 = (high.B2 * x) - (high.A2 * y);
            var z = Vector256.FusedMultiplyAdd(low.B0, y, l1);
            l1 = Vector256.FusedMultiplyAdd(low.B1, y, l2) - (low.A1 * z);
            l2 = (low.B2 * y) - (low.A2 * z);
            energy = Vector256.FusedMultiplyAdd(z, z, energy);
        }

        (states[0], states[1], states[2], states[3]) = (Settle(h1), Settle(h2), Settle(l1), Settle(l2));
        for (var band = 0; band < Count; band++)
        {
            var db = 10 * MathF.Log10((energy[band] / frame.Length) + 1e-12f);
            levels.Add((byte)Math.Clamp(Math.Round((db - LowestDb) * StepsPerDb), 0, byte.MaxValue));
        }
    }

    // What fades away below anything that can be heard makes processors slow.
    private static Vector256<float> Settle(Vector256<float> state) =>
        Vector256.ConditionalSelect(Vector256.LessThan(Vector256.Abs(state), Vector256.Create(1e-12f)), Vector256<float>.Zero, state);

    // Butterworth sections of second order, by the bilinear transform (Oppenheim & Schafer, from memory).
    private static (Vector256<float> B0, Vector256<float> B1, Vector256<float> B2, Vector256<float> A1, Vector256<float> A2) Sections(bool high)
    {
        Span<float> b0 = stackalloc float[Count], b1 = stackalloc float[Count], b2 = stackalloc float[Count];
        Span<float> a1 = stackalloc float[Count], a2 = stackalloc float[Count];
        for (var band = 0; band < Count; band++)
        {
            var k = Math.Tan(Math.PI * Edges[high ? band : band + 1] / Time.Clock.SampleRate);
            var norm = 1 / (1 + (Math.Sqrt(2) * k) + (k * k));
            var gain = high ? norm : k * k * norm;
            (b0[band], b1[band], b2[band]) = ((float)gain, (float)(high ? -2 * gain : 2 * gain), (float)gain);
            (a1[band], a2[band]) = ((float)(2 * ((k * k) - 1) * norm), (float)((1 - (Math.Sqrt(2) * k) + (k * k)) * norm));
        }

        return (Vector256.Create<float>(b0), Vector256.Create<float>(b1), Vector256.Create<float>(b2), Vector256.Create<float>(a1),
            Vector256.Create<float>(a2));
    }
}
