using System.IO.Compression;
using System.Text.Json;
using ArchTalk.Browser.Tests.Support;

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
        using var browser = new Chromium();
        if (dark)
        {
            browser.Driver.ExecuteCdpCommand("Emulation.setEmulatedMedia", new Dictionary<string, object?>
            {
                ["features"] = new[] { new Dictionary<string, object> { ["name"] = "prefers-color-scheme", ["value"] = "dark" } },
            });
        }

        browser.Go($"{demo.Server.Address}/sign-in");
        Check(browser, "sign-in");
        browser.SignIn(demo.Server.Address, DemoData.Email, DemoData.Password);
        Check(browser, "lessons");
        browser.Find("a[href*='/refine']").Click();
        browser.Until(() => browser.Driver.Url.Contains("/refine", StringComparison.Ordinal), "Refine");
        var lesson = browser.Driver.Url[..browser.Driver.Url.LastIndexOf('/')];
        foreach (var step in new[] { "refine", "prepare", "record", "publish" })
        {
            browser.Go($"{lesson}/{step}");
            Thread.Sleep(1200);
            Check(browser, step);
            if (step == "prepare")
            {
                browser.Find("#tab-references").Click();
                Check(browser, "references");
                browser.Find("#tab-task").Click();
                Check(browser, "task");
            }
        }

        browser.Go(demo.Link);
        Thread.Sleep(1200);
        Check(browser, "watch");
        browser.Go($"{demo.Server.Address}/nothing-here");
        Check(browser, "error");
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
        teacher.FirstRun();
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
        var addresses = JsonSerializer.Deserialize<List<string>>(loaded)!.Where(a => a.Contains(".js", StringComparison.Ordinal) && !a.Contains(".json", StringComparison.Ordinal) || a.Contains(".css", StringComparison.Ordinal));
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

    private static void Check(Chromium browser, string page)
    {
        browser.Script(File.ReadAllText(Repository.NpmFile("axe-core", "axe.min.js")));
        var found = browser.ScriptAsync<string>(
            """
            const done = arguments[0];
            axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] })
              .then((r) => done(JSON.stringify({ passed: r.passes.length, faults: r.violations.map((v) => v.id + ': ' + v.nodes.map((n) => n.target + ' ' + n.failureSummary).join(' | ')) })))
              .catch((e) => done(JSON.stringify({ passed: 0, faults: [String(e)] })));
            """);
        using var result = JsonDocument.Parse(found);
        result.RootElement.GetProperty("faults").EnumerateArray().Select(f => f.GetString()).ShouldBeEmpty(page);
        result.RootElement.GetProperty("passed").GetInt32().ShouldBeGreaterThan(5, page);
    }
}
