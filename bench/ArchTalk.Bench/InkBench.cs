using System.Globalization;
using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Demo;
using ArchTalk.Tests;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Recording;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace ArchTalk.Bench;

/// <summary>
/// Record with 5,000 strokes on the board, in Chromium: from a pointer event to the painted pixel, sliding and closing in, an
/// erasure and an undo; and what a page at rest paints. Canvases are read back, since script time alone hides the raster.
/// </summary>
internal static class InkBench
{
    private const int Strokes = 5000;
    private static readonly CancellationToken None = CancellationToken.None;

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("archtalk-bench-").FullName;
        await DemoBuilder.BuildAsync(folder, Repository.Root);
        var lesson = await FillAsync(folder);
        await using var server = new Server(folder);
        await server.StartAsync();
        using var browser = new Chromium();
        browser.SignIn(server.Address, "teacher@example.org", "keystone and thrust");
        var link = browser.Find("a[href*='/w/']").GetAttribute("href")!;
        browser.Go($"{server.Address}{lesson}");
        browser.Until(
            () => browser.Driver.FindElements(OpenQA.Selenium.By.XPath("//button[contains(., 'Start recording')]")).Any(b => b.Enabled),
            "the boards",
            60);
        Thread.Sleep(4000);
        var empty = Empty(browser);
        var frame = Measure.Median(empty);

        var pen = Times(browser, Pen);
        Measure.Say($"pen on a board of {Strokes} strokes: event to painted pixel median {Measure.Median(pen):0.0} ms; an empty canvas's frame "
            + $"{frame:0.0} ms; ratio {Measure.Median(pen) / frame:0.00}");
        foreach (var (name, script) in new[] { ("sliding", Slide), ("closing in", CloseIn) })
        {
            var times = Times(browser, script);
            Measure.Say($"{name}: median {Measure.Median(times):0.0} ms, 95th percentile {Percentile(times, 0.95):0.0} ms; the empty canvas's 95th "
                + $"percentile {Percentile(empty, 0.95):0.0} ms");
        }

        foreach (var (name, script) in new[] {
            ("undo of one stroke", DrawAndUndo),
            ("one touch of the eraser, which takes several strokes here", Erase),
            ("its undo", Undo) })
        {
            var times = Times(browser, script);
            Measure.Say($"{name}: script and raster median {Measure.Median(times):0.0} ms, longest {times.Max():0.0} ms");
        }

