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
        browser.Press("Begin", holding);
        browser.Until(() => browser.Find("#lesson-title").Displayed, "the field for a title");
        browser.Find("#lesson-title").SendKeys("How an arch stands");
        browser.Press("New lesson", holding);

        // Prepare: what is missing is said, a file is brought in, and the way on appears with the first board.
        browser.UntilText("Bring in what you will talk about");
        browser.Driver.FindElements(By.CssSelector("a.stone")).Select(s => s.Text).ShouldBe(["Prepare"]);
        browser.Find("input[type=file]").SendKeys(files.Pdf());
        browser.Press("Go to Record", holding);

        // Record: pressing Start is enough; the page asks for the microphone itself.
        browser.Until(() => browser.Find("canvas").Displayed, "the board");
        if (browser.Driver.FindElements(By.CssSelector("#countdown")).FirstOrDefault() is { Displayed: true } countdown)
        {
            countdown.SendKeys("none");
        }

        browser.Press("Start recording", holding);
        browser.Until(() => browser.Driver.FindElements(By.XPath("//button[contains(., 'Pause')]")).Any(b => b.Displayed), "recording");
        var line = Enumerable.Range(0, 10).Select(i => (X: 0.2 + (0.06 * i), Y: 0.6)).ToArray();
        var hand = new Hand(browser, holding);
        hand.Down(0.2, 0.6);
        hand.Along((0.2, 0.6), (0.742, 0.6), 40, 50);
        canvas.UntilSeen(BlueBlack, line, "ink while drawing");
        hand.Up(0.742, 0.6);
        TeacherSession.UntilSaved(browser, 3);
        browser.Press("Finish", holding);

        // Refine: what was drawn is there when it is listened to.
        browser.Press("Chapters", holding);
        browser.UntilText("These chapters are proposed");
        browser.Press("Play", holding);

        // The board is small there, and so a line is thin and pale at its edges.
        browser.Until(() => canvas.Has(BlueBlack, line, tolerance: 100).All(seen => seen), "the ink on Refine");
        browser.Press("Pause", holding);
        browser.Press("Go to Publish", holding);
        browser.Press("Publish the lesson", holding);
        browser.Press("Watch it as students do", holding);

        // Watch: it plays, and the ink comes.
        browser.UntilText("Chapters");
        browser.Press("Play", holding);
        canvas.UntilSeen(BlueBlack, line, "the ink on Watch");
    }
}
