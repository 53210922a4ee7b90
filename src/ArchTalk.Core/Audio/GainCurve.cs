using System.Numerics;
using System.Numerics.Tensors;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>
/// By how much a take is raised or lowered, second by second, so that it is at the level of speech throughout. It follows the voice
/// slowly and never the room: what is quiet for half a minute comes up, a pause does not.
/// </summary>
public sealed class GainCurve
{
    /// <summary>In LU: no stretch is raised above the rest by more. Beyond it the room would be heard coming up with the voice.</summary>
    public const double MostUp = 9;

    /// <summary>In LU: no stretch is lowered below the rest by more; who raises the voice means it.</summary>
    public const double MostDown = 6;

    /// <summary>In dB: beyond this it isn't a quiet voice that would be raised but a room without one.</summary>
    public const double MostRaise = 30;

    /// <summary>In dB: the fastest it moves within a second. Slower than this nobody hears it move (common practice, no source).</summary>
    public const double MostInSecond = 1.5;

    // How much of the difference from the rest is taken away: some of it belongs to how one speaks.
    private const double Share = 0.75;

    // In seconds: half of what counts lies within about this on either side.
    private const double Spread = 5;
    private const int ReachSeconds = 15;

    // In seconds of speech at the take's own level: what stands alone in a long silence moves little.
    private const double Steadiness = 1;

    private const int StepsInSecond = Clock.SampleRate / Loudness.Step;

    private readonly float[] factors;

    private GainCurve(double[] decibels)
    {
        Decibels = decibels;
        factors = [.. decibels.Select(db => (float)Math.Pow(10, db / 20))];
    }

    /// <summary>At each second of the take, in dB; between them it is a straight line of factors.</summary>
    public IReadOnlyList<double> Decibels { get; }

    /// <summary>The curve that brings a take to <see cref="VoiceLevel.TargetLufs"/>; flat at 0 dB when nobody speaks in it.</summary>
    public static GainCurve Of(TakeMeasures measures)
    {
        var seconds = (int)(measures.Length.Samples / Clock.SampleRate) + 2;
        if (measures.Loudness is not { } loudness)
        {
            return new GainCurve(new double[seconds]);
        }

        var whole = Math.Min(VoiceLevel.TargetLufs - loudness, MostRaise);
        var speech = SpeechIn(measures);
        var mean = Loudness.MeanSquareOf(loudness);
        var curve = new double[seconds];
        for (var i = 0; i < seconds; i++)
        {
            curve[i] = whole + Math.Clamp(-Share * 10 * Math.Log10(Around(i, speech, measures.Steps, mean) / mean), -MostDown, MostUp);
        }

        Slow(curve);
        return new GainCurve(curve);
    }

    /// <summary>Multiplies a stretch of the take's sound.</summary>
    /// <param name="at">Where the stretch begins.</param>
    public void Apply(TakeTime at, Span<float> samples)
    {
        var position = at.Samples;
        while (!samples.IsEmpty)
        {
            var second = (int)Math.Min(position / Clock.SampleRate, factors.Length - 2);
            var within = position - ((long)second * Clock.SampleRate);
            var count = within < Clock.SampleRate ? (int)Math.Min(samples.Length, Clock.SampleRate - within) : samples.Length;
            var (from, step) = (factors[second], (factors[second + 1] - factors[second]) / Clock.SampleRate);
            var some = samples[..count];
            if (step == 0 || within >= Clock.SampleRate)
            {
                TensorPrimitives.Multiply(some, from + (step * Math.Min(Clock.SampleRate, within)), some);
            }
            else
            {
                Ramp(some, from, step, within);
            }

            samples = samples[count..];
            position += count;
        }
    }

    /// <summary>The factor at a moment of the take.</summary>
    public double At(TakeTime at)
    {
        Span<float> one = [1f];
        Apply(at, one);
        return one[0];
    }

    private static void Ramp(Span<float> samples, float from, float step, long within)
    {
        var i = 0;
        var (steps, places) = (new Vector<float>(step), Vector<float>.Indices);
        for (; i <= samples.Length - Vector<float>.Count; i += Vector<float>.Count)
        {
            var line = Vector.FusedMultiplyAdd(steps, places + new Vector<float>(within + i), new Vector<float>(from));
            (new Vector<float>(samples[i..]) * line).CopyTo(samples[i..]);
        }

        for (; i < samples.Length; i++)
        {
            samples[i] *= MathF.FusedMultiplyAdd(step, within + i, from);
        }
    }

    // Which steps lie within phrases: pauses say nothing of the voice.
    private static bool[] SpeechIn(TakeMeasures measures)
    {
        var speech = new bool[measures.Steps.Length];
        foreach (var phrase in measures.Phrases)
        {
            var first = (phrase.Start.Samples + Loudness.Step - 1) / Loudness.Step;
            for (var i = first; i < Math.Min(speech.Length, phrase.End.Samples / Loudness.Step); i++)
            {
                speech[i] = true;
            }
        }

        return speech;
    }

    // The mean square of the voice around a second, the nearer the more.
    private static double Around(int second, bool[] speech, float[] steps, double mean)
    {
        var centre = second * StepsInSecond;
        double sum = Steadiness * StepsInSecond * mean, weights = Steadiness * StepsInSecond;
        var last = Math.Min(steps.Length, centre + (ReachSeconds * StepsInSecond));
        for (var i = Math.Max(0, centre - (ReachSeconds * StepsInSecond)); i < last; i++)
        {
            if (speech[i])
            {
                var far = (double)(i - centre) / (StepsInSecond * Spread);
                var weight = Math.Exp(-far * far / 2);
                sum += weight * steps[i];
                weights += weight;
            }
        }

        return sum / weights;
    }

    // Where it would move faster it begins earlier, on the side where it is lower: a loud word is never caught too late.
    private static void Slow(double[] curve)
    {
        for (var i = 1; i < curve.Length; i++)
        {
            curve[i] = Math.Min(curve[i], curve[i - 1] + MostInSecond);
        }

        for (var i = curve.Length - 2; i >= 0; i--)
        {
            curve[i] = Math.Min(curve[i], curve[i + 1] + MostInSecond);
        }
    }
}
