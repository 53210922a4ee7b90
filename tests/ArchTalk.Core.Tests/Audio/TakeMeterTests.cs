using ArchTalk.Core.Audio;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Time;
using ArchTalk.Tests;

namespace ArchTalk.Core.Tests.Audio;

public class TakeMeterTests
{
    // Words as bursts of a buzzing tone and of hiss, with gaps in which nobody speaks.
    private static short[] Speech(double seconds, double noise, double hum, params (double From, double To)[] gaps)
    {
        var random = new Random(3);
        var samples = new short[(int)(seconds * Clock.SampleRate)];
        for (var i = 0; i < samples.Length; i++)
        {
            var t = (double)i / Clock.SampleRate;
            var speaks = !gaps.Any(g => g.From <= t && t < g.To);
            var buzz = Enumerable.Range(1, 10).Sum(k => Math.Sin(2 * Math.PI * 170 * k * t) / k);
            var voice = speaks ? 0.12 * (0.6 + (0.4 * Math.Sin(2 * Math.PI * 4 * t))) * buzz : 0;
            var value = voice + (noise * ((random.NextDouble() * 2) - 1)) + (hum * Math.Sin(2 * Math.PI * 50 * t));
            samples[i] = (short)(Math.Clamp(value, -1, 1) * short.MaxValue);
        }

        return samples;
    }

    private static TakeMeasures Measure(short[] samples, Func<int>? chunk = null)
    {
        var meter = new TakeMeter();
        for (var at = 0; at < samples.Length;)
        {
            var length = Math.Min(samples.Length - at, chunk?.Invoke() ?? samples.Length);
            meter.Add(samples.AsSpan(at, length));
            at += length;
        }

        return meter.Measures();
    }

    [Fact]
    public void Bit_by_bit_and_all_at_once_give_the_same_bytes()
    {
        var samples = Speech(40.0037, 0.003, 0.02, (3, 5.5), (9, 9.4), (14, 18), (30, 31));
        var random = new Random(8);
        byte[] Bytes(TakeMeasures measures)
        {
            using var file = new MemoryStream();
            MeasuresFile.Write(file, measures);
            return file.ToArray();
        }

        var once = Bytes(Measure(samples));
        Bytes(Measure(samples, () => 12_000)).ShouldBe(once);
        Bytes(Measure(samples, () => random.Next(1, 5000))).ShouldBe(once);
    }

    [Fact]
    public void At_every_moment_of_recording_it_knows_what_all_at_once_would_know_by_then()
    {
        var samples = Speech(20, 0.003, 0, (3, 5.5), (9, 9.4), (14, 18));
        var meter = new TakeMeter();
        for (var at = 0; at < samples.Length; at += 12_000)
        {
            meter.Add(samples.AsSpan(at, 12_000));
            meter.PhrasesSince(TakeTime.Zero).ShouldBe(Measure(samples[..(at + 12_000)]).Phrases);
        }
    }

    [Fact]
    public void The_phrases_since_a_moment_are_those_of_the_whole()
    {
        // The room grows louder, so that the noise around a moment matters.
        var random = new Random(4);
        var spoken = Enumerable.Range(0, 50).Select(i => (4.0 * i) + random.NextDouble()).Select(at => (at, at + 1 + random.NextDouble())).ToArray();
        var samples = Speech(200, 0.003, 0, spoken).Concat(Speech(40, 0.01, 0.02, (3, 5.5), (9, 9.4), (14, 18), (30, 31))).ToArray();
        var meter = new TakeMeter();
        meter.Add(samples);
        var all = meter.Measures().Phrases;
        all.Count.ShouldBeGreaterThan(50);
        foreach (var since in (double[])[0, 59.9, 60.01, 100, 199.5, 215.55, 239, 240])
        {
            var at = TakeTime.FromSeconds(since);
            meter.PhrasesSince(at).ShouldBe(all.Where(p => p.End > at));
        }
    }

    [Theory]
    [InlineData(0, 0)]
    [InlineData(0.01, 0)]
    [InlineData(0.003, 0.03)]
    public void Silences_are_found_within_30_ms_with_noise_and_hum(double noise, double hum)
    {
        var found = Measure(Speech(20, noise, hum, (0, 1), (3, 5.5), (9, 9.4), (14, 18), (19, 20))).Silences.ToArray();

        found.Length.ShouldBe(5);
        foreach (var (silence, (from, to)) in found.Zip([(0, 1), (3, 5.5), (9, 9.4), (14, 18), (19.0, 20.0)]))
        {
            silence.Start.Milliseconds.ShouldBe(from * 1000, tolerance: 30);
            silence.End.Milliseconds.ShouldBe(to * 1000, tolerance: 30);
        }
    }

    [Fact]
    public void A_click_does_not_end_a_silence()
    {
        var samples = Speech(20, 0.001, 0, (5, 10));
        samples.AsSpan(7 * Clock.SampleRate, 480).Fill(short.MaxValue);

        Measure(samples).Silences.ShouldHaveSingleItem();
    }

