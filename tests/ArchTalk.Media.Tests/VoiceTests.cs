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
        var report = await samples.RunAsync("ffmpeg", "-hide_banner", "-i", "voice.m4a", "-af", "ebur128=dualmono=true:peak=true", "-f", "null", "-");
        double Last(string name) => double.Parse(
            Regex.Matches(report, name + @":\s+(-?[\d.]+) ", RegexOptions.None, TimeSpan.FromSeconds(1))[^1].Groups[1].Value, CultureInfo
                .InvariantCulture);

        Last("I").ShouldBe(VoiceLevel.TargetLufs, tolerance: 0.5);
        Last("Peak").ShouldBeLessThanOrEqualTo(VoiceLevel.HighestPeakDb);
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
