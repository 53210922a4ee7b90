using ArchTalk.Browser.Tests.Support;
using OpenQA.Selenium;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>
/// A new teacher comes from the first page to a watched lesson by pressing what is visible: no address is typed after the first,
/// nothing is reloaded, and the page is never helped by a script.
/// </summary>
public sealed class FirstUseTests : IDisposable
{
    private static readonly SKColor BlueBlack = SKColor.Parse("#1E2A2B");
    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    [Theory]
    [InlineData(1280, 800, Holding.Mouse)]
    [InlineData(1280, 657, Holding.Pen)]
    [InlineData(820, 1180, Holding.Finger)]
    public async Task From_the_first_page_to_a_watched_lesson(int width, int height, Holding holding)
    {
        await using var server = new Server(files.Path("data"));
        await server.StartAsync();
        using var browser = new Chromium(await files.SpeechAsync(), width, height, touch: holding == Holding.Finger);
        var canvas = new Canvas(browser);
        browser.Go(server.Address);
        browser.Find("#name").SendKeys("Ida Brandt");
        browser.Find("#email").SendKeys("ida@example.org");
        browser.Find("#password").SendKeys("a long password");
        Press(browser, holding, "Begin");
        browser.Until(() => browser.Find("#lesson-title").Displayed, "the field for a title");
        browser.Find("#lesson-title").SendKeys("How an arch stands");
        Press(browser, holding, "New lesson");

        // Prepare: what is missing is said, a file is brought in, and the way on appears with the first board.
        browser.UntilText("Bring in what you will talk about");
        browser.Driver.FindElements(By.CssSelector("a.stone")).Select(s => s.Text).ShouldBe(["Prepare"]);
        browser.Find("input[type=file]").SendKeys(files.Pdf());
        Press(browser, holding, "Go to Record");

        // Record: pressing Start is enough; the page asks for the microphone itself.
        browser.Until(() => browser.Find("canvas").Displayed, "the board");
        if (browser.Driver.FindElements(By.CssSelector("#countdown")).FirstOrDefault() is { Displayed: true } countdown)
        {
            countdown.SendKeys("none");
        }

        Press(browser, holding, "Start recording");
        browser.Until(() => browser.Driver.FindElements(By.XPath("//button[contains(., 'Pause')]")).Any(b => b.Displayed), "recording", 30);
        var line = Enumerable.Range(0, 10).Select(i => (X: 0.2 + (0.06 * i), Y: 0.6)).ToArray();
        var hand = new Hand(browser, holding);
        hand.Down(0.2, 0.6);
        hand.Along((0.2, 0.6), (0.742, 0.6), 40, 50);
        canvas.NextFrame();
        canvas.Has(BlueBlack, line).ShouldAllBe(seen => seen, "ink while drawing");
        hand.Up(0.742, 0.6);
        TeacherSession.UntilSaved(browser, 3);
        Press(browser, holding, "Finish");

        // Refine: what was drawn is there when it is listened to.
        browser.UntilText("These chapters are proposed", 60);
        Press(browser, holding, "Play");
        browser.Until(() => canvas.Has(BlueBlack, line).All(seen => seen), "the ink on Refine", 30);
        Press(browser, holding, "Pause");
        Press(browser, holding, "Go to Publish");
        Press(browser, holding, "Publish the lesson");
        Press(browser, holding, "Watch it as students do", 90);

        // Watch: it plays, and the ink comes.
        browser.UntilText("Chapters");
        Press(browser, holding, "Play");
        browser.Until(() => canvas.Has(BlueBlack, line).All(seen => seen), "the ink on Watch", 30);
    }

    private static void Press(Chromium browser, Holding holding, string words, int seconds = 30)
    {
        var button = browser.Until(() => browser.Driver.FindElements(
            By.XPath($"//*[self::button or self::a][contains(normalize-space(.), '{words}')]")).FirstOrDefault(e => e.Displayed && e.Enabled),
                $"“{words}”", seconds);
        if (holding == Holding.Finger)
        {
            new OpenQA.Selenium.Interactions.Actions(browser.Driver).ScrollToElement(button).Perform();
            var (x, y) = (button.Location.X + (button.Size.Width / 2), button.Location.Y + (button.Size.Height / 2));
            y -= (int)browser.Script<double>("return window.scrollY");
            browser.Driver.ExecuteCdpCommand("Input.dispatchTouchEvent", new Dictionary<string, object?>
            {
                ["type"] = "touchStart",
                ["touchPoints"] = new[] { new Dictionary<string, object> { ["x"] = x, ["y"] = y } }
            });
            browser.Driver.ExecuteCdpCommand(
                "Input.dispatchTouchEvent",
                new Dictionary<string, object?> { ["type"] = "touchEnd", ["touchPoints"] = Array.Empty<object>() });
        }
        else
        {
            button.Click();
        }
    }
}
