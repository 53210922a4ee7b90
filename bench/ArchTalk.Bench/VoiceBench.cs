using System.Diagnostics;
using System.Net.Http.Headers;
using System.Runtime.InteropServices;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Time;
using CliWrap;

namespace ArchTalk.Bench;

/// <summary>An hour of speech: measured, heard, made ready and published, against ffmpeg doing the same; and memory.</summary>
internal static class VoiceBench
{
    private const int Hour = 3600;
    private static readonly string[] Raw = ["-nostdin", "-v", "error", "-y", "-f", "s16le", "-ar", "48000", "-ac", "1", "-i"];

    public static async Task RunAsync()
    {
        using var files = new TestFiles();
        var hour = await SpeechAsync(files);
        await MeasuresAsync(hour);
        var server = new Server(files.Path("data"));
        await using (server)
        {
            await server.StartAsync();
            using var teacher = await TeacherAtWork.FirstAsync(server);
            var one = await PublishAsync(files, teacher, hour, Hour);
            await PreviewAsync(server, teacher, one);
        }

        await using (server = new Server(files.Path("data2")))
        {
            await server.StartAsync();
            using var teacher = await TeacherAtWork.FirstAsync(server);
            await PublishAsync(files, teacher, hour, 2 * Hour);
        }

        await using (server = new Server(files.Path("data5")))
        {
            await server.StartAsync();
            await OpenAsync(server, hour);
        }
    }

    // Ten minutes of a synthetic voice with pauses of all lengths over a quiet room, six times.
    private static async Task<string> SpeechAsync(TestFiles files)
    {
        string[] sentences =
        [
            "Every stone of an arch leans on its neighbour.", "The keystone is set last, and it locks all the others.",
            "The thrust goes down to the abutments on either side.", "Half of this force goes left, and half of it goes right.",
            "A chain hangs in the same curve, turned upside down.",
        ];
        var spoken = new List<short[]>();
        foreach (var sentence in sentences)
        {
            await Cli.Wrap("espeak-ng").WithArguments(["-v", "en-gb", "-s", "150", "-w", files.Path("s.wav"), sentence]).ExecuteAsync();
            spoken.Add(await TestFiles.Voice.DecodeAsync(files.Path("s.wav"), CancellationToken.None));
        }

        var random = new Random(1);
        var minutes = new List<short>();
        while (minutes.Count < 600 * Clock.SampleRate)
        {
            minutes.AddRange(spoken[random.Next(spoken.Count)]);
            minutes.AddRange(new short[(int)(Clock.SampleRate * 3 * random.NextDouble() * random.NextDouble())]);
        }

        var path = files.Path("hour.raw");
        await using var file = File.Create(path);
        var ten = minutes.Take(600 * Clock.SampleRate).Select(s => (short)Math.Clamp((s / 2) + random.Next(-30, 31), short.MinValue, short.MaxValue))
            .ToArray();
        for (var i = 0; i < 6; i++)
        {
            file.Write(MemoryMarshal.AsBytes(ten.AsSpan()));
        }

        return path;
    }

    private static async Task MeasuresAsync(string hour)
    {
        var (ours, theirs) = (new List<double>(), new List<double>());
        for (var i = 0; i < 3; i++)
        {
            theirs.Add(await TimeAsync(() => FfmpegAsync([.. Raw, hour, "-af", "ebur128,silencedetect", "-f", "null", "-"])));
            ours.Add(await TimeAsync(() => Task.Run(() => MeasureWhole(hour))));
        }

        var (mine, reference) = (Measure.Median(ours), Measure.Median(theirs));
        Measure.Say($"All measures of 60 minutes in one pass: {mine:0.0} s; ffmpeg's ebur128,silencedetect on the same file {reference:0.0} s "
            + $"(ratio {mine / reference:0.00})");
    }

    private static void MeasureWhole(string path)
    {
        using var file = File.OpenRead(path);
        var meter = new TakeMeter();
        var buffer = new byte[Clock.SampleRate];
        for (int read; (read = file.Read(buffer)) > 0;)
        {
            meter.Add(MemoryMarshal.Cast<byte, short>(buffer.AsSpan(0, read)));
        }

        meter.Measures();
    }

