using ArchTalk.Browser.Tests.Support;
using OpenQA.Selenium;

namespace ArchTalk.Browser.Tests;

/// <summary>Remakes docs/screenshots from the demo data; run by ./screenshots, not with the tests.</summary>
public class Screenshots
{
    private const string Seek = "document.querySelector('audio').currentTime = arguments[0]";

    [Fact(Explicit = true)]
    public async Task Take()
    {
        var data = Environment.GetEnvironmentVariable("ARCHTALK_SCREENSHOT_DATA") ?? throw new InvalidOperationException("Run ./screenshots.");
        var target = Environment.GetEnvironmentVariable("ARCHTALK_SCREENSHOT_TARGET") ?? Path.Combine(Repository.Root, "docs", "screenshots");
        Directory.CreateDirectory(target);
        await using var server = new Server(data);
        await server.StartAsync();
        using var browser = new Chromium();
        void Save(string name)
        {
            Thread.Sleep(900);
            browser.Screenshot(Path.Combine(target, $"{name}.png"));
        }

        browser.SignIn(server.Address, "teacher@example.org", "keystone and thrust");
        Save("lessons");
        browser.Click("Open Why an arch stands");
        browser.Until(() => browser.Driver.Url.Contains("/refine", StringComparison.Ordinal), "Refine page");
        var lesson = browser.Driver.Url[..browser.Driver.Url.LastIndexOf('/')];

        // A proposal in the act, in the lesson that isn't refined yet; and a stretch that is chosen by hand.
        browser.Go(server.Address);
        browser.Click("Open Why bridges are curved");
        browser.Until(() => browser.Script<bool>("return document.querySelectorAll('aside ol li').length > 2"), "chapters");
        while (!browser.Find("#panel-todo h2").Text.Contains("question", StringComparison.Ordinal))
        {
            browser.ClickOn("[aria-label='The next one']");
        }

        new Hand(browser, Holding.Mouse, ".refine-canvas").Draw((0.22, 0.3), (0.28, 0.3));
        browser.ClickOn(".refine-foot input[type=checkbox]");
        browser.Script(Seek, 95.0);
        Save("refine");
        PrepareShots(browser, server.Address, Save);
        InTheAct(browser, lesson, () => Save("record"), () => Save("retake"));
        browser.Go($"{lesson}/publish");
        Save("publish");
        var link = browser.Find("aside a.link").GetAttribute("href")!;
        browser.Go($"{lesson}/disk");
        Save("disk");
        browser.Go(link);
        browser.Until(() => browser.Script<bool>("return document.querySelectorAll('.seek-mark').length > 1"), "chapter marks");
        browser.Script(Seek, 84.0);
        Save("watch");
        using var phone = new Chromium(width: 390, height: 844, phone: true);
        phone.Go(link);
        phone.Until(() => phone.Script<bool>("return document.querySelectorAll('.seek-mark').length > 1"), "chapter marks");
        phone.Script(Seek, 128.0);
        Thread.Sleep(900);
        phone.Screenshot(Path.Combine(target, "watch-phone.png"));
        using (var sideways = new Chromium(width: 844, height: 390, phone: true, dark: true))
        {
            sideways.Go(link);
            sideways.Until(() => sideways.Script<bool>("return document.querySelectorAll('.seek-mark').length > 1"), "chapter marks");
            sideways.Script(Seek, 58.0);
            Thread.Sleep(900);
            sideways.Screenshot(Path.Combine(target, "watch-sideways.png"));
        }

        using var tablet = new Chromium(width: 820, height: 1180, touch: true, dark: true);
        tablet.SignIn(server.Address, "teacher@example.org", "keystone and thrust");
        InTheAct(tablet, lesson, () => tablet.Screenshot(Path.Combine(target, "record-tablet.png")));
    }

