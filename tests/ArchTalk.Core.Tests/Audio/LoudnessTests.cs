using ArchTalk.Core.Audio;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Tests.Audio;

/// <summary>
/// Signals and figures of EBU Tech 3341 (2016), from memory, as STANDARDS.md has them; stereo sines there are one channel here, which is
/// read as both.
/// </summary>
public class LoudnessTests
{
    private const double Hertz = 1000;

    private static double? Measure(params (double Seconds, double Dbfs)[] parts)
    {
        var meter = new LoudnessMeter();
        var at = 0L;
        foreach (var (seconds, dbfs) in parts)
        {
            var samples = new float[(int)(seconds * Clock.SampleRate)];
            for (var i = 0; i < samples.Length; i++, at++)
            {
                samples[i] = (float)(Math.Pow(10, dbfs / 20) * Math.Sin(2 * Math.PI * Hertz * at / Clock.SampleRate));
            }

            meter.Add(samples);
        }

        return meter.Integrated;
    }

    [Fact]
    public void Case_1_a_sine_at_23_below_full_scale() => Measure((20, -23)).ShouldNotBeNull().ShouldBe(-23.0, 0.1);

    [Fact]
    public void Case_2_a_sine_at_33_below_full_scale() => Measure((20, -33)).ShouldNotBeNull().ShouldBe(-33.0, 0.1);

    [Fact]
    public void Case_3_what_is_10_LU_below_the_rest_does_not_count() =>
        Measure((10, -36), (60, -23), (10, -36)).ShouldNotBeNull().ShouldBe(-23.0, 0.1);

    [Fact]
    public void Case_4_what_is_below_70_LUFS_does_not_count() =>
        Measure((10, -72), (10, -36), (60, -23), (10, -36), (10, -72)).ShouldNotBeNull().ShouldBe(-23.0, 0.1);

    [Fact]
    public void Case_5_loud_and_less_loud_are_meant_together() =>
        Measure((20, -26), (20.1, -20), (20, -26)).ShouldNotBeNull().ShouldBe(-23.0, 0.1);

    [Fact]
    public void Silence_and_what_is_shorter_than_a_block_have_no_loudness()
    {
        Measure((5, -90)).ShouldBeNull();
        Measure((0.3, -20)).ShouldBeNull();
    }

    [Fact]
    public void A_mean_square_and_its_loudness_lead_to_each_other() => Loudness.Of(Loudness.MeanSquareOf(-18)).ShouldBe(-18, 1e-9);
}
