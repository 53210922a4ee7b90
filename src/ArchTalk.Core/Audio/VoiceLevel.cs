using ArchTalk.Core.Editing;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>The one level of a lesson's voice.</summary>
public static class VoiceLevel
{
    /// <summary>AES TD1008, about -18 LUFS for speech (from memory).</summary>
    public const double TargetLufs = -18;

    /// <summary>In LU: as long as a lesson is this near, its gain stays what it is, so that an edit doesn't change what wasn't edited.</summary>
    public const double Tolerance = 0.5;

    /// <summary>AES TD1008: peaks at most -1 dBTP (from memory).</summary>
    public const double HighestPeakDb = -1;

    /// <summary>
    /// Where peaks are held before the voice is encoded. AAC and Opus overshoot the peaks they are given, by up to 2 dB as measured on
    /// speech.
    /// </summary>
    public const double CeilingDb = -3;

    /// <summary>
    /// What a plan's loudness is with the takes' own curves, in LUFS, to about 0.1 LU; null when nobody speaks. Nothing is read: the
    /// steps of the takes are laid as the plan has them.
    /// </summary>
    public static double? Expected(VoicePlan plan, Func<TakeId, TakeMeasures> measures, Func<TakeId, GainCurve> curves)
    {
        var steps = new float[plan.Length.Samples / Loudness.Step];
        var stretch = 0;
        TakeId? take = null;
        var (own, curve) = (Array.Empty<float>(), (GainCurve?)null);
        for (var i = 0; i < steps.Length; i++)
        {
            var middle = new LessonTime(((long)i * Loudness.Step) + (Loudness.Step / 2));
            while (plan.Stretches[stretch].Target.End <= middle)
            {
                stretch++;
            }

            if (plan.Stretches[stretch] is { From: { } moment, Target.Start: var start })
            {
                var at = moment.At + (middle - start);
                if (moment.Take != take)
                {
                    (take, own, curve) = (moment.Take, measures(moment.Take).Steps, curves(moment.Take));
                }

                var index = at.Samples / Loudness.Step;
                var gain = curve!.At(at);
                steps[i] = index < own.Length ? (float)(own[index] * gain * gain) : 0;
            }
        }

        return Loudness.Integrated(steps);
    }

    /// <summary>The gain of a whole lesson on top of its takes' curves, in dB.</summary>
    /// <param name="kept">What it was before; null when there was none.</param>
    /// <param name="lufs">What the lesson's loudness is without it; null for silence.</param>
    public static double Gain(double? kept, double? lufs) => lufs is not { } measured ? kept ?? 0
        : kept is { } before && Math.Abs(measured + before - TargetLufs) <= Tolerance ? before
        : TargetLufs - measured;
}
