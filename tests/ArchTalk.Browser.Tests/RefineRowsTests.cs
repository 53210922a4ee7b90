using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using OpenQA.Selenium;

namespace ArchTalk.Browser.Tests;

/// <summary>What lies on Refine's rows is dragged where it belongs: by mouse, and by touch.</summary>
[Trait("check", "aside")]
public sealed class RefineRowsTests(SharedServer shared)
{
    // Heights, as shares of the rows: the handles, and the chapters with their stops.
    private const double Handles = 0.55;
    private const double Chapters = 0.92;

    // Handles lie beside their edge; a hand takes them so far from it, as a share of the rows.
    private const double Beside = 0.008;

    [Theory]
    [InlineData(Holding.Mouse)]
    [InlineData(Holding.Finger)]
    public async Task Edges_stops_and_chapters_are_dragged_and_all_of_it_is_undone(Holding holding)
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(touch: holding == Holding.Finger);
        await CleaningTake.BeginAsync(server, browser);
        var rows = new RefineRows(browser, holding);
        var hand = new Hand(browser, holding, ".refine-canvas");
        double Share(double second) => second / rows.Seconds();
        void Drag(double from, double to, double height, double beside = 0) =>
            hand.Draw((Share(from) + beside, height), (Share(to) + beside, height), steps: 8);

        // The end of what is proposed: 7.7 s as found, 5 s as dragged.
        browser.UntilText("A false start?");
        Drag(7.7, 5, Handles, Beside);
        browser.UntilText("Take out 5.0 s");
        rows.Once(() => browser.Press("Take out 5.0 s", holding));
        rows.Seconds().ShouldBe(CleaningTake.Recorded - 5, 0.1);

        // A second more behind a phrase that was taken out, while what lies around the join is heard.
        var at = rows.PlaceOf(27.5);
        rows.Choose(at + 0.1, at + 2.1);
        rows.Once(() => browser.Press("Take out", holding));
        browser.Press("Edits", holding);
        browser.Press("2.2 s taken out", holding);
        var handle = By.CssSelector("[aria-label='Where what is taken out ends']");
        browser.Until(() => browser.Driver.FindElements(handle).Any(b => b.Displayed), "the handles");
        hand.Down(Share(at) + Beside, Handles);
        hand.Along((Share(at) + Beside, Handles), (Share(at + 1) + Beside, Handles), 8);
        browser.UntilText("is heard again and again");
        rows.Once(() => hand.Up(Share(at + 1) + Beside, Handles));
        browser.UntilText("3.2 s taken out");

        // A thinking stop, put behind the phrase that ends at 13.3 s, is dragged into the one that ends at 16.4 s.
        GoTo(browser, rows, hand, rows.PlaceOf(12));
        browser.Press("Ask and wait", holding);
        browser.Until(() => Stop(rows) is { } stop && Math.Abs(stop - rows.PlaceOf(13.3)) < 0.1, "the stop behind its phrase");
        Drag(rows.PlaceOf(13.3), rows.PlaceOf(15.4), Chapters);
        browser.Until(() => Stop(rows) is { } stop && Math.Abs(stop - rows.PlaceOf(16.4)) < 0.1, "the stop behind the other phrase");

        // A chapter, dragged to where a phrase begins; its beginning pressed, its name can be typed over.
        GoTo(browser, rows, hand, rows.PlaceOf(22));
        browser.Press("Chapter here", holding);
        browser.Until(() => ChapterStart(rows) is { } start && Math.Abs(start - rows.PlaceOf(22)) < 0.3, "the chapter");
        Drag(ChapterStart(rows)!.Value, rows.PlaceOf(32.7) - 0.2, Chapters);
        browser.Until(() => ChapterStart(rows) is { } start && Math.Abs(start - rows.PlaceOf(32.7)) < 0.1, "the chapter where the phrase begins");
        browser.Press("To do", holding);
        hand.Down(Share(ChapterStart(rows)!.Value), Chapters);
        hand.Up(Share(ChapterStart(rows)!.Value), Chapters);
        string Focused() => browser.Driver.SwitchTo().ActiveElement().GetAttribute("value") ?? "";
        browser.Until(() => Focused().StartsWith("Part from 0:1", StringComparison.Ordinal), "the chapter's name");
        browser.Press("Remove the chapter", holding);
        browser.Until(() => ChapterStart(rows) is null, "the chapter removed");
        browser.UntilText("Drag over the rows");

