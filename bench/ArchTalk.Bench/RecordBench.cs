using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;
using ArchTalk.Web.Recording;

namespace ArchTalk.Bench;

/// <summary>What recording costs: the server with ten takes at once, the line in a minute, the page and its worker in half an hour.</summary>
internal static class RecordBench
{
    private const int Takes = 10;
    private static readonly TimeSpan Together = TimeSpan.FromSeconds(30);

    public static async Task RunAsync()
    {
        await TenAtOnceAsync();
        await LongTakeAsync(int.TryParse(Environment.GetEnvironmentVariable("ARCHTALK_MINUTES"), out var minutes) ? minutes : 30);
    }

    private static async Task TenAtOnceAsync()
    {
        using var files = new TestFiles();
        await using var server = new Server(files.Path("data"));
        await server.StartAsync();
        using var browser = new Chromium();
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Ten at once");
        var lesson = new Uri(browser.Driver.Url).Segments[2].TrimEnd('/');
        var opened = Enumerable.Range(0, Takes).Select(_ => Start(browser, lesson)).ToArray();
        var (cpuBefore, writtenBefore) = Costs(server.ProcessId);
        var watch = Stopwatch.StartNew();
        var slowest = await Task.WhenAll(opened.Select(take => SendAsync(server.Address, take, watch)));
        var seconds = watch.Elapsed.TotalSeconds;
        var (cpu, written) = Costs(server.ProcessId);
        Measure.Say($"{Takes} takes at once for {seconds:0} s: server {(cpu - cpuBefore) / seconds * 100:0} % of one core, "
            + $"{(written - writtenBefore) / seconds / 1e6:0.0} MB/s to the disk ({Takes * 0.096:0.00} MB/s of sound), slowest answer "
                + $"{slowest.Max():0} ms");
    }

    private static OpenTake Start(Chromium browser, string lesson) =>
        JsonSerializer.Deserialize<OpenTake>(browser.Call("POST", $"/api/lessons/{lesson}/takes"), JsonSerializerOptions.Web)!;

    /// <summary>Four records of sound a second, one upload each; gives back the slowest answer in ms.</summary>
    private static async Task<double> SendAsync(string server, OpenTake take, Stopwatch watch)
    {
        using var http = new HttpClient();
        var builder = new JournalBuilder().Segment(new SegmentStart(0, 48_000, 0, "Bench", false, false, false));
        var (sent, slowest) = (0, 0.0);
        for (var i = 0; watch.Elapsed < Together; i++)
        {
            builder.Audio(0, i * 12_000L, new short[12_000]);
            using var request = new HttpRequestMessage(HttpMethod.Post, $"{server}/api/takes/{take.Take}/records");
            request.Content = new ByteArrayContent([.. builder.Records.Skip(sent).SelectMany(r => r.ToBytes())]);
            request.Headers.Add("X-Take-Token", take.Token);
            var begun = watch.Elapsed;
            (await http.SendAsync(request)).EnsureSuccessStatusCode();
            slowest = Math.Max(slowest, (watch.Elapsed - begun).TotalMilliseconds);
            sent = builder.Records.Count;
            var due = TimeSpan.FromMilliseconds((i + 1) * 250) - watch.Elapsed;
            await Task.Delay(due > TimeSpan.Zero ? due : TimeSpan.Zero);
        }

        return slowest;
    }

    /// <summary>Processor time in seconds and bytes written to the disk, of a process.</summary>
    private static (double Cpu, double Written) Costs(int process)
    {
        using var found = Process.GetProcessById(process);
        var written = File.ReadLines($"/proc/{process}/io").Single(l => l.StartsWith("write_bytes", StringComparison.Ordinal)).Split(' ')[1];
        return (found.TotalProcessorTime.TotalSeconds, double.Parse(written, CultureInfo.InvariantCulture));
    }

    private static async Task LongTakeAsync(int minutes)
    {
        using var files = new TestFiles();
        await using var server = new Server(files.Path("data"));
        await server.StartAsync();
        using var wire = new Wire(server.Port);
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = new TeacherSession(browser, wire.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Half an hour");
        teacher.AddEmptyBoard(1);
        teacher.OpenRecord();
        teacher.StartRecording();
        using var worker = await Worker.OfAsync(browser.Driver);
        var sent = wire.Sent;
        for (var minute = 1; minute <= minutes; minute++)
        {
            teacher.Draw((0.1, 0.02 * (minute % 45)), (0.9, 0.02 * (minute % 45)));
            await Task.Delay(TimeSpan.FromMinutes(minute) - TimeSpan.FromSeconds(teacher.RecordedSeconds()));
            if (minute == 1)
            {
                Measure.Say($"a minute of recording with one stroke sends {(wire.Sent - sent) / 1e6:0.00} MB ({60 * 0.096:0.00} MB of them sound)");
            }

            if (minute is 1 or 5 || minute % 5 == 0)
            {
                browser.Driver.ExecuteCdpCommand("HeapProfiler.collectGarbage", []);
                var page = (Dictionary<string, object>)browser.Driver.ExecuteCdpCommand("Runtime.getHeapUsage", [])!;
                Measure.Say($"minute {minute}: page {Convert.ToDouble(page["usedSize"], CultureInfo.InvariantCulture) / 1e6:0.0} MB, worker "
                    + $"{await worker.UsedBytesAsync() / 1e6:0.0} MB");
            }
        }

        teacher.Finish();
    }
}
