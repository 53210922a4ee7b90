using System.Diagnostics;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>A headless Chromium with a profile of its own and, if wanted, a WAV file as its microphone.</summary>
public sealed class Chromium : IDisposable
{
    private readonly string profile;
    private readonly bool ownsProfile;

    public Chromium(
        string? microphone = null,
        int width = 1280,
        int height = 800,
        string? profile = null,
        bool phone = false,
        bool touch = false,
        bool dark = false,
        double scale = 1,
        string? host = null)
    {
        ownsProfile = profile is null;
        this.profile = profile ?? Directory.CreateTempSubdirectory("archtalk-browser-").FullName;
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments(
            "--headless=new", "--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage", "--hide-scrollbars", $"--window-size={width},{height}",
            "--use-fake-ui-for-media-stream", "--use-fake-device-for-media-stream", "--autoplay-policy=no-user-gesture-required",
            "--disable-background-networking", "--disable-component-update", "--disable-sync", "--no-first-run", "--force-color-profile=srgb",

            // What no test needs. No feature is switched off: the driver's own list of them would be forgotten, and touches come late then.
            "--disable-extensions", "--disable-default-apps", "--no-default-browser-check",
            $"--user-data-dir={this.profile}");
        if (microphone is not null)
        {
            options.AddArgument($"--use-file-for-fake-audio-capture={microphone}");
        }

        if (host is not null)
        {
            // A name of a school's network, which browsers don't trust over plain HTTP.
            options.AddArgument($"--host-resolver-rules=MAP {host} 127.0.0.1");
        }

        var service = ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver");
        service.SuppressInitialDiagnosticInformation = true;
        Driver = new ChromeDriver(service, options, TimeSpan.FromSeconds(Patience));

        // The window's frame is not the page: this makes the page exactly as large as wanted.
        Driver.ExecuteCdpCommand("Emulation.setDeviceMetricsOverride", new Dictionary<string, object?>
        {
            ["width"] = width,
            ["height"] = height,
            ["deviceScaleFactor"] = phone ? 2 : scale,
            ["mobile"] = phone,
        });
        if (phone || touch)
        {
            Driver.ExecuteCdpCommand(
                "Emulation.setTouchEmulationEnabled",
                new Dictionary<string, object?> { ["enabled"] = true, ["maxTouchPoints"] = 5 });
        }

        if (dark)
        {
            Driver.ExecuteCdpCommand("Emulation.setEmulatedMedia", new Dictionary<string, object?>
            {
                ["features"] = new[] { new Dictionary<string, object> { ["name"] = "prefers-color-scheme", ["value"] = "dark" } },
            });
        }
    }

    public ChromeDriver Driver { get; }

    public void Go(string address) => Driver.Navigate().GoToUrl(address);

    /// <summary>Asks the server something as the page that is shown would, and gives back what it answers.</summary>
    public string Call(string method, string path, object? body = null) => ScriptAsync<string>(
        """
        const [method, path, body, done] = arguments;
        const headers = { 'X-Antiforgery': document.querySelector('meta[name=antiforgery]').content, 'Content-Type': 'application/json' };
        fetch(path, { method, headers, body: body ?? undefined }).then((answer) => answer.text()).then(done);
        """,
        method, path, body is null ? null! : System.Text.Json.JsonSerializer.Serialize(body, System.Text.Json.JsonSerializerOptions.Web));

    /// <summary>Runs a script in every page from now on, before the page's own.</summary>
    public void Before(string script) =>
        Driver.ExecuteCdpCommand("Page.addScriptToEvaluateOnNewDocument", new Dictionary<string, object?> { ["source"] = script });

    /// <summary>Closes the tab without asking whether it may be left; an empty one takes its place.</summary>
    public void CloseTab()
    {
        var old = Driver.CurrentWindowHandle;
        Driver.SwitchTo().NewWindow(WindowType.Tab);
        var fresh = Driver.CurrentWindowHandle;
        Driver.SwitchTo().Window(old);
        Driver.Close();
        Driver.SwitchTo().Window(fresh);
    }

    public IWebElement Find(string css) => Driver.FindElement(By.CssSelector(css));

    /// <summary>The visible button or link with these words.</summary>
    public IWebElement Button(string words) => Until(
        () => Named("self::button or local-name()='a' or self::summary or self::label", words),
        $"a button “{words}”");

    // One that says just that comes before one that says more.
    private IWebElement? Named(string kinds, string words, string where = "")
    {
        IWebElement? First(string says) =>
            Driver.FindElements(By.XPath($"//*[{kinds}][{says}]{where}")).FirstOrDefault(e => e.Displayed && e.Enabled);
        return First($"normalize-space(.) = '{words}'") ?? First($"contains(normalize-space(.), '{words}')");
    }

