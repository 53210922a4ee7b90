using System.Globalization;
using System.Text.RegularExpressions;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Time;

namespace ArchTalk.Media.Tests;

public sealed partial class VoiceTests : IDisposable
{
    private readonly Samples samples = new();
    private readonly Voice voices = new Kit().Voice;

    public void Dispose() => samples.Dispose();

    private async Task<short[]> SpeakAsync(string text)
    {
        await samples.RunAsync("espeak-ng", "-v", "en-gb", "-s", "150", "-w", "spoken.wav", text);
        return await voices.DecodeAsync(samples.Path("spoken.wav"), CancellationToken.None);
    }

    // As an application does it: a take alone, at its own curve, as a lesson.
    private async Task<MadeCopies> WriteCopiesAsync(short[] voice, string filters = "")
    {
        var meter = new TakeMeter();
        meter.Add(voice);
        var curve = GainCurve.Of(meter.Measures());
        var recorded = Sounds.AsVoice(voice);
        var levelled = new CurvedVoice(recorded, curve);
        return await voices.WriteCopiesAsync(levelled, 0, filters, samples.Folder, _ => { }, CancellationToken.None);
    }

    private sealed class CurvedVoice(IVoice voice, GainCurve curve) : IVoice
    {
        public Duration Length => voice.Length;

        public void Read(LessonTime from, Span<float> samples)
        {
            voice.Read(from, samples);
            curve.Apply(new TakeTime(from.Samples), samples);
        }
    }

    private static short[] Join(params short[][] parts) => [.. parts.SelectMany(p => p)];

    private static short[] Silence(double seconds) => new short[(int)(seconds * Clock.SampleRate)];

    [Fact]
    public async Task Copies_are_what_they_should_be_by_ffprobe()
    {
        var voice = Join(await SpeakAsync("An arch stands because every stone pushes on the next."), Silence(1));
        await WriteCopiesAsync(voice);

        foreach (var (file, codec) in new[] { ("voice.m4a", "aac"), ("voice.webm", "opus") })
        {
            var report = await samples.RunAsync(
                "ffprobe",
                "-v",
                "error",
                "-show_entries",
                "stream=codec_name,channels:format=duration",
                "-of",
                "default=nw=1",
                file);
            report.ShouldContain($"codec_name={codec}");
            report.ShouldContain("channels=1");
            var duration = double.Parse(Duration().Match(report).Groups[1].Value, CultureInfo.InvariantCulture);
            duration.ShouldBe((double)voice.Length / Clock.SampleRate, tolerance: 0.04);
        }
    }

    [Theory]
    [InlineData("voice.m4a")]
    [InlineData("voice.webm")]
    public async Task A_click_stays_where_it_was_in_the_decoded_copy(string file)
    {
        var voice = Silence(5);
        for (var second = 1; second < 5; second++)
        {
            for (var i = 0; i < 96; i++)
            {
                voice[(second * Clock.SampleRate) + i] = (short)(i % 12 < 6 ? 20_000 : -20_000);
            }
        }

        await WriteCopiesAsync(voice);
        var decoded = await voices.DecodeAsync(samples.Path(file), CancellationToken.None);
        for (var second = 1; second < 5; second++)
        {
            var from = (second * Clock.SampleRate) - 4800;
            var found = from + Array.FindIndex(decoded[from..(from + 9600)], s => Math.Abs((int)s) > 4000);

            // An AAC or Opus click spreads a little ahead of itself; 5 ms is a quarter of what is allowed for voice against ink.
            ((double)(found - (second * Clock.SampleRate)) / 48).ShouldBe(0, tolerance: 5);
        }
    }

    /// <summary>AES TD1008: speech at about -18 LUFS, within 0.5 LU; measured by ffmpeg's ebur128 on the decoded copy.</summary>
    [Fact]
    public async Task A_quiet_voice_is_published_at_the_level_of_speech()
    {
        var voice = await SpeakAsync("Weight alone would pull the stones apart. Thrust holds them together, from the keystone down to the "
            + "springing line, and the abutment takes it up.");
        for (var i = 0; i < voice.Length; i++)
        {
            voice[i] /= 8;
        }

        await WriteCopiesAsync(voice);
        foreach (var file in Voice.CopyNames)
        {
            var (lufs, peak) = await MeasureAsync(file);
            lufs.ShouldBe(VoiceLevel.TargetLufs, tolerance: 0.5);
            peak.ShouldBeLessThanOrEqualTo(VoiceLevel.HighestPeakDb);
        }
    }

