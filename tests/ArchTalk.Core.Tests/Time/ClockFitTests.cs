using ArchTalk.Core.Time;

namespace ArchTalk.Core.Tests.Time;

/// <summary>A simulated sound card against a simulated browser clock: where each sample truly was is known.</summary>
public class ClockFitTests
{
    // Ten anchors a second, each late by 0.2 to 20 ms, as measured under load.
    private static List<ClockAnchor> Record(
        double seconds,
        Func<double, double> sampleAtMs,
        int seed = 1,
        double leastLateMs = 0.2,
        double mostLateMs = 20)
    {
        var random = new Random(seed);
        var anchors = new List<ClockAnchor>();
        for (var ms = 100.0; ms < seconds * 1000; ms += 100)
        {
            var late = leastLateMs + (Math.Pow(random.NextDouble(), 3) * (mostLateMs - leastLateMs));
            anchors.Add(new((long)sampleAtMs(ms), 5000 + ms + late));
        }

        return anchors;
    }

    private static double WorstErrorMs(ClockFit fit, Func<double, double> sampleAtMs, double fromSeconds, double toSeconds)
    {
        var worst = 0.0;
        for (var ms = fromSeconds * 1000; ms <= toSeconds * 1000; ms += 37)
        {
            worst = Math.Max(worst, Math.Abs(fit.SampleAt(5000 + ms) - sampleAtMs(ms)) / Clock.SamplesPerMillisecond);
        }

        return worst;
    }

    [Theory]
    [InlineData(0)]
    [InlineData(200e-6)]
    [InlineData(-200e-6)]
    public void Follows_a_drifting_clock_for_half_an_hour(double drift)
    {
        double SampleAt(double ms) => ms * Clock.SamplesPerMillisecond * (1 + drift);
        var fit = new ClockFit(Record(1800, SampleAt));

        fit.Stretches.ShouldBe(1);
        WorstErrorMs(fit, SampleAt, 1, 1799).ShouldBeLessThan(2);
    }

    [Fact]
    public void One_straight_line_would_not_do_when_the_drift_changes()
    {
        // The card warms up: 200 parts in a million slow for ten minutes, then as fast for ten minutes.
        double SampleAt(double ms) => (ms + (-200e-6 * Math.Min(ms, 600_000)) + (200e-6 * Math.Max(0, ms - 600_000))) * 48;
        var fit = new ClockFit(Record(1200, SampleAt));

        WorstErrorMs(fit, SampleAt, 1, 1199).ShouldBeLessThan(2);
    }

    [Theory]
    [InlineData(10)]
    [InlineData(85)]
    [InlineData(400)]
    public void Lost_sound_is_found_as_a_step(int lostMs)
    {
        // At 30.05 s the card drops some samples: from then on the count is behind.
        double SampleAt(double ms) => (ms - Math.Clamp(ms - 30_050, 0, lostMs)) * Clock.SamplesPerMillisecond;
        var fit = new ClockFit(Record(60, SampleAt));

        fit.Stretches.ShouldBe(2);
        WorstErrorMs(fit, SampleAt, 1, 29.8).ShouldBeLessThan(2);
        WorstErrorMs(fit, SampleAt, 31, 59).ShouldBeLessThan(2);
        WorstErrorMs(fit, SampleAt, 29.8, 31).ShouldBeLessThan(lostMs + 2);
    }

    [Fact]
    public void Several_losses_in_one_take_are_each_found()
    {
        double SampleAt(double ms) => (ms - (ms > 20_050 ? 50 : 0) - (ms > 40_050 ? 30 : 0)) * Clock.SamplesPerMillisecond;
        var fit = new ClockFit(Record(60, SampleAt));

        fit.Stretches.ShouldBe(3);
        WorstErrorMs(fit, SampleAt, 41, 59).ShouldBeLessThan(2);
    }

    [Fact]
    public void A_clock_that_jumps_ahead_is_followed_when_arrivals_are_steady()
    {
        // The count gains 40 ms at once (a device that delivers a buffer twice).
        double SampleAt(double ms) => (ms + (ms > 30_050 ? 40 : 0)) * Clock.SamplesPerMillisecond;
        var fit = new ClockFit(Record(60, SampleAt, mostLateMs: 1.6));

        fit.Stretches.ShouldBe(2);
        WorstErrorMs(fit, SampleAt, 1, 29.8).ShouldBeLessThan(2);
        WorstErrorMs(fit, SampleAt, 30.3, 59).ShouldBeLessThan(2);
    }

    [Fact]
    public void A_busy_computer_is_not_mistaken_for_lost_sound()
    {
        double SampleAt(double ms) => ms * Clock.SamplesPerMillisecond;
        var anchors = Record(60, SampleAt);

        // For 2.5 s everything arrives only when the computer is free again.
        for (var i = 0; i < anchors.Count; i++)
        {
            var at = anchors[i].PerformanceMs;
            anchors[i] = anchors[i] with { PerformanceMs = at is > 25_000 and < 27_500 ? 27_500 + (i * 0.01) : at };
        }

        var fit = new ClockFit(anchors);
        fit.Stretches.ShouldBe(1);
        WorstErrorMs(fit, SampleAt, 1, 59).ShouldBeLessThan(2);
    }

    [Fact]
    public void Never_runs_backwards()
    {
        double SampleAt(double ms) => (ms - (ms > 30_050 ? 85 : 0)) * Clock.SamplesPerMillisecond * (1 + 200e-6);
        var fit = new ClockFit(Record(60, SampleAt));

        var before = double.NegativeInfinity;
        for (var ms = 0.0; ms < 61_000; ms += 7)
        {
            var sample = fit.SampleAt(5000 + ms);
            sample.ShouldBeGreaterThanOrEqualTo(before);
            before = sample;
        }
    }

    [Fact]
    public void The_order_of_anchors_does_not_matter_and_one_is_enough()
    {
        double SampleAt(double ms) => ms * Clock.SamplesPerMillisecond;
        var anchors = Record(20, SampleAt);
        var shuffled = anchors.OrderBy(a => a.PerformanceMs % 7).ToList();

        new ClockFit(shuffled).SampleAt(12_345).ShouldBe(new ClockFit(anchors).SampleAt(12_345));
        new ClockFit([new(4800, 200)]).SampleAt(300).ShouldBe(4800 + (100 * 48), tolerance: 1e-6);
        Should.Throw<ArgumentException>(() => new ClockFit([]));
    }
}
