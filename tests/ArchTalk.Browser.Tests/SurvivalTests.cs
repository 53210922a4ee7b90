using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Data;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using OpenQA.Selenium;

namespace ArchTalk.Browser.Tests;

/// <summary>Whatever is killed, what was said and drawn up to the last second is there afterwards.</summary>
public sealed class SurvivalTests(ITestOutputHelper output, SharedServer shared) : IDisposable
{
    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    [Fact]
    public async Task A_killed_server_loses_nothing_of_a_take()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = Begin(browser, server.Address);
        teacher.UntilRecorded(4);
        await server.KillAsync();
        teacher.Draw((0.2, 0.2), (0.8, 0.8));
        browser.UntilText("no connection: kept in this browser");
        teacher.UntilRecorded(8);
        await server.StartAsync();
        teacher.UntilSaved(8);
        teacher.UntilRecorded(10);
        teacher.Finish();

        var take = shared.TakeOf(teacher);
        take.Length.Seconds.ShouldBeGreaterThan(10);
        ShouldBeWhole(teacher);
        take.Actions.OfType<StrokeDrawn>().Count().ShouldBe(2);
        take.IsEnded.ShouldBeTrue();
    }

    [Fact]
    public async Task Killed_together_with_the_tab_the_take_is_complete_to_the_last_second()
    {
        var server = await shared.StartedAsync();
        TeacherSession teacher;
        using (var browser = new Chromium(await files.SpeechAsync()))
        {
            teacher = Begin(browser, server.Address);
            teacher.UntilRecorded(6);
            await server.KillAsync();
        }

        // Nothing of the browser is left: what the server has on its disk must be all but the last second.
        shared.TakeOf(teacher).Length.Seconds.ShouldBeGreaterThan(5);
        await server.StartAsync();
        using var again = new Chromium();
        again.SignIn(server.Address, TeacherSession.Email, TeacherSession.Password);
        again.Go($"{teacher.Lesson}/record");
        again.UntilText("A take was interrupted");
        again.Click("Finish it as it is");
        again.UntilText("Go to Refine");
        shared.TakeOf(teacher).IsEnded.ShouldBeTrue();
    }

    [Fact]
    public async Task A_reopened_tab_sends_the_rest_and_goes_on_with_the_take()
    {
        var server = await shared.StartedAsync();
        using var wire = new Wire(server.Port);
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = Begin(browser, wire.Address);
        teacher.UntilRecorded(3);
        wire.Pull();
        teacher.Draw((0.1, 0.8), (0.9, 0.8));
        teacher.UntilRecorded(7);
        browser.CloseTab();
        var before = shared.TakeOf(teacher).Length.Seconds;
        before.ShouldBeLessThan(6);

        wire.PlugIn();
        teacher.OpenRecord();
        browser.UntilText("has been sent");
        shared.TakeOf(teacher).Length.Seconds.ShouldBeGreaterThan(6);
        browser.Click("Go on with it");
        teacher.UntilRecorded(9);
        teacher.Draw((0.1, 0.1), (0.9, 0.1));
        teacher.UntilRecorded(11);
        teacher.Finish();

        var take = shared.TakeOf(teacher);
        take.Length.Seconds.ShouldBeGreaterThan(10.5);
        ShouldBeWhole(teacher);
        take.Actions.OfType<StrokeDrawn>().Select(s => s.Stroke.Number).ShouldBeUnique();
        take.Actions.OfType<StrokeDrawn>().Count().ShouldBe(3);
    }

    [Fact]
    public async Task Twenty_seconds_without_a_network_lose_nothing()
    {
        var server = await shared.StartedAsync();
        using var wire = new Wire(server.Port);
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = Begin(browser, wire.Address);
        teacher.UntilRecorded(2);
        wire.Pull();
        browser.UntilText("no connection");
        teacher.UntilRecorded(22);
        wire.PlugIn();
        teacher.UntilSaved(21);
        browser.UntilText("saved up to");
        teacher.Finish();

        var take = shared.TakeOf(teacher);
        take.Length.Seconds.ShouldBeGreaterThan(22);
        ShouldBeWhole(teacher);
    }

    [Fact]
    public async Task Of_two_tabs_on_one_take_the_older_is_shut_out_and_says_so()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium(await files.SpeechAsync());
        var teacher = Begin(browser, server.Address);
        teacher.UntilRecorded(3);
        var first = browser.Driver.CurrentWindowHandle;
        browser.Driver.SwitchTo().NewWindow(WindowType.Tab);
        var second = browser.Driver.CurrentWindowHandle;
        teacher.OpenRecord();
        browser.UntilText("It may still be recording in another tab");
        browser.Click("Go on with it");
        teacher.UntilRecorded(5);
        browser.Driver.SwitchTo().Window(first);
        browser.UntilText("now being recorded in another tab");
        browser.Driver.FindElements(By.XPath("//button[contains(., 'Finish') and not(contains(., 'Finish it'))]")).ShouldAllBe(b => !b.Displayed);
        browser.Driver.SwitchTo().Window(second);
        teacher.UntilRecorded(7);
        teacher.Finish();

        shared.TakeOf(teacher).IsEnded.ShouldBeTrue();
        ShouldBeWhole(teacher);
    }

    [Fact]
    public async Task Killed_at_any_moment_of_a_migration_the_server_starts_again_with_everything_in_it()
    {
        await using var server = new Server(files.Path("data"));
        Directory.CreateDirectory(server.DataFolder);
        var file = Path.Combine(server.DataFolder, "archtalk.db");
        await using (var db = DatabaseSetup.Open(file))
        {
            await db.GetService<IMigrator>().MigrateAsync("20261125104318_Initial");
            await db.Database.ExecuteSqlRawAsync("INSERT INTO AspNetUsers (Id, DisplayName, UserName, EmailConfirmed, PhoneNumberConfirmed, "
                + "TwoFactorEnabled, LockoutEnabled, AccessFailedCount) VALUES ('t', 'Ida', 'ida', 0, 0, 0, 0, 0)");
        }

        // This process must not keep the old file open, which the server puts another in the place of.
        SqliteConnection.ClearAllPools();

        // The migration itself lies somewhere within the first second or two of the process.
        var random = new Random(4);
        for (var kill = 0; kill < 12; kill++)
        {
            server.Launch();
            await Task.Delay(random.Next(300, 2000));
            await server.KillAsync();
        }

        await server.StartAsync();
        await using var after = DatabaseSetup.Open(file);
        (await after.Database.GetPendingMigrationsAsync()).ShouldBeEmpty();
        (await after.Users.SingleAsync()).DisplayName.ShouldBe("Ida");
    }

    /// <summary>Longer rounds of the same are in the bench ("survival").</summary>
    [Fact]
    public async Task Whatever_is_killed_whenever_at_most_the_last_second_is_missing_and_nothing_lies_in_the_wrong_place()
    {
        const int Runs = 8;
        await using var rig = await SurvivalRig.StartAsync();
        for (var seed = 1; seed <= Runs; seed++)
        {
            var result = await rig.RunAsync(seed);
            output.WriteLine(result.ToString());
            Console.WriteLine(result);
            result.Problems.ShouldBeEmpty(result.ToString());
            result.LossesMs.ShouldAllBe(l => l <= 1000, result.ToString());
        }
    }

    [Fact]
    public async Task A_server_killed_in_the_middle_of_an_import_begins_it_again_and_leaves_no_half_of_it()
    {
        const int Pages = 24;
        var server = await shared.StartedAsync();
        using var browser = new Chromium();
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Survival");
        browser.Find("input[type=file]").SendKeys(files.LongPdf(Pages));
        browser.Until(() => browser.Script<bool>("return /page [1-9]\\d* of/.test(document.body.innerText)"), "the import at work");
        await server.KillAsync();
        await server.StartAsync();

        // The page finds the server again by itself, and the boards come, each once.
        teacher.UntilBoards(Pages);
        browser.Script<string>("return [...document.querySelectorAll(\"ol[aria-label='Boards in order'] textarea\")].map((t) => t.value).join('|')")
            .ShouldBe(string.Join('|', Enumerable.Range(0, Pages).Select(i => $"Stone{(char)('A' + i)}")));
    }

    private static TeacherSession Begin(Chromium browser, string address)
    {
        var teacher = TeacherSession.BeginTake(browser, address);
        teacher.Draw((0.2, 0.5), (0.8, 0.5));
        return teacher;
    }

    // Sequence numbers have no gaps in a journal; what the browser no longer had would be there as a declared loss.
    private void ShouldBeWhole(TeacherSession teacher) => shared.JournalOf(teacher).Records.ShouldNotContain(r => r.Kind == JournalRecordKind.Lost);
}
