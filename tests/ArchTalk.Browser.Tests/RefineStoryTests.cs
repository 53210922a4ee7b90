using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Tests;
using OpenQA.Selenium;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>
/// A take with a false start, a slip that was noted, silences and words after the end is cleaned as a teacher would, by visible
/// controls only, taken back completely, done again, published and watched.
/// </summary>
public sealed class RefineStoryTests(ITestOutputHelper output, SharedServer shared) : IDisposable
{
    // What the proposals save: the false start, the noted sentence, the two silences, the words after the end.
    private const double Proposed = 7.7 + 3.1 + 7 + 2.6 + 9.4;

    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    [Theory]
    [InlineData(Holding.Mouse)]
    [InlineData(Holding.Finger)]
    [InlineData(Holding.Pen)]
    public async Task A_take_is_cleaned_undone_done_again_published_and_watched(Holding holding)
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(touch: holding == Holding.Finger);
        var teacher = await CleaningTake.BeginAsync(server, browser);
        var (rows, presses) = (new RefineRows(browser, holding), 0);
        void Press(string words)
        {
            browser.Press(words, holding);
            presses++;
        }

        var recorded = rows.Timeline();

        // The first is heard before and after, and ends by itself.
        browser.UntilText("A false start?");
        Press("Hear it after");
        browser.Until(() => rows.Time() > 7.5, "what it would sound like");
        browser.Until(() => browser.Script<bool>("return document.querySelector('audio').paused"), "its end");
        foreach (var words in new[] { "Take out 7.", "Take out 3.", "Make it 1.0 s", "Make it 0.4 s", "Take out 9." })
        {
            rows.Once(() => Press(words));
        }

        browser.UntilText("Nothing more is proposed");
        rows.Seconds().ShouldBe(CleaningTake.Recorded - Proposed, 0.5);

        // A slip that was noted nowhere.
        var at = rows.PlaceOf(CleaningTake.Slip);
        rows.Choose(at + 0.1, at + CleaningTake.SlipEnd - CleaningTake.Slip - 0.1);
        presses += holding == Holding.Finger ? 4 : 1;
        browser.UntilText("1 phrase");
        rows.Once(() => Press("Take out"));
        rows.Seconds().ShouldBe(CleaningTake.Recorded - Proposed - (CleaningTake.SlipEnd - CleaningTake.Slip), 0.6);
        var cleaned = rows.Timeline();
        output.WriteLine($"{holding}: {presses} presses, {CleaningTake.Recorded} s became {rows.Seconds():0.0} s");
        presses.ShouldBeLessThanOrEqualTo(60);

        // All taken back, step by step, and done again.
        for (var i = 0; i < 6; i++)
        {
            rows.Once(() => browser.ClickOn("[aria-label='Undo the last edit']"));
        }

        rows.Timeline().ShouldBe(recorded, "byte for byte");
        browser.Press("History", holding);
        rows.Once(() => browser.Press("Took out 2.", holding));
        rows.Timeline().ShouldBe(cleaned, "byte for byte");

        // What lies there can be heard and put back.
        browser.Press("Edits", holding);
        browser.UntilText("2.2 s taken out");
        browser.Driver.FindElements(By.CssSelector("[aria-label^='Hear what was there']")).First(b => b.Displayed).Click();
        browser.UntilText("Silence 3.0 s → 0.4 s");
        browser.Click("2.2 s taken out");
        rows.Once(() => browser.Driver.FindElements(By.CssSelector("[aria-label='End 0.1 s later']")).First(b => b.Displayed).Click());
        browser.UntilText("2.3 s taken out");
        rows.Once(() => browser.ClickOn("[aria-label='Undo the last edit']"));