    /// <summary>ffmpeg's ebur128 on the same file: within 0.1 LU and 0.3 dB.</summary>
    [Theory]
    [InlineData("narration")]
    [InlineData("noise")]
    [InlineData("tones")]
    public async Task Loudness_and_true_peak_agree_with_ffmpeg(string kind)
    {
        var random = new Random(7);
        var sound = kind switch
        {
            "narration" => Join(await SpeakAsync("Every stone leans on the next."), Silence(4), await SpeakAsync("So the arch stands, and stays.")),
            "noise" => [.. Enumerable.Range(0, 8 * Clock.SampleRate).Select(i => (short)random.Next(-9000, 9001))],
            _ => Enumerable.Range(0, 8 * Clock.SampleRate)
                .Select(i => (short)(9000 * (Math.Sin(i * 0.71) + Math.Sin((i * 1.57) + 0.8) + Math.Sin(i * 0.013)))).ToArray(),
        };
        var meter = new TakeMeter();
        meter.Add(sound);
        Sounds.WriteWav(samples.Path("v.wav"), sound);
        var (lufs, peak) = await MeasureAsync("v.wav");

        meter.Measures().Loudness!.Value.ShouldBe(lufs, 0.1);
        TruePeak.Decibels(meter.Measures().TruePeak).ShouldBe(peak, 0.3);
    }

    // Which ffmpeg reads as students hear it, from two speakers.
    private async Task<(double Lufs, double PeakDb)> MeasureAsync(string file)
    {
        var report = await samples.RunAsync(
            "ffmpeg", "-nostdin", "-hide_banner", "-i", file, "-af", "ebur128=dualmono=true:peak=true", "-f", "null", "-");
        double Last(string name) => double.Parse(
            Regex.Matches(report, name + @":\s+(-?[\d.]+) ", RegexOptions.None, TimeSpan.FromSeconds(1))[^1].Groups[1].Value,
            CultureInfo.InvariantCulture);
        return (Last("I"), Last("Peak"));
    }

    private static double PowerAt(ReadOnlySpan<short> sound, double hertz)
    {
        double sine = 0, cosine = 0;
        for (var i = 0; i < sound.Length; i++)
        {
            sine += sound[i] * Math.Sin(2 * Math.PI * hertz * i / Clock.SampleRate) / sound.Length;
            cosine += sound[i] * Math.Cos(2 * Math.PI * hertz * i / Clock.SampleRate) / sound.Length;
        }

        return 10 * Math.Log10((sine * sine) + (cosine * cosine) + 1e-6);
    }

    [Fact]
    public async Task Hum_and_rumble_go_and_noise_is_lower_while_the_voice_stays_where_it_was()
    {
        var random = new Random(9);
        var spoken = Join(Silence(3), await SpeakAsync("Every stone of an arch leans on its neighbour, and the keystone is set last."), Silence(4));
        var sound = spoken.Select((s, i) => (short)(s
            + (300 * (Math.Sin(2 * Math.PI * 50 * i / 48_000.0) + Math.Sin(2 * Math.PI * 150 * i / 48_000.0)))
            + (500 * Math.Sin(2 * Math.PI * 23 * i / 48_000.0)) + random.Next(-60, 61))).ToArray();
        var meter = new TakeMeter();
        meter.Add(sound);
        var measures = meter.Measures();
        var filters = VoiceFilters.Of(new VoiceSettings(RumbleOut: true, HumOut: true, NoiseLower: true), measures.Hum, measures.NoiseFloorDb);
        var voice = Sounds.AsVoice(sound);
        var all = new TimeRange<LessonTime>(LessonTime.Zero, LessonTime.Zero + voice.Length);
        var plain = await voices.HearAsync(voice, all, 0, "", CancellationToken.None);
        var cleaned = await voices.HearAsync(voice, all, 0, filters, CancellationToken.None);

        plain[..(2 * Clock.SampleRate)].ShouldBe(sound[..(2 * Clock.SampleRate)], "nothing is done that wasn't asked for");
        var rest = cleaned.AsSpan(^(2 * Clock.SampleRate)..);
        var before = plain.AsSpan(^(2 * Clock.SampleRate)..);
        foreach (var (hertz, atLeast) in new[] { (50.0, 20), (150, 20), (23, 12) })
        {
            (PowerAt(before, hertz) - PowerAt(rest, hertz)).ShouldBeGreaterThan(atLeast, $"{hertz} Hz");
        }

        (NoiseOf(before) - NoiseOf(rest)).ShouldBeGreaterThan(6);
        (LoudnessOf(cleaned) - LoudnessOf(spoken)).ShouldBe(0, 0.7);
        BestShift(spoken, cleaned).ShouldBe(0, 48, "nothing comes later for being filtered: at most 1 ms");
    }