    private static async Task<Guid> PublishAsync(TestFiles files, TeacherAtWork teacher, string hour, int seconds)
    {
        var lesson = await teacher.CreateLessonAsync("An hour");
        var idle = teacher.Memory();
        var take = new TakeId(await teacher.RecordAsync(lesson, hour, seconds));
        var recorded = teacher.Memory();
        var highest = 0L;
        var whole = await teacher.PublishAsync(lesson, () => highest = Math.Max(highest, teacher.Memory()));
        var reference = await TimeAsync(() => Task.WhenAll(EncodersOf(files, hour, seconds, "")));
        Measure.Say($"Publish {seconds / 60} min: memory {idle} MB idle, {recorded} after recording, at most {highest} ({highest - idle} above "
            + $"idle); {whole:0.0} s; ffmpeg alone with the same codecs on two cores {reference:0.0} s (ratio {whole / reference:0.00})");
        if (seconds > Hour)
        {
            return lesson;
        }

        EditList Cut(double from) => new() { Cuts = [new(take, new(TakeTime.FromSeconds(from), TakeTime.FromSeconds(from + 4)))] };
        await teacher.CallAsync(HttpMethod.Put, $"/api/lessons/{lesson}/sections/Edits", new { content = Cut(100), version = 0 });
        var atOnce = await teacher.PublishAsync(lesson);
        await teacher.CallAsync(HttpMethod.Put, $"/api/lessons/{lesson}/sections/Edits", new { content = Cut(200), version = 1 });
        await Task.Delay(TimeSpan.FromSeconds(60));
        var later = await teacher.PublishAsync(lesson);
        Measure.Say($"Published at once after an edit {atOnce:0.0} s (ratio {atOnce / reference:0.00}); one minute after it {later:0.0} s (ratio "
            + $"{later / reference:0.00})");

        var all = new VoiceSettings(RumbleOut: true, HumOut: true, NoiseLower: true);
        await teacher.CallAsync(HttpMethod.Put, $"/api/lessons/{lesson}/sections/Voice", new { content = all, version = 0 });
        var filtered = await teacher.PublishAsync(lesson, () => highest = Math.Max(highest, teacher.Memory()));
        const string Filters = "highpass=f=70,apad=pad_len=1200,afftdn=nr=12:nf=-60,atrim=start_sample=1200,alimiter=limit=0.708:level=false";
        var filteredReference = await TimeAsync(() => Task.WhenAll(EncodersOf(files, hour, seconds, Filters)));
        Measure.Say($"With all filters {filtered:0.0} s; ffmpeg alone with the same filters and codecs on two cores {filteredReference:0.0} s (ratio "
            + $"{filtered / filteredReference:0.00}); memory at most {highest - idle} MB above idle");
        return lesson;
    }

    // As the application starts them: both beside each other.
    private static Task[] EncodersOf(TestFiles files, string hour, int seconds, string filters)
    {
        string[] chain = filters.Length == 0 ? [] : ["-af", filters];
        string[] input = [.. Raw[..4], "-stream_loop", "-1", .. Raw[4..], hour, "-t", $"{seconds}", .. chain];
        return
        [
            FfmpegAsync([.. input, .. Media.Voice.Aac, files.Path("reference.m4a")]),
            FfmpegAsync([.. input, .. Media.Voice.Opus, files.Path("reference.webm")]),
        ];
    }

    private static async Task PreviewAsync(Server server, TeacherAtWork teacher, Guid lesson)
    {
        async Task<double> FirstSoundAsync(double minutes)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, $"{server.Address}/lessons/{lesson}/voice.wav");
            var from = (long)(minutes * 60 * Clock.SampleRate * sizeof(short));
            request.Headers.Range = new RangeHeaderValue(from, null);
            var start = Stopwatch.GetTimestamp();
            using var answer = await teacher.Http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
            await using var body = await answer.Content.ReadAsStreamAsync();
            await body.ReadExactlyAsync(new byte[1 << 16]);
            return Stopwatch.GetElapsedTime(start).TotalMilliseconds;
        }

        var times = new List<double>();
        for (var i = 0; i < 40; i++)
        {
            times.Add(await FirstSoundAsync(30 + (i % 7)));
        }

        var content = new EditList();
        await teacher.CallAsync(HttpMethod.Put, $"/api/lessons/{lesson}/sections/Edits", new { content, version = 2 });
        var afterEdit = await FirstSoundAsync(30);
        Measure.Say($"First 64 kB of sound of a preview 30 minutes in: median {Measure.Median(times):0.0} ms, most {times.Max():0.0}; of an edit "
            + $"just made {afterEdit:0.0}");
    }

    private static async Task OpenAsync(Server server, string hour)
    {
        using var teacher = await TeacherAtWork.FirstAsync(server);
        var lessons = new List<Guid>();
        for (var i = 0; i < 5; i++)
        {
            lessons.Add(await teacher.CreateLessonAsync($"Hour {i}"));
            await teacher.RecordAsync(lessons[i], hour, Hour);
        }

        var recorded = teacher.Memory();
        var highest = 0L;
        await Task.WhenAll(lessons.Select(async lesson =>
        {
            await teacher.Http.GetStringAsync($"{server.Address}/lessons/{lesson}/refine");
            await teacher.CallAsync(HttpMethod.Get, $"/lessons/{lesson}/timeline.json");
            await teacher.CallAsync(HttpMethod.Get, $"/api/lessons/{lesson}/chapters/proposed");
            for (var part = 0; part < 20; part++)
            {
                using var request = new HttpRequestMessage(HttpMethod.Get, $"{server.Address}/lessons/{lesson}/voice.wav");
                request.Headers.Range = new RangeHeaderValue(part * 16_000_000L, (part * 16_000_000L) + 2_000_000);
                (await teacher.Http.SendAsync(request)).EnsureSuccessStatusCode();
                highest = Math.Max(highest, teacher.Memory());
            }
        }));
        Measure.Say($"Five lessons of an hour open at once: {recorded} MB after they were recorded, at most {highest} MB in all while their "
            + "timelines, chapters and voices are asked for at the same time");
    }

    private static async Task FfmpegAsync(params string[] arguments) => await Cli.Wrap("ffmpeg").WithArguments(arguments).ExecuteAsync();

    private static async Task<double> TimeAsync(Func<Task> work)
    {
        var start = Stopwatch.GetTimestamp();
        await work();
        return Stopwatch.GetElapsedTime(start).TotalSeconds;
    }
}
