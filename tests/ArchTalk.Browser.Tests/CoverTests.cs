using ArchTalk.Browser.Tests.Support;
using OpenQA.Selenium;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>What a teacher covers before recording and uncovers while talking, as a student meets it.</summary>
[Trait("check", "aside")]
public sealed class CoverTests(SharedServer shared) : IDisposable
{
    private const string Loaded = "return performance.getEntriesByType('resource').map(e => new URL(e.name).pathname).join('\\n')";
    private static readonly SKColor Red = new(200, 30, 30);
    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    [Fact]
    public async Task What_lies_under_a_cover_is_loaded_and_seen_when_the_teacher_lifts_it()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium();
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("What holds the foot");
        teacher.AddFiles(1, files.Picture("red.png", Red));
        teacher.Card(1).FindElement(By.CssSelector("a.button")).Click();
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("svg.board-surface")).Count == 1, "the board's page");
        browser.Click("Cover");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("[role=status]")).Any(s => s.Text == "Saved"), "“Saved”");
        var middle = browser.Script<string>(
            "const g = document.querySelector(\"g.item[aria-label^='Cover']\"), t = g.getAttribute('transform').match(/-?[0-9.]+/g), r = "
                + "g.querySelector('.item-hit');"
            + "return [(Number(t[0]) + (r.getAttribute('width') - 12) / 4) / 1600, (Number(t[1]) + (r.getAttribute('height') - 12) / 4) / "
                + "900].join(' ')")
            .Split(' ').Select(n => double.Parse(n, System.Globalization.CultureInfo.InvariantCulture)).ToArray();
        teacher.OpenRecord("Use the test voice");
        teacher.StartRecording();
        teacher.UntilRecorded(4);
        browser.Click("Uncover the last");
        browser.UntilText("All uncovered");
        teacher.UntilRecorded(6);
        teacher.Finish();
        var link = teacher.Publish();

        using var student = new Chromium();
        student.Go(link);
        var canvas = new Canvas(student);
        (double X, double Y)[] under = [(middle[0], middle[1])], beside = [(0.97, 0.97)];
        student.Until(() => canvas.Has(Red, beside)[0], "the picture");
        canvas.Has(Red, under)[0].ShouldBeFalse("under the cover");
        student.Script<string>(Loaded).ShouldNotContain("under");
        student.Click("Play");
        student.Until(() => canvas.Has(Red, under)[0], "what lies under the cover");
        student.Script<string>(Loaded).ShouldContain("ink/0-under.json");
        student.Script<string>(Loaded).ShouldContain("/under/");
    }
}
