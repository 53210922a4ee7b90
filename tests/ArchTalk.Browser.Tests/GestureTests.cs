using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using OpenQA.Selenium;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>Each gesture is seen on the board, is in the lesson, and is seen by students at its moment.</summary>
public sealed class GestureTests(SharedServer shared) : IDisposable
{
    private static readonly SKColor BlueBlack = SKColor.Parse("#1E2A2B");
    private static readonly SKColor Yellow = SKColor.Parse("#F0E442");

    // The slide says "Thrust and weight" in its upper left corner: within "Thrust", above what the hand draws across it.
    private static readonly (double X, double Y) AboveTheHand = (0.12, 0.138);
    private static readonly (double X, double Y) FarFromTheLight = (0.8, 0.8);

    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    private static TeacherSession Begin(Chromium browser, string server, TestFiles files)
    {
        var teacher = new TeacherSession(browser, server);
        teacher.ComeIn();
        teacher.CreateLesson("Gestures");
        teacher.AddFiles(2, files.Pdf());
        teacher.OpenRecord();
        teacher.StartRecording();
        return teacher;
    }

    [Theory]
    [InlineData(Holding.Mouse)]
    [InlineData(Holding.Finger)]
    public async Task Ink_that_settles_key_lines_typing_and_light_are_recorded_and_watched(Holding holding)
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync(), touch: holding == Holding.Finger);
        var teacher = Begin(browser, server.Address, files);
        var (canvas, hand) = (new Canvas(browser), new Hand(browser, holding));

        // A highlighter settles on the word, and one undo brings back what was drawn.
        teacher.Tool("Highlighter");
        hand.Draw((0.08, 0.172), (0.17, 0.166));
        canvas.UntilSeen(Yellow, [AboveTheHand], "the highlighter as high as the line");
        browser.Click("Undo");
        canvas.UntilGone(Yellow, [AboveTheHand], "what was drawn");
        canvas.UntilSeen(Yellow, [(0.12, 0.169)], "as the hand drew it");
        browser.ClickOn("[aria-label='Redo']");
        canvas.UntilSeen(Yellow, [AboveTheHand], "settled again");

        // Underlined words become a key line, if the teacher says so beside the pen.
        teacher.Tool("Pen");
        browser.ClickOn("[aria-label='More of Write']");
        browser.Until(
            () => browser.Driver.FindElements(By.XPath("//*[@id='members']//option[.='a key line to write down']")).FirstOrDefault(o => o.Displayed),
            "what underlined words become").Click();
        browser.ClickOn("[aria-label='More of Write']");
        hand.Draw((0.277, 0.209), (0.388, 0.204));
        browser.Until(() => teacher.Noted().Contains("To write down weight", StringComparison.Ordinal), "the key line");

        // Typed text, and a key line of it by its button.
        teacher.Tool("Type");
        teacher.TypeAt(hand, (0.1, 0.5), "An arch pushez" + Keys.Backspace + "s.");
        canvas.UntilSeen(BlueBlack, [(0.105, 0.5)], "the letters");
        browser.Press("Key line", holding);
        browser.Until(() => teacher.Noted().Contains("An arch pushes.", StringComparison.Ordinal), "the second key line");

        // Light, and out again.
        teacher.Tool("Light up");
        hand.Down(0.03, 0.05);
        hand.Along((0.03, 0.05), (0.45, 0.05), 8);
        hand.Along((0.45, 0.05), (0.45, 0.3), 8);
        hand.Along((0.45, 0.3), (0.03, 0.3), 8);
        hand.Up(0.03, 0.3);
        canvas.UntilSeen(new SKColor(20, 28, 29), [FarFromTheLight], "the rest is dimmed", overlay: true);
        canvas.Has(new SKColor(20, 28, 29), [(0.2, 0.17)], overlay: true)[0].ShouldBeFalse("what is lit");
        teacher.UntilRecorded(teacher.RecordedSeconds() + 2);
        browser.ClickOn("[aria-label='Light out']");
        canvas.UntilGone(new SKColor(20, 28, 29), [FarFromTheLight], "the light is out", overlay: true);
        teacher.UntilRecorded(teacher.RecordedSeconds() + 2);
        var live = canvas.Picture();
        teacher.Finish();
        teacher.UntilRefineShows(live);

        var link = teacher.Publish();
        var (timeline, _) = await TeacherSession.ReadPublishedAsync(link);
        timeline.KeyLines.Select(l => (l.Kind, l.Text)).ShouldBe([(KeyLineKind.WriteDown, "weight"), (KeyLineKind.WriteDown, "An arch pushes.")]);
        using var student = new Chromium();
        student.Go(link);
        student.UntilText("An arch pushes.");
        var watched = new Canvas(student);
        Seek(student, timeline.Boards[0].Lights[0].At + Duration.FromSeconds(1));
        watched.UntilSeen(new SKColor(20, 28, 29), [FarFromTheLight], "the light on Watch", overlay: true);
        Seek(student, LessonTime.Zero + timeline.Length);
        student.Until(() => Canvas.Difference(live, watched.Picture()) is ( < 1.5, < 24), "the board as the teacher left it");
        student.Until(() => student.Script<double>("return document.querySelector('.key-picture').height") > 20, "a small picture");
        student.ClickOn(".key-line");
        student.UntilText("Here it was drawn");
        (student.Script<double>("return document.querySelector('audio').currentTime * 1000")).ShouldBe(
            Math.Max(0, timeline.KeyLines[0].At.Milliseconds - 700), tolerance: 50);
    }

    [Fact]
    public async Task Without_an_answer_a_stroke_stays_as_it_was_drawn_until_Refine_lays_it_on_its_words_and_typing_goes_on()
    {
        var server = await shared.StartedAsync();
        using var wire = new Wire(server.Port);
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = Begin(browser, wire.Address, files);
        var (canvas, hand) = (new Canvas(browser), new Hand(browser, Holding.Mouse));
        wire.Pull();
        teacher.Tool("Highlighter");
        hand.Draw((0.08, 0.172), (0.17, 0.166));
        teacher.Tool("Type");
        teacher.TypeAt(hand, (0.1, 0.5), "It stands");
        var field = browser.Driver.SwitchTo().ActiveElement();
        field.SendKeys(string.Concat(Enumerable.Repeat(Keys.Shift + Keys.ArrowLeft + Keys.Shift, 6)) + Keys.F9);
        browser.ClickOn(".inks-inline [data-ink='green']");
        field.SendKeys(Keys.End + Keys.F9 + "!" + Keys.Escape);
        teacher.UntilRecorded(teacher.RecordedSeconds() + 3);
        canvas.UntilSeen(Yellow, [(0.12, 0.169)], "as the hand drew it");
        canvas.Has(Yellow, [AboveTheHand])[0].ShouldBeFalse("nobody answered");
        wire.PlugIn();
        teacher.UntilSaved(teacher.RecordedSeconds());
        var live = canvas.Picture();
        teacher.Finish();
        teacher.UntilRefineShows(live);
        shared.TakeOf(teacher).Actions.OfType<Typed>().Last().Letters
            .ShouldBe(new Writing("It stands!", "000jjjjjjk"), "green on yellow, and the next highlight");

        // The server can be asked again now.
        browser.Until(() =>
        {
            var isShown = browser.Find("#panel-todo h2").Text == "A line beside its words";
            if (!isShown)
            {
                browser.ClickOn("[aria-label='The next one']");
            }

            return isShown;
        }, "the line");
        browser.Find("#panel-todo").Text.ShouldContain("“Thrust”");
        browser.Click("Lay it on its words");
        browser.UntilText("Laid a line on its words");
        browser.Find("body").SendKeys(Keys.End);
        canvas.UntilSeen(Yellow, [AboveTheHand], "the highlighter as high as the line");
        browser.Find("body").SendKeys(Keys.Control + "z");
        canvas.UntilGone(Yellow, [AboveTheHand], "as it was drawn");
        browser.Find("body").SendKeys(Keys.Control + "y");
        canvas.UntilSeen(Yellow, [AboveTheHand], "on its words again");
    }

    [Fact]
    public async Task Boards_are_brought_in_while_recording_and_part_of_a_stroke_is_rubbed_out()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = Begin(browser, server.Address, files);
        var (canvas, hand) = (new Canvas(browser), new Hand(browser, Holding.Mouse));
        hand.Draw((0.2, 0.6), (0.8, 0.6));
        void Add(string what, int boards)
        {
            browser.ClickOn(".strip-add > button");
            browser.Click(what);
            browser.Until(() => browser.Driver.FindElements(By.CssSelector(".strip-board")).Count == boards, $"{boards} boards");
        }

        Add("Clean copy", 3);
        browser.Until(() => browser.Find("#strip-1").GetAttribute("aria-current") == "true", "the copy is shown");
        canvas.UntilGone(BlueBlack, [(0.5, 0.6)], "nothing that was drawn is on it");
        canvas.UntilSeen(new SKColor(0, 0, 0), [(0.0752, 0.165)], "the stem of its first letter is");
        Add("Empty", 4);
        browser.Until(() => browser.Find("#strip-2").GetAttribute("aria-current") == "true", "the empty board is shown");

        // A line on the new board, its middle rubbed out.
        hand.Draw((0.2, 0.3), (0.8, 0.3));
        teacher.Tool("Eraser");
        browser.ClickOn("[aria-label='More of Write']");
        browser.Click("Only what I rub over");
        browser.ClickOn("[aria-label='More of Write']");
        hand.Draw((0.5, 0.2), (0.5, 0.4), 20);
        canvas.UntilGone(BlueBlack, [(0.5, 0.3)], "what was rubbed over");
        canvas.UntilSeen(BlueBlack, [(0.25, 0.3), (0.45, 0.3), (0.55, 0.3), (0.75, 0.3)], "the rest");
        browser.Find(".strip-add input").SendKeys(files.Picture("wall.jpg", SKColors.SteelBlue));
        browser.Until(() => browser.Driver.FindElements(By.CssSelector(".strip-board")).Count == 5, "the picture");
        browser.Find("#strip-2").GetAttribute("aria-current").ShouldBe("true", "the teacher is not taken away from where they are");
        browser.Click("Retake");
        browser.Click("Take nothing back");
        browser.Click("Go on");
        canvas.UntilSeen(BlueBlack, [(0.25, 0.3), (0.75, 0.3)], "after going back and forth");
        teacher.UntilRecorded(teacher.RecordedSeconds() + 2);
        var live = canvas.Picture();
        teacher.Finish();
        teacher.UntilRefineShows(live);
    }

    [Fact]
    public async Task What_was_drawn_can_be_chosen_in_a_list_by_keyboard()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = Begin(browser, server.Address, files);
        var hand = new Hand(browser, Holding.Mouse);
        teacher.UntilRecorded(3);
        hand.Draw((0.7, 0.8), (0.9, 0.8));
        teacher.UntilRecorded(7);
        hand.Draw((0.1, 0.8), (0.3, 0.8));
        teacher.UntilRecorded(9);
        teacher.Finish();
        var link = teacher.Publish();
        using var student = new Chromium();
        student.Go(link);
        student.UntilText("What is drawn on this board");
        student.Find("body").SendKeys(Keys.End);
        var summary = student.Find("details summary");
        summary.SendKeys(Keys.Enter);
        var items = student.Until(
            () => student.Driver.FindElements(By.CssSelector("details[open] ol button")) is { Count: 2 } found ? found : null, "both strokes");
        items[0].Text.ShouldContain("blue-black pen, at the bottom, right");
        items[0].SendKeys(Keys.Enter);
        student.UntilText("Here it was drawn");
        student.Script<double>("return document.querySelector('audio').currentTime").ShouldBeInRange(1.5, 5);
    }

    private static void Seek(Chromium student, LessonTime time) =>
        student.Script("document.querySelector('audio').currentTime = arguments[0]", time.Milliseconds / 1000);
}
