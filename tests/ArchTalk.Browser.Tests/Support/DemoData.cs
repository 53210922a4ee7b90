using ArchTalk.Demo;
using OpenQA.Selenium;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>The demo lessons, made once, served by one server: what tests of the finished pages look at.</summary>
public sealed class DemoData : IAsyncLifetime
{
    public const string Email = "teacher@example.org";
    public const string Password = "keystone and thrust";

    private readonly TestFiles files = new();

    public Server Server { get; private set; } = null!;

    /// <summary>The students' link of the published lesson.</summary>
    public string Link { get; private set; } = "";

    /// <summary>The Prepare step of the lesson about domes, which a story may have recorded before; from the list of lessons.</summary>
    public static string Prepared(Chromium browser) => browser.Driver
        .FindElements(By.CssSelector("a[href*='/lessons/']"))
        .First(a => a.GetAttribute("textContent")!.Contains("Open Domes", StringComparison.Ordinal))
        .GetAttribute("href")!.Replace("/refine", "/prepare", StringComparison.Ordinal);

    public async ValueTask InitializeAsync()
    {
        await DemoBuilder.BuildAsync(files.Path("data"), Repository.Root);
        Server = new Server(files.Path("data"));
        await Server.StartAsync();
        using var browser = new Chromium();
        browser.SignIn(Server.Address, Email, Password);
        Link = browser.Find("a[href*='/w/']").GetAttribute("href")!;
    }

    public async ValueTask DisposeAsync()
    {
        await Server.DisposeAsync();
        files.Dispose();
    }
}

[CollectionDefinition(Name)]
public sealed class DemoCollection : ICollectionFixture<DemoData>
{
    public const string Name = "demo";
}