    // While a stroke is being drawn in a running take, and while it goes back; the take is put aside afterwards.
    private static void InTheAct(Chromium browser, string lesson, Action save, Action? saveRetake = null)
    {
        browser.Go($"{lesson}/record");
        browser.Until(() => browser.Script<bool>("return document.querySelector('[x-cloak]') === null"), "the page's script");
        browser.Find("#countdown").SendKeys("none");
        browser.Click("Use the test voice");
        browser.Click("Start recording");
        browser.Until(() => browser.Find(".take-bar").Displayed, "recording");
        browser.Script("document.getElementById('strip-4').click()");
        browser.Click("Chapter");
        browser.Click("Ask and wait");
        IWebElement? Blue() => browser.Driver.FindElements(By.CssSelector("[data-ink=blue]")).FirstOrDefault(b => b.Displayed);
        if (Blue() is null)
        {
            browser.ClickOn("[aria-label='More of Write']");
        }

        browser.Until(Blue, "the blue ink").Click();
        var hand = new Hand(browser, Holding.Pen);

        // The load from above, then along the middle of the stones to the left foot.
        hand.Draw((0.35, 0.2), (0.35, 0.36));
        const double Left = 0.157, Rise = 0.28;
        hand.Down(0.35, 0.71 - Rise);
        for (var i = 1; i <= 30; i++)
        {
            var angle = i * Math.PI / 68;
            hand.Move(0.35 - (Left * Math.Sin(angle)), 0.71 - (Rise * Math.Cos(angle)));
        }

        Thread.Sleep(400);
        save();
        hand.Up(0.195, 0.66);

        // What is noted would be in the demo.
        browser.Find("body").SendKeys(Keys.Escape);
        while (browser.Driver.FindElements(By.CssSelector("[aria-label^='Take off:']")).FirstOrDefault(b => b.Displayed) is { } note)
        {
            note.Click();
        }

        if (saveRetake is not null)
        {
            new TeacherSession(browser, "").UntilRecorded(12);
            browser.Click("Retake");
            browser.UntilText("Going on from");
            browser.Click("Not yet");
            saveRetake();
            browser.Click("Take nothing back");
            browser.UntilText("Paused: nothing is recorded");
        }

        browser.Click("Finish");
        browser.Until(() => browser.Driver.Url.Contains("/refine", StringComparison.Ordinal), "Refine page", 60);
        browser.Go($"{lesson}/record");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("[aria-label^='Put Take']")).Count > 1, "the takes");
        browser.Driver.FindElements(By.CssSelector("[aria-label^='Put Take']"))[^1].Click();
        browser.UntilText("was put aside");
    }

    // The second lesson is the one being prepared: a deck, a section, a photographed page, boards with items.
    private static void PrepareShots(Chromium browser, string server, Action<string> save)
    {
        browser.Go(server);
        browser.Go(DemoData.Prepared(browser));
        browser.Until(() => browser.Script<bool>("return document.querySelectorAll('img.thumb').length > 6"), "boards");
        save("prepare");
        browser.ClickOn("#tab-vocabulary");
        save("vocabulary");
        string[] boards = [.. browser.Driver.FindElements(By.CssSelector("ol[aria-label='Boards in order'] a.button"))
            .Select(a => a.GetAttribute("href")!)];
        foreach (var (board, tab, name) in new[] {
            (5, "labels", "board-labels"),
            (7, "picture", "board-scan"),
            (8, "item", "board-items"),
            (9, "item", "board-pictures"),
            (10, "item", "board-figures"),
            (0, "seen", "board-seen") })
        {
            browser.Go(boards[board]);
            browser.Until(() => browser.Script<bool>("return document.querySelector('[x-cloak]') === null"), "the page's script");
            browser.ClickOn($"#tab-{tab}");
            Thread.Sleep(900);
            if (name == "board-scan")
            {
                browser.Click("Show them");
            }
            else if (tab == "item")
            {
                browser.Script(
                    "[...document.querySelectorAll('g.item')].at(arguments[0]).focus()",
                    name == "board-items" ? -3 : name == "board-pictures" ? 2 : 0);
            }

            save(name);
            if (name == "board-scan")
            {
                browser.Click("Set the corners");
                browser.Until(
                    () => browser.Script<bool>("return document.querySelector('.corners-picture').naturalWidth > 0"),
                    "the picture as it came");
                save("board-corners");
            }
        }
    }
}
