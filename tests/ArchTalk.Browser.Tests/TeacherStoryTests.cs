using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Time;
using OpenQA.Selenium;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>The main job from beginning to end, as a teacher and two students do it.</summary>
public sealed class TeacherStoryTests(SharedServer shared) : IDisposable
{
    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    [Fact]
    public async Task From_a_pdf_to_a_watched_lesson()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("How an arch stands");

        Prepare(teacher);
        Record(teacher);
        RecordAnother(teacher);
        CorrectChapters(browser);
        var link = teacher.Publish();
        await CheckTimelineAsync(link);

        // Students have no account and another browser.
        using (var laptop = new Chromium())
        {
            Watch(laptop, link);
        }

        using (var phone = new Chromium(width: 390, height: 844, phone: true))
        {
            Watch(phone, link);
            phone.Script<bool>("return document.documentElement.scrollWidth <= window.innerWidth").ShouldBeTrue("nothing is wider than the phone");
        }

        PublishAgainAndWithdraw(teacher, link);
    }

    private void Prepare(TeacherSession teacher)
    {
        var browser = teacher.Browser;
        teacher.AddFiles(4, files.Pdf(), files.Picture("vault.jpg", SKColors.LightGray), files.Picture("dome.jpg", SKColors.LightBlue));
        teacher.AddEmptyBoard(5);

        // A file that is not what it says doesn't stop the others, and is named.
        File.WriteAllText(files.Path("plan.png"), "not a picture");
        browser.Find("input[type=file]").SendKeys($"{files.Path("plan.png")}\n{files.Picture("bridge.jpg", SKColors.Beige)}");
        teacher.UntilBoards(6);
        browser.UntilText("plan.png was not added");
        browser.UntilText("not a PDF, not a PPTX or ODP deck");

        // Titles come from the pages; order by keyboard; take out and put back.
        Titles(browser).ShouldBe(["Thrust and weight", "A tall worksheet", "vault", "dome", "Empty board", "bridge"]);
        teacher.Card(4).FindElement(By.CssSelector("[aria-label='Earlier']")).SendKeys(Keys.Enter);
        browser.Until(() => Titles(browser)[2] == "dome", "dome as the third board");
        teacher.Card(6).FindElement(By.CssSelector("[aria-label='Take out']")).Click();
        teacher.UntilBoards(5);
        browser.Click("Put it back");
        teacher.UntilBoards(6);

        browser.ClickOn("#tab-vocabulary");
        for (var i = 1; i <= 3; i++)
        {
            browser.Click("Add a term");
            browser.Find($"#panel-vocabulary li:nth-of-type({i}) input[id^=w]").SendKeys($"term {i}");
            browser.Find($"#panel-vocabulary li:nth-of-type({i}) textarea").SendKeys($"meaning {i}");
        }

        browser.UntilText("Saved");
        browser.ClickOn("#tab-references");
        browser.Click("Add a reference");
        browser.Find("#panel-references input[id^=t]").SendKeys("A model of chains");
        browser.Find("#panel-references input[id^=a]").SendKeys("javascript:alert(1)");
        browser.UntilText("isn't a web address");
        browser.Find("#panel-references input[id^=a]").Clear();
        browser.Find("#panel-references input[id^=a]").SendKeys("https://example.org/chains");
        browser.Until(() => browser.Find("#panel-references [role=status]").Text == "Saved", "saved references");
        browser.Click("Add a reference");
        var second = "#panel-references li:last-of-type ";
        browser.Find(second + "select").SendKeys("Book");
        browser.Find(second + "input[id^=t]").SendKeys("Building Science");
        browser.Find(second + "input[id^=p]").SendKeys("34–37");
        browser.Until(() => browser.Find("#panel-references [role=status]").Text == "Saved", "saved references");
        browser.ClickOn("#tab-task");
        browser.Click("Add a step");
        browser.Find("[aria-label='Step 1']").SendKeys("Hang a chain and draw it.");
        browser.Find("#task-when").SendKeys("Friday");
        browser.Until(() => browser.Find("#panel-task [role=status]").Text == "Saved", "saved task");

        // Undo survives a reload.
        browser.Driver.Navigate().Refresh();
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("#panel-vocabulary input[id^=w]")).Count == 3, "three terms after a reload");
        browser.ClickOn("#tab-vocabulary");
        browser.ClickOn("#panel-vocabulary [aria-label='Undo']");
        browser.UntilText("Undone");
        browser.ClickOn("#panel-vocabulary [aria-label='Redo']");
        browser.Until(
            () => browser.Script<string>("return [...document.querySelectorAll('#panel-vocabulary textarea')].at(-1).value") == "meaning 3",
            "the last meaning again");
    }

    private static void Record(TeacherSession teacher)
    {
        var browser = teacher.Browser;
        teacher.OpenRecord();
        teacher.StartRecording();
        teacher.Draw((0.2, 0.4), (0.4, 0.5), (0.6, 0.4));
        teacher.UntilRecorded(3);
        teacher.Tool("Highlighter");
        teacher.Draw((0.2, 0.7), (0.5, 0.7));
        browser.Find("body").SendKeys(Keys.PageDown);
        teacher.UntilRecorded(5);
        browser.Script(
            "document.querySelector('canvas').dispatchEvent(new WheelEvent('wheel', { deltaY: 300, bubbles: true, cancelable: true, clientX: 500, "
                + "clientY: 300 }))");
        teacher.Tool("Pen");
        teacher.Draw((0.3, 0.3), (0.5, 0.5));
        browser.Click("Undo");
        teacher.Draw((0.3, 0.6), (0.6, 0.6));
        teacher.UntilRecorded(8);
        browser.Click("Pause");
        var paused = browser.Find("[role=timer]").Text;
        Thread.Sleep(2500);
        browser.Find("[role=timer]").Text.ShouldBe(paused, "the clock stands still in a pause");
        browser.Click("Go on");
        teacher.ShowBoard(1);
        teacher.Tool("Eraser");
        teacher.Draw((0.2, 0.4), (0.25, 0.42));
        teacher.Tool("Pointer");
        teacher.Draw((0.5, 0.2), (0.6, 0.3));
        teacher.UntilRecorded(20);
        teacher.UntilSaved(18);
        teacher.Finish();
    }

    // A second take goes on where the first ended: its ink is there and can be erased.
    private static void RecordAnother(TeacherSession teacher)
    {
        teacher.Browser.Click("Chapters");
        teacher.Browser.UntilText("These chapters are proposed");
        teacher.OpenRecord();
        teacher.StartRecording();
        teacher.Tool("Eraser");
        teacher.Draw((0.3, 0.66), (0.32, 0.74));
        teacher.UntilRecorded(3);
        teacher.Finish();
        teacher.Browser.Until(
            () => teacher.Browser.Script<double>("return document.querySelector('audio').currentTime") > 18,
            "the beginning of the second take");
    }

    private static void CorrectChapters(Chromium browser)
    {
        browser.Click("Chapters");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("aside ol input")).Count >= 1, "proposed chapters");
        browser.Script("document.querySelector('audio').currentTime = 6");
        browser.Until(() => browser.Script<bool>("return document.body.innerText.includes('0:06 of')"), "moment shown");
        browser.Click("Chapter at this moment");
        var name = browser.Until(() => browser.Driver.FindElements(By.CssSelector("aside ol input")).ElementAtOrDefault(1), "second chapter");
        name.Clear();
        name.SendKeys("The tall page");
        browser.UntilText("Saved");
        browser.ClickOn("[aria-label='Undo a change of the chapters']");
        browser.UntilText("Undone");
        browser.ClickOn("[aria-label='Redo a change of the chapters']");
        browser.UntilText("Put back");
    }

    private static async Task CheckTimelineAsync(string link)
    {
        var (timeline, files) = await TeacherSession.ReadPublishedAsync(link);
        timeline.Length.Seconds.ShouldBeInRange(23, 90);
        timeline.Placements.Count.ShouldBe(2);
        timeline.Boards.Count.ShouldBe(6);
        timeline.Shown.Select(s => s.Value.Board).ShouldBe([0, 1, 0]);

        // First board: the pen's stroke was erased after the pause, the highlighter's in the second take.
        var first = timeline.Boards[0].Strokes;
        first.Count.ShouldBe(2);
        first[0].Lives.ShouldHaveSingleItem().Death.ShouldNotBeNull();
        var secondTake = timeline.Placements[1].Map.Target.Start;
        (first[0].Lives[0].Death < secondTake).ShouldBeTrue();
        (first[1].Lives.ShouldHaveSingleItem().Death > secondTake).ShouldBeTrue();

        // Second board: slid down, one stroke undone, one kept, both drawn on the lower part.
        var second = timeline.Boards[1];
        second.Views[0][^1].Value.Y.ShouldBeGreaterThan(0);
        second.Strokes.Count.ShouldBe(2);
        second.Strokes[0].Lives[0].Death.ShouldNotBeNull();
        timeline.Pointer.ShouldNotBeEmpty();

        using var http = new HttpClient();
        using var request = new HttpRequestMessage(HttpMethod.Get, $"{files}/voice.m4a");
        request.Headers.Range = new(100, 199);
        using var answer = await http.SendAsync(request);
        answer.StatusCode.ShouldBe(System.Net.HttpStatusCode.PartialContent);
        answer.Content.Headers.ContentLength.ShouldBe(100);
        (await http.GetStringAsync($"{files}/chapters.vtt")).ShouldContain("The tall page");
    }

    private static void Watch(Chromium student, string link)
    {
        student.Go(link);
        student.UntilText("How an arch stands");
        student.UntilText("The tall page");
        foreach (var text in new[] { "meaning 3", "A model of chains", "Building Science", "34–37", "Hang a chain and draw it.", "Friday" })
        {
            student.UntilText(text);
        }

        // The voice plays and the ink follows.
        student.Click("Play");
        student.Until(() => student.Script<double>("return document.querySelector('audio').currentTime") > 2.5, "the voice to play");
        student.Click("Pause");
        student.Click("The tall page");
        student.Until(() => Math.Abs(student.Script<double>("return document.querySelector('audio').currentTime") - 6) < 0.3, "the chapter");
        student.Find("body").SendKeys(Keys.ArrowRight);
        student.Until(() => Math.Abs(student.Script<double>("return document.querySelector('audio').currentTime") - 16) < 0.3, "ten seconds on");
        student.Find("body").SendKeys(Keys.Shift + Keys.ArrowLeft);
        student.Until(
            () => Math.Abs(student.Script<double>("return document.querySelector('audio').currentTime") - 6) < 0.3,
            "the chapter's beginning");

        // It goes on where this browser left off.
        student.Script("document.querySelector('audio').currentTime = 9");
        student.Click("Play");
        student.Until(() => student.Script<double>("return document.querySelector('audio').currentTime") > 9.3, "the voice to play");
        student.Click("Pause");
        student.Driver.Navigate().Refresh();
        student.UntilText("where you stopped");
        student.Script<double>("return document.querySelector('audio').currentTime").ShouldBeInRange(9, 13);
    }

    private static void PublishAgainAndWithdraw(TeacherSession teacher, string link)
    {
        teacher.Step("Publish");
        teacher.Browser.Click("Publish it again");
        teacher.Browser.UntilText("Nothing has changed since the newest version");
        teacher.Step("Refine");
        teacher.Browser.Click("Chapters");
        var name = teacher.Browser.Until(() => teacher.Browser.Driver.FindElements(By.CssSelector("aside ol input")).FirstOrDefault(), "a chapter");
        name.Clear();
        name.SendKeys("How it begins");
        teacher.Browser.UntilText("Saved");
        teacher.Publish().ShouldBe(link, "publishing again keeps the link");
        teacher.Browser.UntilText("Version 2");
        teacher.Browser.Click("Withdraw");
        teacher.Browser.UntilText("The link is closed");
        using var student = new Chromium();
        student.Go(link);
        student.UntilText("This lesson is closed");
    }

    private static string[] Titles(Chromium browser) =>
        [.. browser.Driver.FindElements(By.CssSelector("ol[aria-label='Boards in order'] textarea")).Select(e => e.GetAttribute("value")!)];
}