    [Fact]
    public void A_fan_that_is_switched_on_is_the_rooms_noise_soon_after()
    {
        var samples = Speech(120, 0.002, 0, [.. Enumerable.Range(0, 20).Select(i => ((i * 6) + 4.0, (i * 6) + 6.0))]);
        var random = new Random(5);
        for (var i = 60 * Clock.SampleRate; i < samples.Length; i++)
        {
            samples[i] = (short)Math.Clamp(samples[i] + random.Next(-500, 501), short.MinValue, short.MaxValue);
        }

        var later = Measure(samples).Silences.Where(s => s.Start.Seconds() > 80).ToArray();
        later.Length.ShouldBe(7);
        later.ShouldAllBe(s => Math.Abs(s.Start.Seconds() % 6 - 4) < 0.05);
    }

    [Fact]
    public void Nothing_at_all_is_one_silence_and_no_samples_are_none()
    {
        Measure(new short[Clock.SampleRate * 3]).Silences.ShouldHaveSingleItem().End.ShouldBe(TakeTime.FromSeconds(3));
        Measure([]).Silences.ShouldBeEmpty();
        Measure([]).Loudness.ShouldBeNull();
        Measure(new short[100]).Length.ShouldBe(new Duration(100));
    }

    [Fact]
    public void Hum_of_the_mains_is_told_from_a_low_voice()
    {
        Measure(Speech(12, 0.002, 0.01, (3, 5), (8, 10))).Hum.ShouldNotBeNull().Hertz.ShouldBe(50);
        Measure(Speech(12, 0.002, 0.01, (3, 5), (8, 10))).Hum!.Decibels.ShouldBe(-43, 0.7);
        Measure(Speech(12, 0.002, 0, (3, 5), (8, 10))).Hum.ShouldBeNull();
        var sixty = Enumerable.Range(0, 5 * Clock.SampleRate).Select(i => (short)(400 * Math.Sin(2 * Math.PI * 60 * i / Clock.SampleRate))).ToArray();
        Measure(sixty).Hum!.Hertz.ShouldBe(60);
    }

    [Fact]
    public void The_noise_floor_is_that_of_the_room_between_the_words()
    {
        // Evenly spread noise of ±0.01 has -44.8 dB in all; about a third of it (-4.6 dB) lies in the eight bands, which overlap.
        Measure(Speech(30, 0.01, 0, (3, 5), (8, 10), (20, 24))).NoiseFloorDb.ShouldBe(-48, 3);
    }

    [Fact]
    public void The_waveform_has_the_lowest_and_the_highest_sample_of_each_stretch_in_three_sizes()
    {
        var samples = new short[Clock.SampleRate];
        samples[100] = -700;
        samples[Waveform.Finest + 3] = 900;
        samples[Clock.SampleRate / 2] = 1200;
        var waveform = Measure(samples).Waveform;

        waveform.Peaks(0).Take(4).ShouldBe([-700, 0, 0, 900]);
        waveform.Peaks(1).Take(2).ShouldBe([-700, 900]);
        waveform.Peaks(2).ShouldBe([-700, 900, 0, 1200]);
        waveform.Peaks(0).Count.ShouldBe(2 * 200);
    }

    [Fact]
    public void The_true_peak_counts_the_last_samples_too()
    {
        var samples = new short[4807];
        samples[^1] = 16_384;
        ((double)Measure(samples).TruePeak).ShouldBe(0.5, 0.03);
    }

    [Fact]
    public void Measures_are_read_back_as_they_were_and_a_damaged_file_is_passed_over()
    {
        var measures = Measure(Speech(12, 0.002, 0.01, (3, 5), (8, 10)));
        using var file = new MemoryStream();
        MeasuresFile.Write(file, measures);
        var bytes = file.ToArray();
        var read = MeasuresFile.Read(new MemoryStream(bytes)).ShouldNotBeNull();

        read.Phrases.ShouldBe(measures.Phrases);
        read.Steps.ShouldBe(measures.Steps);
        read.Hum.ShouldBe(measures.Hum);
        (read.Length, read.TruePeak, read.NoiseFloorDb).ShouldBe((measures.Length, measures.TruePeak, measures.NoiseFloorDb));
        Enumerable.Range(0, Waveform.Resolutions).ShouldAllBe(r => read.Waveform.Peaks(r).SequenceEqual(measures.Waveform.Peaks(r)));

        for (var cut = 0; cut < bytes.Length; cut += Math.Max(1, bytes.Length / 200))
        {
            MeasuresFile.Read(new MemoryStream(bytes, 0, cut)).ShouldBeNull();
        }

        bytes[7]++;
        MeasuresFile.Read(new MemoryStream(bytes)).ShouldBeNull("of another version");
        var random = new Random(1);
        for (var i = 0; i < 300; i++)
        {
            var harmed = file.ToArray();
            harmed[random.Next(8, 3000)] ^= (byte)(1 << random.Next(8));
            Should.NotThrow(() => MeasuresFile.Read(new MemoryStream(harmed)));
        }
    }
}

file static class Times
{
    public static double Seconds(this TakeTime time) => time.Milliseconds / 1000;
}