    /// <summary>Clicks the button or link with these words; one that is drawn anew just then is looked for again.</summary>
    public void Click(string words) => Until(
        () =>
        {
            Button(words).Click();
            return true;
        },
        $"a click on “{words}”");

    /// <summary>Clicks what a selector finds, once it is seen and can be pressed: a click on what is switched off would say nothing.</summary>
    public void ClickOn(string selector) => Until(
        () =>
        {
            if (Driver.FindElement(By.CssSelector(selector)) is not { Displayed: true, Enabled: true } found)
            {
                return false;
            }

            found.Click();
            return true;
        },
        $"a click on {selector}");

    /// <summary>
    /// Presses the button or link with these words, but no entry of what has been noted, with what the hand holds: a finger taps where it
    /// is seen. Where there is none, what is switched on and off by them.
    /// </summary>
    public void Press(string words, Holding holding)
    {
        IWebElement? Seen(string kinds) => Named(kinds, words, "[not(ancestor::li[@class='noted-one'])]");
        var button = Until(() => Seen("self::button or self::a") ?? Seen("self::label"), $"“{words}”");
        if (holding != Holding.Finger)
        {
            button.Click();
            return;
        }

        var middle = Script<string>(
            """
            arguments[0].scrollIntoView({ block: 'nearest' });
            const b = arguments[0].getBoundingClientRect();
            return [b.left + b.width / 2, b.top + b.height / 2].join(' ');
            """, button).Split(' ').Select(n => double.Parse(n, System.Globalization.CultureInfo.InvariantCulture)).ToArray();
        void Touch(string type, params object[] points) => Driver.ExecuteCdpCommand(
            "Input.dispatchTouchEvent", new Dictionary<string, object?> { ["type"] = type, ["touchPoints"] = points });
        Touch("touchStart", new Dictionary<string, object?> { ["x"] = middle[0], ["y"] = middle[1], ["id"] = 2 });
        Touch("touchEnd");
    }

    /// <summary>Runs a script; a whole number comes back as an integer, so numbers are converted.</summary>
    public T Script<T>(string script, params object[] arguments) => To<T>(Driver.ExecuteScript(script, arguments));

    /// <summary>Runs a script that calls its last argument when it is done.</summary>
    public T ScriptAsync<T>(string script, params object[] arguments)
    {
        Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromSeconds(Patience);
        return To<T>(Driver.ExecuteAsyncScript(script, arguments));
    }

    public void Script(string script, params object[] arguments) => Driver.ExecuteScript(script, arguments);

    /// <summary>How long a state is waited for where nothing else is said, in s: a machine may be busy.</summary>
    private const int Patience = 180;

    /// <summary>Waits for a value; fails saying what was waited for.</summary>
    public T Until<T>(Func<T?> value, string what, int seconds = Patience)
        where T : class
    {
        // Asking costs the page a layout: what takes long is asked for less often.
        var waited = Stopwatch.StartNew();
        while (waited.Elapsed.TotalSeconds < seconds)
        {
            try
            {
                if (value() is { } found)
                {
                    return found;
                }
            }
            catch (WebDriverException)
            {
                // The page is being replaced.
            }

            Thread.Sleep(waited.Elapsed.TotalSeconds < 1 ? 50 : 125);
        }

        throw new TimeoutException(
            $"There was no {what} within {seconds} s at {Driver.Url}. The page says: "
                + $"{Script<string>("return document.body.innerText.slice(0, 600)")}");
    }

    public void Until(Func<bool> holds, string what, int seconds = Patience) => Until<object>(() => holds() ? this : null, what, seconds);

    public void UntilText(string text) =>
        Until(() => Script<bool>("return document.body.innerText.includes(arguments[0])", text), $"text “{text}”");

    public void SignIn(string server, string email, string password)
    {
        Go($"{server}/sign-in");
        Find("#email").SendKeys(email);
        Find("#password").SendKeys(password);
        Click("Sign in");
        UntilText("Your lessons");
    }

    private static T To<T>(object? value) => value switch
    {
        T wanted => wanted,
        IConvertible number when typeof(T) == typeof(double) => (T)(object)number.ToDouble(System.Globalization.CultureInfo.InvariantCulture),
        _ => throw new InvalidCastException($"The script gave {value ?? "nothing"} instead of a {typeof(T).Name}."),
    };

    public void Screenshot(string path) => Driver.GetScreenshot().SaveAsFile(path);

    public void Dispose()
    {
        Driver.Quit();
        Driver.Dispose();
        if (ownsProfile)
        {
            try
            {
                Directory.Delete(profile, recursive: true);
            }
            catch (IOException)
            {
                // Chromium may still be writing; the system clears its temporary folder.
            }
        }
    }
}
