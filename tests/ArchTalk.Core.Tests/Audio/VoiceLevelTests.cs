using ArchTalk.Core.Audio;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Time;
using ArchTalk.Tests;

namespace ArchTalk.Core.Tests.Audio;

public class VoiceLevelTests
{
    private static readonly TakeId Loud = new(Guid.Parse("00000000-0000-0000-0000-0000000000e1"));
    private static readonly TakeId Quiet = new(Guid.Parse("00000000-0000-0000-0000-0000000000e2"));

    private static float At(TakeId take, long sample)
    {
        var t = (double)sample / Clock.SampleRate;
        var level = take == Loud ? 0.2 : t is > 20 and < 40 ? 0.006 : 0.02;
        return (float)(t % 3 > 2.4 ? 0 : level * Math.Sin(2 * Math.PI * 220 * t) * (1 + (0.5 * Math.Sin(2 * Math.PI * 3 * t))));
    }

    private static TakeMeasures Measure(TakeId take)
    {
        var meter = new TakeMeter();
        for (var second = 0; second < 60; second++)
        {
            meter.Add([.. Enumerable.Range(0, Clock.SampleRate).Select(i => (short)(32767 * At(take, ((long)second * Clock.SampleRate) + i)))]);
        }

        return meter.Measures();
    }

    [Fact]
    public void The_loudness_of_a_plan_is_known_without_reading_its_sound()
    {
        var measures = new[] { Loud, Quiet }.ToDictionary(t => t, Measure);
        var curves = measures.ToDictionary(m => m.Key, m => GainCurve.Of(m.Value));
        VoiceStretch Part(double at, double length, TakeId take, double from) => new(
            new(LessonTime.FromSeconds(at), LessonTime.FromSeconds(at + length)), new Moment(take, TakeTime.FromSeconds(from)));
        var plan = new VoicePlan(
        [
            Part(0, 17.43, Loud, 3.21), Part(17.43, 30.2, Quiet, 12.03),
            new(new(LessonTime.FromSeconds(47.63), LessonTime.FromSeconds(49)), null), Part(49, 8, Loud, 40),
        ]);
        var meter = new LoudnessMeter();
        foreach (var stretch in plan.Stretches)
        {
            var sound = new float[(stretch.Target.End - stretch.Target.Start).Samples];
            if (stretch.From is { } moment)
            {
                for (var i = 0; i < sound.Length; i++)
                {
                    sound[i] = At(moment.Take, moment.At.Samples + i);
                }

                curves[moment.Take].Apply(moment.At, sound);
            }

            meter.Add(sound);
        }

        var expected = VoiceLevel.Expected(plan, t => measures[t], t => curves[t]).ShouldNotBeNull();
        expected.ShouldBe(meter.Integrated!.Value, 0.1);
        expected.ShouldBe(VoiceLevel.TargetLufs, 1.5, "both takes are at about the same level already");
    }

    [Fact]
    public void The_gain_of_a_lesson_stays_while_its_level_does()
    {
        VoiceLevel.Gain(null, -19.2).ShouldBe(1.2, 1e-9);
        VoiceLevel.Gain(1.2, -18.8).ShouldBe(1.2, "0.4 too loud");
        VoiceLevel.Gain(1.2, -19.69).ShouldBe(1.2, "0.49 too quiet");
        VoiceLevel.Gain(1.2, -19.8).ShouldBe(1.8, 1e-9);
        VoiceLevel.Gain(1.2, null).ShouldBe(1.2);
        VoiceLevel.Gain(null, null).ShouldBe(0);
    }
}
