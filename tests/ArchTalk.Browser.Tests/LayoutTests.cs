using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using OpenQA.Selenium;

namespace ArchTalk.Browser.Tests;

/// <summary>Pages laid out in the windows they are used in: nothing overlaps or is cut off, and the board is as large as can be.</summary>
[Collection(DemoCollection.Name)]
public sealed class LayoutTests(DemoData demo)
{
    // Everything that can be pressed and is shown: that its middle can be pressed, that it isn't narrower than 24 px (WCAG 2.2, 2.5.8),
    // or than 44 where fingers press, and that no two lie over each other.
    private const string Faults =
        """
        const [least] = arguments;
        const shown = [...document.querySelectorAll('button, a[href], input, select, textarea, summary, [role=slider]')]
          .filter((e) => e.checkVisibility({ opacityProperty: true, visibilityProperty: true })
            && !e.closest('.hidden-text, .skip, [inert]') && !e.classList.contains('hidden-text'));
        const boxes = shown.map((e) => ({ e, b: e.getBoundingClientRect() })).filter(({ b }) => b.width > 0 && b.height > 0 && b.bottom > 0
          && b.top < innerHeight);
        const name = (e) => `${e.tagName} “${(e.getAttribute('aria-label') ?? e.innerText ?? e.value ?? '').trim().slice(0, 30)}”`;
        const faults = [];
        for (const { e, b } of boxes) {
          if (b.left < -1 || b.right > innerWidth + 1) faults.push(`${name(e)} reaches beyond the window`);
          const inText = e.tagName === 'A' && getComputedStyle(e).display === 'inline';
          const inLabel = e.matches('label input');
          if (!inText && !inLabel && Math.min(b.width, b.height) < least - 0.5 && !e.closest('svg')
            && !e.matches('input[type=range]')) faults.push(`${name(e)} is ${Math.round(b.width)} by ${Math.round(b.height)}`);
          const x = b.left + b.width / 2, y = b.top + b.height / 2;
          const top = y > 0 && y < innerHeight && x > 0 && x < innerWidth ? document.elementFromPoint(x, y) : null;
          const clipped = [...function* () { for (let p = e.parentElement; p;
            p = p.parentElement) if (getComputedStyle(p).overflow !== 'visible') yield p.getBoundingClientRect();
            }()].some((r) => y < r.top || y > r.bottom || x < r.left || x > r.right);
          if (top && !clipped && !e.disabled && !e.contains(top) && !top.contains(e)
            && !top.closest('label')?.contains(e)) faults.push(`${name(e)} lies under ${name(top)}`);
        }
        if (document.documentElement.scrollWidth > innerWidth) 
          faults.push(`the page is ${document.documentElement.scrollWidth} wide in a window of ${innerWidth}`);
        return JSON.stringify(faults);
        """;

    private static void ShouldBeSound(Chromium browser, string what, int least = 24)
    {
        Thread.Sleep(300);
        JsonSerializer.Deserialize<string[]>(browser.Script<string>(Faults, least)).ShouldBeEmpty(what);
    }

    private static double BoardWidth(Chromium browser) =>
        browser.Script<double>("return document.querySelector('canvas').getBoundingClientRect().width");

    private Chromium SignedIn(int width, int height, bool touch = false, bool dark = false)
    {
        var browser = new Chromium(width: width, height: height, touch: touch, dark: dark);
        browser.SignIn(demo.Server.Address, DemoData.Email, DemoData.Password);
        return browser;
    }

    private static string Lesson(Chromium browser) =>
        browser.Find("a[href*='/refine']").GetAttribute("href")!.Replace("/refine", "", StringComparison.Ordinal);