        var (timeline, _) = await TeacherSession.ReadPublishedAsync(teacher.Publish());
        timeline.Length.Seconds.ShouldBe(CleaningTake.Recorded - Proposed - (CleaningTake.SlipEnd - CleaningTake.Slip), 0.6);
        timeline.Boards[0].Strokes.Count.ShouldBe(2, "what was drawn in the slip went with it");
    }

    [Fact]
    public async Task By_keyboard_alone()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium();
        await CleaningTake.BeginAsync(server, browser);
        var (rows, presses) = (new RefineRows(browser, Holding.Mouse), 0);
        void Key(string key)
        {
            new OpenQA.Selenium.Interactions.Actions(browser.Driver).SendKeys(key).Perform();
            presses++;
        }

        void Chord(string key) =>
            new OpenQA.Selenium.Interactions.Actions(browser.Driver).KeyDown(Keys.Control).SendKeys(key).KeyUp(Keys.Control).Perform();

        browser.UntilText("A false start?");
        for (var i = 0; i < 5; i++)
        {
            rows.Once(() => Key("a"));
        }

        browser.UntilText("Nothing more is proposed");

        // From phrase to phrase to the slip.
        var slip = rows.PlaceOf(CleaningTake.Slip);
        Key(Keys.Home);
        browser.Until(() => rows.Time() < 0.1, "the beginning");
        while (rows.Time() < slip - 0.3)
        {
            var before = rows.Time();
            Key(Keys.ArrowDown);
            browser.Until(() => rows.Time() > before, "the next end of a phrase");
        }

        Key("s");
        Key(Keys.ArrowDown);
        Key("e");
        browser.UntilText("1 phrase");
        rows.Once(() => Key("o"));
        rows.Seconds().ShouldBe(CleaningTake.Recorded - Proposed - (CleaningTake.SlipEnd - CleaningTake.Slip), 0.6);
        output.WriteLine($"keyboard: {presses} presses");
        presses.ShouldBeLessThanOrEqualTo(60);
        rows.Once(() => Chord("z"));
        rows.Seconds().ShouldBe(CleaningTake.Recorded - Proposed, 0.5);
        rows.Once(() => Chord("y"));
        rows.Seconds().ShouldBe(CleaningTake.Recorded - Proposed - (CleaningTake.SlipEnd - CleaningTake.Slip), 0.6);

        // To the voice and back, by the tabs.
        Key("t");
        Key(Keys.ArrowLeft);
        browser.UntilText("All of it is brought to one level");
        browser.Driver.SwitchTo().ActiveElement().GetAttribute("id").ShouldBe("tab-voice");
        Key(Keys.ArrowRight);

        // A thinking stop where the playhead is, worded and removed.
        Key("w");
        browser.Until(() => browser.Driver.SwitchTo().ActiveElement().GetAttribute("maxlength") == "300", "the question");
        browser.Driver.SwitchTo().ActiveElement().SendKeys("Why does it stand?" + Keys.Tab);
        browser.UntilText("Worded a thinking stop");
        browser.UntilText("Why does it stand?");
    }

    [Fact]
    public async Task Nothing_is_lost_when_the_server_or_the_tab_is_killed_or_another_window_edits()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium();
        await CleaningTake.BeginAsync(server, browser);
        var rows = new RefineRows(browser, Holding.Mouse);
        browser.UntilText("A false start?");

        // The other window is quicker: this one says so, and shows what there is.
        var lesson = new Uri(browser.Driver.Url).Segments[2].TrimEnd('/');
        browser.Call("POST", $"/api/lessons/{lesson}/edits", new { version = 0, step = new { @do = "takeOut", fromMs = 39_000, toMs = 40_000 } });
        browser.Click("Take out 7.");
        browser.UntilText("another window");
        browser.Until(() => Math.Abs(rows.Seconds() - (CleaningTake.Recorded - 1)) < 0.2, "the other window's edit");
        rows.Once(() => browser.Click("Take out 7."));
        rows.Seconds().ShouldBe(CleaningTake.Recorded - 1 - 7.7, 0.3);

        await server.KillAsync();
        browser.Click("Take out 3.");
        browser.UntilText("can't be reached");
        browser.UntilText("0:51 → 0:42");
        await server.StartAsync();
        rows.Once(() => browser.Click("Take out 3."));
        rows.Seconds().ShouldBe(CleaningTake.Recorded - 1 - 7.7 - 3.1, 0.3);

        // A tab that dies with the press: it is done or it isn't, and the lesson goes on from there.
        var (before, version, page) = (rows.Timeline(), rows.Edits().GetProperty("version").GetInt32(), browser.Driver.Url);
        browser.ClickOn("#panel-todo .button-primary");
        browser.CloseTab();
        browser.Go(page);
        browser.Until(() => browser.Find("#panel-todo .button-primary").Displayed, "what is to do");
        if (rows.Edits().GetProperty("version").GetInt32() > version)
        {
            rows.Undo();
        }

        rows.Timeline().ShouldBe(before, "byte for byte");
        rows.Once(() => browser.ClickOn("#panel-todo .button-primary"));
        rows.Timeline().ShouldNotBe(before);
    }

    [Theory]
    [InlineData(Holding.Mouse)]
    [InlineData(Holding.Finger)]
    public async Task A_slip_is_said_again_in_its_place_and_something_is_put_in_between(Holding holding)
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync(), touch: holding == Holding.Finger);
        var teacher = await CleaningTake.BeginAsync(server, browser);
        var rows = new RefineRows(browser, holding);
        rows.Choose(CleaningTake.Slip + 0.1, CleaningTake.SlipEnd - 0.1);
        browser.UntilText("1 phrase");
        browser.Press("Say again", holding);
        browser.UntilText("You say 0:35 to 0:38 again");
        Record(drawing: true);

        // On Refine at the place, with the new stretch and without the slip's line.
        browser.UntilText("0:51 →");
        var length = rows.Seconds();
        browser.Until(() => Math.Abs(rows.Time() - CleaningTake.Slip) < 0.5, "the place");
        browser.Press("Edits", holding);
        browser.UntilText("Said again: 2.");
        browser.Press("History", holding);
        browser.UntilText("again at 0:35");

        // Between two phrases, near the beginning.
        browser.Find("body").SendKeys(Keys.Home);
        browser.Press("Record here", holding);
        browser.UntilText("What you record now comes in at 0:00");
        Record(drawing: false);
        browser.Until(() => rows.Seconds() > length + 1, "the lesson with it");
        browser.Press("Edits", holding);
        browser.UntilText(" put in");
        rows.Once(() => browser.Press("Take out", holding));
        rows.Seconds().ShouldBe(length, 0.01);

        var (timeline, _) = await TeacherSession.ReadPublishedAsync(teacher.Publish());
        timeline.Length.Seconds.ShouldBe(length, 0.1);
        var end = timeline.At(LessonTime.Zero + timeline.Length).Panes[0].Strokes.Select(s => timeline.Boards[0].Strokes[s.Index]).ToArray();
        end.Length.ShouldBe(3, "the two lines from before, and the one that was drawn anew");

        void Record(bool drawing)
        {
            teacher.Listen();
            browser.Press("Start recording", holding);
            teacher.UntilRecorded(2);
            if (drawing)
            {
                new Hand(browser, holding).Draw((0.2, 0.7), (0.6, 0.7));
            }

            teacher.UntilRecorded(3);
            browser.Press("Finish", holding);
            browser.Until(() => browser.Driver.Url.Contains("/refine", StringComparison.Ordinal), "Refine");
            teacher.UntilLesson();
        }
    }

    [Fact]
    public async Task A_tab_that_is_closed_while_something_is_said_again_goes_on_in_its_place()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = await CleaningTake.BeginAsync(server, browser);
        var rows = new RefineRows(browser, Holding.Mouse);
        rows.Choose(CleaningTake.Slip + 0.1, CleaningTake.SlipEnd - 0.1);
        browser.Press("Say again", Holding.Mouse);
        browser.UntilText("You say 0:35 to 0:38 again");
        teacher.Listen();
        teacher.StartRecording();
        teacher.UntilRecorded(1);
        (double, double)[] line = [.. Enumerable.Range(0, 10).Select(i => (0.22 + (i * 0.035), 0.8))];
        new Hand(browser, Holding.Mouse).Draw((0.2, 0.8), (0.6, 0.8));
        teacher.UntilSaved(3);
        browser.CloseTab();

        // From the lessons: the boards are as they were there, with what was drawn since.
        browser.Go(server.Address);
        browser.ClickOn($"a[href*='{teacher.LessonPath}/']");
        browser.Until(() => browser.Driver.Url.Contains(teacher.LessonPath, StringComparison.Ordinal), "the lesson");
        teacher.OpenRecord();
        browser.Until(() => new Canvas(browser).Has(SKColor.Parse("#1E2A2B"), line).All(seen => seen), "what was drawn before");
        browser.Click("Go on with it");
        browser.Until(teacher.IsRecording, "the take going on");
        teacher.UntilRecorded(5);
        teacher.Finish();
        teacher.UntilLesson();
        browser.Press("Edits", Holding.Mouse);
        browser.UntilText("Said again: 2.");
        rows.Seconds().ShouldBeGreaterThan(CleaningTake.Recorded + 1);
        rows.PlaceOf(CleaningTake.SlipEnd + 1).ShouldBeGreaterThan(CleaningTake.Slip + 4);
    }

    [Fact]
    public async Task A_chapter_is_moved_before_another_and_back()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium();
        await CleaningTake.BeginAsync(server, browser);
        var rows = new RefineRows(browser, Holding.Mouse);
        var before = rows.Timeline();
        browser.Click("Chapters");
        var hand = new Hand(browser, Holding.Mouse, ".refine-canvas");
        hand.Down(27.0 / CleaningTake.Recorded, 0.05);
        hand.Up(27.0 / CleaningTake.Recorded, 0.05);
        browser.Until(() => Math.Abs(rows.Time() - 27) < 0.5, "the moment");
        browser.Click("Chapter at this moment");
        var clocks = "return [...document.querySelectorAll('#panel-chapters ol .link.clock > span:first-child')].map((c) => c.textContent).join(' ')";
        browser.Until(() => browser.Script<string>(clocks) is "0:00 0:26" or "0:00 0:27", "the second chapter");

        browser.Click("Move");
        browser.Find("#panel-chapters select.max-w-full").FindElement(By.CssSelector("option[value=end]")).Click();
        browser.UntilText("is not there yet when the other begins");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector(".join-picture")).Count == 2, "what is seen at the join");
        rows.Once(() => browser.Click("Move it there"));
        browser.UntilText("to the end");
        rows.Seconds().ShouldBe(CleaningTake.Recorded, 0.01);
        rows.PlaceOf(2).ShouldBe(CleaningTake.Recorded - 27 + 2, 0.5);
        browser.Until(() => browser.Script<string>(clocks) is "0:00 0:23" or "0:00 0:24", "the chapters where they are now");
        rows.Once(() => browser.ClickOn("[aria-label='Undo the last edit']"));
        rows.PlaceOf(2).ShouldBe(2, 0.01);
        browser.Until(() => browser.Script<string>(clocks) is "0:00 0:26" or "0:00 0:27", "the chapters as they were");
        JsonDocument.Parse(rows.Timeline()).RootElement.GetProperty("boards").GetRawText()
            .ShouldBe(JsonDocument.Parse(before).RootElement.GetProperty("boards").GetRawText(), "byte for byte");
    }
}