        Measure.Say($"Record at rest: {browser.ScriptAsync<double>(PaintsInTenSeconds):0} drawing calls in ten seconds");
        browser.Go(link);
        browser.Until(() => browser.Driver.FindElements(OpenQA.Selenium.By.CssSelector(".seek-mark")).Count > 0, "the lesson");
        browser.Script("document.querySelector('audio').currentTime = 45");
        Thread.Sleep(2000);
        Measure.Say($"Watch paused, the pointer shown: {browser.ScriptAsync<double>(PaintsInTenSeconds):0} drawing calls in ten seconds");
        browser.Script("document.querySelector('audio').play()");
        Measure.Say($"Watch playing: the page's own thread is busy for {Busy(browser):0} % of the time");
        browser.Go($"{server.Address}{lesson}");
        browser.Click("Start recording");
        browser.Until(() => browser.Script<bool>("return document.body.classList.contains('is-taking')"), "the recording");
        Thread.Sleep(5000);
        Measure.Say($"Record while it records and nobody draws: busy for {Busy(browser):0} %");
        Directory.Delete(folder, recursive: true);
    }

    private static double Busy(Chromium browser)
    {
        const int Seconds = 10;
        double Worked()
        {
            var answer = (Dictionary<string, object>)browser.Driver.ExecuteCdpCommand("Performance.getMetrics", [])!;
            var metrics = ((IEnumerable<object>)answer["metrics"]).Cast<Dictionary<string, object>>();
            return Convert.ToDouble(metrics.Single(m => (string)m["name"] == "TaskDuration")["value"], CultureInfo.InvariantCulture);
        }

        browser.Driver.ExecuteCdpCommand("Performance.enable", []);
        var before = Worked();
        Thread.Sleep(Seconds * 1000);
        return 100 * (Worked() - before) / Seconds;
    }

    private static double[] Times(Chromium browser, string script) =>
        JsonSerializer.Deserialize<double[]>(browser.ScriptAsync<string>(Common + script))!;

    private static double[] Empty(Chromium browser) => JsonSerializer.Deserialize<double[]>(browser.ScriptAsync<string>(Common + EmptyCanvas))!;

    private static double Percentile(double[] values, double share) =>
        values.Order().ElementAt((int)Math.Min(values.Length - 1, values.Length * share));

    private const string Common =
        """
        const done = arguments[0];
        const canvas = document.querySelector('canvas');
        const box = canvas.getBoundingClientRect();
        const readBack = () => canvas.getContext('2d').getImageData(0, 0, 1, 1);
        const twoFrames = () => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
        const rest = (ms) => new Promise((r) => setTimeout(r, ms));
        canvas.setPointerCapture = () => {};
        const pointer = (type, x, y) => canvas.dispatchEvent(new PointerEvent(type, { bubbles: true, pointerId: 9, pointerType: 'pen',
          isPrimary: true, button: 0, buttons: 1, pressure: 0.5, clientX: box.left + x * box.width, clientY: box.top + y * box.height }));
        const each = async (count, deed) => { const times = []; for (let i = 0; i < count; i++) { const start = performance.now(); deed(i);
          await twoFrames(); readBack(); times.push(performance.now() - start); } return times; };
        // The time of the handlers and of the page's own frame, with the raster forced at its end.
        const work = async (deed) => {
          let spent = 0;
          const ask = window.requestAnimationFrame;
          window.requestAnimationFrame = (f) => ask((t) => { const start = performance.now(); f(t); readBack();
            spent += performance.now() - start; });
          const start = performance.now();
          deed();
          spent += performance.now() - start;
          window.requestAnimationFrame = ask;
          await twoFrames();
          return spent;
        };
        """;

    private const string EmptyCanvas =
        """
        (async () => {
          const own = document.createElement('canvas');
          [own.width, own.height] = [canvas.width, canvas.height];
          const context = own.getContext('2d');
          const times = [];
          for (let i = 0; i < 60; i++) { const start = performance.now(); await twoFrames(); context.fillRect(i, 0, 1, 1);
            context.getImageData(0, 0, 1, 1); times.push(performance.now() - start); }
          done(JSON.stringify(times));
        })();
        """;

    private const string Pen =
        """
        (async () => {
          pointer('pointerdown', 0.1, 0.1);
          const times = await each(80, (i) => pointer('pointermove', 0.1 + i * 0.01, 0.5 + 0.3 * Math.sin(i / 6)));
          pointer('pointerup', 0.9, 0.5);
          await rest(300);
          done(JSON.stringify(times));
        })();
        """;

    private const string Slide =
        """
        (async () => {
          for (let i = 0; i < 4; i++) canvas.dispatchEvent(new WheelEvent('wheel', { deltaY: -300, ctrlKey: true, bubbles: true,
            cancelable: true, clientX: box.left + 400, clientY: box.top + 200 }));
          await rest(1500);
          const times = await each(80, (i) => canvas.dispatchEvent(new WheelEvent('wheel', { deltaX: i < 40 ? 12 : -12, deltaY: i < 40 ? 9 : -9,
            bubbles: true, cancelable: true })));
          await rest(500);
          done(JSON.stringify(times));
        })();
        """;

    private const string CloseIn =
        """
        (async () => {
          const times = await each(80, (i) => canvas.dispatchEvent(new WheelEvent('wheel', { deltaY: i < 40 ? 20 : -20, ctrlKey: true,
            bubbles: true, cancelable: true, clientX: box.left + 400, clientY: box.top + 200 })));
          document.body.dispatchEvent(new KeyboardEvent('keydown', { key: '0', bubbles: true }));
          await rest(1500);
          done(JSON.stringify(times));
        })();
        """;

    private const string DrawAndUndo =
        """
        (async () => {
          const times = [];
          for (let i = 0; i < 20; i++) {
            const [x, y] = [0.1 + 0.035 * i, 0.2 + 0.5 * (i % 2)];
            pointer('pointerdown', x, y);
            for (let k = 1; k <= 20; k++) pointer('pointermove', x + 0.003 * k, y + 0.02 * Math.sin(k / 3));
            pointer('pointerup', x + 0.06, y);
            await rest(200);
            times.push(await work(() => document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, bubbles: true }))));
            await rest(150);
          }
          done(JSON.stringify(times));
        })();
        """;

    private const string Erase =
        """
        (async () => {
          document.body.dispatchEvent(new KeyboardEvent('keydown', { key: '3', bubbles: true }));
          await rest(300);
          const times = [];
          for (let i = 0; i < 20; i++) {
            const [x, y] = [0.15 + 0.035 * i, 0.3 + 0.4 * (i % 2)];
            times.push(await work(() => pointer('pointerdown', x, y)));
            pointer('pointerup', x, y);
            await rest(150);
          }
          done(JSON.stringify(times));
        })();
        """;

    private const string Undo =
        """
        (async () => {
          const times = [];
          for (let i = 0; i < 20; i++) {
            times.push(await work(() => document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, bubbles: true }))));
            await rest(150);
          }
          done(JSON.stringify(times));
        })();
        """;

    private const string PaintsInTenSeconds =
        """
        const done = arguments[0];
        let calls = 0;
        const proto = CanvasRenderingContext2D.prototype;
        for (const name of ['fill', 'stroke', 'fillRect', 'drawImage', 'clearRect', 'fillText']) {
          const own = proto[name];
          proto[name] = function (...all) { calls++; return own.apply(this, all); };
        }
        setTimeout(() => done(calls), 10_000);
        """;

    private static async Task<string> FillAsync(string folder)
    {
        var services = new ServiceCollection();
        services.AddLogging();
        services.AddArchTalkServices(new ArchTalkOptions { DataFolder = folder }, folder, Path.Combine(Repository.Web, "wwwroot/app/fonts"));
        await using var provider = services.BuildServiceProvider();
        await using var scope = provider.CreateAsyncScope();
        var teacher = await scope.ServiceProvider.GetRequiredService<ArchTalkDb>().Users.Select(u => u.Id).SingleAsync();
        var lesson = await scope.ServiceProvider.GetRequiredService<LessonService>().CreateAsync(teacher, "Many strokes", null, None);
        var board = await scope.ServiceProvider.GetRequiredService<BoardService>().AddEmptyAsync(lesson.Id, "Full board", None);
        var recording = scope.ServiceProvider.GetRequiredService<RecordingService>();
        var take = await recording.StartAsync(lesson.Id, None);
        var builder = new JournalBuilder().Segment(new SegmentStart(0, Clock.SampleRate, 0, "Bench", false, false, false))
            .Audio(0, 0, new short[48_000])
            .Anchors(0, new ClockAnchor(0, 0), new ClockAnchor(48_000, 1000))
            .Events(0, new BoardShown(0, board.Id));
        var random = new Random(3);
        for (var s = 1; s <= Strokes; s++)
        {
            builder.Events(
                0,
                new StrokeBegun(s, board.Id, "pen", "blue-black", "medium"),
                new StrokePoints(s, LargeLesson.Curve(random, s * 0.1, 0.05)),
                new StrokeEnded(s, s * 0.1));
        }

        var records = builder.End().Records;
        foreach (var batch in records.Chunk(500))
        {
            byte[] bytes = [.. batch.SelectMany(r => r.ToBytes())];
            await recording.AppendAsync((await recording.AdmitAsync(take.Take, take.Token, None))!, take.Token, bytes, None);
        }

        return $"/lessons/{lesson.Id:N}/record";
    }
}
