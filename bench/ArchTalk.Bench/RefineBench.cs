using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Tests;

namespace ArchTalk.Bench;

/// <summary>
/// Refine with a lesson of 60 minutes (or as many as <c>ARCHTALK_MINUTES</c> says) on 20 boards with 20,000 strokes: opening it, the
/// proposals, edits until their sound and picture are there, and frames while the rows are scrolled and brought closer.
/// </summary>
internal static class RefineBench
{
    private const int Boards = 20;
    private const int StrokesAMinute = 333;
    private const int Edits = 12;

    private const string Opened =
        """
        const [done] = arguments;
        const look = () => {
          const covered = [...document.querySelectorAll('.stage-cover')].some((c) => c.offsetParent);
          const rows = document.querySelector('.refine-canvas canvas');
          const hasRows = rows && rows.width > 300 && rows.getContext('2d').getImageData(0, 140, 200, 1).data.some((v) => v > 0);
          if (!covered && hasRows) { done(performance.now()); } else { requestAnimationFrame(look); }
        };
        look();
        """;

    private const string Proposed = "const [address, done] = arguments; const t = performance.now();"
        + "fetch(address).then((r) => r.json()).then((v) => done(JSON.stringify({ ms: performance.now() - t, proposals: v.proposals.length })));";

    // From the press until a frame shows the lesson as it has become, and until it can be heard, too; and what happened on the way.
    private const string Edited =
        """
        const [done] = arguments;
        const audio = document.querySelector('audio');
        const length = document.querySelector('.refine-card .clock');
        const [before, words, begun] = [audio.src, length.textContent, performance.now()];
        const since = () => performance.now() - begun;
        const way = [];
        const note = (e) => way.push(`${e.type} ${Math.round(since())}`);
        const kinds = ['loadstart', 'loadedmetadata', 'seeking', 'loadeddata'];
        kinds.forEach((kind) => audio.addEventListener(kind, note));
        const busy = new PerformanceObserver((list) => list.getEntries().forEach((e) =>
          way.push(`busy ${Math.round(e.startTime - begun)} to ${Math.round(e.startTime + e.duration - begun)}`)));
        busy.observe({ type: 'longtask' });
        document.querySelector('#panel-todo .button-primary').click();
        let seen = 0;
        const look = () => {
          if (!seen && length.textContent !== words) { seen = 1; requestAnimationFrame(() => requestAnimationFrame(() => { seen = since(); })); }
          if (audio.src !== before && audio.readyState >= 2 && seen > 1) {
            const heard = since();
            setTimeout(() => {
              kinds.forEach((kind) => audio.removeEventListener(kind, note));
              busy.disconnect();
              done(JSON.stringify({ seen, heard, way: way.join(', ') }));
            }, 300);
          } else {
            setTimeout(look, 1);
          }
        };
        look();
        """;

    // What the page waited for.
    private const string Parts =
        """
        const took = performance.getEntriesByType('resource').slice(-6);
        return took.map((e) => `${new URL(e.name).pathname.split('/').at(-1)} ${Math.round(e.duration)} ms`).join(', ');
        """;

    // The work of a frame is forced by reading a pixel back; the same loop on an empty page is what it is compared with.
    private const string Frames =
        """
        const [count, done] = arguments;
        const target = document.querySelector('.refine-canvas');
        const canvas = target ? target.querySelector('canvas') : Object.assign(document.createElement('canvas'), { width: 1150, height: 202 });
        const times = [];
        let last = performance.now();
        const step = (i) => requestAnimationFrame(() => {
          const now = performance.now();
          times.push(now - last);
          last = now;
          if (i === count) { done(JSON.stringify(times.slice(5))); return; }
          const box = canvas.getBoundingClientRect();
          if (target) {
            const zooms = i % 60 < 20;
            const options = { deltaY: zooms ? -30 : 0, deltaX: zooms ? 0 : 40, clientX: box.left + 500, clientY: box.top + 60 };
            target.dispatchEvent(new WheelEvent('wheel', { ...options, bubbles: true, cancelable: true }));
          }
          canvas.getContext('2d').getImageData(0, 0, 1, 1);
          step(i + 1);
        });
        step(0);
        """;

