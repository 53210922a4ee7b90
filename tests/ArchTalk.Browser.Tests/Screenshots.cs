using ArchTalk.Browser.Tests.Support;

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

        browser.Go($"{server.Address}/sign-in");
        Save("sign-in");
        browser.SignIn(server.Address, "teacher@example.org", "keystone and thrust");
        Save("lessons");
        browser.Find("a[href*='/lessons/']").Click();
        browser.Until(() => browser.Driver.Url.Contains("/refine", StringComparison.Ordinal), "Refine page");
        browser.Until(() => browser.Script<bool>("return document.querySelectorAll('aside ol li').length > 2"), "chapters");
        browser.Script(Seek, 60.0);
        Save("refine");
        var lesson = browser.Driver.Url[..browser.Driver.Url.LastIndexOf('/')];
        browser.Go($"{lesson}/prepare");
        browser.Until(() => browser.Script<bool>("return document.querySelectorAll('img.thumb').length > 3"), "boards");
        Save("prepare");
        browser.Go($"{lesson}/record");
        browser.Click("Use the test voice");
        browser.Script("document.getElementById('strip-2').click()");
        Save("record");
        browser.Go($"{lesson}/publish");
        Save("publish");
        var link = browser.Find("aside a.link").GetAttribute("href")!;
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
    }
}
