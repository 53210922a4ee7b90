using ArchTalk.Browser.Tests.Support;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>What a teacher brings onto boards, by visible controls and the keyboard alone, up to the student who sees it.</summary>
[Trait("check", "aside")]
public sealed class BringingInTests(SharedServer shared) : IDisposable
{
    private const string ItemsOf = "return [...document.querySelectorAll('g.item')].map(g => g.getAttribute('aria-label')).join('|')";
    private static readonly SKColor Red = new(200, 30, 30);
    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    /// <summary>A teacher on the page of the only board of a new lesson.</summary>
    private async Task OnBoardAsync(Action<TeacherSession> work, Action<TeacherSession>? begin = null)
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium();
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Arches");
        (begin ?? (t => t.AddEmptyBoard(1)))(teacher);
        teacher.Card(1).FindElement(By.CssSelector("a.button")).Click();
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("svg.board-surface")).Count == 1, "the board's page");
        work(teacher);
    }

    private static string[] Items(Chromium browser) => browser.Script<string>(ItemsOf).Split('|', StringSplitOptions.RemoveEmptyEntries);

    private static void UntilSaved(Chromium browser) =>
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("[role=status]")).Any(s => s.Text == "Saved"), "“Saved”");

    private static void Type(Chromium browser, string css, string text)
    {
        browser.Until(() => browser.Find(css).Displayed, css);
        var field = browser.Find(css);
        field.Clear();
        field.SendKeys(text + Keys.Tab);
    }

    private static void Paste(Chromium browser, string html, string text, string? picture = null) => browser.Script(
        """
        const d = new DataTransfer();
        if (arguments[0]) d.setData('text/html', arguments[0]);
        if (arguments[1]) d.setData('text/plain', arguments[1]);
        if (arguments[2]) d.items.add(new File([Uint8Array.from(atob(arguments[2]), c => c.charCodeAt(0))], 'copied.png', { type: 'image/png' }));
        document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: d, bubbles: true }));
        """, html, text, picture ?? "");

    // Found in the running application: a clock at hour 24 silently kept everything that was put on the board later from being saved.
    [Fact]
    public Task A_wrong_value_stays_as_it_was_typed_and_keeps_nothing_else_from_being_saved() => OnBoardAsync(teacher =>
    {
        var browser = teacher.Browser;
        browser.Click("Figure");
        browser.Click("Clock face");
        Type(browser, "#figure-hour", "24");
        browser.UntilText("The hour of a clock is from 0 to 23.");
        UntilSaved(browser);
        browser.Click("Formula");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("#formula-tex")).Any(e => e.Displayed), "the formula");
        Type(browser, "#formula-tex", "\\text{Größe} = \\nosuch");
        browser.UntilText("2 items need a look");
        UntilSaved(browser);
        browser.Click("Text");
        browser.Until(() => browser.Find(".board-writing").Displayed, "the place to write");
        new Actions(browser.Driver).SendKeys("Kept").Perform();
        browser.Until(() => Items(browser).Any(i => i.Contains("Kept", StringComparison.Ordinal)), "the text");
        new Actions(browser.Driver).SendKeys(Keys.Escape).Perform();
        UntilSaved(browser);

        browser.Driver.Navigate().Refresh();
        browser.Until(() => Items(browser).Length == 3, "all three after a reload");
        browser.UntilText("2 items need a look");
        browser.Click("Show it");
        browser.Until(() => browser.Find("#figure-hour").GetAttribute("value") == "24", "what was typed");
        Type(browser, "#figure-hour", "11");
        browser.UntilText("Undefined control sequence");
        browser.Click("Show it");
        Type(browser, "#formula-tex", "\\text{Größe} = 5\\,€");
        browser.Until(() => !browser.Find("body").Text.Contains("can't be typeset", StringComparison.Ordinal), "all is right");
        UntilSaved(browser);
        browser.ClickOn("[aria-label=Undo]");
        browser.UntilText("can't be typeset");
        Items(browser).Length.ShouldBe(3, "undo took back one step alone");
    });

    // Found in the running application: new items landed on old ones, and what was below the board's end was cut off without a word.
    [Fact]
    public Task New_items_find_room_or_make_the_board_longer_and_it_can_be_shortened_again() => OnBoardAsync(teacher =>
    {
        var browser = teacher.Browser;
        for (var i = 1; i <= 3; i++)
        {
            browser.Click("Figure");
            browser.Click("Axes, points, curve");
            browser.Until(() => Items(browser).Length == i, $"figure {i}");
        }

        UntilSaved(browser);
        var boxes = browser.Script<string>(
            "return [...document.querySelectorAll('g.item')].map(g => g.getAttribute('transform').match(/-?[0-9.]+/g).join(' ')).join('|')")
            .Split('|');
        boxes.Distinct().Count().ShouldBe(3);
        double Height() => browser.Script<double>("return Number(document.querySelector('svg.board-surface').getAttribute('viewBox').split(' ')[3])");
        browser.Until(() => Height() > 1200, "a longer board");
        browser.ClickOn("svg.board-surface");
        new Actions(browser.Driver).SendKeys(Keys.Escape).KeyDown(Keys.Control).SendKeys("a").KeyUp(Keys.Control).SendKeys(Keys.Delete).Perform();
        browser.Until(() => Items(browser).Length == 0, "an empty board");
        UntilSaved(browser);
        browser.Click("Shorten to what is on it");
        browser.Until(() => Height() == 900, "a slide again");
        browser.Click("Lengthen the board");
        browser.Until(() => Height() == 1200, "lengthened");
    });

    [Fact]
    public Task A_table_wins_over_its_picture_and_a_picture_is_cropped_turned_and_seen_while_recording_and_watching() => OnBoardAsync(teacher =>
    {
        var browser = teacher.Browser;
        var picture = Convert.ToBase64String(File.ReadAllBytes(files.Picture("red.png", Red)));
        Paste(
            browser,
            "<table><tr><th>Form</th><th>Load</th></tr><tr><td>beam</td><td>3,5 kN</td></tr></table>",
            "Form\tLoad\nbeam\t3,5 kN",
            picture);
        browser.UntilText("Pasted as a table of 2 × 2.");
        Items(browser).ShouldHaveSingleItem().ShouldStartWith("Table");
        browser.Click("As plain text");
        browser.Until(() => Items(browser) is [var one] && one.StartsWith("Text: Form", StringComparison.Ordinal), "the text in its place");
        browser.Click("As a picture");
        browser.Until(() => Items(browser) is [var one] && one.StartsWith("Picture", StringComparison.Ordinal), "the picture in its place");
        UntilSaved(browser);

        Type(browser, "#picture-alternative", "A red wall");
        browser.Until(() => Items(browser)[0].Contains("A red wall", StringComparison.Ordinal), "its description");
        double Shape() => browser.Script<double>(
            "const r = document.querySelector('g.item .item-hit'); return (r.getAttribute('width') - 12) / (r.getAttribute('height') - 12)");
        var before = Shape();
        browser.Script("const e = document.querySelector('[data-side=left]'); e.value = 50; e.dispatchEvent(new Event('change'))");
        browser.Until(() => Math.Abs(Shape() - (before / 2)) < 0.02, "half of it");
        browser.Click("Turn right");
        browser.Until(() => Math.Abs(Shape() - (2 / before)) < 0.02, "on its side");
        UntilSaved(browser);
        Paste(browser, "<ul><li>The <b>keystone</b></li><li>The feet</li></ul>", "The keystone\nThe feet");
        browser.UntilText("Pasted as a list.");
        UntilSaved(browser);

        var place = browser.Script<string>(
            "const g = document.querySelector(\"g.item[aria-label^='Picture']\"), t = g.getAttribute('transform').match(/-?[0-9.]+/g), r = "
                + "g.querySelector('.item-hit');"
            + "return [(Number(t[0]) + (r.getAttribute('width') - 12) / 2) / 1600, (Number(t[1]) + (r.getAttribute('height') - 12) / 2) / "
                + "900].join(' ')")
            .Split(' ').Select(n => double.Parse(n, System.Globalization.CultureInfo.InvariantCulture)).ToArray();
        (double X, double Y)[] there = [(place[0], place[1])];
        teacher.OpenRecord("Use the test voice");
        browser.Until(() => new Canvas(browser).Has(Red, there)[0], "the picture while recording");
        teacher.StartRecording();
        teacher.UntilRecorded(1);
        teacher.Finish();
        var link = teacher.Publish();
        using var student = new Chromium();
        student.Go(link);
        student.Until(() => new Canvas(student).Has(Red, there)[0], "the picture while watching");
        student.Find("canvas").GetAttribute("aria-label")!.ShouldContain("Picture: A red wall.");
    });

    [Fact]
    public Task Ten_terms_are_typed_in_a_row_and_steps_of_the_task_too_by_keyboard_alone() => OnBoardAsync(teacher =>
    {
        var browser = teacher.Browser;
        browser.Click("All boards");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("#tab-vocabulary")).Count == 1, "the lesson's page");
        browser.ClickOn("#tab-vocabulary");
        browser.Click("Add a term");
        browser.Until(() => browser.Script<string>("return document.activeElement.id").StartsWith('w'), "the first word");
        for (var i = 1; i <= 10; i++)
        {
            new Actions(browser.Driver).SendKeys($"word{i}{Keys.Tab}reading{i}{Keys.Tab}en{Keys.Tab}meaning {i}").Perform();
            if (i < 10)
            {
                new Actions(browser.Driver).SendKeys(Keys.Tab).Perform();
                browser.Until(
                    () => browser.Script<bool>("return document.activeElement.id.startsWith('w') && document.activeElement.value === ''"),
                    $"word {i + 1}");
            }
        }

        browser.Until(() => browser.Script<string>(
            "return [...document.querySelectorAll('#panel-vocabulary ol input[id^=w]')].map(i => i.value).join(' ')") == string.Join(' ',
            Enumerable.Range(1, 10).Select(i => $"word{i}")), "ten words");
        browser.Script<string>("return [...document.querySelectorAll('#panel-vocabulary ol textarea[id^=m]')].map(i => i.value).join('|')")
            .ShouldBe(string.Join('|', Enumerable.Range(1, 10).Select(i => $"meaning {i}")));
        browser.Until(() => browser.Find("#panel-vocabulary [role=status]").Text == "Saved", "saved words");

        File.WriteAllText(files.Path("words.csv"), "Bedeutung;Wort\nSeitenkraft;Schub\nGewölbestein;word1\n");
        browser.Find("#panel-vocabulary input[type=file]").SendKeys(files.Path("words.csv"));
        browser.UntilText("What do the columns hold?");
        browser.Click("The first row names the columns");
        browser.ClickOn("#column0 option[value=meaning]");
        browser.ClickOn("#column1 option[value=word]");
        browser.Click("Take in 2 rows");
        browser.UntilText("2 words taken in: 1 new, 1 there already");

        browser.ClickOn("#tab-task");
        browser.Click("Add a step");
        browser.Until(() => browser.Script<string>("return document.activeElement.getAttribute('aria-label') ?? ''") == "Step 1", "the first step");
        foreach (var (number, step) in new[] { (2, "Hang a chain."), (3, "Turn it round."), (0, "Build it.") })
        {
            new Actions(browser.Driver).SendKeys(step + (number > 0 ? Keys.Enter : "")).Perform();
            if (number > 0)
            {
                browser.Until(
                    () => browser.Script<string>("return document.activeElement.getAttribute('aria-label') ?? ''") == $"Step {number}",
                    $"step {number}");
            }
        }

        browser.Until(() => browser.Script<string>(
            "return [...document.querySelectorAll('#panel-task ol textarea')].map(t => t.value).join('|')") == "Hang a chain.|Turn it round.|Build "
                + "it.", "three steps");
    });

    [Fact]
    public Task The_corners_of_a_photograph_are_found_moved_by_keys_and_taken_back() => OnBoardAsync(
        teacher =>
        {
            var browser = teacher.Browser;
            string Picture() => browser.Script<string>("return document.querySelector('svg.board-surface image').getAttribute('href')");
            browser.ClickOn("#tab-picture");
            browser.Until(
                () => browser.Driver.FindElements(By.XPath("//button[contains(., 'Set the corners')]")).Any(b => b.Displayed),
                "the scan's tools");
            var asItCame = Picture();
            browser.Click("Straighten, crop and whiten");
            browser.Until(() => Picture() != asItCame, "the page set right");
            browser.UntilText("Page set");
            var straight = Picture();
            browser.Click("Set the corners");
            browser.Until(() => browser.Find("dialog.corners").Displayed, "the corners");
            string At(int corner) => browser.Script<string>($"return document.querySelector('[data-corner=\"{corner}\"]').style.left");
            var before = At(0);
            browser.Find("[data-corner='0']").SendKeys(Keys.Shift + Keys.ArrowRight);
            browser.Until(() => At(0) != before, "the corner moved");
            browser.Click("Use these corners");
            browser.Until(() => Picture() != straight, "the page by the moved corners");
            browser.Until(
                () => browser.Driver.FindElements(By.XPath("//button[contains(., 'Undo the last step')]")).Any(b => b.Enabled),
                "can be undone");
            browser.Click("Undo the last step");
            browser.Until(() => browser.Script<bool>("return true"), "still there");
            browser.Click("Set the corners");
            browser.Until(() => browser.Find("dialog.corners").Displayed && At(0) == before, "the corners as they were found");
        },
        teacher => teacher.AddFiles(1, Repository.DemoFile("workbook-page.jpg")));
}
