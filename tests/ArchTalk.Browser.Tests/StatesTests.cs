using ArchTalk.Browser.Tests.Support;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>Pages when something fails or is left in the middle: nothing typed is lost, and there is a way on.</summary>
public sealed class StatesTests(SharedServer shared) : IDisposable
{
    private static readonly SKColor BlueBlack = SKColor.Parse("#1E2A2B");
    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    private async Task<(Wire Wire, Chromium Browser, TeacherSession Teacher)> BeginAsync()
    {
        var server = await shared.StartedAsync();
        var wire = new Wire(server.Port);
        var browser = new Chromium(await files.SpeechAsync());
        var teacher = new TeacherSession(browser, wire.Address);
        teacher.ComeIn();
        teacher.CreateLesson("States");
        return (wire, browser, teacher);
    }

    [Fact]
    public async Task What_is_typed_is_there_although_the_page_is_left_at_once()
    {
        var (wire, browser, teacher) = await BeginAsync();
        using (wire)
        using (browser)
        {
            teacher.AddEmptyBoard(1);
            browser.Find("#d-agenda").SendKeys("Rings, then ribs");
            browser.Click("Go to Record");
            browser.Until(() => browser.Driver.Url.EndsWith("/record", StringComparison.Ordinal), "Record");
            teacher.Step("Prepare");
            teacher.UntilBoards(1);
            browser.Until(() => browser.Script<string>("return document.querySelector('#d-agenda').value") == "Rings, then ribs", "the agenda");
            var name = browser.Find("ol[aria-label='Boards in order'] textarea");
            name.SendKeys(" for the ring");
            teacher.Step("Record");
            teacher.Step("Prepare");
            browser.Until(() => browser.Script<string>(
                "return document.querySelector(\"ol[aria-label='Boards in order'] textarea\")?.value ?? ''") == "Empty board for the ring",
                "the name that was being typed");
        }
    }

    [Fact]
    public async Task A_name_that_is_typed_while_files_come_in_is_not_replaced()
    {
        var (wire, browser, teacher) = await BeginAsync();
        using (wire)
        using (browser)
        {
            teacher.AddEmptyBoard(1);
            browser.Find("input[type=file]").SendKeys(files.Pdf());
            var name = browser.Find("ol[aria-label='Boards in order'] textarea");
            foreach (var letter in " slowly typed")
            {
                name.SendKeys(letter.ToString());
                Thread.Sleep(150);
            }

            teacher.UntilBoards(3);
            name.GetAttribute("value").ShouldBe("Empty board slowly typed");
            browser.ClickOn("h1");
            browser.Driver.Navigate().Refresh();
            browser.Until(() => browser.Script<string>(
                "return document.querySelector(\"ol[aria-label='Boards in order'] textarea\")?.value ?? ''") == "Empty board slowly typed",
                "the name as saved");
        }
    }

    [Fact]
    public async Task Without_a_line_a_list_says_so_tries_again_and_saves()
    {
        var (wire, browser, teacher) = await BeginAsync();
        using (wire)
        using (browser)
        {
            teacher.AddEmptyBoard(1);
            wire.Pull();
            browser.Find("#d-aims").SendKeys("hold the foot");
            browser.UntilText("Not saved yet; it is tried again");
            wire.PlugIn();
            browser.Until(() => browser.Find("#panel-details [role=status]").Text == "Saved", "saved by itself");
        }
    }

    [Fact]
    public async Task A_page_that_could_not_load_is_tried_again()
    {
        var (wire, browser, teacher) = await BeginAsync();
        using (wire)
        using (browser)
        {
            teacher.AddEmptyBoard(1);
            browser.Driver.ExecuteCdpCommand("Network.enable", []);
            void Block(params string[] addresses) =>
                browser.Driver.ExecuteCdpCommand("Network.setBlockedURLs", new Dictionary<string, object?> { ["urls"] = addresses });
            Block("*timeline.json*");
            teacher.Step("Record");
            browser.Until(
                () => browser.Driver.FindElements(By.CssSelector(".stage-cover[role=alert]")).Any(e => e.Displayed),
                "the fault over the board");
            browser.Driver.FindElements(By.XPath("//button[contains(., 'Start recording')]")).ShouldAllBe(b => !b.Enabled);
            Block();
            browser.Click("Try again");
            browser.Until(() => browser.Driver.FindElements(By.XPath("//button[contains(., 'Start recording')]")).Any(b => b.Enabled), "the boards");

            Block("*/boards");
            teacher.Step("Prepare");
            browser.Click("Try again");
            browser.Until(
                () => browser.Driver.FindElements(By.XPath("//button[contains(., 'Try again')]")).Any(b => b.Displayed),
                "still a way to try again");
            Block();
            browser.Click("Try again");
            teacher.UntilBoards(1);
        }
    }

