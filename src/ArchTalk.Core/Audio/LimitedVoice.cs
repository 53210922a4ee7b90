using System.Numerics.Tensors;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>
/// A voice raised as a whole, its single peaks held under a ceiling. The gain at a sample follows from the 40 ms before and behind it,
/// from nothing else, so that any stretch can be had by itself; it goes down and up along a smooth curve that is longer than any wave of
/// a voice, so that waves keep their shape.
/// </summary>
/// <param name="gainDb">By how much all of it is raised.</param>
/// <param name="ceilingDb">What no true peak is above, in dBTP.</param>
public sealed class LimitedVoice(IVoice voice, double gainDb, double ceilingDb) : IVoice
{
    /// <summary>How far on either side a peak is heeded: half of a wave of 25 Hz.</summary>
    public const int Hold = Clock.SampleRate / 50;

    // What is worked out at once, always from the same sample on, so that sums of any length come out the same.
    private const int Block = Clock.SampleRate / 2;

    // Peaks are looked for only where samples are high enough for one.
    private const int Part = Clock.SampleRate / 200;
    private const int Reach = 2 * Hold;
    private const int Read0 = Reach + TruePeak.Reach;

    private readonly float gain = (float)Math.Pow(10, gainDb / 20);
    private readonly float ceiling = (float)Math.Pow(10, ceilingDb / 20);
    private readonly float[] block = new float[Block];
    private readonly float[] around = new float[Block + (2 * Read0)];
    private readonly float[] allowed = new float[Block + (2 * Reach)];
    private readonly float[] least = new float[Block + (2 * Hold)];
    private readonly int[] queue = new int[Block + (2 * Reach)];
    private readonly double[] once = new double[Block + Hold];
    private long worked = -1;

    public Duration Length => voice.Length;

    public void Read(LessonTime from, Span<float> samples)
    {
        for (var at = from.Samples; !samples.IsEmpty;)
        {
            Work(at / Block);
            var part = block.AsSpan((int)(at % Block));
            part = part[..Math.Min(part.Length, samples.Length)];
            part.CopyTo(samples);
            samples = samples[part.Length..];
            at += part.Length;
        }
    }

    private void Work(long number)
    {
        if (number == worked)
        {
            return;
        }

        worked = number;
        ReadAround((number * Block) - Read0);
        var highest = TensorPrimitives.MaxMagnitude(around);
        var own = around.AsSpan(Read0, Block);
        own.CopyTo(block);
        if (Math.Abs(highest) * TruePeak.MostOverSample > ceiling && FindAllowed() < 1)
        {
            FindLeast();
            ApplySmoothed();
        }
    }

    // Before the beginning there is silence.
    private void ReadAround(long first)
    {
        var before = (int)Math.Clamp(-first, 0, around.Length);
        around.AsSpan(0, before).Clear();
        voice.Read(new LessonTime(first + before), around.AsSpan(before));
        TensorPrimitives.Multiply(around, gain, around);
    }

    // The gain that each sample and what swings on to the next allow; returns the least.
    private float FindAllowed()
    {
        allowed.AsSpan().Fill(1);
        var lowest = 1f;
        for (var at = 0; at < allowed.Length; at += Part)
        {
            var part = allowed.AsSpan(at, Math.Min(Part, allowed.Length - at));
            var near = around.AsSpan(at, part.Length + (2 * TruePeak.Reach));
            if (Math.Abs(TensorPrimitives.MaxMagnitude(near)) * TruePeak.MostOverSample > ceiling)
            {
                TruePeak.Each(near, part);
                for (var i = 0; i < part.Length; i++)
                {
                    part[i] = part[i] > ceiling ? ceiling / part[i] : 1;
                }

                lowest = Math.Min(lowest, TensorPrimitives.Min(part));
            }
        }

        return lowest;
    }

    // The least gain allowed within Hold samples on either side, by a queue of those that can still become the least.
    private void FindLeast()
    {
        var (first, end) = (0, 0);
        for (var i = 0; i < allowed.Length; i++)
        {
            while (end > first && allowed[queue[end - 1]] >= allowed[i])
            {
                end--;
            }

            queue[end++] = i;
            if (queue[first] < i - (2 * Hold))
            {
                first++;
            }

            if (i >= 2 * Hold)
            {
                least[i - (2 * Hold)] = allowed[queue[first]];
            }
        }
    }

    // Two means one after the other make a mean with triangular weights, Hold samples to either side: no value of it is above the
    // least that a peak within allows.
    private void ApplySmoothed()
    {
        const int Half = Hold / 2;
        const int Width = (2 * Half) + 1;
        double sum = 0;
        for (var i = 0; i < Width - 1; i++)
        {
            sum += least[i];
        }

        for (var i = 0; i < once.Length; i++)
        {
            sum += least[i + Width - 1];
            once[i] = sum / Width;
            sum -= least[i];
        }

        sum = 0;
        for (var i = 0; i < Width - 1; i++)
        {
            sum += once[i];
        }

        for (var i = 0; i < Block; i++)
        {
            sum += once[i + Width - 1];
            block[i] *= (float)(sum / Width);
            sum -= once[i];
        }
    }
}
