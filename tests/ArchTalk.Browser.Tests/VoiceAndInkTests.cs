using System.Diagnostics;
using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using ArchTalk.Media;

namespace ArchTalk.Browser.Tests;

/// <summary>
/// Voice against ink after record, encode, publish and play. ITU-R BT.1359-1 puts the detectability of picture against sound
/// at 45 ms early and 125 ms late (from memory); ours must agree within 20 ms.
/// </summary>
public sealed class VoiceAndInkTests(ITestOutputHelper output, SharedServer shared) : IDisposable
{
    private const int Wanted = 20;
    private const double MostMs = 20;

    // A second way to hear the microphone, past our recorder: the frames of a clone of its track, stamped by the browser.
    // The offset of those stamps to the page's clock is the least lateness with which frames arrived; the sound was in the
    // air earlier by the latency that the track states.
    private const string Listener =
        """
        const open = navigator.mediaDevices.getUserMedia.bind(navigator.mediaDevices);
        navigator.mediaDevices.getUserMedia = async (wanted) => {
          const stream = await open(wanted);

          // Only the stream opened last is the one that is recorded.
          const heard = window.heard = { clicks: [], offset: Infinity };
          const track = stream.getAudioTracks()[0].clone();
          const latency = (track.getSettings().latency ?? 0) * 1000;
          const reader = new MediaStreamTrackProcessor({ track }).readable.getReader();
          (async () => {
            let last = -Infinity;
            for (let frames = 0; ; frames++) {
              const { value, done } = await reader.read();
              if (done) return;
              const now = performance.now(), stamp = value.timestamp / 1000, length = value.numberOfFrames;
              const samples = new Float32Array(length);
              value.copyTo(samples, { planeIndex: 0, format: 'f32-planar' });
              const perMs = value.sampleRate / 1000;
              value.close();
              if (frames < 20) continue;
              heard.offset = Math.min(heard.offset, now - stamp);
              for (let i = 0; i < length; i++) {
                const at = stamp - (length - i) / perMs - latency;
                if (Math.abs(samples[i]) > 0.3) {
                  if (at - last > 300) heard.clicks.push(at);
                  last = at;
                }
              }
            }
          })();
          return stream;
        };
        """;

    // A browser that doesn't give out a track's frames, and whose audio runs at another rate than the journal.
    private const string NoFrames =
        """
        const Frames = window.MediaStreamTrackProcessor, Context = window.AudioContext;
        delete window.MediaStreamTrackProcessor;
        window.AudioContext = class extends Context { constructor(options) { super({ ...options, sampleRate: 32000 }); } };
        """;

    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    [Fact]
    public async Task Deterministic_strokes_stamped_at_the_clicks_are_born_with_them()
    {
        var server = await shared.StartedAsync();
        using var browser = await OpenAsync(Listener);
        var teacher = Begin(browser, server.Address);
        await TapAtClicksAsync(browser, Wanted, _ => Task.CompletedTask);
        foreach (var (name, differences) in await PublishedDifferencesAsync(browser, teacher))
        {
            differences.Max(Math.Abs).ShouldBeLessThanOrEqualTo(MostMs, $"{name}: every stroke is born within {MostMs} ms of its click");
        }
    }

    /// <summary>The sound waits while the worker stands still, and lies where it was said.</summary>
    [Fact]
    public async Task While_the_worker_is_held_up_every_stroke_stays_with_its_click()
    {
        const int Strokes = 15;
        int[] heldMs = [150, 500, 2000, 500, 2000];
        var server = await shared.StartedAsync();
        using var browser = await OpenAsync(Listener);
        var teacher = Begin(browser, server.Address);
        using var worker = await Worker.OfAsync(browser.Driver);
        var holds = Task.CompletedTask;
        await TapAtClicksAsync(browser, Strokes, async drawn =>
        {
            if (drawn % 3 == 1)
            {
                await holds;
                holds = worker.HoldAsync(heldMs[drawn / 3]);
            }
        });
        await holds;
        await Task.Delay(1200);
        teacher.Finish();
        ShouldBeTogether(teacher, Strokes, "worker held for 0.15, 0.5 and 2 s");
    }

    [Fact]
    public async Task Through_the_audio_worklet_at_another_rate_strokes_are_born_with_their_clicks()
    {
        const int Strokes = 12;
        var server = await shared.StartedAsync();
        using var browser = await OpenAsync(NoFrames + Listener.Replace("new MediaStreamTrackProcessor", "new Frames", StringComparison.Ordinal));
        var teacher = Begin(browser, server.Address);
        browser.Script<bool>("return 'MediaStreamTrackProcessor' in window").ShouldBeFalse();
        await TapAtClicksAsync(browser, Strokes, _ => Task.CompletedTask);
        await Task.Delay(1200);
        teacher.Finish();
        ShouldBeTogether(teacher, Strokes, "audio worklet at 32 kHz");
    }

    // In the take as it was journalled: what is missing is missing there, and nothing lies beside its click.
    private void ShouldBeTogether(TeacherSession teacher, int strokes, string name)
    {
        var journal = shared.JournalOf(teacher);
        var take = Takes.Log(journal);
        List<double> births = [.. take.Actions.OfType<StrokeDrawn>().Select(s => (double)s.At.Samples / Clock.SamplesPerMillisecond)];
        births.Count.ShouldBe(strokes);
        var differences = Differences(births, ClickFinder.Find(Takes.Blocks(Takes.Bytes(journal))));
        Report($"{name}, {take.Sound.Where(s => s.IsMissing).Sum(s => s.Length.Milliseconds)} ms missing", differences);
        differences.Max(Math.Abs).ShouldBeLessThanOrEqualTo(MostMs, name);
    }