    [Theory]
    [InlineData(1280, 800, false, 880, 1090)]
    [InlineData(1280, 657, true, 830, 880)]
    [InlineData(820, 1180, false, 740, 740)]
    public void Record_shows_the_board_as_large_as_the_window_allows(int width, int height, bool dark, double withNotes, double withoutNotes)
    {
        var touch = width < 900;
        using var browser = SignedIn(width, height, touch, dark);
        browser.Go($"{Lesson(browser)}/record");
        browser.Until(() => browser.Script<bool>("return document.querySelector('[x-cloak]') === null"), "the page's script");
        ShouldBeSound(browser, "ready", touch ? 44 : 24);
        browser.Find("#countdown").SendKeys("none");
        browser.Click("Use the test voice");
        browser.Click("Start recording");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector(".take-bar")).Any(b => b.Displayed), "the take's bar");
        ShouldBeSound(browser, "recording", touch ? 44 : 24);
        BoardWidth(browser).ShouldBeGreaterThan(withNotes, "with the notes beside it");
        foreach (var family in new[] { "Write", "Look" })
        {
            browser.ClickOn($"[aria-label='More of {family}']");
            ShouldBeSound(browser, $"members of {family}", touch ? 44 : 24);
        }

        browser.ClickOn("#members [aria-label=Close]");
        browser.Click("Put notes away");
        ShouldBeSound(browser, "notes away", touch ? 44 : 24);
        BoardWidth(browser).ShouldBeGreaterThan(withoutNotes, "with the notes away");
        browser.Script<bool>("return document.documentElement.scrollHeight <= innerHeight").ShouldBeTrue("all of it is in the window");
        browser.Click("Pause");
        browser.Click("Notes and takes");
        ShouldBeSound(browser, "paused", touch ? 44 : 24);
        browser.Click("Finish");
        browser.Until(() => browser.Driver.Url.Contains("/refine", StringComparison.Ordinal), "Refine");

        // What was recorded here is put aside again, for the other tests.
        browser.Click("Record");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("[aria-label^='Put Take']")).Count > 1, "the takes");
        browser.Driver.FindElements(By.CssSelector("[aria-label^='Put Take']"))[^1].Click();
        browser.UntilText("was put aside");
    }

    [Theory]
    [InlineData(1280, 800, false)]
    [InlineData(1280, 657, true)]
    [InlineData(820, 1180, false)]
    [InlineData(390, 844, false)]
    [InlineData(320, 640, true)]
    public void Steps_never_scroll_sideways_and_nothing_overlaps(int width, int height, bool dark)
    {
        using var browser = SignedIn(width, height, dark: dark);
        ShouldBeSound(browser, "lessons");
        browser.Click("Password");
        browser.UntilText("Change the password");
        ShouldBeSound(browser, "password");
        browser.Click("Back to your lessons");
        browser.UntilText("Your lessons");
        var prepared = DemoData.Prepared(browser);
        var lesson = Lesson(browser);
        foreach (var page in new[] { prepared, $"{lesson}/prepare", $"{lesson}/refine", $"{lesson}/publish" })
        {
            browser.Go(page);
            browser.Until(() => browser.Script<bool>("return document.querySelector('[x-cloak]') === null"), "the page's script");
            Thread.Sleep(500);
            ShouldBeSound(browser, page[page.LastIndexOf('/')..]);

            // The words on the stones stay at 14 px or more.
            browser.Script<double>("const t = document.querySelector('.stone text'); return Number.parseFloat(getComputedStyle(t).fontSize) * "
                + "t.ownerSVGElement.getBoundingClientRect().width / t.ownerSVGElement.viewBox.baseVal.width").ShouldBeGreaterThan(13.5);
        }
    }

    [Theory]
    [InlineData(1280, 800, false, 850)]
    [InlineData(390, 844, true, 390)]
    [InlineData(844, 390, true, 690)]
    public void Watch_gives_the_board_the_room_there_is(int width, int height, bool phone, double board)
    {
        using var browser = new Chromium(width: width, height: height, phone: phone);
        browser.Go(demo.Link);
        browser.Until(() => browser.Driver.FindElements(By.CssSelector(".seek-mark")).Count > 0, "the lesson");
        BoardWidth(browser).ShouldBeGreaterThanOrEqualTo(board);
        ShouldBeSound(browser, "watch", phone ? 44 : 24);
        if (width >= 1024)
        {
            // The room under the board is used, and what is looked up lies beside it.
            browser.Script<double>("return document.querySelector('.watch-under').getBoundingClientRect().top").ShouldBeLessThan(height - 100);
            browser.Script<double>("return document.querySelector('#vocabulary').getBoundingClientRect().top").ShouldBeLessThan(height / 2.0);
        }

        if (height < 500)
        {
            // Controls lie over the board, go away while it plays, and come back at a tap.
            browser.Click("Play");
            browser.Until(
                () => browser.Script<bool>("return document.querySelector('.watch-player').classList.contains('is-quiet')"),
                "the controls to go");
            browser.Script("document.activeElement?.blur()");
            browser.Find(".watch-controls").Displayed.ShouldBeFalse();
            new Hand(browser, Holding.Finger).Down(0.5, 0.3);
            new Hand(browser, Holding.Finger).Up(0.5, 0.3);
            browser.Until(() => browser.Find(".watch-controls").Displayed, "the controls at a tap");
            browser.Script<bool>("return document.querySelector('audio').paused").ShouldBeFalse("the first tap only brings the controls");
        }
    }
}
