using ArchTalk.Core.Audio;
using ArchTalk.Core.Time;
using ArchTalk.Tests;

namespace ArchTalk.Core.Tests.Audio;

public class LimitedVoiceTests
{
    private const double CeilingDb = -3;

    private static float Tone(long at, double hertz, double dbfs) =>
        (float)(Math.Pow(10, dbfs / 20) * Math.Sin(2 * Math.PI * hertz * at / Clock.SampleRate));

    // A voice with bursts, and single spikes.
    private static IVoice Bursts(int seed)
    {
        var random = new Random(seed);
        var spikes = Enumerable.Range(0, 12).Select(_ => random.NextInt64(3 * Clock.SampleRate)).ToHashSet();
        return Sounds.Made(3, at => Tone(at, 210, -14 + (14 * Math.Sin(at / 9000.0))) + (spikes.Contains(at) ? 0.9f : 0));
    }

    [Fact]
    public void Any_stretch_is_the_same_however_it_is_asked_for()
    {
        var whole = Sounds.Read(new LimitedVoice(Bursts(1), 6, CeilingDb));
        var random = new Random(2);
        var voice = new LimitedVoice(Bursts(1), 6, CeilingDb);
        for (var i = 0; i < 60; i++)
        {
            var from = random.Next(whole.Length - 1);
            var part = new float[random.Next(1, Math.Min(30_000, whole.Length - from))];
            voice.Read(new LessonTime(from), part);
            part.SequenceEqual(whole[from..(from + part.Length)]).ShouldBeTrue();
        }
    }

    [Fact]
    public void No_true_peak_is_above_the_ceiling_and_what_is_far_from_peaks_is_untouched()
    {
        for (var seed = 0; seed < 10; seed++)
        {
            TruePeak.Decibels(TruePeak.Of(Sounds.Read(new LimitedVoice(Bursts(seed), 8, CeilingDb)))).ShouldBeLessThan(CeilingDb + 0.1);
        }

        var quiet = Sounds.Made(1, at => Tone(at, 300, -20));
        Sounds.Read(new LimitedVoice(quiet, 0, CeilingDb)).ShouldBe(Sounds.Read(quiet));
        var spike = Sounds.Made(2, at => at == Clock.SampleRate ? 1 : Tone(at, 300, -20));
        var limited = Sounds.Read(new LimitedVoice(spike, 0, CeilingDb));
        var plain = Sounds.Read(spike);
        var heeded = Clock.SampleRate - (2 * LimitedVoice.Hold) - TruePeak.Reach;
        limited[..heeded].SequenceEqual(plain[..heeded]).ShouldBeTrue();
    }

    /// <summary>Distortion as all that isn't the tone, against the tone. A tone under the ceiling's gain keeps its shape.</summary>
    [Theory]
    [InlineData(50)]
    [InlineData(120)]
    [InlineData(1000)]
    public void A_tone_held_down_by_9_dB_keeps_its_shape(double hertz)
    {
        var limited = Sounds.Read(new LimitedVoice(Sounds.Made(2, at => Tone(at, hertz, 0)), 6, CeilingDb));
        var part = limited[Clock.SampleRate..(2 * Clock.SampleRate - 9600)];
        double sine = 0, cosine = 0;
        for (var i = 0; i < part.Length; i++)
        {
            var turn = 2 * Math.PI * hertz * i / Clock.SampleRate;
            sine += 2 * part[i] * Math.Sin(turn) / part.Length;
            cosine += 2 * part[i] * Math.Cos(turn) / part.Length;
        }

        var rest = part.Select((s, i) => s - (sine * Math.Sin(2 * Math.PI * hertz * i / Clock.SampleRate))
            - (cosine * Math.Cos(2 * Math.PI * hertz * i / Clock.SampleRate))).Average(s => s * s);
        var distortion = 10 * Math.Log10(rest / (((sine * sine) + (cosine * cosine)) / 2));

        distortion.ShouldBeLessThan(-60, "0.1 % is below what is heard (common practice, no source)");
    }
}