    [Fact]
    public async Task A_take_put_aside_stays_in_a_list_and_comes_back_with_its_ink()
    {
        var (wire, browser, teacher) = await BeginAsync();
        using (wire)
        using (browser)
        {
            var canvas = new Canvas(browser);
            teacher.AddEmptyBoard(1);
            teacher.OpenRecord();
            teacher.StartRecording();
            new Hand(browser, Holding.Mouse).Draw((0.2, 0.4), (0.8, 0.4));
            teacher.UntilRecorded(1);
            teacher.Finish();
            teacher.Step("Record");
            browser.Until(() => canvas.Has(BlueBlack, [(0.5, 0.4)])[0], "the ink of the take");
            var aside = By.CssSelector("[aria-label='Put Take 1 aside']:enabled");
            browser.Until(() => browser.Driver.FindElements(aside).FirstOrDefault(), "the take in its list").Click();
            browser.Until(() => !canvas.Has(BlueBlack, [(0.5, 0.4)])[0], "the board without it");
            browser.Until(() => browser.Script<string>("return document.activeElement.id") == "aside-takes", "the focus by what was done");

            // Also after going away and coming back.
            teacher.Step("Prepare");
            teacher.Step("Record");
            browser.Click("Put aside (1)");
            browser.Click("Put back");
            browser.Until(() => canvas.Has(BlueBlack, [(0.5, 0.4)])[0], "the ink again");
            browser.UntilText("Go to Refine");
        }
    }

    [Fact]
    public async Task Keys_of_a_single_character_can_be_switched_off_and_items_are_moved_and_sized_without_dragging()
    {
        var (wire, browser, teacher) = await BeginAsync();
        using (wire)
        using (browser)
        {
            teacher.AddEmptyBoard(1);
            teacher.OpenRecord("Use the test voice");
            bool Is(
                string tool) => browser.Script<bool>("return document.querySelector(`#members "
                    + "[data-tool='${arguments[0]}']`).getAttribute('aria-pressed') === 'true'", tool);
            browser.Find("body").SendKeys("2");
            Is("highlighter").ShouldBeTrue();

            // The pen's key becomes Z, and stays it.
            browser.Find("body").SendKeys("?");
            browser.Until(() => browser.Find("dialog.keys-dialog").Displayed, "the keys");
            browser.Driver.FindElements(By.CssSelector(".keys-list button")).First(b => b.Text.StartsWith("Pen", StringComparison.Ordinal)).Click();
            new OpenQA.Selenium.Interactions.Actions(browser.Driver).SendKeys("z").Perform();
            browser.UntilText("Pen is Z now");
            new OpenQA.Selenium.Interactions.Actions(browser.Driver).SendKeys(Keys.Escape).Perform();
            browser.Until(() => !browser.Find("dialog.keys-dialog").Displayed, "the page again");
            browser.Find("body").SendKeys("1");
            Is("highlighter").ShouldBeTrue("1 does nothing now");
            browser.Find("body").SendKeys("z");
            Is("pen").ShouldBeTrue();
            browser.Find("body").SendKeys("2");
            browser.Click("Keys and hand");
            browser.Click("Keys of a single character");
            browser.ClickOn("#takes-heading");
            browser.Find("body").SendKeys("z");
            Is("pen").ShouldBeFalse("switched off");
            browser.Find("body").SendKeys(Keys.PageDown);

            teacher.Step("Prepare");
            teacher.UntilBoards(1);
            browser.ClickOn("ol[aria-label='Boards in order'] a[aria-label^=Open]");
            browser.Until(() => browser.Driver.FindElements(By.CssSelector("svg.board-surface")).Count == 1, "the board's page");
            browser.Click("Label");
            browser.Find("svg.board-surface").SendKeys(Keys.Enter);
            browser.Until(() => browser.Driver.FindElements(By.CssSelector("g.item")).Count == 1, "a label without a mouse");
            browser.Click("Place and size");
            foreach (var (field, value) in new[] { ("#f-tipX", "400"), ("#f-x", "700") })
            {
                browser.Find(field).SendKeys(Keys.Control + "a");
                browser.Find(field).SendKeys(value);
            }

            browser.Until(
                () => browser.Script<bool>("return document.querySelector('g.item').getAttribute('transform').startsWith('translate(700 ')"),
                "the label at its new place");
            browser.Click("Cover");
            browser.Until(() => browser.Driver.FindElements(By.CssSelector("g.item")).Count == 2, "a cover");
            browser.Until(() => browser.Find("#f-width").Displayed, "the cover's width");
            browser.Find("#f-width").SendKeys(Keys.Control + "a");
            browser.Find("#f-width").SendKeys("640" + Keys.Tab);
            browser.Until(
                () => browser.Driver.FindElements(By.CssSelector("rect.item-frame[width='640']")).Count == 1,
                "the cover as wide as was typed");
            browser.Script<double>("const h = document.querySelector('.item-handle-hit').getBoundingClientRect(); return Math.min(h.width, h.height)")
                .ShouldBeGreaterThanOrEqualTo(24, "what can be hit of a handle");
            browser.Script<string>("return getComputedStyle(document.querySelector('svg.board-surface')).touchAction")
                .ShouldBe("pan-y", "a finger slides a tall board");
            browser.Script("document.querySelectorAll('g.item')[1].focus()");
            new Actions(browser.Driver).SendKeys(Keys.ArrowRight).Perform();
            browser.Until(
                () => browser.Script<bool>("return [...document.querySelectorAll('[role=status]')].some(s => s.textContent.startsWith('Cover at '))"),
                "the move announced");
            new Actions(browser.Driver).SendKeys(Keys.Delete).Perform();
            browser.Until(
                () => browser.Script<bool>("return document.activeElement === document.querySelector('svg.board-surface')"),
                "the focus on the board after a removal");
        }
    }
}
