using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Tests;

namespace ArchTalk.Bench;

/// <summary>How long a page waits for the answer on which words a stroke settles, while a take is recorded. Asked: 30 ms.</summary>
internal static class SettleBench
{
    private const int Strokes = 300;

    // Drawn across two words that follow each other, on every board with words.
    private const string Ask =
        """
        const [lesson, count, done] = arguments;
        (async () => {
          const api = `/api/lessons/${lesson}`;
          const { boards } = await (await fetch(`${api}/boards`)).json();
          const pairs = [];
          for (const board of boards) {
            const { words } = await (await fetch(`${api}/boards/${board.id}/words`)).json();
            words.slice(1).forEach((b, i) => { const a = words[i]; if (Math.abs(a.y - b.y) < 2 && b.x > a.x) pairs.push([board.id, a, b]); });
          }
          const times = [];
          for (let i = 0; i < count; i++) {
            const [board, a, b] = pairs[i % pairs.length];
            const [from, to, y] = [a.x, b.x + b.width, a.y + a.height / 2];
            const points = Array.from({ length: 60 }, (_, k) => [Math.round((from + (to - from) * k / 59) * 10), Math.round(y * 10 + Math.sin(k) * 20)]).flat();
            const begun = performance.now();
            const settled = await window.settledOn(board, points);
            times.push(performance.now() - begun);
            if (!settled) { done(JSON.stringify({ fault: `nothing for ${a.text} ${b.text}` })); return; }
            await new Promise((r) => setTimeout(r, 50));
          }
          done(JSON.stringify({ times, pairs: pairs.length }));
        })().catch((e) => done(JSON.stringify({ fault: String(e) })));
        """;

    // As Client/record/settling.ts asks, with the token of the take that runs.
    private const string Settling =
        """
        const before = window.fetch;
        window.fetch = (address, options) => {
          const found = /\/api\/takes\/([^/]+)\/settle/.exec(address);
          if (found) window.takeToken = [found[1], options.headers['X-Take-Token']];
          return before(address, options);
        };
        window.settledOn = async (board, points) => {
          const [take, token] = window.takeToken;
          const answer = await before(`/api/takes/${take}/settle`, { method: 'POST', body: JSON.stringify({ board, isHighlighter: true, points }),
            headers: { 'X-Take-Token': token, 'Content-Type': 'application/json' } });
          return (await answer.json()).settled;
        };
        """;

    public static async Task RunAsync()
    {
        using var files = new TestFiles();
        await using var server = await Server.StartedAsync(files.Path("data"));
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Words");
        teacher.AddFiles(4, Repository.DemoFile("arch-slides.pdf"), Repository.DemoFile("arch-worksheet.pdf"));
        teacher.OpenRecord();
        teacher.StartRecording();
        browser.Script(Settling);
        browser.Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromMinutes(3);
        new Hand(browser, Holding.Mouse).Draw((0.1, 0.9), (0.2, 0.9));
        browser.Until(() => browser.Script<bool>("return !!window.takeToken"), "a first question");
        using var said = JsonDocument.Parse(browser.ScriptAsync<string>(Ask, teacher.Lesson.Split('/')[^1], Strokes));
        if (said.RootElement.TryGetProperty("fault", out var fault))
        {
            throw new InvalidOperationException(fault.GetString());
        }

        double[] times = [.. said.RootElement.GetProperty("times").EnumerateArray().Select(t => t.GetDouble()).Order()];
        Measure.Say(
            $"{Strokes} strokes across words of {said.RootElement.GetProperty("pairs").GetInt32()} pairs, answered after: median {times[times.Length / 2]:0.0} ms, "
            + $"95th percentile {times[(int)(times.Length * 0.95)]:0.0} ms, most {times[^1]:0.0} ms");
    }
}
