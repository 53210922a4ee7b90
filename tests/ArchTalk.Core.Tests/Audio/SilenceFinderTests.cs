using ArchTalk.Core.Audio;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Tests.Audio;

public class SilenceFinderTests
{
    // A tone with the rhythm of syllables, over noise, with gaps where nobody speaks.
    private static short[] Voice(double seconds, double noise, double hum, params (double From, double To)[] gaps)
    {
        var random = new Random(3);
        var samples = new short[(int)(seconds * Clock.SampleRate)];
        for (var i = 0; i < samples.Length; i++)
        {
            var t = (double)i / Clock.SampleRate;
            var speaks = !gaps.Any(g => g.From <= t && t < g.To);
            var voice = speaks ? 0.3 * (0.6 + (0.4 * Math.Sin(2 * Math.PI * 4 * t))) * Math.Sin(2 * Math.PI * 180 * t) : 0;
            var value = voice + (noise * ((random.NextDouble() * 2) - 1)) + (hum * Math.Sin(2 * Math.PI * 50 * t));
            samples[i] = (short)(Math.Clamp(value, -1, 1) * short.MaxValue);
        }

        return samples;
    }

    [Theory]
    [InlineData(0, 0)]
    [InlineData(0.01, 0)]
    [InlineData(0.003, 0.03)]
    public void Silences_are_found_within_30_ms_with_noise_and_hum(double noise, double hum)
    {
        var found = SilenceFinder.Find(Voice(20, noise, hum, (3, 5.5), (9, 9.4), (14, 18)), Duration.FromSeconds(1));

        found.Count.ShouldBe(2);
        found[0].Start.Milliseconds.ShouldBe(3000, tolerance: 30);
        found[0].End.Milliseconds.ShouldBe(5500, tolerance: 30);
        found[1].Start.Milliseconds.ShouldBe(14_000, tolerance: 30);
        found[1].End.Milliseconds.ShouldBe(18_000, tolerance: 30);
    }

    [Fact]
    public void A_click_does_not_end_a_silence()
    {
        var samples = Voice(20, 0.001, 0, (5, 10));
        for (var i = 0; i < 480; i++)
        {
            samples[(7 * Clock.SampleRate) + i] = short.MaxValue;
        }

        SilenceFinder.Find(samples, Duration.FromSeconds(4)).ShouldHaveSingleItem();
    }

    [Fact]
    public void Nothing_at_all_is_one_silence_and_no_samples_are_none()
    {
        SilenceFinder.Find(new short[Clock.SampleRate * 3], Duration.FromSeconds(1)).ShouldHaveSingleItem().End.ShouldBe(LessonTime.FromSeconds(3));
        SilenceFinder.Find([], Duration.FromSeconds(1)).ShouldBeEmpty();
    }
}