    public static async Task RunAsync()
    {
        var minutes = int.TryParse(Environment.GetEnvironmentVariable("ARCHTALK_MINUTES"), out var given) ? given : 60;
        using var files = new TestFiles();
        await using var server = await Server.StartedAsync(files.Path("data"));
        using var browser = new Chromium();
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("An hour");
        var lesson = teacher.Lesson.Split('/')[^1];
        for (var i = 0; i < Boards; i++)
        {
            browser.Call("POST", $"/api/lessons/{lesson}/boards", new { title = $"Board {i + 1}" });
        }

        using var listed = JsonDocument.Parse(browser.Call("GET", $"/api/lessons/{lesson}/boards"));
        Guid[] boards = [.. listed.RootElement.GetProperty("boards").EnumerateArray().Select(b => b.GetProperty("id").GetGuid())];
        await UploadedTake.SendAsync(server.Address, browser, lesson, Journal(minutes, boards).End().Records);
        browser.Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromMinutes(3);

        var first = Said(browser, lesson);
        var (again, _) = Said(browser, lesson);
        Measure.Say($"{minutes} min, {minutes * StrokesAMinute} strokes: {first.Proposals} proposals with all else that the page asks for, "
            + $"first {first.Ms:0} ms, then {again:0} ms");

        var opened = Enumerable.Range(0, 3).Select(_ =>
        {
            browser.Go($"{server.Address}/lessons/{lesson}/refine");
            return browser.ScriptAsync<double>(Opened);
        }).ToArray();
        Measure.Say($"opening to the picture and the rows: {string.Join(", ", opened.Select(o => $"{o:0}"))} ms");

        var edits = Enumerable.Range(0, Edits).Select(_ =>
        {
            using var edit = JsonDocument.Parse(browser.ScriptAsync<string>(Edited));
            browser.Until(() => browser.Script<bool>("return !document.querySelector('#panel-todo .button-primary').disabled"), "the page at rest");
            double Of(string name) => edit.RootElement.GetProperty(name).GetDouble();
            return (Seen: Of("seen"), Heard: Of("heard"), Way: edit.RootElement.GetProperty("way").GetString());
        }).ToArray();
        string Told(IEnumerable<double> ms) => ms.Order().ToArray() is var sorted ? $"median {sorted[Edits / 2]:0} ms, most {sorted[^1]:0} ms" : "";
        Measure.Say($"an edit until it is seen: {Told(edits.Select(e => e.Seen))}; until it can be heard: {Told(edits.Select(e => e.Heard))}");
        Measure.Say($"of the last: {edits[^1].Way}; {browser.Script<string>(Parts)}");

        var scrolled = Percentile(browser);
        browser.Go("about:blank");
        var empty = Percentile(browser);
        Measure.Say($"rows scrolled and brought closer: 95th percentile of a frame {scrolled:0.0} ms, "
            + $"{scrolled / empty:0.00} times an empty page's {empty:0.0} ms");
    }

    private static (double Ms, int Proposals) Said(Chromium browser, string lesson)
    {
        using var said = JsonDocument.Parse(browser.ScriptAsync<string>(Proposed, $"/api/lessons/{lesson}/edits"));
        return (said.RootElement.GetProperty("ms").GetDouble(), said.RootElement.GetProperty("proposals").GetInt32());
    }

    private static double Percentile(Chromium browser)
    {
        var times = JsonSerializer.Deserialize<double[]>(browser.ScriptAsync<string>(Frames, 300))!.Order().ToArray();
        return times[(int)(times.Length * 0.95)];
    }

    // Twenty seconds of words and silences, again and again; in the longest silence something is drawn.
    private static JournalBuilder Journal(int minutes, Guid[] boards)
    {
        short[] block =
        [
            .. Sounds.Speech(2.2), .. Sounds.Speech(0.8, 0), .. Sounds.Speech(2.2), .. Sounds.Speech(3, 0),
            .. Sounds.Speech(2.2), .. Sounds.Speech(0.6, 0), .. Sounds.Speech(2.2), .. Sounds.Speech(6.8, 0),
        ];
        var journal = new JournalBuilder().Segment(new SegmentStart(0, Clock.SampleRate, 0, "Bench", false, false, false));
        journal.Anchors(0, new ClockAnchor(0, 0));
        var samples = (long)minutes * 60 * Clock.SampleRate;
        for (var at = 0L; at < samples; at += Clock.SampleRate / 2)
        {
            journal.Audio(0, at, block.AsSpan((int)(at % block.Length), Clock.SampleRate / 2));
        }

        journal.Anchors(0, new ClockAnchor(samples, minutes * 60_000));
        var number = 1;
        for (var minute = 0; minute < minutes; minute++)
        {
            var board = boards[minute * boards.Length / minutes];
            journal.Events(0, new BoardShown(minute * 60_000, board));
            for (var i = 0; i < StrokesAMinute; i++, number++)
            {
                var (x, y) = (1000 + (i % 40 * 350), 600 + (i / 40 * 900));
                var at = ((minute * 60_000L) + (i * 60_000L / StrokesAMinute)) * 10;
                long[] points = [.. Enumerable.Range(0, 10).SelectMany(p => (long[])[x + (p * 25), y + (p % 3 * 60), 128, at + (p * 150)])];
                journal.Events(
                    0,
                    new StrokeBegun(number, board, "pen", "blue", "medium"),
                    new StrokePoints(number, points),
                    new StrokeEnded(number, (at + 1400) / 10));
            }
        }

        return journal;
    }
}
