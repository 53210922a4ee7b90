using ArchTalk.Core.Audio;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Tests.Audio;

/// <summary>The sound check against made signals of known level, noise and hum, within 1 dB. What is good enough: common practice, no source.</summary>
public class SoundCheckTests
{
    private const int Rate = Clock.SampleRate;

    // Noise of a known power with hum of a known amplitude in each of its four tones; speech is a 1 kHz tone, of which the loudness is known.
    private static short[] Made(
        double seconds, double noiseDb, double humDb = double.NegativeInfinity, int hertz = 50, double toneDb = double.NegativeInfinity)
    {
        var random = new Random(3);
        var noise = Math.Pow(10, noiseDb / 20) * Math.Sqrt(3);
        var hum = Math.Pow(10, humDb / 20) * Math.Sqrt(2) / 2;
        var tone = Math.Pow(10, toneDb / 20);
        return Sounds.To16Bit([.. Enumerable.Range(0, (int)(seconds * Rate)).Select(i => (float)((noise * ((2 * random.NextDouble()) - 1))
            + (hum * Enumerable.Range(1, 4).Sum(k => Math.Sin((2 * Math.PI * hertz * k * i / Rate) + k)))
            + (tone * Math.Sin(2 * Math.PI * 1000 * i / Rate))))]);
    }

    [Theory]
    [InlineData(-70)]
    [InlineData(-55)]
    [InlineData(-40)]
    public void Noise_is_within_1_dB_also_beside_hum(double db)
    {
        SoundCheck.Of(Made(5, db), Made(5, db)).NoiseDb.ShouldBe(db, 1);
        SoundCheck.Of(Made(5, db, db + 6), Made(5, db)).NoiseDb.ShouldBe(db, 1);
    }

    [Theory]
    [InlineData(50, -50)]
    [InlineData(60, -50)]
    [InlineData(50, -35)]
    [InlineData(60, -65)]
    public void Hum_is_within_1_dB_and_of_the_right_mains(int hertz, double db)
    {
        var hum = SoundCheck.Of(Made(5, db - 8, db, hertz), Made(5, -70)).Hum.ShouldNotBeNull();
        hum.Hertz.ShouldBe(hertz);
        hum.Decibels.ShouldBe(db, 1);
    }

    // EBU Tech 3341, case 1 (from memory): a 1 kHz sine at -23 dBFS on both channels is -23 LUFS; one channel is read as both.
    [Theory]
    [InlineData(-23)]
    [InlineData(-33)]
    public void The_voice_is_within_1_dB_of_its_loudness(double db) =>
        SoundCheck.Of(Made(5, -75), Made(5, -75, toneDb: db)).SpeechLufs.ShouldNotBeNull().ShouldBe(db, 1);

    [Fact]
    public void Clipping_is_counted_and_a_loud_voice_that_isnt_cut_off_is_none()
    {
        SoundCheck.Of(Made(5, -75), Made(5, -75, toneDb: -1)).Clipped.ShouldBe(0);

        // A tone of 1 kHz half as high again is cut off twice in each of its periods.
        var check = SoundCheck.Of(Made(5, -75), Made(5, -75, toneDb: 3.5));
        check.Clipped.ShouldBeInRange(9990, 10_010);
        check.Advice.ShouldBe(SoundAdvice.TooLoud);
    }

    [Theory]
    [InlineData(-65, double.NegativeInfinity, -25, SoundAdvice.Good)]
    [InlineData(-65, double.NegativeInfinity, -90, SoundAdvice.NobodySpoke)]
    [InlineData(-65, -50.0, -25, SoundAdvice.Hum)]
    [InlineData(-42, double.NegativeInfinity, -25, SoundAdvice.Noisy)]
    [InlineData(-80, double.NegativeInfinity, -45, SoundAdvice.TooQuiet)]
    public void It_says_what_to_do_first(double noise, double hum, double voice, SoundAdvice advice) =>
        SoundCheck.Of(Made(5, noise, hum), Made(5, noise, hum, toneDb: voice)).Advice.ShouldBe(advice);

    [Fact]
    public void A_stretch_that_is_too_short_is_refused() => Should.Throw<ArgumentException>(() => SoundCheck.Of(Made(5, -60), Made(1, -60)));
}
