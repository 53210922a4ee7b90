using System.IO.Compression;
using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using OpenQA.Selenium;

namespace ArchTalk.Browser.Tests;

/// <summary>axe-core (npm), WCAG 2.2 A and AA, on every page; and the weight of the page students load.</summary>
[Collection(DemoCollection.Name)]
public sealed class AccessibilityTests(DemoData demo)
{
    private const int MostWatchBytes = 150 * 1024;

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void No_page_has_a_violation(bool dark)
    {
        using var browser = new Chromium(dark: dark);
        browser.Go($"{demo.Server.Address}/sign-in");
        Check(browser, "sign-in", dark);
        browser.SignIn(demo.Server.Address, DemoData.Email, DemoData.Password);
        Check(browser, "lessons", dark);
        browser.ClickOn("a[href*='/refine']");
        browser.Until(() => browser.Driver.Url.Contains("/refine", StringComparison.Ordinal), "Refine");
        var lesson = browser.Driver.Url[..browser.Driver.Url.LastIndexOf('/')];
        foreach (var step in new[] { "refine", "prepare", "record", "publish" })
        {
            browser.Go($"{lesson}/{step}");
            Thread.Sleep(1200);
            Check(browser, step, dark);
            if (step == "prepare")
            {
                foreach (var tab in new[] { "vocabulary", "references", "task" })
                {
                    browser.ClickOn($"#tab-{tab}");
                    Check(browser, tab, dark);
                }
            }
        }

        CheckBoards(browser, dark);

        browser.Go(demo.Link);
        Thread.Sleep(1200);
        Check(browser, "watch", dark);
        browser.Go($"{demo.Server.Address}/nothing-here");
        Check(browser, "error", dark);
    }

    // The prepared lesson has every kind of item: a board of labels, one of text, table, formula, cover and blank, one of figures.
    private void CheckBoards(Chromium browser, bool dark)
    {
        browser.Go(demo.Server.Address);
        browser.Go(DemoData.Prepared(browser));
        browser.Until(
            () => browser.Driver.FindElements(By.CssSelector("ol[aria-label='Boards in order'] a.button")).Count == 11,
            "boards of the second lesson");
        string[] boards = [.. browser.Driver.FindElements(By.CssSelector("ol[aria-label='Boards in order'] a.button"))
            .Select(a => a.GetAttribute("href")!)];
        foreach (var (board, name) in new[] { (5, "labels"), (7, "scan"), (8, "worked example"), (9, "pictures"), (10, "figures") })
        {
            browser.Go(boards[board]);
            Thread.Sleep(900);
            Check(browser, $"board: {name}", dark);
            foreach (var tab in new[] { "labels", "notes", "picture", "seen" })
            {
                browser.ClickOn($"#tab-{tab}");
                Thread.Sleep(700);
                Check(browser, $"board: {name}, {tab}", dark);
                if ((name, tab) is ("scan", "picture"))
                {
                    browser.Click("Set the corners");
                    Thread.Sleep(700);
                    Check(browser, "the corners of a page", dark);
                    browser.Click("Leave it");
                }
            }

            // Every kind of item opens fields of its own.
            foreach (var id in browser.Script<string>("return [...document.querySelectorAll('g.item')].map(g => g.dataset.id).join(' ')")
                .Split(' ', StringSplitOptions.RemoveEmptyEntries))
            {
                browser.Script("document.querySelector(`g.item[data-id='${arguments[0]}']`).focus()", id);
                Thread.Sleep(120);
                Check(browser, $"board: {name}, {browser.Find("#panel-item h2").Text}", dark);
            }
        }
    }

    [Fact]
    public async Task Pages_that_are_still_empty_have_no_violation()
    {
        using var files = new TestFiles();
        await using var server = new Server(files.Path("data"));
        await server.StartAsync();
        using var browser = new Chromium();
        browser.Go(server.Address);
        Check(browser, "first run");
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        Check(browser, "no lessons");
        teacher.CreateLesson("Empty");
        foreach (var step in new[] { "prepare", "record", "refine", "publish" })
        {
            browser.Go($"{teacher.Lesson}/{step}");
            Thread.Sleep(800);
            Check(browser, $"empty {step}");
        }
    }

    [Fact]
    public void The_watch_page_on_a_phone_has_no_violation()
    {
        using var phone = new Chromium(width: 390, height: 844, phone: true);
        phone.Go(demo.Link);
        Thread.Sleep(1200);
        Check(phone, "watch on a phone");
    }

    [Fact]
    public async Task The_watch_page_is_light()
    {
        using var browser = new Chromium();
        browser.Go(demo.Link);
        Thread.Sleep(1500);
        var loaded = browser.Script<string>("return JSON.stringify(performance.getEntriesByType('resource').map(r => r.name))");
        var addresses = JsonSerializer.Deserialize<List<string>>(loaded)!.Where(a => a.Contains(".js", StringComparison.Ordinal)
            && !a.Contains(".json", StringComparison.Ordinal) || a.Contains(".css", StringComparison.Ordinal));
        using var http = new HttpClient();
        var total = 0L;
        foreach (var address in addresses.Append(demo.Link).Distinct())
        {
            using var compressed = new MemoryStream();
            await using (var gzip = new GZipStream(compressed, CompressionLevel.Optimal, leaveOpen: true))
            {
                await gzip.WriteAsync(await http.GetByteArrayAsync(address));
            }

            total += compressed.Length;
        }

        Console.WriteLine($"Watch page: {total / 1024.0:0.0} KB compressed of HTML, script and style");
        total.ShouldBeLessThan(MostWatchBytes);
    }

    // In the other theme only the colours are others.
    private static void Check(Chromium browser, string page, bool onlyColours = false)
    {
        if (!browser.Script<bool>("return 'axe' in window"))
        {
            browser.Script(File.ReadAllText(Repository.NpmFile("axe-core", "axe.min.js")));
        }

        string[] rules = onlyColours ? ["color-contrast", "link-in-text-block"] : ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"];
        var found = browser.ScriptAsync<string>(
            """
            const [type, values, done] = arguments;
            axe.run(document, { runOnly: { type, values } })
              .then((r) => done(JSON.stringify({ passed: r.passes.length,
                faults: r.violations.map((v) => v.id + ': ' + v.nodes.map((n) => n.target + ' ' + n.failureSummary).join(' | ')) })))
              .catch((e) => done(JSON.stringify({ passed: 0, faults: [String(e)] })));
            """,
            onlyColours ? "rule" : "tag", rules);
        using var result = JsonDocument.Parse(found);
        result.RootElement.GetProperty("faults").EnumerateArray().Select(f => f.GetString()).ShouldBeEmpty(page);
        result.RootElement.GetProperty("passed").GetInt32().ShouldBeGreaterThan(onlyColours ? 0 : 5, page);
    }
}
