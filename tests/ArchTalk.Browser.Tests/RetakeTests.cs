using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>A mistake is taken back on the spot: voice and boards go back to the end of a phrase, and what students get is what was seen.</summary>
public sealed class RetakeTests(SharedServer shared) : IDisposable
{
    private static readonly SKColor BlueBlack = SKColor.Parse("#1E2A2B");

    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    [Theory]
    [InlineData(Holding.Mouse)]
    [InlineData(Holding.Finger)]
    public async Task Three_in_a_row_leave_what_was_seen_and_nothing_of_what_was_taken_back(Holding holding)
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync(), touch: holding == Holding.Finger);
        var teacher = Begin(browser, server.Address);
        var hand = new Hand(browser, holding);
        for (var i = 0; i < 3; i++)
        {
            var y = 0.2 + (0.2 * i);
            hand.Draw((0.1, y), (0.4, y));
            teacher.UntilRecorded(teacher.RecordedSeconds() + 4);
            hand.Draw((0.5, y), (0.9, y));
            browser.Press("Retake", holding);
            BackTo(browser, holding, () => Sees(browser, (0.7, y)));
            UntilGoingOn(browser, teacher);
            Sees(browser, (0.7, y)).ShouldBeFalse("what was taken back");
        }

        hand.Draw((0.1, 0.9), (0.9, 0.9));
        var takenBack = TheSameOnRefine(browser, teacher, out var take);
        take.Actions.OfType<Retaken>().Count().ShouldBe(3);
        takenBack.ShouldBeGreaterThan(1000);
        (take.Length - take.Live.Length).Milliseconds.ShouldBe(takenBack, tolerance: 1, "the clock of the page leaves out what was taken back");
        take.Live.Actions.OfType<StrokeDrawn>().Count().ShouldBeLessThan(take.Actions.OfType<StrokeDrawn>().Count());
    }

    [Fact]
    public async Task What_was_taken_back_is_put_back_on_the_spot_and_taking_nothing_back_changes_nothing()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = Begin(browser, server.Address);
        var hand = new Hand(browser, Holding.Mouse);
        teacher.UntilRecorded(4);
        hand.Draw((0.1, 0.3), (0.9, 0.3));
        browser.Click("Retake");
        BackTo(browser, Holding.Mouse, () => Sees(browser, (0.5, 0.3)));
        browser.Click("Take nothing back");
        browser.UntilText("Paused: nothing is recorded");
        new Canvas(browser).NextFrame();
        Sees(browser, (0.5, 0.3)).ShouldBeTrue("nothing was taken back");
        browser.Click("Go on");
        teacher.UntilRecorded(teacher.RecordedSeconds() + 2);

        browser.Click("Retake");
        BackTo(browser, Holding.Mouse, () => Sees(browser, (0.5, 0.3)));
        UntilGoingOn(browser, teacher);
        hand.Draw((0.1, 0.6), (0.9, 0.6));
        Sees(browser, (0.5, 0.3), (0.5, 0.6)).ShouldBeFalse();
        browser.Click("Put back");
        UntilGoingOn(browser, teacher);
        Sees(browser, (0.5, 0.3)).ShouldBeTrue("it is there again");
        Sees(browser, (0.5, 0.6)).ShouldBeFalse("what was drawn in its place");
        TheSameOnRefine(browser, teacher, out var take);
        take.Actions.OfType<Retaken>().Count().ShouldBe(2);
    }

    [Fact]
    public async Task Without_the_network_and_with_the_server_killed_meanwhile_it_goes_back_all_the_same()
    {
        var server = await shared.StartedAsync();
        using var wire = new Wire(server.Port);
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = Begin(browser, wire.Address);
        var hand = new Hand(browser, Holding.Mouse);
        teacher.UntilRecorded(4);
        wire.Pull();
        hand.Draw((0.1, 0.3), (0.9, 0.3));
        browser.Click("Retake");
        browser.UntilText("which is rougher: listen to it");
        BackTo(browser, Holding.Mouse, () => Sees(browser, (0.5, 0.3)));
        UntilGoingOn(browser, teacher);
        hand.Draw((0.1, 0.5), (0.9, 0.5));
        wire.PlugIn();
        teacher.UntilSaved(teacher.RecordedSeconds());

        teacher.UntilRecorded(teacher.RecordedSeconds() + 4);
        hand.Draw((0.1, 0.7), (0.9, 0.7));
        browser.Click("Retake");
        await server.KillAsync();
        BackTo(browser, Holding.Mouse, () => Sees(browser, (0.5, 0.7)));
        UntilGoingOn(browser, teacher);
        hand.Draw((0.1, 0.9), (0.9, 0.9));
        await server.StartAsync();
        teacher.UntilSaved(teacher.RecordedSeconds());
        TheSameOnRefine(browser, teacher, out var take);
        take.Actions.OfType<Retaken>().Count().ShouldBe(2);
    }

    // The take begins at once; what follows a retake is counted, so that there is time to look on any machine.
    private static TeacherSession Begin(Chromium browser, string address)
    {
        var teacher = TeacherSession.BeginTake(browser, address);
        teacher.CountFrom(5);
        return teacher;
    }

    // What is wrong with the boards is seen, so the teacher goes back until it isn't any more.
    private static void BackTo(Chromium browser, Holding holding, Func<bool> isWrong)
    {
        browser.UntilText("Going on from");
        browser.Press("Not yet", holding);
        new Canvas(browser).NextFrame();
        while (isWrong())
        {
            browser.Press("One phrase further back", holding);
            new Canvas(browser).NextFrame();
        }
    }

    private static void UntilGoingOn(Chromium browser, TeacherSession teacher)
    {
        if (browser.Script<bool>("return document.body.innerText.includes('It goes on when you say so')"))
        {
            browser.Click("Go on now");
        }

        browser.Until(teacher.IsRecording, "the take going on");
        new Canvas(browser).NextFrame();
    }

    private static bool Sees(Chromium browser, params (double X, double Y)[] places) =>
        new Canvas(browser).Has(BlueBlack, places).All(seen => seen);

    /// <summary>What the page shows at the end of the take is what is compiled of it; gives how much it says was taken back, in ms.</summary>
    private double TheSameOnRefine(Chromium browser, TeacherSession teacher, out TakeLog take)
    {
        var canvas = new Canvas(browser);
        teacher.UntilRecorded(teacher.RecordedSeconds() + 1);
        canvas.NextFrame();
        var live = canvas.Picture();
        var takenBack = browser.Script<double>(
            "const { view } = document.querySelector('.record')._x_dataStack[0]; return view.recordedMs - view.liveMs");
        teacher.Finish();
        teacher.UntilRefineShows(live);
        take = shared.TakeOf(teacher);
        return takenBack;
    }
}