        for (var i = 0; i < 5; i++)
        {
            rows.Undo();
        }

        rows.Seconds().ShouldBe(CleaningTake.Recorded, 0.01);
        Stop(rows).ShouldBeNull();
    }

    [Fact]
    public async Task What_is_dragged_while_the_server_is_away_says_so_and_can_be_dragged_again()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium();
        await CleaningTake.BeginAsync(server, browser);
        var rows = new RefineRows(browser, Holding.Mouse);
        var hand = new Hand(browser, Holding.Mouse, ".refine-canvas");
        static double Share(double second) => second / CleaningTake.Recorded;
        GoTo(browser, rows, hand, 12);
        browser.Click("Ask and wait");
        browser.UntilText("Put a thinking stop");
        Stop(rows)!.Value.ShouldBe(13.3, 0.1);

        await server.KillAsync();
        hand.Draw((Share(13.3), Chapters), (Share(15.4), Chapters), steps: 8);
        browser.UntilText("can't be reached");
        await server.StartAsync();
        Stop(rows)!.Value.ShouldBe(13.3, 0.1);
        hand.Draw((Share(13.3), Chapters), (Share(15.4), Chapters), steps: 8);
        browser.Until(() => Stop(rows) is { } stop && Math.Abs(stop - 16.4) < 0.1, "the stop where it was dragged");
        browser.Until(() => !browser.Find("body").Text.Contains("can't be reached", StringComparison.Ordinal), "no fault any more");
    }

    [Fact]
    public async Task A_pause_becomes_longer_a_tone_lies_over_a_stretch_and_another_holds_only_this_time()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium();
        await CleaningTake.BeginAsync(server, browser);
        var rows = new RefineRows(browser, Holding.Mouse);
        var recorded = rows.Timeline();
        var hand = new Hand(browser, Holding.Mouse, ".refine-canvas");
        GoTo(browser, rows, hand, 20);
        rows.Once(() => browser.Click("Put in a pause"));
        rows.Seconds().ShouldBe(CleaningTake.Recorded + 2, 0.01);
        var fiveSeconds = By.XPath("//label[contains(., 'Students wait')]//option[. = '5 s']");
        rows.Once(() => browser.Driver.FindElements(fiveSeconds).First(o => o.Displayed).Click());
        browser.UntilText("Pause of 5.0 s");
        rows.Seconds().ShouldBe(CleaningTake.Recorded + 5, 0.01);

        rows.Choose(8.1, 10);
        browser.Click("More");
        rows.Once(() => browser.Click("Lay a tone over it"));
        browser.UntilText("2.2 s under a tone");
        rows.Choose(11.2, 13.2);
        browser.Click("More");
        rows.Once(() => browser.Click("Only this time: leave it out later"));
        browser.UntilText("2.2 s only this time");
        rows.Once(() => browser.Click("With what holds only this time"));
        rows.Seconds().ShouldBe(CleaningTake.Recorded + 5 - 2.2, 0.1);
        for (var i = 0; i < 5; i++)
        {
            rows.Undo();
        }

        rows.Timeline().ShouldBe(recorded, "byte for byte");

        // Rows that are switched on stay on, and take their room.
        double Height() => browser.Script<double>("return document.querySelector('.refine-canvas').clientHeight");
        var before = Height();
        browser.Click("Key lines");
        browser.Until(() => Height() > before, "a further row");
        browser.Click("Terms");
        browser.Until(() => Height() > before + 40, "two further rows");
        browser.Driver.Navigate().Refresh();
        browser.Until(() => Height() > before + 40, "the rows as they were left");
    }

    [Fact]
    public async Task Each_edit_says_when_the_network_is_pulled_and_can_be_done_again()
    {
        var server = await shared.StartedAsync();
        using var wire = new Wire(server.Port);
        using var browser = new Chromium();
        await CleaningTake.BeginAsync(server, browser, wire.Address);
        var rows = new RefineRows(browser, Holding.Mouse);
        var hand = new Hand(browser, Holding.Mouse, ".refine-canvas");
        var (recorded, steps) = (rows.Timeline(), 0);
        void Menu(string words)
        {
            if (!browser.Driver.FindElements(By.XPath($"//button[contains(., '{words}')]")).Any(b => b.Displayed))
            {
                browser.Click("More");
            }

            browser.Click(words);
        }

        // The server did it, and nobody said so: the page finds out by itself, and it isn't done twice.
        void Unheard(Action edit, string done)
        {
            wire.LosesAnswersTo = $"POST /api/lessons/{Guid.Parse(new Uri(browser.Driver.Url).Segments[2].TrimEnd('/'))}/edits";
            edit();
            browser.UntilText("can't be reached");
            wire.Mend();
            browser.UntilText(done);
            browser.Until(() => !browser.Find("body").Text.Contains("can't be reached", StringComparison.Ordinal), "no fault any more");
            steps++;
        }

        void Pulled(string what, Action edit, string done)
        {
            wire.Pull();
            edit();
            browser.UntilText("can't be reached");
            wire.PlugIn();
            long Revision() => rows.Edits().GetProperty("revision").GetInt64();
            var before = Revision();
            rows.Once(edit);
            browser.UntilText(done);
            Revision().ShouldNotBe(before, what);
            browser.Until(() => !browser.Find("body").Text.Contains("can't be reached", StringComparison.Ordinal), "no fault any more");
            steps++;
        }

        Pulled("accepting", () => browser.Click("Take out 7."), "Took out 7.");
        rows.Choose(3, 5);
        Pulled("a mute", () => Menu("Mute"), "Muted");
        rows.Choose(3, 5);
        Pulled("a tone", () => Menu("Lay a tone over it"), "tone");
        rows.Choose(3, 5);
        Pulled("only this time", () => Menu("Only this time"), "only this time");
        rows.Choose(12, 22);
        Pulled("silences", () => browser.Click("Shorten"), "shorter");
        rows.Choose(3, 5);
        Pulled("a cut", () => browser.Click("Take out"), "Took out");
        rows.Choose(3, 5);
        Unheard(() => Menu("Mute"), "Muted");
        rows.Choose(6, 7);
        Unheard(() => browser.Click("Take out"), "Took out");
        GoTo(browser, rows, hand, 10);
        Pulled("a pause", () => browser.Click("Put in a pause"), "Put in a pause");
        Pulled("a stop", () => browser.Click("Ask and wait"), "Put a thinking stop");
        browser.Click("Edits");
        Pulled("what was taken out", () => browser.Click("Put back"), "Put back");
        Pulled("going back", () => browser.ClickOn("[aria-label='Undo the last edit']"), "Undone");
        Pulled("going on", () => browser.ClickOn("[aria-label='Redo the edit']"), "Put back");

        browser.Click("History");
        rows.Once(() => browser.Click("As it was recorded"));
        rows.Timeline().ShouldBe(recorded, "byte for byte");
        browser.Driver.FindElements(By.CssSelector("#panel-history .line-button")).Count(b => b.Displayed)
            .ShouldBe(steps - 2 + 1, "each was done once; going back and on is no step");
    }

    private static void GoTo(Chromium browser, RefineRows rows, Hand hand, double second)
    {
        var share = second / rows.Seconds();
        hand.Down(share, 0.05);
        hand.Up(share, 0.05);
        browser.Until(() => Math.Abs(rows.Time() - second) < 0.2, "the moment");
    }

    private static double? Stop(RefineRows rows) => Ms(rows.Edits().GetProperty("stops").EnumerateArray().Select(s => s.GetProperty("atMs")));

    // Of the one that doesn't begin with the lesson.
    private static double? ChapterStart(RefineRows rows) =>
        Ms(JsonDocument.Parse(rows.Timeline()).RootElement.GetProperty("chapters").EnumerateArray().Select(c => c.GetProperty("at")).Skip(1));

    private static double? Ms(IEnumerable<JsonElement> times) => times.Select(t => (double?)(t.GetDouble() / 1000)).FirstOrDefault();
}
