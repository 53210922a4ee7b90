using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using CliWrap;

namespace ArchTalk.Bench;

/// <summary>
/// Draws the spectra of ten joins, to be looked at: speech over a room's noise, cut anywhere, the join in the middle of each picture. A
/// click would be a bright line from bottom to top.
/// </summary>
internal static class JoinsBench
{
    private const int Joins = 10;
    private const double Around = 0.4;

    public static async Task RunAsync()
    {
        using var files = new TestFiles();
        await Cli.Wrap("espeak-ng").WithArguments(
            ["-v", "en-gb", "-s", "150", "-w", files.Path("s.wav"), string.Concat(Enumerable.Repeat("Every stone leans on its neighbour. ", 20))])
            .ExecuteAsync();
        var random = new Random(4);
        var sound = (await TestFiles.Voice.DecodeAsync(files.Path("s.wav"), CancellationToken.None))
            .Select(s => (short)Math.Clamp(s + random.Next(-60, 61), short.MinValue, short.MaxValue)).ToArray();
        var take = Guid.NewGuid();
        var journal = new JournalBuilder().Segment(new SegmentStart(0, Clock.SampleRate, 0, "", false, false, false));
        for (var at = 0; at < sound.Length; at += 12_000)
        {
            journal.Audio(0, at, sound.AsSpan(at, Math.Min(12_000, sound.Length - at)));
        }

        using var bytes = new MemoryStream(journal.End().ToBytes(take));
        var log = TakeLog.Read(take, JournalReader.Open(bytes)!.Entries());
        var cuts = Enumerable.Range(0, Joins).Select(i => 2 + (i * 3) + random.NextDouble())
            .Select(at => new Cut(log.Id, new(TakeTime.FromSeconds(at), TakeTime.FromSeconds(at + 0.3 + random.NextDouble()))));
        var plan = VoicePlan.Of(Arrangement.Resolve([log], new EditList { Cuts = [.. cuts] }));
        var voice = new LessonVoice(plan, _ => new TakeVoice(bytes, log.Sound));
        var rows = new List<string>();
        foreach (var stretch in plan.Stretches.Skip(1))
        {
            rows.Add(files.Path($"join{rows.Count}.png"));
            await DrawAsync(files, voice, stretch.Target.Start, rows[^1]);
        }

        var target = Path.Combine(AppContext.BaseDirectory, "joins.png");
        string[] inputs = [.. rows.SelectMany(r => new[] { "-i", r })];
        await Cli.Wrap("ffmpeg").WithArguments(
            ["-v", "error", "-y", .. inputs, "-filter_complex", $"vstack=inputs={rows.Count}", target]).ExecuteAsync();
        Measure.Say($"The spectra of {rows.Count} joins, {Around * 1000:0} ms on either side, 0 to 24 kHz: {target}");
    }

    private static async Task DrawAsync(TestFiles files, IVoice voice, LessonTime join, string target)
    {
        var samples = new float[(int)(2 * Around * Clock.SampleRate)];
        voice.Read(new LessonTime(join.Samples - (samples.Length / 2)), samples);
        var rounded = new short[samples.Length];
        Pcm.To16Bit(samples, rounded);
        await using (var file = File.Create(files.Path("join.wav")))
        {
            file.Write(WavFile.Header(new Duration(rounded.Length)));
            file.Write(System.Runtime.InteropServices.MemoryMarshal.AsBytes(rounded.AsSpan()));
        }

        const string Spectrum = "showspectrumpic=s=800x140:legend=0:drange=90:win_func=hann";
        await Cli.Wrap("ffmpeg").WithArguments(["-v", "error", "-y", "-i", files.Path("join.wav"), "-lavfi", Spectrum, target]).ExecuteAsync();
    }
}
