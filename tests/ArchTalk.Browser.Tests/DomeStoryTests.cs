using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using OpenQA.Selenium;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>
/// A lesson about domes as a teacher says it, with everything that goes wrong in it: by mouse only, and by touch only. The student then
/// goes through it by keyboard only. Each take is put aside at the end, so that the next story begins with clean boards.
/// </summary>
[Trait("check", "aside")]
[Collection(DemoCollection.Name)]
public sealed class DomeStoryTests(DemoData demo) : IDisposable
{
    private static readonly SKColor BlueBlack = SKColor.Parse("#1E2A2B");
    private static readonly SKColor Yellow = SKColor.Parse("#F0E442");
    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    // What was asked about strokes, and what was answered: said when it isn't what was to come.
    private const string Settles =
        """
        window.settles = [];
        const fetched = window.fetch;
        window.fetch = async (address, options) => {
          const asked = performance.now();
          const answer = await fetched(address, options);
          if (String(address).endsWith('/settle')) {
            const text = await answer.clone().text();
            window.settles.push([text.includes('"text"') && performance.now() - asked < 7500 ? 'settled' : 'not', options.body, answer.status, text]);
          }
          return answer;
        };
        """;

    // The lesson's boards are 1600 by 900 units.
    private static (double X, double Y) At(double x, double y) => (x / 1600, y / 900);

    [Theory]
    [InlineData(Holding.Mouse)]
    [InlineData(Holding.Finger)]
    public async Task A_lesson_with_two_retakes_settled_lines_a_close_up_a_cover_a_filled_table_and_stops(Holding holding)
    {
        using var browser = new Chromium(await files.SpeechAsync(), touch: holding == Holding.Finger);
        browser.Before(Settles);
        browser.SignIn(demo.Server.Address, DemoData.Email, DemoData.Password);
        browser.Click("Open Domes");
        browser.Until(() => browser.Driver.Url.Contains("/lessons/", StringComparison.Ordinal), "the lesson");
        var teacher = new TeacherSession(browser, demo.Server.Address);
        teacher.OpenRecord();
        teacher.ShowBoard(3);
        var (canvas, hand) = (new Canvas(browser), new Hand(browser, holding));

        // Tried out before the take, it settles as well.
        teacher.Tool("Highlighter");
        DrawAlong(browser, hand, At(560, 290), At(830, 286));
        (double, double)[] above = [.. Enumerable.Range(0, 25).Select(i => At(590 + (i * 10), 260))];
        browser.Until(() => canvas.Has(Yellow, above).Any(h => h), "what is tried out settles");
        teacher.StartRecording();

        // Three lines settle; the second is one to write down.
        teacher.Tool("Highlighter");
        DrawAlong(browser, hand, At(560, 290), At(830, 286));
        DrawAlong(browser, hand, At(190, 378), At(700, 372));
        teacher.Tool("Pen");
        DrawAlong(browser, hand, At(210, 468), At(1270, 474));
        browser.Press("Key line", holding);
        browser.Until(() => teacher.Noted().Contains("write", StringComparison.Ordinal), "a key line");
        teacher.Noted().ShouldContain("The rings lock", Case.Sensitive, browser.Script<string>("return JSON.stringify(window.settles)"));

        // A part of the agenda begins its chapter; a term is said.
        browser.Press("Rings and ribs", holding);
        browser.Press("hoop", holding);
        browser.UntilText("1 of 7 said");
        teacher.UntilRecorded(teacher.RecordedSeconds() + 8);

        // A slip, taken back; and a question.
        hand.Draw(At(200, 800), At(1400, 800));
        TakeBack(browser, teacher, holding, canvas, At(215, 800));
        Ask(teacher, holding);
        teacher.UntilRecorded(teacher.RecordedSeconds() + 2);

        // Closer to a detail and back.
        teacher.ShowBoard(6);
        teacher.Tool("Close-up");
        hand.Draw(At(950, 60), At(1350, 420));
        browser.Until(() => browser.Driver.FindElements(By.XPath("//button[contains(., 'Whole board')]")).Any(b => b.Displayed), "the close view");
        teacher.UntilRecorded(teacher.RecordedSeconds() + 1);
        browser.Press("Whole board", holding);
        browser.Press("Fix later", holding);

        // The worked example: what is covered, and a cell of the table.
        teacher.ShowBoard(9);
        browser.Press("Uncover the last", holding);
        teacher.Tool("Type");
        teacher.TypeAt(hand, At(1200, 490), "60 kN");
        browser.UntilText("That is right.");
        teacher.UntilRecorded(teacher.RecordedSeconds() + 8);
        teacher.Tool("Pen");
        hand.Draw(At(200, 860), At(1400, 860));
        TakeBack(browser, teacher, holding, canvas, At(215, 860));
        Ask(teacher, holding);
        teacher.UntilRecorded(teacher.RecordedSeconds() + 2);
        var live = canvas.Picture();
        teacher.Finish();
        teacher.UntilRefineShows(live, hasMuchWriting: true);

        var take = Journals.ReadAll(demo.Server.DataFolder).Select(j => Takes.Log(j))
            .Last(l => l.Actions.OfType<Typed>().Any(t => t.Letters.Text == "60 kN"));
        take.Actions.OfType<Retaken>().Count().ShouldBe(2);
        take.Live.Actions.OfType<StrokeDrawn>().Count(s => s.LineHeight > 0).ShouldBe(3);
        take.Live.Actions.OfType<CoverChanged>().ShouldHaveSingleItem().IsUncovered.ShouldBeTrue();
        TakeNotes.Of(take).Select(n => n.Kind).ShouldBe([NoteKind.Chapter, NoteKind.TermSaid, NoteKind.Ask, NoteKind.FixLater, NoteKind.Ask]);

        var link = teacher.Publish();
        var (timeline, address) = await TeacherSession.ReadPublishedAsync(link);
        var end = timeline.At(LessonTime.Zero + timeline.Length).Panes[0];
        (end.Board, end.Texts.Single().Letters.Text, end.Hidden.Count).ShouldBe((8, "60 kN", 1));
        end.Strokes.Select(s => timeline.Boards[8].Strokes[s.Index].Points).ShouldBeEmpty();
        using var http = new HttpClient();
        var board = await http.GetStringAsync($"{address}/ink/8.json");
        board.ShouldContain("\"blanks\":[{");
        board.ShouldNotContain("Ringanker", Case.Insensitive, "what is right is the teacher's alone");
        WatchByKeyboard(link);
        teacher.Step("Record");
        browser.Until(
            () => browser.Driver.FindElements(By.CssSelector("[aria-label^='Put Take']")).FirstOrDefault(b => b.Displayed), "the take").Click();
        browser.UntilText("Put aside (");
    }