    // Of what lies above the hum, in dB.
    private static double NoiseOf(ReadOnlySpan<short> sound)
    {
        double sum = 0;
        for (var i = 1; i < sound.Length; i++)
        {
            sum += Math.Pow(sound[i] - sound[i - 1], 2);
        }

        return 10 * Math.Log10((sum / sound.Length) + 1e-3);
    }

    private static double LoudnessOf(short[] sound)
    {
        var meter = new TakeMeter();
        meter.Add(sound);
        return meter.Measures().Loudness!.Value;
    }

    // By how many samples the second comes later, by their correlation.
    private static double BestShift(short[] first, short[] second) => Enumerable.Range(-1500, 3001).MaxBy(shift =>
    {
        double sum = 0;
        for (var i = 4 * Clock.SampleRate; i < 6 * Clock.SampleRate; i += 3)
        {
            sum += (double)first[i] * second[i + shift];
        }

        return sum;
    });

    /// <summary>What the programs hold is theirs; here nothing grows with the length of a voice.</summary>
    [Fact]
    public async Task Ten_minutes_are_encoded_without_being_held()
    {
        var voice = Sounds.Made(600, at => (float)(0.2 * Math.Sin(at * (0.01 + (at % 480_000 / 1e9)))));
        var before = GC.GetTotalMemory(forceFullCollection: true);
        var growths = new List<long>();
        var next = 0.05;
        var made = await voices.WriteCopiesAsync(voice, 0, "", samples.Folder, done =>
        {
            if (done > next)
            {
                next = done + 0.05;
                growths.Add(GC.GetTotalMemory(forceFullCollection: true) - before);
            }
        }, CancellationToken.None);

        growths.Count.ShouldBeGreaterThan(10);
        growths.Max().ShouldBeLessThan(12 << 20, "ten minutes of samples are 58 MB");
        made.Lufs.ShouldNotBeNull();
        new FileInfo(samples.Path("voice.m4a")).Length.ShouldBeGreaterThan(1 << 20);
    }

    [Fact]
    public async Task Encoding_that_is_cancelled_or_fails_ends_at_once_and_leaves_nothing()
    {
        using var cancel = new CancellationTokenSource();
        var voice = Sounds.Made(3600, at => (float)(0.2 * Math.Sin(at * 0.02)));
        await Should.ThrowAsync<OperationCanceledException>(() => voices.WriteCopiesAsync(
            voice, 0, "highpass=f=70", samples.Folder, _ => cancel.Cancel(), cancel.Token));
        Directory.GetFileSystemEntries(samples.Folder).ShouldBeEmpty();

        await Should.ThrowAsync<Exception>(() => voices.WriteCopiesAsync(
            voice, 0, "nosuchfilter", samples.Folder, _ => { }, CancellationToken.None));
        Directory.GetFileSystemEntries(samples.Folder).ShouldBeEmpty();
        await Should.ThrowAsync<InvalidOperationException>(() => voices.WriteCopiesAsync(
            Sounds.Made(60, at => at > 900_000 ? throw new InvalidOperationException("The journal is gone.") : 0.1f),
            0, "", samples.Folder, _ => { }, CancellationToken.None));
        Directory.GetFileSystemEntries(samples.Folder).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_wav_file_is_read_back_by_ffmpeg()
    {
        var voice = Enumerable.Range(0, 5000).Select(i => (short)i).ToArray();
        Sounds.WriteWav(samples.Path("v.wav"), voice);

        (await voices.DecodeAsync(samples.Path("v.wav"), CancellationToken.None)).ShouldBe(voice);
    }

    [Fact]
    public async Task Silence_is_left_as_it_is_and_still_becomes_both_copies()
    {
        await WriteCopiesAsync(new short[48_000]);
        foreach (var file in new[] { "voice.m4a", "voice.webm" })
        {
            var decoded = await voices.DecodeAsync(samples.Path(file), CancellationToken.None);
            decoded.Length.ShouldBeGreaterThan(47_000);
            decoded.ShouldAllBe(sample => Math.Abs((int)sample) < 8);
        }
    }

    [GeneratedRegex(@"duration=([\d.]+)", RegexOptions.None, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Duration();
}
