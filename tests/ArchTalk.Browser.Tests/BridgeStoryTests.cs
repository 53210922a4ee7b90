using ArchTalk.Browser.Tests.Support;
using OpenQA.Selenium;

namespace ArchTalk.Browser.Tests;

/// <summary>
/// A lesson of some minutes that was said once, with everything in it that is in the way, is cleaned by what is proposed, published and
/// found to hold what it held.
/// </summary>
[Trait("check", "aside")]
[Collection(DemoCollection.Name)]
public sealed class BridgeStoryTests(DemoData demo, ITestOutputHelper output)
{
    private const int MostPresses = 60;

    [Fact]
    public async Task A_lesson_full_of_silences_and_slips_is_cleaned_from_the_card()
    {
        using var browser = new Chromium();
        browser.SignIn(demo.Server.Address, DemoData.Email, DemoData.Password);
        browser.Click("Open Why bridges are curved");
        browser.Until(() => browser.Driver.Url.Contains("/lessons/", StringComparison.Ordinal), "the lesson");
        var teacher = new TeacherSession(browser, demo.Server.Address);
        teacher.Step("Refine");
        teacher.UntilLesson();
        var (rows, kinds, presses) = (new RefineRows(browser, Holding.Mouse), new List<string>(), 0);
        var (recorded, before) = (rows.Timeline(), rows.Seconds());
        var drawn = rows.Marks();
        string Title() => browser.Find("#panel-todo h2").Text;
        IWebElement? Shown(string words) =>
            browser.Driver.FindElements(By.XPath($"//div[@id='panel-todo']//button[contains(., '{words}')]")).FirstOrDefault(b => b.Displayed);
        while (Shown("Leave it") is not null)
        {
            kinds.Add(Title());
            var button = kinds[^1] switch
            {
                "Far quieter than the rest" => Shown("Take it out"),
                _ => Shown("Accept all") ?? browser.Find("#panel-todo button.button-primary"),
            };
            rows.Once(button!.Click);
            presses++;
        }

        browser.UntilText("Nothing more is proposed");
        output.WriteLine(FormattableString.Invariant($"{presses} presses, {before:0.0} s became {rows.Seconds():0.0} s: {string.Join(", ", kinds)}"));
        presses.ShouldBeLessThanOrEqualTo(MostPresses);
        kinds.Distinct().Order().ShouldBe(
        [
            "A false start?", "A question without a stop?", "Far quieter than the rest", "Fix later", "Said after the end?", "Silence",
            "Silence while you write", "Waiting after a question",
        ]);
        rows.Seconds().ShouldBeLessThan(before * 0.8);
        rows.Marks().ShouldBe(drawn, "nothing that was drawn is lost");
        var cleaned = rows.Timeline();

        // Back to how it was recorded, and again as it was cleaned.
        browser.Click("History");
        rows.Once(() => browser.Click("As it was recorded"));
        rows.Timeline().ShouldBe(recorded, "byte for byte");
        rows.Once(() => browser.Driver.FindElements(By.CssSelector("#panel-history .line-button")).First(b => b.Displayed).Click());
        rows.Timeline().ShouldBe(cleaned, "byte for byte");

        var seconds = rows.Seconds();
        var (timeline, _) = await TeacherSession.ReadPublishedAsync(teacher.Publish());
        timeline.Length.Seconds.ShouldBe(seconds, 0.01);
        timeline.Stops.ShouldHaveSingleItem().AnswerAt.ShouldNotBeNull("what the teacher uncovers answers it");
        timeline.TermsSaid.Count.ShouldBe(5);
        timeline.Boards.Sum(b => b.Strokes.Count).ShouldBe(drawn);
    }
}
