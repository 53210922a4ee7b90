using System.Numerics.Tensors;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>
/// The voice of a lesson, read from its takes as the plan has it. Where sound that doesn't belong together meets, the one fades out
/// while the other fades in, at equal power (the squares of both gains add up to one, so that noise keeps its level). Each borrows what
/// was removed on its side of the edge; where nothing was, it fades within what is kept. No length changes.
/// </summary>
/// <param name="plan">What is heard.</param>
/// <param name="voices">The sound of a take.</param>
/// <param name="curves">By how much a take is raised; null for as it was recorded.</param>
/// <param name="gainDb">By how much all of it will be raised: a tone is that much fainter here.</param>
public sealed class LessonVoice(
    VoicePlan plan, Func<TakeId, TakeVoice> voices, Func<TakeId, GainCurve>? curves = null, double gainDb = 0) : IVoice
{
    /// <summary>
    /// In LUFS: a tone that lies over a stretch, below speech at <see cref="VoiceLevel.TargetLufs"/>, so that it startles nobody (common
    /// practice, no source).
    /// </summary>
    public const double ToneLufs = VoiceLevel.TargetLufs - 6;

    /// <summary>In Hz, as is common practice, no source.</summary>
    public const int ToneHertz = 1000;

    /// <summary>
    /// Half the length of a crossfade. 4 ms on either side are too short to be heard as two voices and long enough for a step to become
    /// a slope without anything above 8 kHz (common practice, no source).
    /// </summary>
    public static readonly Duration HalfFade = Duration.FromMilliseconds(4);

    private const float FullScale = 32768;

    private readonly short[] buffer = new short[Clock.SampleRate / 10];
    private readonly float[] mixed = new float[Clock.SampleRate / 10];

    public Duration Length => plan.Length;

    public void Read(LessonTime from, Span<float> samples)
    {
        samples.Clear();
        var to = from + new Duration(samples.Length);
        var stretches = plan.Stretches;
        var first = Search.CountTo(stretches.Count, i => stretches[i].Target.End + HalfFade <= from);
        for (var i = first; i < stretches.Count && stretches[i].Target.Start.Samples - HalfFade.Samples < to.Samples; i++)
        {
            if (stretches[i].From is { } moment)
            {
                Add(stretches[i].Target, moment, from, samples);
            }
            else if (stretches[i].HasTone)
            {
                AddTone(stretches[i].Target, from, samples);
            }
        }
    }

    // Rising and falling at its ends, within its stretch. At 1 kHz the peak of a sine in dB of full scale, heard from two speakers, is its
    // loudness in LUFS (EBU Tech 3341, case 1).
    private void AddTone(TimeRange<LessonTime> target, LessonTime from, Span<float> samples)
    {
        const int Period = Clock.SampleRate / ToneHertz;
        var (first, length) = ((from - target.Start).Samples, (target.End - target.Start).Samples);
        var highest = MathF.Pow(10, (float)(ToneLufs - gainDb) / 20);
        for (var i = Math.Max(0, -first); i < samples.Length && first + i < length; i++)
        {
            var at = first + i;
            var edge = Math.Min(1, (Math.Min(at, length - 1 - at) + 0.5f) / (2 * HalfFade.Samples));
            samples[(int)i] += highest * edge * MathF.Sin(2 * MathF.PI * (at % Period) / Period);
        }
    }

    private void Add(TimeRange<LessonTime> target, Moment moment, LessonTime from, Span<float> samples)
    {
        var voice = voices(moment.Take);
        var length = (target.End - target.Start).Samples;

        // At either end of the lesson there is nothing to fade from or to: what was taken out there is not heard, and a take that begins
        // or ends with the lesson is as it was recorded.
        var (isFirst, isLast) = (target.Start == LessonTime.Zero, target.End == LessonTime.Zero + plan.Length);
        var removed = (Before: moment.At.Samples, After: Math.Max(0, (voice.End - moment.At).Samples - length));
        var (fadesIn, fadesOut) = (!isFirst || removed.Before > 0, !isLast || removed.After > 0);
        var before = isFirst ? 0 : Math.Min(HalfFade.Samples, removed.Before);
        var after = isLast ? 0 : Math.Min(HalfFade.Samples, removed.After);

        // Counted from the start of the stretch.
        var begin = Math.Max(-before, (from - target.Start).Samples);
        var end = Math.Min(length + after, (from - target.Start).Samples + samples.Length);
        while (begin < end)
        {
            var read = buffer.AsSpan(0, (int)Math.Min(buffer.Length, end - begin));
            var at = new TakeTime(moment.At.Samples + begin);
            voice.Read(at, read);
            var own = mixed.AsSpan(0, read.Length);
            TensorPrimitives.ConvertTruncating<short, float>(read, own);
            TensorPrimitives.Multiply(own, 1 / FullScale, own);
            curves?.Invoke(moment.Take).Apply(at, own);
            if (fadesIn)
            {
                Rise(own, begin + before);
            }

            if (fadesOut && length + after - begin - read.Length < 2 * HalfFade.Samples)
            {
                own.Reverse();
                Rise(own, length + after - begin - read.Length);
                own.Reverse();
            }

            var into = samples.Slice((int)(begin - (from - target.Start).Samples), read.Length);
            TensorPrimitives.Add(into, own, into);
            begin += read.Length;
        }
    }

    // A fade in, by samples since it began.
    private static void Rise(Span<float> samples, long since)
    {
        for (var i = 0; i < samples.Length && since + i < 2 * HalfFade.Samples; i++)
        {
            samples[i] *= MathF.Sin(MathF.PI / 4 * ((since + i + 0.5f) / HalfFade.Samples));
        }
    }
}
