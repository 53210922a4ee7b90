using ArchTalk.Browser.Tests.Support;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>The panels beside boards and lesson, as a teacher goes through them.</summary>
[Trait("check", "aside")]
public sealed class PrepareLessonTests(SharedServer shared) : IDisposable
{
    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    private async Task InLessonAsync(Action<TeacherSession> work)
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium();
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Domes");
        work(teacher);
    }

    private static void Open(TeacherSession teacher, int board)
    {
        teacher.Browser.Go($"{teacher.Lesson}/prepare");
        teacher.Browser.Until(() => Links(teacher.Browser).Count >= board, "the boards");
        teacher.Browser.Go(Links(teacher.Browser)[board - 1].GetAttribute("href")!);
        teacher.Browser.Until(() => teacher.Browser.Script<bool>("return document.querySelector('[x-cloak]') === null"), "the page's script");
    }

    private static IReadOnlyList<IWebElement> Links(Chromium browser) =>
        browser.Driver.FindElements(By.CssSelector("ol[aria-label='Boards in order'] a.button"));

    private static string[] Items(Chromium browser) =>
        browser.Script<string>("return [...document.querySelectorAll('g.item')].map(g => g.getAttribute('aria-label')).join('|')")
            .Split('|', StringSplitOptions.RemoveEmptyEntries);

    private static string Place(Chromium browser, string item) =>
        browser.Script<string>("return [...document.querySelectorAll('g.item')].find(g => "
            + "g.getAttribute('aria-label').startsWith(arguments[0])).getAttribute('transform')", item);

    private static void UntilStatus(Chromium browser, string words) =>
        browser.Until(
            () => browser.Driver.FindElements(By.CssSelector("[role=status]")).Any(s => s.Displayed && s.Text == words),
            $"“{words}”");

    private static void UntilSaved(Chromium browser) => UntilStatus(browser, "Saved");

    // A board that was just opened draws its items a moment later.
    private static void Select(Chromium browser, string item) => browser.Until(
        () => browser.Script<bool>(
            """
            const found = [...document.querySelectorAll('g.item')].find(g => g.getAttribute('aria-label').startsWith(arguments[0]));
            found?.focus();
            return found !== undefined;
            """, item),
        $"the item {item}");

    private static void Type(Chromium browser, string field, string words)
    {
        var found = browser.Find(field);
        found.Clear();
        found.SendKeys(words + Keys.Tab);
    }

    [Fact]
    public Task A_photographed_page_is_set_read_replaced_and_put_beside_another() => InLessonAsync(teacher =>
    {
        var browser = teacher.Browser;
        teacher.AddFiles(2, Repository.DemoFile("workbook-page.jpg"), files.Picture("vault.jpg", SKColors.LightGray));
        Open(teacher, 1);
        browser.Click("Cover");
        UntilSaved(browser);
        browser.ClickOn("#tab-picture");
        browser.Click("Straighten, crop and whiten");
        UntilStatus(browser, "Page set; the words are read anew");
        browser.Until(
            () => browser.Script<bool>("return document.querySelector('[x-data=board]')._x_dataStack[0].scan?.corners != null"),
            "the corners found");
        browser.Find("#panel-picture input[data-member=raisesContrast]").Selected.ShouldBeTrue();

        // The teacher sees which words were found, each where it stands.
        browser.Click("Show them");
        browser.Until(() => browser.Script<long>("return document.querySelectorAll('.word-mark').length") > 90, "the words found");
        browser.UntilText("words found");

        var tall = browser.Find("svg.board-surface").GetDomAttribute("viewBox");
        browser.Click("Turn right");
        browser.Until(() => browser.Find("svg.board-surface").GetDomAttribute("viewBox") != tall, "the page on its side");
        browser.Click("As it came");
        browser.Until(() => browser.Find("#panel-picture input[data-member=degrees]").GetAttribute("value") == "0", "the page as it came");

        browser.Find("#panel-picture input[type=file]").SendKeys(files.Picture("newer.jpg", SKColors.LightBlue));
        UntilStatus(browser, "Picture replaced; everything on it was kept");
        Items(browser).ShouldBe(["Cover: "]);
        browser.Find("svg.board-surface").GetDomAttribute("viewBox").ShouldBe("0 0 1600 900");

        browser.Go($"{teacher.Lesson}/prepare");
        teacher.UntilBoards(2);
        teacher.Card(1).FindElement(By.CssSelector("[aria-label='Put beside another board']")).Click();
        teacher.Card(2).FindElement(By.CssSelector("[aria-label='Put beside the first one chosen']")).Click();
        teacher.UntilBoards(3);
        browser.Script<string>("return document.querySelectorAll('ol[aria-label=\"Boards in order\"] textarea')[1].value")
            .ShouldBe("workbook-page | vault");
    });

    [Fact]
    public Task Small_and_pale_writing_is_pointed_at() => InLessonAsync(teacher =>
    {
        var browser = teacher.Browser;
        teacher.AddFiles(2, files.Pdf());
        Open(teacher, 2);
        browser.ClickOn("#tab-seen");
        browser.UntilText("On a phone, held upright at 30 cm");
        browser.UntilText("Smallest writing:");
        browser.Script<long>("return document.querySelector('#phone-board').getBoundingClientRect().width | 0")
            .ShouldBeInRange(200, 250, "65 mm, less its frame");

        Open(teacher, 1);
        browser.Click("Text");
        browser.Until(() => browser.Find(".board-writing").Displayed, "the place to write");
        new Actions(browser.Driver).SendKeys("Load").SendKeys(Keys.Escape).Perform();
        UntilSaved(browser);

        // Away from the printed words, on the bare page.
        browser.Click("Place and size");
        browser.Find("#f-y").SendKeys(Keys.Control + "a");
        browser.Find("#f-y").SendKeys("600");
        browser.Until(() => Place(browser, "Text").EndsWith(" 600)", StringComparison.Ordinal), "the text lower down");
        UntilSaved(browser);
        browser.ClickOn("#tab-seen");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("#panel-seen section")).Count == 2, "both screens");
        browser.UntilText("Everything can be read, in every ink.");
    });

    [Fact]
    public Task Items_are_held_copied_tied_and_filled_with_answers() => InLessonAsync(teacher =>
    {
        var browser = teacher.Browser;
        teacher.AddEmptyBoard(1);
        teacher.AddEmptyBoard(2);
        browser.ClickOn("#tab-vocabulary");
        browser.Find("#term-lines").SendKeys("lantern: a turret");
        browser.Click("Add them");
        UntilStatus(browser, "1 word taken in: 1 new");
        Open(teacher, 1);

        // Blank: its answers come back after a reload.
        browser.Click("Blank");
        UntilSaved(browser);
        Type(browser, "#blank-answers", "thrust\npush");
        UntilSaved(browser);

        // Table: one cell becomes a blank with another right answer.
        browser.Click("Table");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("[aria-label='Row 2, column 2']")).Count == 1, "the table's cells");
        browser.Find("[aria-label='Row 2, column 2']").SendKeys("60 kN");
        UntilSaved(browser);
        browser.ClickOn("input[data-what=blank][data-row='1'][data-column='1']");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("g.item path[stroke-dasharray]")).Count == 1, "the blank in the table");
        browser.Click("Row");
        browser.Until(() => Items(browser).Contains("Table: 4 rows, 2 columns"), "one row more");

        // Held in place it can't be nudged; let go it can.
        Select(browser, "Blank");
        browser.Until(() => browser.Find("#panel-item h2").Text == "Blank to fill", "the blank selected");
        browser.Click("Hold in place");
        UntilSaved(browser);
        var held = Place(browser, "Blank");
        Select(browser, "Blank");
        new Actions(browser.Driver).SendKeys(Keys.ArrowRight).Perform();
        Place(browser, "Blank").ShouldBe(held);
        browser.Click("Let go");
        Select(browser, "Blank");
        new Actions(browser.Driver).SendKeys(Keys.ArrowRight).Perform();
        browser.Until(() => Place(browser, "Blank") != held, "the blank nudged");
        UntilSaved(browser);

        // To the other board, and twice here.
        browser.Click("Copy to other boards");
        browser.ClickOn("#panel-item input[type=checkbox][value]");
        browser.Find("#panel-item div[x-show=\"isMenu('copy')\"] button").Click();
        UntilStatus(browser, "Copied to 1 board");
        browser.ClickOn("[aria-label='Duplicate']");
        browser.Until(() => Items(browser).Count(i => i.StartsWith("Blank", StringComparison.Ordinal)) == 2, "two blanks");
        UntilSaved(browser);

        // A label is tied to a term, and the copy without words shows numbers.
        browser.Click("Label");
        var surface = browser.Find("svg.board-surface");
        new Actions(browser.Driver).MoveToElement(surface, surface.Size.Width / 4, surface.Size.Height / 4).Click().Perform();
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("#label-term")).Count == 1, "the label's fields");
        Type(browser, "#label-text", "lantern");
        browser.Find("#label-term").SendKeys("lantern");
        UntilSaved(browser);
        browser.ClickOn("#tab-labels");
        browser.Until(() => browser.Find("#panel-labels ol").Text.Split("lantern").Length == 3, "the label with its term");
        browser.Click("Make an unlabelled copy");
        browser.Until(
            () => browser.Find("#board-heading").GetAttribute("textContent")!.EndsWith("find the parts", StringComparison.Ordinal),
            "the copy");
        browser.Until(() => browser.Script<bool>("return [...document.querySelectorAll('g.item text')].some(t => t.textContent === '1') && "
            + "![...document.querySelectorAll('g.item text')].some(t => t.textContent === 'lantern')"), "a number for the word");

        Open(teacher, 3);
        Select(browser, "Blank");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("#blank-answers")).Count == 1
            && browser.Find("#blank-answers").GetAttribute("value") == "thrust\npush", "the copied answers");
    });

    [Fact]
    public Task What_is_said_of_the_lesson_is_kept_and_reaches_the_students() => InLessonAsync(teacher =>
    {
        var browser = teacher.Browser;
        teacher.AddEmptyBoard(1);
        browser.Find("#d-aims").SendKeys("hold the foot of a dome");
        browser.Find("#d-agenda").SendKeys("Rings\nThe foot");
        browser.Find("#d-languages").SendKeys("no such tongue");
        browser.UntilText("isn't a language tag");
        Type(browser, "#d-languages", "de");
        browser.Until(() => browser.Find("#panel-details [role=status]").Text == "Saved", "saved details");

        browser.ClickOn("#tab-vocabulary");
        browser.Click("Add a term");
        browser.Find("#panel-vocabulary ol input[id^=w]").SendKeys("hoop");
        browser.Find("#panel-vocabulary ol textarea").SendKeys("a ring");
        browser.Click("More of this word");
        browser.Click("Translation");
        browser.Find("[aria-label='Language of the translation']").SendKeys("de");
        browser.Find("[aria-label='Translation']").SendKeys("der Ring");
        browser.Until(() => browser.Find("#panel-vocabulary [role=status]").Text == "Saved", "saved words");

        browser.ClickOn("#tab-references");
        browser.Click("Add a reference");
        browser.Find("#panel-references select").SendKeys("File");
        File.WriteAllText(files.Path("sheet.txt"), "Fill me in.");
        browser.Find("#panel-references input[type=file]").SendKeys(files.Path("sheet.txt"));
        browser.Until(() => browser.Find("#panel-references [role=status]").Text == "Saved", "the file kept");

        browser.ClickOn("#tab-task");
        browser.Find("#task-choices").SendKeys("a model");
        browser.Click("Add a class");
        browser.Find("[aria-label='Class']").SendKeys("10b");
        browser.Find("[aria-label='By when this class hands in']").SendKeys("Monday");
        browser.Until(() => browser.Find("#panel-task [role=status]").Text == "Saved", "saved task");

        browser.Driver.Navigate().Refresh();
        browser.Until(
            () => browser.Script<string>("return document.querySelector('#d-agenda').value") == "Rings\nThe foot",
            "the agenda after a reload");
        browser.Script<string>("return document.querySelector('#d-languages').value").ShouldBe("de");

        teacher.OpenRecord("Use the test voice");
        teacher.StartRecording();
        teacher.UntilRecorded(1);
        teacher.Finish();
        using var student = new Chromium(width: 390, height: 844, phone: true);
        student.Go(teacher.Publish());
        foreach (var words in new[] { "hold the foot of a dome", "The foot", "der Ring", "a model", "10b:", "sheet.txt" })
        {
            student.UntilText(words);
        }

        student.Script<bool>("return document.documentElement.scrollWidth <= window.innerWidth").ShouldBeTrue("nothing is wider than the phone");
    });

    [Fact]
    public Task A_sound_becomes_a_board_with_a_start_and_an_end() => InLessonAsync(teacher =>
    {
        var browser = teacher.Browser;
        teacher.AddFiles(1, files.Clicks(3));
        browser.UntilText("Film or sound");
        Open(teacher, 1);
        browser.Until(() => browser.Script<double>("return document.querySelector('audio').duration || 0") is > 2.9 and < 3.1, "the sound");
        Type(browser, "#clip-start", "1,5");
        UntilSaved(browser);
        Type(browser, "#clip-end", "9");
        browser.UntilText("has to end after it starts, and within its length");
        browser.Driver.Navigate().Refresh();
        browser.Until(
            () => browser.Find("#clip-start").GetAttribute("value") == "1.5" && browser.Find("#clip-end").GetAttribute("value") == "3",
            "start and end as saved");
    });
}
