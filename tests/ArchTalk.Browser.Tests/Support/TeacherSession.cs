using ArchTalk.Core.Formats;
using ArchTalk.Core.Timelines;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>A teacher at work in a browser: the steps that several tests share.</summary>
public sealed class TeacherSession(Chromium browser, string server)
{
    public const string Email = "ida@example.org";
    public const string Password = "a long password";

    public Chromium Browser { get; } = browser;

    /// <summary>The address of the lesson's pages, without the step.</summary>
    public string Lesson { get; private set; } = "";

    /// <summary>The same without the server, which another tab may reach another way.</summary>
    public string LessonPath => new Uri(Lesson).AbsolutePath;

    /// <summary>A new teacher who records on an empty board.</summary>
    public static TeacherSession BeginTake(Chromium browser, string server)
    {
        var teacher = new TeacherSession(browser, server);
        teacher.ComeIn();
        teacher.CreateLesson("A take");
        teacher.AddEmptyBoard(1);
        teacher.OpenRecord();
        teacher.StartRecording();
        return teacher;
    }

    /// <summary>Begins on a server that has no teacher yet, and signs in on one that was begun on before.</summary>
    public void ComeIn()
    {
        Browser.Go(server);
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector("#email")).FirstOrDefault(), "a page to come in by").SendKeys(Email);
        Browser.Find("#password").SendKeys(Password);
        if (Browser.Driver.FindElements(By.CssSelector("#name")) is [var name])
        {
            name.SendKeys("Ida Brandt");
            Browser.Click("Begin");
        }
        else
        {
            Browser.Click("Sign in");
        }

        Browser.UntilText("Your lessons");
    }

    public void CreateLesson(string title)
    {
        Browser.Go(server);
        Browser.Find("#lesson-title").SendKeys(title);
        Browser.Click("New lesson");
        Browser.Until(() => Browser.Driver.Url.EndsWith("/prepare", StringComparison.Ordinal), "Prepare page");
        Lesson = Browser.Driver.Url[..Browser.Driver.Url.LastIndexOf('/')];
    }

    public void AddFiles(int boards, params string[] files)
    {
        Browser.Find("input[type=file]").SendKeys(string.Join('\n', files));
        UntilBoards(boards);
    }

    public void AddEmptyBoard(int boards)
    {
        Browser.Click("Empty board");
        UntilBoards(boards);
    }

    /// <summary>Points at a board's card, or presses its button where nothing can point, so that it shows what can be done with it.</summary>
    public IWebElement Card(int number)
    {
        var card = Browser.Until(
            () => Browser.Driver.FindElements(By.CssSelector("ol[aria-label='Boards in order'] > li")).ElementAtOrDefault(number - 1),
            $"board {number}");
        new Actions(Browser.Driver).MoveToElement(card).Perform();
        if (!card.FindElement(By.CssSelector("[aria-label='Take out']")).Displayed)
        {
            card.FindElement(By.CssSelector(".board-more")).Click();
        }

        return card;
    }

    public void UntilBoards(int count) =>
        Browser.Until(
            () => Browser.Driver.FindElements(By.CssSelector("ol[aria-label='Boards in order'] > li")).Count == count,
            $"{count} boards");

    /// <summary>Goes to a step by its stone; a tab that shows no lesson yet is given the address.</summary>
    public void Step(string word)
    {
        var stones = By.XPath($"//*[local-name()='a' and contains(@class, 'stone')][contains(., '{word}')]");
        Browser.Until(
            () =>
            {
                // The arch may be drawn anew just now; then it is looked for again.
                if (Browser.Driver.FindElements(stones).FirstOrDefault(s => s.Displayed) is { } stone)
                {
                    stone.Click();
                }
                else
                {
                    Browser.Go($"{Lesson}/{word.ToLowerInvariant()}");
                }

                return true;
            },
            $"a way to {word}");
        Browser.Until(() => Browser.Driver.Url.Contains($"/{word.ToLowerInvariant()}", StringComparison.Ordinal), word);
    }

    public void OpenRecord(string microphone = "Use a microphone")
    {
        Step("Record");
        Browser.Until(() => Browser.Script<bool>("return document.querySelector('[x-cloak]') === null"), "the page's script");
        CountFrom(0);
        Listen(microphone);
    }

    /// <summary>Chooses a microphone and waits until something is heard.</summary>
    public void Listen(string microphone = "Use a microphone")
    {
        Browser.Click(microphone);
        Browser.Until(() => Browser.Find("[aria-label='Voice volume']").GetAttribute("aria-valuenow") != "0", "volume of the microphone");
    }

    /// <summary>Waits until Refine shows the lesson.</summary>
    public void UntilLesson() =>
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector(".stage-cover")).All(c => !c.Displayed), "the lesson");

    /// <summary>Sets the countdown, also while it can't be chosen on the page.</summary>
    public void CountFrom(int seconds) => Browser.Script(
        "const c = document.querySelector('#countdown'); c.value = arguments[0]; c.dispatchEvent(new Event('change'))", $"{seconds}");

    public void StartRecording()
    {
        Browser.Click("Start recording");
        UntilRecorded(0.2);
    }

    /// <summary>Waits until the clock on the page has passed so many seconds.</summary>
    public void UntilRecorded(double seconds, int within = 60) =>
        Browser.Until(() => RecordedSeconds() >= Math.Floor(seconds) && IsRecording(), $"{seconds} s recorded", within);

    /// <summary>What the clock on the page shows, in seconds.</summary>
    public double RecordedSeconds() => Seconds(Browser.Find("[role=timer]").Text);

    public void UntilSaved(double seconds, int within = 30) => UntilSaved(Browser, seconds, within);

    /// <summary>
    /// Waits until the page says that so much or more is saved. It counts in steps of an upload, so no one second need ever be
    /// shown.
    /// </summary>
    public static void UntilSaved(Chromium browser, double seconds, int within = 30) => browser.Until(
        () => browser.Script<string>("return document.body.innerText") is var text
            && text.Split("saved up to ") is [_, var after, ..] && Seconds(after.Split('\n', ' ')[0]) >= seconds,
        $"“saved up to” {seconds} s", within);

    public void Finish()
    {
        Browser.Click("Finish");
        Browser.Until(() => Browser.Driver.Url.Contains("/refine", StringComparison.Ordinal), "Refine page");
    }

    /// <summary>Waits until Refine, where the take was finished to, shows at its end what Record showed; gives the difference that is left.</summary>
    /// <param name="hasMuchWriting">Writing of another size on the screen differs more than ink does.</param>
    public (double Mean, double Worst) UntilRefineShows(int[] live, bool hasMuchWriting = false)
    {
        var canvas = new Canvas(Browser);
        Browser.UntilText("Put in a pause");
        Browser.Script("document.querySelector('audio').currentTime = 9999");
        var (mean, worst) = hasMuchWriting ? (4.0, 45.0) : (1.5, 24.0);
        Browser.Until(
            () => Canvas.Difference(live, canvas.Picture()) is var difference && difference.Mean < mean && difference.Worst < worst,
            "the same picture");
        return Canvas.Difference(live, canvas.Picture());
    }

    /// <summary>Draws a line with the mouse, in shares of the board's width and height on the screen.</summary>
    public void Draw(params (double X, double Y)[] path)
    {
        var canvas = Browser.Find("canvas");
        var (width, height) = (canvas.Size.Width, canvas.Size.Height);
        (int X, int Y) At((double X, double Y) place) => ((int)((place.X - 0.5) * width), (int)((place.Y - 0.5) * height));
        var actions = new Actions(Browser.Driver);
        var (startX, startY) = At(path[0]);
        actions.MoveToElement(canvas, startX, startY).ClickAndHold();
        for (var i = 1; i < path.Length; i++)
        {
            var ((ax, ay), (bx, by)) = (At(path[i - 1]), At(path[i]));
            actions.MoveByOffset(bx - ax, by - ay);
        }

        actions.Release().Perform();
    }

    /// <summary>What stands in the line of what has been noted.</summary>
    public string Noted() => Browser.Script<string>("return document.querySelector('.noted-line').innerText.replace(/\\s+/g, ' ')");

    /// <summary>Presses a place of the board with the tool that types, and types there.</summary>
    public void TypeAt(Hand hand, (double X, double Y) place, string keys)
    {
        hand.Down(place.X, place.Y);
        hand.Up(place.X, place.Y);
        Browser.Until(() => Browser.Driver.SwitchTo().ActiveElement().GetAttribute("aria-label") == "Text on the board", "the field on the board");
        Browser.Driver.SwitchTo().ActiveElement().SendKeys(keys);
    }

    public void ShowBoard(int number)
    {
        Browser.ClickOn($"#strip-{number - 1}");
        Browser.Until(() => Browser.Find($"#strip-{number - 1}").GetAttribute("aria-current") == "true", $"board {number}");
    }

    /// <summary>Takes a tool as a teacher does: from its family, whose members open below if another was used last.</summary>
    public void Tool(string word)
    {
        var family = word switch
        {
            "Pen" or "Highlighter" or "Straight" or "Arrow" or "Type" or "Eraser" => "Write",
            "Pointer" or "Light up" => "Point",
            _ => "Look",
        };
        var tool = word.Split(' ')[0].ToLowerInvariant();
        var members = Browser.Driver.FindElements(By.CssSelector($"[aria-label='More of {family}']"));
        if (members.Count > 0)
        {
            members[0].Click();
            Browser.Until(
                () => Browser.Driver.FindElements(By.CssSelector($"#members [data-tool='{tool}']")).Any(b => b.Displayed),
                $"the tools of {family}");
            Browser.ClickOn($"#members [data-tool='{tool}']");
            members[0].Click();
        }
        else
        {
            Browser.ClickOn($"[data-family='{family.ToLowerInvariant()}']");
        }
    }

    /// <summary>Publishes and gives back the students' link.</summary>
    public string Publish()
    {
        Step("Publish");
        Browser.Click(
            Browser.Script<bool>("return document.body.innerText.includes('Publish it again')") ? "Publish it again" : "Publish the lesson");
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector("progress")).Any(p => p.Displayed)
            || Browser.Script<bool>("return document.body.innerText.includes('The link for students')"), "publishing");
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector("aside a.link")).Count > 0
            && !Browser.Find("progress").Displayed, "link for students", 300);
        return Browser.Find("aside a.link").GetAttribute("href")!;
    }

    /// <summary>Reads the newest publication as a player would: its timeline, its files' address.</summary>
    public static async Task<(LessonTimeline Timeline, string Files)> ReadPublishedAsync(string link)
    {
        using var http = new HttpClient();
        var page = await http.GetStringAsync(link);
        var files = new Uri(link).GetLeftPart(UriPartial.Authority) + page.Split("\"files\":\"")[1].Split('"')[0];
        return (await PlayerFiles.ReadAsync(name => http.GetByteArrayAsync($"{files}/{name}")), files);
    }

    /// <summary>A figure of the recording session as the page has it, exactly: "recordedMs", "missingMs", "waiting.ms".</summary>
    public double Figure(string name) => Browser.Script<double>($"return document.querySelector('.record')._x_dataStack[0].view.{name}");

    public bool IsRecording() => Browser.Driver.FindElements(By.XPath("//button[contains(., 'Pause')]")).Any(b => b.Displayed);

    private static double Seconds(string clock) =>
        clock.Split(':') is { Length: 2 } parts && int.TryParse(parts[0], out var minutes) && int.TryParse(parts[1], out var seconds)
            ? (minutes * 60) + seconds
            : 0;
}