    // A line that the busy machine answered too late stays as it was drawn; then a teacher takes it back and draws it again.
    private static void DrawAlong(Chromium browser, Hand hand, (double, double) from, (double, double) to)
    {
        const int MostTries = 3;
        for (var tries = 0; tries < MostTries; tries++)
        {
            var before = browser.Script<double>("return window.settles.length");
            hand.Draw(from, to);
            browser.Until(() => browser.Script<double>("return window.settles.length") > before, "an answer");
            if (browser.Script<string>("return window.settles.at(-1)[0]") == "settled")
            {
                return;
            }

            browser.ClickOn("[aria-label='Undo']");
        }

        browser.Script<string>("return JSON.stringify(window.settles)").ShouldBe("settled");
    }

    private static void Ask(TeacherSession teacher, Holding holding)
    {
        var before = teacher.Noted().Split("Ask and wait").Length;
        teacher.Browser.Press("Ask and wait", holding);
        teacher.Browser.Until(() => teacher.Noted().Split("Ask and wait").Length == before + 1, "the question in the line of what has been noted");
    }

    // The slip is looked at where its line begins: gone back to the middle of the line, its first part is still there.
    private static void TakeBack(Chromium browser, TeacherSession teacher, Holding holding, Canvas canvas, (double, double) slip)
    {
        teacher.CountFrom(5);
        canvas.Has(BlueBlack, [slip])[0].ShouldBeTrue("the slip is seen");
        browser.Press("Retake", holding);
        browser.UntilText("Going on from");
        browser.Press("Not yet", holding);
        canvas.NextFrame();
        while (canvas.Has(BlueBlack, [slip])[0])
        {
            browser.Press("One phrase further back", holding);
            canvas.NextFrame();
        }

        browser.Press("Go on now", holding);
        browser.Until(teacher.IsRecording, "the take going on");
        canvas.NextFrame();
        canvas.Has(BlueBlack, [slip])[0].ShouldBeFalse("it is taken back");
    }

    // Plays, stops at both questions, goes on, and to a key line from the list.
    private static void WatchByKeyboard(string link)
    {
        using var student = new Chromium();
        student.Go(link);
        student.UntilText("The rings lock, so no scaffold is needed for long.");
        IWebElement Focused() => student.Driver.SwitchTo().ActiveElement();
        student.Find("body").SendKeys(" ");
        for (var question = 0; question < 2; question++)
        {
            student.Until(() => Focused().Text == "Go on", "a question");
            student.Script<bool>("return document.querySelector('audio').paused").ShouldBeTrue("the lesson waits");
            Focused().SendKeys(Keys.Enter);
            student.Until(() => !student.Script<bool>("return document.querySelector('audio').paused"), "the lesson going on");
        }

        // The student's own try at the table: the teacher's answer stands beside it, and it is still there when the page is opened again.
        void TabTo(Func<IWebElement, bool> what)
        {
            for (var i = 0; i < 60 && !what(Focused()); i++)
            {
                new OpenQA.Selenium.Interactions.Actions(student.Driver).SendKeys(Keys.Tab).Perform();
            }
        }

        TabTo(e => e.GetAttribute("id") == "try-1");
        Focused().SendKeys("sixty" + Keys.Enter);
        student.Until(() => Focused().GetAttribute("id") == "try-2", "the next blank");
        student.Driver.FindElements(By.CssSelector(".try-filled")).Count(e => e.Displayed).ShouldBe(1, "one cell is filled by the teacher");
        student.Driver.Navigate().Refresh();
        student.UntilText("The rings lock, so no scaffold is needed for long.");
        student.Find("body").SendKeys(Keys.End);
        student.Until(() => student.Find("#try-1").GetAttribute("value") == "sixty", "the try as it was left");

        TabTo(e => (e.GetAttribute("class") ?? "").Contains("key-line", StringComparison.Ordinal));

        Focused().Text.ShouldContain("The rings lock");
        Focused().SendKeys(Keys.Enter);
        student.UntilText("Here it was drawn");

        // From the vocabulary to where the word is said, a little before it.
        student.UntilText("Rings and ribs");
        var said = student.Find("#vocabulary ~ dl .link.clock");
        var seconds = TimeSpan.ParseExact(said.Text, @"m\:ss", System.Globalization.CultureInfo.InvariantCulture).TotalSeconds;
        said.SendKeys(Keys.Enter);
        student.Until(
            () => student.Script<double>("return document.querySelector('audio').currentTime") is var now && now >= seconds - 2 && now < seconds,
            "the term said");
    }
}
