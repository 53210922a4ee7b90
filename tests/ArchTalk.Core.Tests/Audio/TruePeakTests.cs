using ArchTalk.Core.Audio;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Tests.Audio;

/// <summary>EBU Tech 3341, the true-peak cases (from memory): sines whose samples miss their peaks. Allowed is +0.2 / -0.4 dB.</summary>
public class TruePeakTests
{
    private static float[] Sine(double share, double amplitude, double degrees, int samples = 4800)
    {
        var sine = new float[samples];
        for (var i = 0; i < samples; i++)
        {
            // The ends rise and fall: a sine that begins at once is itself higher between its first samples.
            var fade = Math.Min(1, Math.Min(i, samples - 1 - i) / 480.0);
            sine[i] = (float)(fade * amplitude * Math.Sin((2 * Math.PI * share * i) + (degrees * Math.PI / 180)));
        }

        return sine;
    }

    [Theory]
    [InlineData(4, 0)]
    [InlineData(4, 45)]
    [InlineData(4, 22.5)]
    [InlineData(6, 60)]
    [InlineData(8, 67.5)]
    public void A_sine_of_half_of_full_scale_peaks_at_6_dB_below_it_whatever_its_phase(double ofRate, double degrees)
    {
        var peak = TruePeak.Decibels(TruePeak.Of(Sine(1 / ofRate, 0.5, degrees)));

        peak.ShouldBeInRange(-6.02 - 0.4, -6.02 + 0.2);
    }

    [Fact]
    public void It_is_seen_where_the_samples_see_nothing_of_it()
    {
        var sine = Sine(1.0 / 4, 1.41, 45);

        TruePeak.Decibels(sine.Max(Math.Abs)).ShouldBe(0, 0.05);
        TruePeak.Decibels(TruePeak.Of(sine)).ShouldBe(3, 0.4);
    }

    [Fact]
    public void Each_gives_the_peak_at_its_place_and_Of_the_highest_of_them()
    {
        var samples = Sine(0.11, 0.8, 10);
        var each = new float[samples.Length - (2 * TruePeak.Reach)];
        TruePeak.Each(samples, each);

        each.Max().ShouldBe(TruePeak.Of(samples));
        for (var i = 0; i < each.Length; i++)
        {
            each[i].ShouldBeGreaterThanOrEqualTo(Math.Abs(samples[i + TruePeak.Reach]));
        }

        var single = new float[200];
        single[100] = 1;
        var around = new float[200 - (2 * TruePeak.Reach)];
        TruePeak.Each(single, around);
        Array.IndexOf(around, around.Max()).ShouldBe(100 - TruePeak.Reach);
    }
}
