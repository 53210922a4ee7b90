using ArchTalk.Browser.Tests.Support;
using OpenQA.Selenium;

namespace ArchTalk.Browser.Tests;

/// <summary>What is done to the voice, heard before and after; and what a lesson takes on the disk. By visible controls only.</summary>
public sealed class VoiceAndDiskTests(SharedServer shared) : IDisposable
{
    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    [Fact]
    public async Task The_voice_is_cleaned_heard_both_ways_published_and_a_take_put_aside_goes_for_good()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = TeacherSession.BeginTake(browser, server.Address);
        teacher.UntilRecorded(4);
        teacher.Finish();
        teacher.Step("Record");
        teacher.StartRecording();
        teacher.UntilRecorded(2);
        teacher.Finish();

        // Before and after, on Refine.
        teacher.Step("Refine");
        teacher.UntilLesson();
        browser.Click("Voice");
        browser.UntilText("All of it is brought to one level");
        browser.Click("Take rumble out");
        browser.Click("Make steady noise quieter");
        browser.UntilText("Saved");
        foreach (var heard in new[] { "Hear as recorded", "Hear as students do" })
        {
            browser.Click(heard);
            browser.UntilText("Stop");
            browser.Click("Stop");
            browser.UntilText(heard);
            browser.Script<bool>("return document.body.innerText.includes('could not be played')").ShouldBeFalse();
        }

        // One of the two is heard at a time.
        browser.Click("Hear as students do");
        browser.UntilText("Stop");
        browser.Click("Play");
        browser.UntilText("Hear as students do");
        browser.UntilText("Pause");
        browser.Driver.Navigate().Refresh();
        browser.Click("Voice");
        browser.Until(
            () => browser.Driver.FindElements(By.CssSelector("#panel-voice input[type=checkbox]")).Count(c => c.Selected) >= 2, "what was chosen");

        teacher.Publish();
        browser.Click("What this lesson takes on the disk");
        browser.UntilText("This lesson takes");
        browser.UntilText("2 takes");
        browser.UntilText("Nothing. Takes and boards");

        teacher.Step("Record");
        PutAside(browser);
        teacher.Step("Publish");
        browser.Click("What this lesson takes on the disk");
        browser.Click("Delete for good…");
        browser.UntilText("It can't be brought back");
        browser.Click("Keep it");
        browser.Click("Delete for good…");
        browser.Click("Delete it");
        browser.UntilText("Nothing. Takes and boards");
        browser.UntilText("1 take");
        Journals.ReadAll(shared.FolderOf(teacher)).Count.ShouldBe(1);
    }

    private static void PutAside(Chromium browser)
    {
        var remove = browser.Until(
            () => browser.Driver.FindElements(By.CssSelector("[aria-label^='Put '][aria-label$=' aside']"))
                .LastOrDefault(b => b.Displayed && b.Enabled),
            "the button that puts a take aside");
        remove.Click();
        browser.UntilText("Put aside (1)");
    }
}
