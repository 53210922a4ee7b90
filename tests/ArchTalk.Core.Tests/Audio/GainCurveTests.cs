using ArchTalk.Core.Audio;
using ArchTalk.Core.Time;
using ArchTalk.Tests;

namespace ArchTalk.Core.Tests.Audio;

public class GainCurveTests
{
    // Syllables over a quiet room; how loud they are says a function of the second. Null is a pause.
    private static TakeMeasures Measure(double seconds, Func<double, double?> dbfs, double roomDbfs = -62)
    {
        var random = new Random(4);
        var room = Math.Pow(10, roomDbfs / 20) * Math.Sqrt(3);
        var meter = new TakeMeter();
        var samples = new short[Clock.SampleRate / 10];
        for (var at = 0L; at < seconds * Clock.SampleRate; at += samples.Length)
        {
            for (var i = 0; i < samples.Length; i++)
            {
                var t = (double)(at + i) / Clock.SampleRate;
                var voice = dbfs(t) is { } level
                    ? Math.Pow(10, level / 20) * (1 + (0.6 * Math.Sin(2 * Math.PI * 4 * t)))
                        * (Math.Sin(2 * Math.PI * 190 * t) + (0.5 * Math.Sin(2 * Math.PI * 1330 * t)))
                    : 0;
                samples[i] = (short)(32767 * Math.Clamp(voice + (room * ((2 * random.NextDouble()) - 1)), -1, 1));
            }

            meter.Add(samples);
        }

        return meter.Measures();
    }

    [Fact]
    public void An_even_voice_gets_one_gain_and_pauses_do_not_come_up()
    {
        var measures = Measure(90, t => t % 10 < 6 && t is < 40 or > 60 ? -30 : null);
        var curve = GainCurve.Of(measures);

        (curve.Decibels.Max() - curve.Decibels.Min()).ShouldBeLessThan(0.5, "with 20 s of silence in the middle");
        curve.Decibels[10].ShouldBe(VoiceLevel.TargetLufs - measures.Loudness!.Value, 0.4);
    }

    [Fact]
    public void A_stretch_that_is_far_quieter_comes_up_slowly()
    {
        var curve = GainCurve.Of(Measure(120, t => t % 4 > 3.2 ? null : t is > 40 and < 80 ? -42 : -30));

        (curve.Decibels[60] - curve.Decibels[15]).ShouldBeInRange(6, GainCurve.MostUp);
        for (var i = 1; i < curve.Decibels.Count; i++)
        {
            Math.Abs(curve.Decibels[i] - curve.Decibels[i - 1]).ShouldBeLessThanOrEqualTo(GainCurve.MostInSecond + 1e-9);
        }
    }

    [Fact]
    public void One_shouted_word_moves_little_and_a_room_without_a_voice_is_left_alone()
    {
        var curve = GainCurve.Of(Measure(60, t => t % 4 > 3.2 ? null : t is > 30 and < 30.6 ? -20 : -30));
        (curve.Decibels[10] - curve.Decibels[30]).ShouldBeLessThan(4);

        GainCurve.Of(Measure(20, _ => null, -100)).Decibels.ShouldAllBe(db => db == 0);
        GainCurve.Of(Measure(20, _ => null, -55)).Decibels.Max().ShouldBeLessThanOrEqualTo(GainCurve.MostRaise);
    }

    [Fact]
    public void It_is_applied_the_same_in_one_piece_and_in_many()
    {
        var curve = GainCurve.Of(Measure(20, t => t < 10 ? -30 : -38));
        var whole = Enumerable.Repeat(1f, 15 * Clock.SampleRate).ToArray();
        curve.Apply(TakeTime.Zero, whole);
        var parts = Enumerable.Repeat(1f, whole.Length).ToArray();
        for (var at = 0; at < parts.Length; at += 7001)
        {
            curve.Apply(new TakeTime(at), parts.AsSpan(at, Math.Min(7001, parts.Length - at)));
        }

        parts.SequenceEqual(whole).ShouldBeTrue();
        whole[5 * Clock.SampleRate].ShouldBe((float)Math.Pow(10, curve.Decibels[5] / 20), 1e-4f);
        curve.At(TakeTime.FromSeconds(5)).ShouldBe(whole[5 * Clock.SampleRate], 1e-6);
    }
}
