using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;
using OpenQA.Selenium;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>What can happen to a take that isn't a kill: each is said where the teacher looks, and nothing up to it is lost.</summary>
public sealed class RecordStatesTests(SharedServer shared) : IDisposable
{
    private static readonly SKColor BlueBlack = SKColor.Parse("#1E2A2B");

    // What a device does by itself, done by hand: the events of its track, a device more in the list, a lock on the screen.
    private const string Device =
        """
        const media = navigator.mediaDevices, open = media.getUserMedia.bind(media), list = media.enumerateDevices.bind(media);
        media.getUserMedia = async (wanted) => (window.opened = await open(wanted));
        media.enumerateDevices = async () => [...(await list()), ...(window.plugged ? [{ kind: 'audioinput', deviceId: 'new',
          label: 'Desk microphone' }] : [])];
        navigator.wakeLock.request = async () => { window.keptOn = (window.keptOn ?? 0) + 1; return { release: async () => window.keptOn-- }; };
        """;

    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    [Fact]
    public async Task A_microphone_that_is_unplugged_or_muted_holds_the_take_and_it_goes_on()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        browser.Before(Device);
        var teacher = TeacherSession.BeginTake(browser, server.Address);
        browser.Script<double>("return window.keptOn").ShouldBe(1, "the screen stays on");
        teacher.UntilRecorded(2);
        browser.Script("window.opened.getAudioTracks()[0].dispatchEvent(new Event('mute'))");
        browser.UntilText("The microphone gives no sound");
        browser.UntilText("is kept. Go on when it is back");
        browser.Click("Go on");
        teacher.UntilRecorded(3);

