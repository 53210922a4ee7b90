using System.Globalization;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;
using OpenQA.Selenium;

namespace ArchTalk.Browser.Tests;

/// <summary>What is noted with one press while recording is in the lesson, and a question stops the student and not the teacher.</summary>
public sealed class NotedTests(SharedServer shared) : IDisposable
{
    private const string Question = "Which stone is set last?";

    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    [Fact]
    public async Task A_chapter_a_question_and_a_wrong_one_taken_off_by_mouse_and_the_student_stops_by_keyboard()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = TeacherSession.BeginTake(browser, server.Address);
        teacher.UntilRecorded(2);
        browser.Click("Chapter");
        Word(browser, "Chapter", "How it carries");
        teacher.UntilRecorded(4);
        browser.Click("Ask and wait");
        Word(browser, "Ask and wait", Question);
        browser.Click("Fix later");
        browser.ClickOn("[aria-label^='Take off: Fix later']");
        browser.Click("Only this time");
        browser.UntilText("until pressed again");
        browser.ClickOn("[aria-label='Note this moment'] [aria-pressed=true]");
        browser.Until(() => !browser.Script<bool>("return document.body.innerText.includes('until pressed again')"), "its end");
        browser.Script<string>("return document.querySelector('.noted-line').innerText").ShouldNotContain("Fix later");
        teacher.UntilRecorded(10);
        teacher.Finish();

        TakeNotes.Of(shared.TakeOf(teacher)).Select(n => n.Kind)
            .ShouldBe([NoteKind.Chapter, NoteKind.Ask, NoteKind.OnlyThisTime]);
        browser.Until(
            () => browser.Script<bool>("return [...document.querySelectorAll('input')].some((i) => i.value === 'How it carries')"), "the chapter");
        var link = teacher.Publish();

        using var student = new Chromium();
        student.Go(link);
        student.UntilText("How it carries");
        double Time() => student.Script<double>("return document.querySelector('audio').currentTime");
        bool IsPlaying() => student.Script<bool>("return !document.querySelector('audio').paused");
        student.Until(() => student.Driver.FindElements(By.CssSelector(".seek-stop")).Any(s => s.Displayed), "the stop on the bar");
        student.Find("body").SendKeys(" ");
        student.UntilText(Question);
        var stopped = Time();
        IsPlaying().ShouldBeFalse("the lesson waits");
        stopped.ShouldBeGreaterThan(1);
        student.Until(() => student.Driver.SwitchTo().ActiveElement().Text == "Go on", "the way on under the hand");
        student.Driver.SwitchTo().ActiveElement().SendKeys(Keys.Enter);
        student.Until(() => Time() > stopped + 0.5 && IsPlaying(), "the lesson going on");
        student.Script<bool>("return document.body.innerText.includes(arguments[0])", Question).ShouldBeFalse();

        // Past a stop nobody is stopped; before it, and with the stops off, it is played over.
        student.Find("body").SendKeys(Keys.Home);
        for (var tens = 0; tens * 10 <= stopped; tens++)
        {
            student.Find("body").SendKeys(Keys.ArrowRight);
        }

        student.Until(() => Time() > stopped || !IsPlaying(), "the place after the stop");
        student.Script<bool>("return document.body.innerText.includes(arguments[0])", Question).ShouldBeFalse();
        student.Find(".watch-controls input[type=checkbox]").SendKeys(" ");
        student.Find("body").SendKeys(Keys.Home);
        if (!IsPlaying())
        {
            student.Find("body").SendKeys(" ");
        }

        student.Until(() => Time() > stopped + 0.5, string.Create(CultureInfo.InvariantCulture, $"the lesson after {stopped:0.0} s"));
    }

    private static void Word(Chromium browser, string kind, string text)
    {
        browser.Until(
            () => browser.Driver.FindElements(By.XPath($"//li[@class='noted-one']/button[contains(., '{kind}')]")).FirstOrDefault(b => b.Displayed),
            kind).Click();
        var field = browser.Find("#note-text");
        browser.Until(() => field.Displayed, "the field");
        field.Clear();
        field.SendKeys(text + Keys.Enter);
        browser.Until(() => browser.Script<bool>("return document.querySelector('.noted-line').innerText.includes(arguments[0])", text), text);
    }
}
