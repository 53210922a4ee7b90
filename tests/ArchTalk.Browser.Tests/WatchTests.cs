using System.Globalization;
using System.Net;
using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using CliWrap;
using CliWrap.Buffered;
using OpenQA.Selenium;

namespace ArchTalk.Browser.Tests;

[Collection(DemoCollection.Name)]
public sealed class WatchTests(DemoData demo)
{
    // Seeks, waits until that moment is painted, and gives back the audio's own time in ms.
    private const string SeekAndPaint =
        """
        const [seconds, done] = arguments;
        const audio = document.querySelector('audio');
        const painted = () => requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(() => done(audio.currentTime * 1000))));
        audio.addEventListener('seeked', () => setTimeout(painted, 400), { once: true });
        audio.currentTime = seconds;
        """;

    // The colours in a square around each place, as [r, g, b, r, g, b, ...].
    private const string Colours =
        """
        const [places, radius] = arguments;
        const canvas = document.querySelector('canvas');
        const context = canvas.getContext('2d');
        return JSON.stringify(places.map(([x, y]) => [...context.getImageData(Math.round(x * canvas.width) - radius,
          Math.round(y * canvas.height) - radius, 2 * radius + 1, 2 * radius + 1).data].filter((_, i) => i % 4 !== 3)));
        """;

    [Fact]
    public async Task At_ten_moments_the_canvas_shows_the_strokes_that_are_alive()
    {
        var (timeline, _) = await TeacherSession.ReadPublishedAsync(demo.Link);
        using var browser = Open();
        var (alive, dead) = (0, 0);

        // Forward and back, so that each moment is reached by a seek of its own.
        foreach (var seconds in new[] { 12.5, 130.2, 31.0, 19.0, 76.4, 58.1, 101.7, 39.3, 112.9, 5.0 })
        {
            var ms = browser.ScriptAsync<double>(SeekAndPaint, seconds);
            var (shown, gone) = Compare(browser, timeline, LessonTime.FromMilliseconds(ms));
            alive += shown;
            dead += gone;
        }

        alive.ShouldBeGreaterThan(40);
        dead.ShouldBeGreaterThan(20);
    }

    [Fact]
    public async Task The_page_and_the_timeline_in_csharp_agree_while_playing_fast()
    {
        var (timeline, _) = await TeacherSession.ReadPublishedAsync(demo.Link);
        using var browser = Open();
        browser.ScriptAsync<double>(SeekAndPaint, 100.0);
        browser.Script("const s = document.querySelector('#speed'); s.value = '2'; s.dispatchEvent(new Event('change'))");
        browser.Click("Play");
        browser.Until(() => browser.Script<double>("return document.querySelector('audio').currentTime") > 112, "twelve seconds at double speed", 15);
        browser.Click("Pause");
        Thread.Sleep(700);
        var ms = browser.Script<double>("return document.querySelector('audio').currentTime * 1000");
        Compare(browser, timeline, LessonTime.FromMilliseconds(ms)).Alive.ShouldBeGreaterThan(10);
    }