    // A little after each click was heard, pen events are dispatched that carry the click's own time.
    private async Task TapAtClicksAsync(Chromium browser, int wanted, Func<int, Task> afterEach)
    {
        var drawn = 0;
        var deadline = Stopwatch.StartNew();
        while (drawn < wanted && deadline.Elapsed < TimeSpan.FromSeconds(90))
        {
            var clicks = Clicks(browser).Where(c => c > startedAt).ToArray();
            if (clicks.Length > drawn)
            {
                Tap(browser, drawn, clicks[drawn] / 1000 + (TimeOrigin(browser) / 1000));
                drawn++;
                await afterEach(drawn);
            }
            else
            {
                await Task.Delay(100);
            }
        }

        drawn.ShouldBe(wanted);
    }

    [Fact]
    public async Task Live_strokes_are_born_with_the_sound_of_the_moment()
    {
        var server = await shared.StartedAsync();
        using var browser = await OpenAsync(Listener);
        var teacher = Begin(browser, server.Address);
        await Task.Delay(2500);

        // The clicks come every second; the next is known from those heard, and the pen goes down just then.
        for (var i = 0; i < Wanted; i++)
        {
            var last = Clicks(browser)[^1];
            var asked = Stopwatch.GetTimestamp();
            var now = browser.Script<double>("return performance.now()");
            var read = Stopwatch.GetTimestamp() - ((Stopwatch.GetTimestamp() - asked) / 2);
            var next = last + (1000 * (Math.Floor((now + 150 - last) / 1000) + 1));
            while (now + Stopwatch.GetElapsedTime(read).TotalMilliseconds < next)
            {
                Thread.SpinWait(200);
            }

            Tap(browser, i, null);
        }

        foreach (var (name, differences) in await PublishedDifferencesAsync(browser, teacher))
        {
            Math.Abs(differences.Order().ElementAt(differences.Count / 2)).ShouldBeLessThanOrEqualTo(MostMs, $"{name}: the median");
        }
    }

    /// <summary>Ends the take, publishes it, and compares every stroke with its click in each of the files.</summary>
    private async Task<List<(string Name, List<double> Differences)>> PublishedDifferencesAsync(Chromium browser, TeacherSession teacher)
    {
        await Task.Delay(1200);
        teacher.Finish();
        var (timeline, address) = await TeacherSession.ReadPublishedAsync(teacher.Publish());
        var births = Births(timeline);
        births.Count.ShouldBe(Wanted);
        var all = new List<(string, List<double>)>();
        foreach (var (name, clicks) in await ClickFinder.InPublishedAsync(browser, files, address))
        {
            var differences = Differences(births, clicks);
            Report(name, differences);
            all.Add((name, differences));
        }

        return all;
    }

    private double startedAt;
    private System.Drawing.Point canvas;

    private async Task<Chromium> OpenAsync(string script)
    {
        var browser = new Chromium(files.Clicks(60));
        browser.Before(script);
        return browser;
    }

    private TeacherSession Begin(Chromium browser, string server)
    {
        var teacher = TeacherSession.BeginTake(browser, server);
        teacher.UntilRecorded(1);
        canvas = browser.Find("canvas").Location;
        startedAt = browser.Script<double>("return performance.now()");
        return teacher;
    }

    /// <summary>The clicks heard so far, in the page's clock.</summary>
    private static double[] Clicks(Chromium browser)
    {
        var heard = browser.Script<string>(
            "return JSON.stringify({ ...window.heard, clicks: window.heard.clicks.map(c => c + window.heard.offset) })");
        using var json = JsonDocument.Parse(heard);
        return [.. json.RootElement.GetProperty("clicks").EnumerateArray().Select(c => c.GetDouble())];
    }

    private static double TimeOrigin(Chromium browser) => browser.Script<double>("return performance.timeOrigin");

    /// <summary>A short stroke with the pen; with a time in seconds since 1970 the events carry it, otherwise the present.</summary>
    private void Tap(Chromium browser, int index, double? at)
    {
        var x = canvas.X + 40 + (index % 10 * 70);
        var y = canvas.Y + 60 + (index / 10 * 120);
        void Send(string type, int dx, int buttons, double later)
        {
            var command = new Dictionary<string, object?>
            {
                ["type"] = type,
                ["x"] = x + dx,
                ["y"] = y,
                ["button"] = "left",
                ["buttons"] = buttons,
                ["clickCount"] = 1,
                ["pointerType"] = "pen",
                ["force"] = 0.5,
            };
            if (at is { } seconds)
            {
                command["timestamp"] = seconds + later;
            }

            browser.Driver.ExecuteCdpCommand("Input.dispatchMouseEvent", command);
        }

        Send("mousePressed", 0, 1, 0);
        Send("mouseMoved", 20, 1, 0.03);
        Send("mouseMoved", 40, 1, 0.06);
        Send("mouseReleased", 40, 0, 0.07);
    }

    private static List<double> Births(LessonTimeline timeline) => [.. timeline.Boards[0].Strokes.Select(s => s.Birth.Milliseconds)];

    /// <summary>For each stroke, its birth less the nearest click, in ms: negative when the ink is early.</summary>
    private static List<double> Differences(List<double> births, List<double> clicks) =>
        [.. births.Select(b => b - clicks.MinBy(c => Math.Abs(b - c)))];

    private void Report(string name, List<double> differences)
    {
        var sorted = differences.Order().ToArray();
        var text = $"{name}: ink minus voice, ms: least {TestFiles.Number(sorted[0])}, median {TestFiles.Number(sorted[sorted.Length / 2])}, most "
            + $"{TestFiles.Number(sorted[^1])}; all: {string.Join(' ', sorted.Select(TestFiles.Number))}";
        output.WriteLine(text);
        Console.WriteLine(text);
    }
}
