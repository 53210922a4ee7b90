using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;
using OpenQA.Selenium;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>What is seen on the board while the hand is down, in a running take.</summary>
public sealed class InkInTheActTests(SharedServer shared) : IDisposable
{
    private static readonly SKColor BlueBlack = SKColor.Parse("#1E2A2B");
    private static readonly SKColor Yellow = SKColor.Parse("#F0E442");
    private static readonly SKColor Red = SKColor.Parse("#B3261E");
    private static readonly SKColor Paper = SKColors.White;
    // A trail is seen when the dot has left a place where red is still to be seen.
    private const string WatchForTrail =
        """
        window.looks = true;
        const overlay = document.querySelectorAll('canvas')[1];
        const red = (x) => { const p = overlay.getContext('2d').getImageData(Math.round(x * overlay.width), Math.round(overlay.height / 2), 1,
          1).data; return p[3] > 40 && p[0] > 120 && p[1] < 120; };
        const look = () => {
          const places = [0.31, 0.325, 0.34, 0.355, 0.37, 0.385].filter(red);
          window.sawTrail ||= places.length >= 2;
          if (window.looks) requestAnimationFrame(look);
        };
        look();
        """;

    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    /// <summary>A teacher on an empty board with a take running.</summary>
    private async Task RecordingAsync(Action<TeacherSession> work, bool touch = false)
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync(), touch: touch);
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Ink");
        teacher.AddEmptyBoard(1);
        teacher.OpenRecord();
        teacher.StartRecording();
        work(teacher);
    }

    private static (double X, double Y)[] TenAlong(double fromX, double toX, double y) =>
        [.. Enumerable.Range(0, 10).Select(i => (fromX + ((toX - fromX) * i / 9), y))];

    [Theory]
    [InlineData(Holding.Mouse)]
    [InlineData(Holding.Pen)]
    [InlineData(Holding.Finger)]
    public Task The_whole_stroke_is_seen_while_it_is_drawn(Holding holding) => RecordingAsync(teacher =>
    {
        var canvas = new Canvas(teacher.Browser);
        var hand = new Hand(teacher.Browser, holding);
        foreach (var (tool, ink, y) in new[] { ("Pen", BlueBlack, 0.3), ("Highlighter", Yellow, 0.5) })
        {
            teacher.Tool(tool);
            hand.Down(0.2, y);
            for (var part = 1; part <= 4; part++)
            {
                var end = 0.2 + (0.15 * part);
                hand.Along((end - 0.15, y), (end, y), 6, 30);
                canvas.UntilSeen(ink, TenAlong(0.2, end - 0.002, y), $"{tool} while drawing, part {part}");
            }

            canvas.Has(ink, TenAlong(0.2, 0.8, 0.7)).ShouldAllBe(seen => !seen, "nowhere else");
            hand.Up(0.8, y);
            canvas.UntilSeen(ink, TenAlong(0.2, 0.798, y), $"{tool} when the hand is lifted");
        }
    }, holding == Holding.Finger);

    [Theory]
    [InlineData(Holding.Mouse)]
    [InlineData(Holding.Pen)]
    [InlineData(Holding.Finger)]
    public Task What_is_rubbed_out_is_gone_while_the_hand_is_down(Holding holding) => RecordingAsync(teacher =>
    {
        var canvas = new Canvas(teacher.Browser);
        var hand = new Hand(teacher.Browser, holding);
        hand.Draw((0.2, 0.3), (0.8, 0.3));
        hand.Draw((0.2, 0.7), (0.8, 0.7));
        teacher.Tool("Eraser");
        hand.Down(0.5, 0.2);
        hand.Along((0.5, 0.2), (0.5, 0.5), 5);
        canvas.UntilGone(BlueBlack, TenAlong(0.2, 0.8, 0.3), "the first line is gone while the hand is down");
        canvas.UntilSeen(BlueBlack, TenAlong(0.2, 0.798, 0.7), "the second is there");
        hand.Up(0.5, 0.5);

        // Another sweep starts where it is put down: nothing between is erased.
        hand.Down(0.9, 0.9);
        hand.Up(0.9, 0.9);
        canvas.NextFrame();
        canvas.UntilSeen(BlueBlack, TenAlong(0.2, 0.798, 0.7), "nothing on the way between two sweeps");
        teacher.Browser.Click("Undo");
        canvas.UntilSeen(BlueBlack, TenAlong(0.2, 0.798, 0.3), "undo brings the line back");
    }, holding == Holding.Finger);

    [Fact]
    public Task The_pointer_and_its_trail_are_seen_and_a_resting_page_paints_nothing() => RecordingAsync(teacher =>
    {
        var browser = teacher.Browser;
        var canvas = new Canvas(browser);
        teacher.Tool("Pointer");
        var hand = new Hand(browser, Holding.Mouse);
        hand.Move(0.3, 0.5);
        browser.Script(WatchForTrail);
        hand.Along((0.3, 0.5), (0.4, 0.5), 8, 10);
        canvas.UntilSeen(Red, [(0.4, 0.5)], "the pointer", overlay: true);
        browser.Until(() => browser.Script<bool>("return window.sawTrail"), "the trail behind the pointer");
        browser.Script("window.looks = false");

        // The trail fades, and then the page asks for no frame any more.
        browser.Script(
            "window.asked = 0; const ask = window.requestAnimationFrame; window.requestAnimationFrame = (f) => { window.asked++; return ask(f); }");
        browser.Until(() => browser.ScriptAsync<bool>(
            "const [done] = arguments; const before = window.asked; setTimeout(() => done(window.asked === before), 1000)"), "a second without a "
                + "frame");
        canvas.Has(Red, [(0.35, 0.5)], tolerance: 120, overlay: true)[0].ShouldBeFalse("the trail is gone");
        canvas.UntilSeen(Red, [(0.4, 0.5)], "the pointer is still there", overlay: true);

        // Also when the tool is changed by its key the pointer leaves the lesson.
        browser.Find("body").SendKeys("1");
        canvas.NextFrame();
        canvas.Has(Red, [(0.4, 0.5)], overlay: true)[0].ShouldBeFalse("the pen doesn't point");
    });

    [Fact]
    public Task A_palm_before_the_pen_leaves_nothing_and_moves_nothing() => RecordingAsync(teacher =>
    {
        var browser = teacher.Browser;
        var canvas = new Canvas(browser);
        var palm = new Hand(browser, Holding.Finger);
        var pen = new Hand(browser, Holding.Pen);
        palm.Down(0.7, 0.8);
        palm.Move(0.705, 0.805);
        pen.Down(0.2, 0.4);
        pen.Along((0.2, 0.4), (0.5, 0.4), 6);
        palm.Move(0.5, 0.6);
        pen.Along((0.5, 0.4), (0.6, 0.4), 3);
        canvas.UntilSeen(BlueBlack, TenAlong(0.2, 0.598, 0.4), "the pen writes");
        canvas.Has(BlueBlack, [(0.7, 0.8), (0.702, 0.802), (0.6, 0.7)]).ShouldAllBe(seen => !seen, "the palm doesn't");
        pen.Up(0.6, 0.4);
        palm.Up(0.5, 0.6);
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("[aria-label='Finger moves']")).Any(b => b.Displayed), "the finger moving");
        teacher.UntilRecorded(2);
        teacher.Finish();

        var take = shared.TakeOf(teacher);
        take.Actions.OfType<StrokeDrawn>().ShouldHaveSingleItem();
        take.Actions.OfType<ViewChanged>().Select(v => (v.X, v.Y, v.Width)).Distinct().ShouldBe([(0, 0, 16_000)], "the view never moved");
    }, touch: true);

    [Theory]
    [InlineData(Holding.Mouse)]
    [InlineData(Holding.Finger)]
    public Task A_straight_line_is_seen_while_it_is_drawn_and_an_arrow_is_one_stroke(Holding holding) => RecordingAsync(teacher =>
    {
        var (browser, canvas, hand) = (teacher.Browser, new Canvas(teacher.Browser), new Hand(teacher.Browser, holding));
        teacher.Tool("Straight");
        hand.Down(0.2, 0.4);
        hand.Along((0.2, 0.4), (0.4, 0.3), 6);
        hand.Along((0.4, 0.3), (0.6, 0.405), 6);
        canvas.UntilSeen(BlueBlack, TenAlong(0.2, 0.598, 0.4), "straight and level, under the hand");
        canvas.Has(BlueBlack, [(0.4, 0.3)]).ShouldBe([false], "where the hand was on its way");
        hand.Up(0.6, 0.405);
        canvas.UntilSeen(BlueBlack, TenAlong(0.2, 0.598, 0.4), "when it is drawn");

        teacher.Tool("Arrow");
        hand.Draw((0.2, 0.7), (0.6, 0.7));
        teacher.UntilRecorded(2);
        teacher.Finish();
        var strokes = shared.TakeOf(teacher).Actions.OfType<StrokeDrawn>().ToArray();
        strokes.Length.ShouldBe(2);
        strokes[0].Points.ShouldAllBe(p => Math.Abs(p.Y - strokes[0].Points[0].Y) <= 1);
        strokes[0].End.ShouldBeGreaterThan(strokes[0].At, "it grows as it was drawn");
        (strokes[1].Points.Max(p => p.Y) - strokes[1].Points.Min(p => p.Y)).ShouldBeInRange(300, 450, "the arrowhead");
    }, holding == Holding.Finger);

    [Theory]
    [InlineData(Holding.Mouse)]
    [InlineData(Holding.Finger)]
    public Task A_close_up_glides_to_what_was_dragged_over_and_students_see_the_same(Holding holding) => RecordingAsync(teacher =>
    {
        var (browser, canvas, hand) = (teacher.Browser, new Canvas(teacher.Browser), new Hand(teacher.Browser, holding));
        hand.Draw((0.3, 0.5), (0.7, 0.5));
        teacher.Tool("Close-up");
        hand.Down(0.25, 0.3);
        hand.Along((0.25, 0.3), (0.75, 0.7), 6);
        browser.Find(".stage-frame").Displayed.ShouldBeTrue("the region is seen while it is chosen");
        hand.Up(0.75, 0.7);
        browser.UntilText("Whole board");

        // The line spans four fifths of the region, which fills the board now.
        var wide = TenAlong(0.11, 0.88, 0.5);
        browser.Until(() => canvas.Has(BlueBlack, wide, radius: 6).All(seen => seen), "the view there");
        teacher.UntilRecorded(teacher.RecordedSeconds() + 1);
        var live = canvas.Picture();
        teacher.Finish();
        shared.TakeOf(teacher).Actions.OfType<ViewChanged>().Count().ShouldBeGreaterThan(6, "it glides");
        teacher.UntilRefineShows(live);
    }, holding == Holding.Finger);

    [Fact]
    public Task What_the_teacher_saw_is_what_is_compiled() => RecordingAsync(teacher =>
    {
        var browser = teacher.Browser;
        var canvas = new Canvas(browser);
        var hand = new Hand(browser, Holding.Mouse);
        for (var i = 0; i < 4; i++)
        {
            hand.Draw((0.1 + (0.1 * i), 0.15), (0.3 + (0.12 * i), 0.55));
        }

        teacher.Tool("Highlighter");
        hand.Draw((0.2, 0.7), (0.7, 0.72));
        teacher.Tool("Eraser");
        hand.Draw((0.1, 0.15), (0.12, 0.17), 3);
        browser.Click("Undo");
        teacher.Tool("Pen");

        // Writing near the end makes the board longer; what is written there is there for students.
        hand.Draw((0.3, 0.9), (0.8, 0.93));
        browser.Find("body").SendKeys(Keys.ArrowDown);
        hand.Draw((0.2, 0.6), (0.6, 0.62));
        teacher.UntilRecorded(4);
        canvas.NextFrame();
        Thread.Sleep(300);
        var live = canvas.Picture();
        teacher.Finish();

        // At the end of the take, on the page where it is listened to.
        var difference = teacher.UntilRefineShows(live);
        Console.WriteLine($"Live against compiled picture, 320 by 180: mean and worst difference of blocks {difference}");
    });

    [Fact]
    public async Task A_hand_that_is_down_when_the_take_begins_writes_nothing_into_it()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Ink");
        teacher.AddEmptyBoard(1);
        teacher.OpenRecord();

        // Before the boards are there, what is drawn goes nowhere.
        browser.Button("Start recording");
        var canvas = new Canvas(browser);
        var hand = new Hand(browser, Holding.Mouse);
        hand.Draw((0.1, 0.8), (0.3, 0.8));
        browser.UntilText("Trying out: this ink goes when you start recording.");

        // The take is started by the keyboard while the pen rests on the board.
        hand.Down(0.2, 0.3);
        hand.Along((0.2, 0.3), (0.4, 0.3), 4);
        browser.Script("[...document.querySelectorAll('button')].find((b) => b.innerText.includes('Start recording')).click()");
        teacher.UntilRecorded(1);
        hand.Along((0.4, 0.3), (0.6, 0.3), 4);
        hand.Up(0.6, 0.3);
        hand.Draw((0.2, 0.5), (0.8, 0.5));
        canvas.NextFrame();
        canvas.Has(BlueBlack, [(0.2, 0.8), (0.3, 0.3), (0.5, 0.3)]).ShouldAllBe(seen => !seen, "what was tried out is gone");
        canvas.UntilSeen(BlueBlack, TenAlong(0.2, 0.798, 0.5), "the whole line");
        teacher.UntilRecorded(2);
        teacher.Finish();
        shared.TakeOf(teacher).Actions.OfType<StrokeDrawn>().ShouldHaveSingleItem();
    }

    [Fact]
    public Task Undo_takes_back_what_is_on_the_board_that_is_shown() => RecordingAsync(teacher =>
    {
        var browser = teacher.Browser;
        var canvas = new Canvas(browser);
        new Hand(browser, Holding.Mouse).Draw((0.2, 0.4), (0.8, 0.4));
        canvas.NextFrame();
        canvas.Has(Paper, [(0.5, 0.4)], radius: 0).ShouldBe([false]);
        browser.Click("Undo");
        canvas.UntilGone(BlueBlack, TenAlong(0.2, 0.8, 0.4), "nothing, undone");
        browser.ClickOn("[aria-label='Redo']");
        canvas.UntilSeen(BlueBlack, TenAlong(0.2, 0.798, 0.4), "the whole line");
    });
}