    [Fact]
    public async Task Sound_answers_ranges_and_nothing_is_compressed_twice()
    {
        var (_, files) = await TeacherSession.ReadPublishedAsync(demo.Link);
        using var http = new HttpClient(new HttpClientHandler { AutomaticDecompression = DecompressionMethods.None });
        foreach (var file in new[] { "voice.m4a", "voice.webm" })
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, $"{files}/{file}");
            request.Headers.Range = new(1000, 1999);
            request.Headers.AcceptEncoding.ParseAdd("br, gzip");
            using var answer = await http.SendAsync(request);
            answer.StatusCode.ShouldBe(HttpStatusCode.PartialContent);
            answer.Content.Headers.ContentRange!.From.ShouldBe(1000);
            answer.Content.Headers.ContentEncoding.ShouldBeEmpty();
            answer.Headers.CacheControl!.ToString().ShouldContain("max-age=300");
        }

        using var page = await http.GetAsync(demo.Link);
        page.Headers.CacheControl!.NoCache.ShouldBeTrue();
    }

    /// <summary>Chapters parse to the same cues in a general-purpose WebVTT parser (media-captions, npm).</summary>
    [Fact]
    public async Task Chapters_are_read_alike_by_another_parser()
    {
        var (timeline, files) = await TeacherSession.ReadPublishedAsync(demo.Link);
        var script = Path.Combine(Path.GetTempPath(), $"archtalk-{Guid.NewGuid():N}.mjs");
        await File.WriteAllTextAsync(script,
            $$"""
            globalThis.window = globalThis;
            globalThis.VTTCue ??= class { constructor(s, e, t) { this.startTime = s; this.endTime = e; this.text = t; } };
            const { parseText } = await import({{JsonSerializer.Serialize(Repository.NpmFile("media-captions", "dist", "prod.js"))}});
            const text = await (await fetch({{JsonSerializer.Serialize($"{files}/chapters.vtt")}})).text();
            const { cues, errors } = await parseText(text, { type: 'vtt', strict: true, errors: true });
            console.log(JSON.stringify({ cues: cues.map(c => [c.startTime, c.endTime, c.text]), errors: errors.map(String) }));
            """);
        var result = await Cli.Wrap("node").WithArguments(script).ExecuteBufferedAsync();
        File.Delete(script);
        using var parsed = JsonDocument.Parse(result.StandardOutput);
        parsed.RootElement.GetProperty("errors").GetArrayLength().ShouldBe(0);
        var cues = parsed.RootElement.GetProperty("cues").EnumerateArray()
            .Select(c => (From: c[0].GetDouble(), To: c[1].GetDouble(), Text: c[2].GetString()))
            .ToArray();
        cues.Select(c => c.Text).ShouldBe(
            ["Why an arch stands", "A beam bends, an arch leans", "The parts of an arch", "The line of thrust", "Where the thrust goes",
            "In one line"]);
        cues[0].From.ShouldBe(0);
        cues[^1].To.ShouldBe(timeline.Length.Seconds, tolerance: 0.002);
        cues.Zip(cues.Skip(1)).ShouldAllBe(p => p.First.To == p.Second.From);
    }

    [Fact]
    public void Everything_can_be_done_by_keyboard()
    {
        using var browser = Open();
        double Time() => browser.Script<double>("return document.querySelector('audio').currentTime");
        var body = browser.Find("body");
        body.SendKeys(Keys.Shift + Keys.ArrowRight);
        browser.Until(() => Math.Abs(Time() - 20.28) < 0.5, "the second chapter");
        body.SendKeys(Keys.ArrowLeft);
        browser.Until(() => Time() < 11, "ten seconds back");
        body.SendKeys(Keys.End);
        browser.Until(() => Time() > 130, "the end");
        body.SendKeys(Keys.Home);
        browser.Until(() => Time() < 1, "the beginning");
        body.SendKeys("+");
        browser.Until(() => browser.Script<double>("return document.querySelector('audio').playbackRate") > 1.2, "a higher speed");
        body.SendKeys(" ");
        browser.Until(() => browser.Script<bool>("return !document.querySelector('audio').paused"), "playing");
        body.SendKeys(" ");
        browser.Until(() => browser.Script<bool>("return document.querySelector('audio').paused"), "pausing");
        browser.Find("[role=slider]").SendKeys(Keys.ArrowRight);
        browser.Until(() => Time() > 9, "ten seconds on from the slider");
    }

    [Fact]
    public void A_seek_with_the_mouse_goes_where_it_points()
    {
        using var browser = Open();
        var slider = browser.Find("[role=slider]");
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).MoveToElement(slider).Click().Perform();
        browser.Until(
            () => browser.Script<double>("const a = document.querySelector('audio'); return Math.abs(a.currentTime - a.duration / 2)") < 3,
            "the middle");
    }

    [Fact]
    public async Task Other_paths_lead_nowhere()
    {
        using var http = new HttpClient();
        var (_, files) = await TeacherSession.ReadPublishedAsync(demo.Link);
        foreach (var path in new[] {
            $"{files}/../../take.journal",
            $"{files}/%2e%2e/%2e%2e/archtalk.db",
            $"{files}/nothing.json",
            $"{demo.Server.Address}/w/unknown",
            files[..^1] + "99/timeline.json" })
        {
            using var answer = await http.GetAsync(path);
            answer.StatusCode.ShouldBe(HttpStatusCode.NotFound, path);
        }
    }

    [Fact]
    public void Ink_that_does_not_come_is_said_and_tried_again_with_growing_pauses()
    {
        using var browser = new Chromium();
        browser.Driver.ExecuteCdpCommand("Network.enable", []);
        browser.Driver.ExecuteCdpCommand("Network.setBlockedURLs", new Dictionary<string, object?> { ["urls"] = new[] { "*/ink/*" } });
        browser.Go(demo.Link);
        browser.UntilText("could not be loaded; it is tried again by itself");
        var asked = "return performance.getEntriesByType('resource').filter((r) => r.name.includes('/ink/')).length";
        browser.Script("performance.setResourceTimingBufferSize(10000)");
        var before = browser.Script<double>(asked);
        Thread.Sleep(3000);
        (browser.Script<double>(asked) - before).ShouldBeLessThan(14, "not a storm of requests");
        browser.Driver.ExecuteCdpCommand("Network.setBlockedURLs", new Dictionary<string, object?> { ["urls"] = Array.Empty<string>() });
        browser.Click("Try again");
        browser.Until(() => !browser.Script<bool>("return document.body.innerText.includes('could not be loaded')"), "the ink");
        browser.ScriptAsync<double>(SeekAndPaint, 130.0);
        new Canvas(browser).Has(SkiaSharp.SKColor.Parse("#007B59"), [(0.3125, 0.475)], radius: 14)[0]
            .ShouldBeTrue("the drawn arch of the last board");
    }

    [Fact]
    public void A_finger_that_is_drawn_over_the_board_scrolls_the_page_of_a_phone()
    {
        using var phone = new Chromium(width: 390, height: 844, phone: true);
        phone.Go(demo.Link);
        phone.Until(() => phone.Driver.FindElements(By.CssSelector(".seek-mark")).Count > 0, "the lesson");
        new Hand(phone, Holding.Finger).Draw((0.5, 0.9), (0.5, 0.1), steps: 20);
        phone.Until(() => phone.Script<double>("return window.scrollY") > 50, "the page that scrolled");
    }

    [Fact]
    public void What_was_drawn_leads_to_its_moment_when_it_is_pressed_and_one_press_leads_back()
    {
        using var browser = new Chromium();
        browser.Go(demo.Link);
        browser.Until(() => browser.Driver.FindElements(By.CssSelector(".seek-mark")).Count > 0, "the lesson");
        browser.ScriptAsync<double>(SeekAndPaint, 130.0);
        double Time() => browser.Script<double>("return document.querySelector('audio').currentTime");

        // A place on the green arch of the last board, in shares of the board.
        var place = browser.Script<string>(
            """
            const canvas = document.querySelector('canvas');
            const [left, top, size] = [Math.round(0.3125 * canvas.width) - 14, Math.round(0.475 * canvas.height) - 14, 29];
            const { data } = canvas.getContext('2d').getImageData(left, top, size, size);
            const found = [...Array(size * size).keys()].find((i) => data[4 * i] < 60 && data[4 * i + 1] > 90 && data[4 * i + 2] < 130);
            return [(left + (found % size)) / canvas.width, (top + Math.floor(found / size)) / canvas.height].join(' ');
            """).Split(' ').Select(n => double.Parse(n, CultureInfo.InvariantCulture)).ToArray();
        var hand = new Hand(browser, Holding.Mouse);
        hand.Move(place[0], place[1]);
        browser.Until(() => browser.Script<bool>("return document.querySelector('canvas').classList.contains('is-on-ink')"), "the hand over ink");
        hand.Down(place[0], place[1]);
        hand.Up(place[0], place[1]);
        browser.UntilText("Here it was drawn");
        Time().ShouldBeInRange(100, 129);
        new Canvas(browser).NextFrame();
        var green = SkiaSharp.SKColor.Parse("#007B59");
        browser.Until(() => !new Canvas(browser).Has(green, [(place[0], place[1])], radius: 4)[0], "before it was drawn");
        browser.Click("Back to 2:10");
        browser.Until(() => Math.Abs(Time() - 130) < 0.1, "where it was pressed");
    }

    [Fact]
    public void The_voice_waits_for_what_could_not_be_loaded_or_goes_on_as_the_student_chooses()
    {
        using var browser = new Chromium();
        void Block(params string[] addresses) => browser.Driver.ExecuteCdpCommand(
            "Network.setBlockedURLs", new Dictionary<string, object?> { ["urls"] = addresses });
        double Time() => browser.Script<double>("return document.querySelector('audio').currentTime");
        bool IsPlaying() => browser.Script<bool>("return !document.querySelector('audio').paused");
        bool Says(string words) => browser.Script<bool>("return document.body.innerText.includes(arguments[0])", words);
        bool Offers(string word) => browser.Driver.FindElements(By.XPath($"//button[normalize-space()='{word}']")).Any(b => b.Displayed);
        browser.Driver.ExecuteCdpCommand("Network.enable", []);
        browser.Go(demo.Link);
        browser.Until(() => browser.Driver.FindElements(By.CssSelector(".seek-mark")).Count > 0, "the lesson");
        Block("*/ink/*", "*/pointer/*");
        browser.Click("Play");
        browser.Driver.FindElements(By.CssSelector("[data-chapter]"))[^1].Click();
        browser.UntilText("The voice waits for it");
        var held = Time();
        Offers("Pause").ShouldBeTrue("it plays, and waits");
        browser.Until(() => !IsPlaying(), "a voice that waits");
        Time().ShouldBe(held);

        browser.Click("Go on without it");
        browser.Until(() => IsPlaying() && Time() > held + 0.5, "the voice without what is drawn");
        Says("The voice goes on without it").ShouldBeTrue("it is still said");
        browser.Click("Wait for it");
        browser.Until(() => !IsPlaying(), "the voice that waits again");

        // When it is there it goes on by itself.
        Block();
        browser.Until(() => IsPlaying() && !Says("could not be loaded"), "the voice with what is drawn");

        // Pause is pause: what comes then doesn't make the voice go on.
        browser.Click("Pause");
        browser.Until(() => !IsPlaying() && Offers("Play"), "the end of playing");
    }

    [Fact]
    public void A_student_looks_closer_with_two_fingers_slides_and_goes_back_to_the_teachers_view()
    {
        using var phone = new Chromium(width: 390, height: 844, phone: true);
        phone.Go(demo.Link);
        phone.Until(() => phone.Driver.FindElements(By.CssSelector(".seek-mark")).Count > 0, "the lesson");
        phone.ScriptAsync<double>(SeekAndPaint, 50.0);
        var teachers = new Canvas(phone).Picture();
        phone.Script("window.scrollTo(0, 0)");
        var board = phone.Find("canvas");
        var (x, y) = (board.Location.X + (board.Size.Width / 2), board.Location.Y + (board.Size.Height / 2));
        void Touch(
            string type,
            params (double X, double Y)[] points) => phone.Driver.ExecuteCdpCommand("Input.dispatchTouchEvent", new Dictionary<string, object?>
            {
                ["type"] = type,
                ["touchPoints"] = points.Select((p, i) => new Dictionary<string, object> { ["x"] = p.X, ["y"] = p.Y, ["id"] = i })
                .ToArray(),
            });
        Touch("touchStart", (x - 30, y), (x + 30, y));
        for (var apart = 35; apart <= 90; apart += 5)
        {
            Touch("touchMove", (x - apart, y), (x + apart, y));
        }

        Touch("touchEnd");
        phone.UntilText("Back to the teacher");
        var closer = new Canvas(phone).Picture();
        closer.ShouldNotBe(teachers);
        Touch("touchStart", (x, y));
        Touch("touchMove", (x - 60, y));
        Touch("touchMove", (x - 80, y));
        Touch("touchEnd");
        phone.Until(() => !new Canvas(phone).Picture().SequenceEqual(closer), "the board slid");
        phone.Script<bool>("return document.querySelector('audio').paused").ShouldBeTrue("neither pinching nor sliding plays");
        phone.Click("Back to the teacher");
        phone.Until(() => new Canvas(phone).Picture().Zip(teachers, (a, b) => Math.Abs(a - b)).Average() < 0.5, "the teacher's view");

        // By keyboard and button too.
        phone.ClickOn("[aria-label='Look closer']");
        phone.UntilText("Back to the teacher");
        phone.Find("body").SendKeys(Keys.Escape);
        phone.Until(() => !phone.Find(".watch-back").Displayed, "Escape leads back");
    }

    private Chromium Open()
    {
        var browser = new Chromium();
        browser.Go(demo.Link);
        browser.Until(() => browser.Driver.FindElements(By.CssSelector(".seek-mark")).Count > 0, "the lesson");
        return browser;
    }

    // Every living stroke has its colour under its points; every stroke of the board that isn't alive has not.
    private static (int Alive, int Dead) Compare(Chromium browser, LessonTimeline timeline, LessonTime time)
    {
        var scene = timeline.At(time).Panes[0];
        var strokes = timeline.Boards[scene.Board].Strokes;
        var living = scene.Strokes.ToDictionary(s => s.Index, s => s.Points);
        var drawn = living.Select(l => (Stroke: strokes[l.Key], Points: strokes[l.Key].Points.Take(l.Value).ToArray())).ToArray();
        var checks = new List<(int Stroke, bool Alive, double X, double Y)>();
        for (var i = 0; i < strokes.Count; i++)
        {
            var isAlive = living.TryGetValue(i, out var count);

            // The middle of what is drawn, or of what must not be there, away from the ink of others.
            var point = strokes[i].Points[(isAlive ? Math.Max(0, count - 1) : strokes[i].Points.Count) / 2];
            var x = (double)(point.X - scene.View.X) / scene.View.Width;
            var y = (double)(point.Y - scene.View.Y) / scene.View.Height;
            var isSeen = x is > 0.01 and < 0.99 && y is > 0.02 and < 0.98;
            if (isSeen && (isAlive || !drawn.Any(d => IsNear(point, d.Points, d.Stroke.Band))))
            {
                checks.Add((i, isAlive, x, y));
            }
        }

        // The page paints in the canvas's own pixels: one around a living point is enough, none around a dead one may be.
        using var colours = JsonDocument.Parse(browser.Script<string>(Colours, checks.Select(c => new object[] { c.X, c.Y }).ToArray(), 2));
        for (var i = 0; i < checks.Count; i++)
        {
            var ink = InkStyle.All[strokes[checks[i].Stroke].Style];
            var pixels = colours.RootElement[i].EnumerateArray().Select(v => v.GetInt32()).Chunk(3).ToArray();
            var hasInk = pixels.Any(p => IsInk(p, ink));
            hasInk.ShouldBe(checks[i].Alive, $"stroke {checks[i].Stroke} of board {scene.Board} at {time.Milliseconds:0} ms");
        }

        return (checks.Count(c => c.Alive), checks.Count(c => !c.Alive));
    }

    // A settled line has its two ends only, and is as high as its band.
    private static bool IsNear(InkPoint point, InkPoint[] line, int band)
    {
        static TakePoint At(InkPoint p) => new(p.X, p.Y, p.Pressure, default);
        return line.Zip(line.Skip(1).Append(line[^1])).Any(p => Simplification.Distance(At(point), At(p.First), At(p.Second)) < 300 + band);
    }

    // A pen covers what is under it; a highlighter darkens it, so the picture may only be darker than the ink, not lighter.
    private static bool IsInk(int[] pixel, InkStyle ink)
    {
        int[] colour = [.. new[] { 1, 3, 5 }.Select(i => Convert.ToInt32(ink.Color.Substring(i, 2), 16))];
        return Enumerable.Range(0, 3).All(c => Math.Abs(pixel[c] - colour[c]) < 40);
    }
}
