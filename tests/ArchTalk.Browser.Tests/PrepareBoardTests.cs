using ArchTalk.Browser.Tests.Support;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace ArchTalk.Browser.Tests;

/// <summary>Items placed on a board by mouse and keyboard, up to the student who sees them.</summary>
[Trait("check", "aside")]
public sealed class PrepareBoardTests(SharedServer shared)
{
    private const string ItemsOf = "return [...document.querySelectorAll('g.item')].map(g => g.getAttribute('aria-label')).join('|')";
    [Fact]
    public async Task Items_are_placed_moved_undone_and_seen_by_students()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium();
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Domes");
        teacher.AddEmptyBoard(1);
        teacher.Card(1).FindElement(By.CssSelector("a.button")).Click();
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("svg.board-surface")).Count == 1, "the board's page");

        WriteText(browser);
        PlaceLabel(browser);
        MoveByMouseAndKeyboard(browser);
        PullTextWider(browser);
        AddFormulaAndFigure(browser);
        UndoAndReload(browser);
        Paste(browser);
        browser.Click("Cover");
        UntilSaved(browser);

        // In Record and in Watch the canvas shows what lies on the board.
        teacher.OpenRecord("Use the test voice");
        browser.Until(() => DarkPixels(browser) > 300, "items on the board while recording");
        teacher.StartRecording();
        teacher.UntilRecorded(1);
        browser.Click("Uncover the last");
        browser.UntilText("All uncovered");
        teacher.UntilRecorded(2);
        teacher.Finish();
        var link = teacher.Publish();
        var (timeline, _) = await TeacherSession.ReadPublishedAsync(link);
        timeline.Boards[0].Items.ShouldHaveSingleItem().Shows.Select(s => s.Value).ShouldBe([true, false]);
        using var student = new Chromium();
        student.Go(link);
        student.Until(() => DarkPixels(student) > 300, "items on the board while watching");
        student.Find("canvas").GetAttribute("aria-label")!.ShouldContain("A dome is an arch turned round.");
    }

    [Fact]
    public async Task A_deck_offers_its_hidden_slide_and_its_link_and_words_are_added_many_at_once()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium();
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Domes");
        teacher.AddFiles(3, Repository.DemoFile("dome-slides.pptx"));

        browser.Click("1 slide was hidden in the show");
        browser.ClickOn("details li input[type=checkbox]");
        browser.Click("Add the ticked one");
        teacher.UntilBoards(4);

        browser.ClickOn("#tab-references");
        browser.Click("Take");
        browser.Until(() => browser.Script<string>(
            "return document.querySelector('#panel-references input[type=url]')?.value ?? ''") == "https://example.org/dome-model", "the link as a "
                + "reference");

        browser.ClickOn("#tab-vocabulary");
        browser.Find("#term-lines").SendKeys("rib (noun): a curved strip\nhoop /huːp/: a ring");
        browser.Click("Add them");
        browser.Until(() => browser.Script<string>(
            "return [...document.querySelectorAll('#panel-vocabulary ol input[id^=w]')].map(i => i.value).join(' ')") == "rib hoop", "both words");
        browser.Click("Sort by alphabet");
        browser.Until(() => browser.Script<string>(
            "return [...document.querySelectorAll('#panel-vocabulary ol input[id^=w]')].map(i => i.value).join(' ')") == "hoop rib", "in order");

        // Notes of the slide are there when recording.
        browser.Go($"{teacher.Lesson}/record");
        browser.UntilText("Turn the paper arch round its keystone");
    }

    private static string[] Items(Chromium browser) => browser.Script<string>(ItemsOf).Split('|', StringSplitOptions.RemoveEmptyEntries);

    private static void UntilSaved(Chromium browser) =>
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("[role=status]")).Any(s => s.Text == "Saved"), "“Saved”");

    private static double[] Box(Chromium browser, string kind)
    {
        var numbers = browser.Script<string>(
            "const g = [...document.querySelectorAll('g.item')].find(g => g.getAttribute('aria-label').startsWith(arguments[0]));"
            + "const t = g.getAttribute('transform').match(/-?[0-9.]+/g); const r = g.querySelector('.item-hit');"
            + "return [t[0], t[1], r.getAttribute('width') - 12, r.getAttribute('height') - 12].join(' ')", kind);
        return [.. numbers.Split(' ').Select(n => double.Parse(n, System.Globalization.CultureInfo.InvariantCulture))];
    }

    private static void WriteText(Chromium browser)
    {
        browser.Click("Text");
        browser.Until(() => browser.Find(".board-writing").Displayed, "the place to write");
        new Actions(browser.Driver).SendKeys("A dome is an arch turned round.").Perform();
        browser.Until(
            () => Items(browser).Length == 1 && Items(browser)[0].Contains("turned round", StringComparison.Ordinal),
            "the words as an item");

        // One word is marked: its letters alone get the look.
        browser.Script("const t = document.createTreeWalker(document.querySelector('.board-writing'), 4).nextNode(); const r = "
            + "document.createRange(); r.setStart(t, 2); r.setEnd(t, 6);"
            + "const s = getSelection(); s.removeAllRanges(); s.addRange(r)");
        browser.ClickOn("[aria-label='Highlight: yellow']");
        new Actions(browser.Driver).SendKeys(Keys.Escape).Perform();
        UntilSaved(browser);
        browser.Until(() => browser.Script<bool>("return [...document.querySelectorAll('g.item text')].some(t => t.textContent === 'dome') && "
            + "!!document.querySelector('g.item path[fill=\"#F0E442\"]')"), "the word “dome” marked");
    }

    private static void PlaceLabel(Chromium browser)
    {
        browser.Click("Label");
        var surface = browser.Find("svg.board-surface");
        new Actions(browser.Driver).MoveToElement(surface, 0, surface.Size.Height / 4).Click().Perform();
        browser.Until(() => browser.Driver.SwitchTo().ActiveElement().GetAttribute("id") == "label-text", "the label's field");
        browser.Driver.SwitchTo().ActiveElement().SendKeys("keystone");
        browser.Until(() => Items(browser).Any(i => i == "Label: keystone"), "the label");
        UntilSaved(browser);
        browser.ClickOn("#tab-labels");
        browser.Until(() => browser.Find("#panel-labels ol").Text.Contains("keystone", StringComparison.Ordinal), "the label's number");
    }

    private static void MoveByMouseAndKeyboard(Chromium browser)
    {
        browser.Click("Cover");
        browser.Until(() => Items(browser).Any(i => i.StartsWith("Cover", StringComparison.Ordinal)), "a cover");
        UntilSaved(browser);
        var text = Box(browser, "Text");
        var before = Box(browser, "Cover");
        var scale = browser.Find("svg.board-surface").Size.Width / 1600.0;

        // Dragged to within a few units of the text's left edge, it rests exactly there.
        var cover = browser.Find("g.item[aria-label^='Cover'] .item-hit");
        var (dx, dy) = ((text[0] + 4 - before[0]) * scale, (500 - before[1]) * scale);
        new Actions(browser.Driver).MoveToElement(cover).ClickAndHold().MoveByOffset((int)dx / 2, (int)dy / 2)
            .MoveByOffset((int)Math.Round(dx - ((int)dx / 2)), (int)Math.Round(dy - ((int)dy / 2)))
            .Release()
            .Perform();
        browser.Until(() => Math.Abs(Box(browser, "Cover")[1] - before[1]) > 100, "the cover moved");
        Box(browser, "Cover")[0].ShouldBe(text[0], 0.2);
        UntilSaved(browser);

        new Actions(browser.Driver).SendKeys(Keys.ArrowRight + Keys.ArrowRight).KeyDown(Keys.Shift).SendKeys(Keys.ArrowDown).KeyUp(Keys.Shift)
            .Perform();
        browser.Until(() => Math.Abs(Box(browser, "Cover")[0] - text[0] - 4) < 0.2, "the cover two nudges to the right");
        UntilSaved(browser);
    }

    private static void PullTextWider(Chromium browser)
    {
        browser.Script("document.querySelector(\"g.item[aria-label^='Text']\").focus()");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("[data-handle=e]")).Count == 1, "the handle at its right");
        var size = browser.Script<string>("return document.querySelector(\"g.item[aria-label^='Text'] text\").getAttribute('font-size')");
        var before = Box(browser, "Text");
        new Actions(browser.Driver).MoveToElement(browser.Find("[data-handle=e]")).ClickAndHold().MoveByOffset(-90, 0).MoveByOffset(-90, 0).Release()
            .Perform();
        browser.Until(() => Box(browser, "Text")[2] < before[2] - 200 && Box(browser, "Text")[3] > before[3], "narrower, and higher");
        browser.Script<string>("return document.querySelector(\"g.item[aria-label^='Text'] text\").getAttribute('font-size')")
            .ShouldBe(size, "letters keep their size");
        UntilSaved(browser);
    }

    private static void AddFormulaAndFigure(Chromium browser)
    {
        browser.Click("Formula");
        browser.Until(() => Items(browser).Any(i => i.StartsWith("Formula", StringComparison.Ordinal)), "a formula");
        UntilSaved(browser);
        var tex = browser.Find("#formula-tex");
        tex.Clear();
        tex.SendKeys(@"\frac{H}{V");
        browser.UntilText("can't be typeset");
        tex.SendKeys("}");
        browser.Until(() => Items(browser).Contains(@"Formula: \frac{H}{V}"), "the fraction");
        browser.Until(
            () => browser.Script<long>("return document.querySelectorAll(\"g.item[aria-label^='Formula'] path\").length") == 3,
            "two letters and a line");
        UntilSaved(browser);

        browser.Click("Figure");
        browser.Click("Clock face");
        browser.Until(() => Items(browser).Contains("Figure: Clock face"), "a clock face");
        UntilSaved(browser);
        var minute = browser.Find("#figure-minute");
        minute.Clear();
        minute.SendKeys("99" + Keys.Tab);
        browser.UntilText("0 to 59");
        minute.Clear();
        minute.SendKeys("45" + Keys.Tab);
        UntilSaved(browser);
    }

    private static void UndoAndReload(Chromium browser)
    {
        var count = Items(browser).Length;
        browser.Script("document.querySelector(\"g.item[aria-label^='Cover']\").focus()");
        new Actions(browser.Driver).SendKeys(Keys.Delete).Perform();
        browser.Until(() => Items(browser).Length == count - 1, "one item fewer");
        UntilSaved(browser);
        browser.Driver.Navigate().Refresh();
        browser.Until(() => Items(browser).Length == count - 1, "the same after a reload");
        browser.ClickOn("[aria-label='Undo']");
        browser.Until(() => Items(browser).Length == count, "the item again");
        browser.ClickOn("[aria-label='Redo']");
        browser.Until(() => Items(browser).Length == count - 1, "gone again");
    }

    private static void Paste(Chromium browser)
    {
        browser.Script("const d = new DataTransfer(); d.setData('text/plain', arguments[0]); window.dispatchEvent(new ClipboardEvent('paste', { "
            + "clipboardData: d }))", "form\tload\nbeam\tbends");
        browser.Until(() => Items(browser).Contains("Table: 2 rows, 2 columns"), "the cells as a table");
        UntilSaved(browser);
    }

    private static long DarkPixels(Chromium browser) => browser.Script<long>(
        "const c = document.querySelector('canvas'); if (!c || !c.width) return 0; const d = c.getContext('2d').getImageData(0, 0, c.width, "
            + "c.height).data;"
        + "let n = 0; for (let i = 0; i < d.length; i += 4) if (d[i + 3] > 200 && d[i] < 80 && d[i + 1] < 80) n++; return n");
}