        browser.Script("window.opened.getAudioTracks()[0].stop(); window.opened.getAudioTracks()[0].dispatchEvent(new Event('ended'))");
        browser.UntilText("The microphone was unplugged");
        browser.Driver.FindElements(By.XPath("//button[contains(., 'Go on')]")).Where(b => b.Displayed)
            .ShouldAllBe(b => !b.Enabled, "there is nothing to go on with");
        browser.Find("#microphone").FindElements(By.TagName("option")).First(o => o.Text.Contains("Fake", StringComparison.Ordinal)).Click();
        browser.Until(() => browser.Find("[aria-label='Voice volume']").GetAttribute("aria-valuenow") != "0", "the meter moving again");
        browser.Click("Go on");
        teacher.UntilRecorded(5);
        browser.Script("window.plugged = true; navigator.mediaDevices.dispatchEvent(new Event('devicechange'))");
        browser.UntilText("There is a new microphone: Desk microphone. To use it, pause and choose it.");
        var (recorded, told) = Told(teacher);
        teacher.Finish();
        var take = shared.TakeOf(teacher);
        take.Length.Seconds.ShouldBeGreaterThan(4.5);
        MissingMs(take, recorded).ShouldBe(told, tolerance: 50);
        shared.JournalOf(teacher).Records.Count(r => r.Kind == JournalRecordKind.Segment)
            .ShouldBe(2, "the microphone that came back began a segment");
    }

    [Fact]
    public async Task A_hidden_page_goes_on_recording_while_sound_arrives()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = TeacherSession.BeginTake(browser, server.Address);
        teacher.UntilRecorded(1);
        var first = browser.Driver.CurrentWindowHandle;
        browser.Driver.SwitchTo().NewWindow(WindowType.Tab);
        browser.Go($"{server.Address}/mark.svg");
        browser.Until(() => shared.TakeOf(teacher).Length.Seconds > 5, "sound that arrives while the page is hidden");
        browser.Driver.SwitchTo().Window(first);
        teacher.UntilRecorded(6);
        browser.Script<string>("return document.body.innerText").ShouldNotContain("Recording is held");
        var (recorded, told) = Told(teacher);
        teacher.Finish();
        MissingMs(shared.TakeOf(teacher), recorded).ShouldBe(told, tolerance: 50);
    }

    [Fact]
    public async Task A_sound_check_says_what_it_hears_can_be_stopped_and_leaves_the_microphone_for_recording()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Sound");
        teacher.AddEmptyBoard(1);
        teacher.OpenRecord();
        browser.Click("Sound check");
        browser.UntilText("Be quiet: ");
        browser.Click("Stop");
        browser.UntilText("The sound check was stopped");
        browser.Click("Sound check");
        browser.UntilText("Now speak as in the lesson: ");
        const string Figures = "return /voice -\\d+ LUFS · room -\\d+ dB · no hum · never cut off/.test(document.body.innerText)";
        browser.Until(() => browser.Script<bool>(Figures), "the figures");
        teacher.StartRecording();
        teacher.UntilRecorded(2);
        teacher.Finish();
        shared.TakeOf(teacher).Length.Seconds.ShouldBeGreaterThan(1.9);
    }

    [Fact]
    public async Task A_browser_without_room_says_so_and_nothing_is_lost()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = TeacherSession.BeginTake(browser, server.Address);
        using (var worker = await Worker.OfAsync(browser.Driver))
        {
            await worker.RunAsync("IDBObjectStore.prototype.put = () => { throw new DOMException('', 'QuotaExceededError'); }");
        }

        browser.UntilText("This browser keeps no copy");
        teacher.UntilRecorded(4);
        teacher.Finish();
        var journal = shared.JournalOf(teacher);
        Takes.Log(journal).Length.Seconds.ShouldBeGreaterThan(3.5);
        journal.Records.ShouldNotContain(r => r.Kind == JournalRecordKind.Lost);
    }

    [Fact]
    public async Task Over_plain_http_everything_but_the_microphone_works()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(host: "school.test");
        var teacher = new TeacherSession(browser, $"http://school.test:{server.Port}");
        teacher.ComeIn();
        browser.Script<bool>("return isSecureContext").ShouldBeFalse();
        teacher.CreateLesson("Plain");
        teacher.AddEmptyBoard(1);
        teacher.Step("Record");
        browser.UntilText("only lets a page record over HTTPS");
        browser.Click("Use a microphone");
        browser.UntilText("could not be opened");
        browser.Script<string>("return document.querySelector('[aria-label=\"Voice volume\"]').getAttribute('aria-valuenow')")
            .ShouldBe("0", "the test voice is not chosen by itself");
        teacher.OpenRecord("Use the test voice");
        teacher.StartRecording();
        teacher.Draw((0.2, 0.5), (0.8, 0.5));
        teacher.UntilRecorded(2);
        teacher.Finish();
        var take = shared.TakeOf(teacher);
        take.Length.Seconds.ShouldBeGreaterThan(1.5);
        take.Actions.OfType<StrokeDrawn>().Count().ShouldBe(1);
    }

    [Fact]
    public async Task Going_on_shows_ink_covers_board_and_view_and_numbers_go_on()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Going on");
        teacher.AddEmptyBoard(1);
        teacher.Card(1).FindElement(By.CssSelector("a.button")).Click();
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("svg.board-surface")).Count == 1, "the board's page");
        browser.Click("Cover");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("[role=status]")).Any(s => s.Text == "Saved"), "“Saved”");
        teacher.Step("Prepare");
        teacher.AddEmptyBoard(2);
        teacher.OpenRecord();
        teacher.StartRecording();
        browser.Click("Uncover the last");
        browser.UntilText("All uncovered");
        teacher.ShowBoard(2);
        teacher.Draw((0.2, 0.2), (0.8, 0.2));
        browser.ClickOn("[aria-label='More of Look']");
        browser.Driver.FindElements(By.XPath("//div[@id='members']//button[contains(., 'Closer')]")).First(b => b.Displayed).Click();
        teacher.UntilSaved(2);
        browser.CloseTab();

        // What the closed tab still had is sent when the page opens again; it may have looked closer once more.
        ViewChanged View() => shared.TakeOf(teacher).Actions.OfType<ViewChanged>().Last();

        browser.Go($"{server.Address}/mark.svg");
        teacher.OpenRecord();
        browser.Until(() => browser.Find("#strip-1").GetAttribute("aria-current") == "true", "the board it was on");
        var canvas = new Canvas(browser);
        browser.Until(() => canvas.Has(BlueBlack, Enumerable.Range(3, 4).Select(i => (i / 10.0, LineAt(View())))).Any(h => h), "its ink");
        browser.Click("Go on with it");
        browser.Until(() => browser.Driver.FindElements(By.XPath("//button[contains(., 'Pause')]")).Any(b => b.Displayed), "the take going on");
        canvas.Has(BlueBlack, Enumerable.Range(3, 4).Select(i => (i / 10.0, LineAt(View())))).ShouldContain(true, "its ink is still there");
        browser.UntilText("Whole board");
        teacher.Draw((0.2, 0.8), (0.8, 0.8));
        teacher.ShowBoard(1);
        browser.UntilText("All uncovered");
        teacher.UntilRecorded(4);
        teacher.Finish();
        var actions = shared.TakeOf(teacher).Actions;
        actions.OfType<StrokeDrawn>().Select(s => s.Stroke.Number).ShouldBe([1, 2]);
        actions.OfType<CoverChanged>().Select(c => c.IsUncovered).ShouldBe([true]);
        actions.OfType<BoardChanged>().Select(b => b.Board).Distinct().Count().ShouldBe(2);
    }

    // Where the line drawn at a fifth of the whole board lies in a view, in shares of its height.
    private static double LineAt(ViewChanged view) => ((0.2 * 9000) - view.Y) / (view.Width * 9.0 / 16);

    [Fact]
    public async Task What_the_server_takes_no_more_is_made_a_take_of_its_own_or_kept_as_a_file_or_discarded()
    {
        var server = await shared.StartedAsync();
        using var wire = new Wire(server.Port);
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = TeacherSession.BeginTake(browser, wire.Address);
        teacher.UntilSaved(1);
        wire.Pull();
        browser.UntilText("no connection");
        teacher.Draw((0.2, 0.7), (0.8, 0.7));
        teacher.UntilRecorded(6);
        browser.CloseTab();

        // At home, on another computer, the take is finished with what was saved of it.
        using (var home = new Chromium())
        {
            home.SignIn(server.Address, TeacherSession.Email, TeacherSession.Password);
            home.Go($"{server.Address}{teacher.LessonPath}/record");
            home.Click("Finish it as it is");
            home.UntilText("Go to Refine");
        }

        wire.PlugIn();
        browser.Go($"{wire.Address}/mark.svg");
        teacher.OpenRecord();
        browser.UntilText("Left in this browser");
        browser.UntilText("The take was finished before this was sent.");
        browser.Script("URL.createObjectURL = (blob) => { window.wav = blob; return '#'; }");
        browser.Click("Keep as WAV file");
        browser.Until(() => browser.ScriptAsync<string>(
            "const done = arguments[0]; window.wav ? window.wav.arrayBuffer().then((b) => done(String(b.byteLength))) : done('0')") is var bytes
            && int.Parse(bytes, System.Globalization.CultureInfo.InvariantCulture) > 3 * 96_000, "the WAV file");
        browser.Click("Make it a take");
        IReadOnlyList<Journal> Kept() => Journals.ReadAll(shared.FolderOf(teacher));
        browser.Until(() => Kept() is { Count: 2 } journals && Takes.Log(journals[1]).IsEnded, "the take of its own");
        UntilNothingIsLeft(browser);

        var (first, second) = (Takes.Log(Kept()[0]), Takes.Log(Kept()[1]));
        (first.Length.Seconds + second.Length.Seconds).ShouldBeGreaterThan(5);
        second.Sound[0].IsMissing.ShouldBeFalse("it doesn't begin with the silence of what came before");
        second.Actions.OfType<StrokeDrawn>().Count().ShouldBe(1);
    }

    [Fact]
    public async Task What_is_left_goes_on_where_it_was_when_nothing_was_recorded_since_or_is_discarded_when_asked_twice()
    {
        var server = await shared.StartedAsync();
        using var wire = new Wire(server.Port);
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = TeacherSession.BeginTake(browser, wire.Address);
        void LeaveSome()
        {
            wire.Pull();
            browser.UntilText("no connection");
            browser.Until(() => teacher.Figure("waiting.ms") > 2000, "two seconds that wait");
            browser.CloseTab();
            wire.PlugIn();
        }

        // Another tab takes the take over and records nothing; what the first one left fits where it was.
        teacher.UntilSaved(1);
        LeaveSome();
        Reopen(server.Address, teacher);
        browser.Go($"{wire.Address}/mark.svg");
        teacher.OpenRecord();
        browser.Click("Send it on");
        browser.UntilText("has been sent");
        var length = shared.TakeOf(teacher).Length.Seconds;
        length.ShouldBeGreaterThan(3);
        MissingMs(shared.TakeOf(teacher)).ShouldBeLessThan(1000, "more than a second was left, and none of it is missing");

        browser.Click("Go on with it");
        teacher.UntilRecorded(Math.Ceiling(length) + 1);
        LeaveSome();
        Reopen(server.Address, teacher);
        browser.Go($"{wire.Address}/mark.svg");
        teacher.OpenRecord();
        browser.Click("Discard…");
        browser.UntilText("It can't be brought back");
        browser.Click("Discard it");
        UntilNothingIsLeft(browser);
        browser.Click("Finish it as it is");
        browser.UntilText("Go to Refine");
    }

    [Fact]
    public async Task A_slow_line_says_how_long_it_takes_and_the_page_may_be_closed_meanwhile()
    {
        var server = await shared.StartedAsync();
        using var wire = new Wire(server.Port);
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = TeacherSession.BeginTake(browser, wire.Address);
        teacher.UntilSaved(1);
        wire.BytesPerSecond = 40_000;
        browser.UntilText("slow connection:");
        browser.Until(
            () => browser.Script<bool>("return /slow connection: 0:\\d\\d still to send, about \\d+ s/.test(document.body.innerText)"),
            "how long it takes");
        browser.Click("Finish");
        browser.UntilText("You may close this page");
        var recorded = teacher.Figure("recordedMs");
        browser.CloseTab();
        wire.BytesPerSecond = 300_000;
        browser.Go($"{wire.Address}/mark.svg");
        teacher.Step("Record");
        browser.UntilText("has been sent");
        browser.UntilText("Go to Refine");
        var take = shared.TakeOf(teacher);
        take.IsEnded.ShouldBeTrue();
        take.Length.Milliseconds.ShouldBeGreaterThan(recorded - 100);
    }

    private static void UntilNothingIsLeft(Chromium browser) => browser.Until(
        () => !browser.Script<bool>(
            "return [...document.querySelectorAll('p')].some((p) => p.offsetParent && p.textContent === 'Left in this browser')"),
        "nothing left in this browser");

    // A busy machine loses frames before they reach the browser; what counts is that the page says how much. What is lost after the
    // page was read, while the take is being finished, it couldn't have said.
    private static double MissingMs(TakeLog take, double untilMs = double.MaxValue)
    {
        var (start, missing) = (0.0, 0.0);
        foreach (var sound in take.Sound)
        {
            missing += sound.IsMissing && start < untilMs ? sound.Length.Milliseconds : 0;
            start += sound.Length.Milliseconds;
        }

        return missing;
    }

    // What is missing is told before the time that is recorded moves past it; so it counts when both have come.
    private static (double RecordedMs, double MissingMs) Told(TeacherSession teacher)
    {
        var (recorded, missing) = (0.0, 0.0);
        teacher.Browser.Until(
            () =>
            {
                var before = (recorded, missing);
                missing = teacher.Figure("missingMs");
                recorded = teacher.Figure("recordedMs");
                return before.recorded > 0 && recorded > before.recorded && missing == before.missing && missing == teacher.Figure("missingMs");
            },
            "a moment at which nothing more is missing");
        return (recorded, missing);
    }

    // Someone else's press of "Go on" on another computer, without sound.
    private static void Reopen(string server, TeacherSession teacher)
    {
        using var other = new Chromium();
        other.SignIn(server, TeacherSession.Email, TeacherSession.Password);
        var takes = $"/api{teacher.LessonPath}/takes";
        using var open = JsonDocument.Parse(other.Call("GET", takes));
        var id = open.RootElement.EnumerateArray().Last().GetProperty("id").GetGuid();
        using var reopened = JsonDocument.Parse(other.Call("POST", $"{takes}/{id}/reopen"));
        reopened.RootElement.GetProperty("epoch").GetInt32().ShouldBeGreaterThan(1);
    }
}
