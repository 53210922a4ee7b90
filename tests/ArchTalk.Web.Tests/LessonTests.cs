using System.Net;
using System.Text.Json;
using ArchTalk.Core.Lessons;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Lessons;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Microsoft.Extensions.DependencyInjection;

namespace ArchTalk.Web.Tests;

public sealed class LessonTests : IAsyncLifetime
{
    private readonly App app = new();
    private Client ida = null!;
    private Guid lesson;

    public async ValueTask InitializeAsync()
    {
        ida = await app.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Arch");
    }

    public ValueTask DisposeAsync()
    {
        app.Dispose();
        return ValueTask.CompletedTask;
    }

    private async Task<(HttpStatusCode Status, JsonElement Json)> AskAsync(HttpMethod method, string path, object? body = null)
    {
        using var answer = await ida.SendAsync(method, $"/api/lessons/{lesson}/sections/Terms{path}", body);
        return (answer.StatusCode, JsonDocument.Parse(await answer.Content.ReadAsStringAsync()).RootElement);
    }

    /// <summary>Undo or redo from the state that is current, as a window does that shows it.</summary>
    private async Task<(HttpStatusCode Status, JsonElement Json)> StepAsync(string step) =>
        await AskAsync(HttpMethod.Post, step, new { version = (await AskAsync(HttpMethod.Get, "")).Json.GetProperty("version").GetInt32() });

    private Task<(HttpStatusCode Status, JsonElement Json)> SaveAsync(int version, params string[] words) => AskAsync(
        HttpMethod.Put, "", new
        {
            version,
            content = words.Select(
            w => new { id = Guid.NewGuid(), word = w, reading = "", meaning = "m", language = "" })
        });

    private static string[] Words(JsonElement view) =>
        [.. view.GetProperty("content").EnumerateArray().Select(t => t.GetProperty("word").GetString()!)];

    [Fact]
    public async Task A_list_can_be_undone_to_the_beginning_and_redone_to_the_end()
    {
        await SaveAsync(0, "arch");
        await SaveAsync(1, "arch", "vault");
        Words((await StepAsync("/undo")).Json).ShouldBe(["arch"]);
        var start = (await StepAsync("/undo")).Json;
        Words(start).ShouldBeEmpty();
        start.GetProperty("canUndo").GetBoolean().ShouldBeFalse();
        Words((await StepAsync("/undo")).Json).ShouldBeEmpty();
        await StepAsync("/redo");
        var end = (await StepAsync("/redo")).Json;
        Words(end).ShouldBe(["arch", "vault"]);
        end.GetProperty("canRedo").GetBoolean().ShouldBeFalse();
    }

    [Fact]
    public async Task Of_a_small_list_far_more_than_an_evening_is_kept()
    {
        const int Steps = 230;
        var key = new SectionKey(lesson, SectionKind.Terms);
        for (var version = 0; version < Steps; version++)
        {
            var terms = JsonSerializer.SerializeToElement((Term[])[new(Guid.CreateVersion7(), $"arch {version}", "", "m", "")], SectionService.Json);
            await app.WithAsync(s => s.GetRequiredService<SectionService>().SaveAsync(key, terms, version, CancellationToken.None));
        }

        (await app.QueryAsync(db => db.SectionStates.CountAsync(s => s.LessonId == lesson && s.Kind == SectionKind.Terms))).ShouldBe(Steps);
    }

    [Fact]
    public async Task A_change_after_an_undo_takes_the_place_of_what_was_undone()
    {
        await SaveAsync(0, "arch");
        await SaveAsync(1, "vault");
        await StepAsync("/undo");
        var saved = (await SaveAsync(1, "dome")).Json;
        saved.GetProperty("canRedo").GetBoolean().ShouldBeFalse();
        Words((await StepAsync("/undo")).Json).ShouldBe(["arch"]);
        Words((await StepAsync("/redo")).Json).ShouldBe(["dome"]);
    }

    [Fact]
    public async Task The_arch_fetched_anew_shows_which_steps_have_opened()
    {
        async Task<string> ArchAsync() => await ida.Http.GetStringAsync($"/lessons/{lesson:N}/arch/Prepare");
        (await ArchAsync()).ShouldNotContain("/record\"");
        (await ArchAsync()).ShouldContain("Add a board first");
        await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/boards", new { title = "a" });
        var arch = await ArchAsync();
        arch.ShouldContain($"href=\"/lessons/{lesson:N}/record\"");
        arch.ShouldContain("aria-current=\"step\"");
        arch.ShouldNotContain("/refine\"");
        var other = await app.SignInAsync("jon@example.org");
        (await other.Http.GetAsync($"/lessons/{lesson:N}/arch/Prepare")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Two_windows_never_overwrite_each_other()
    {
        await SaveAsync(0, "arch");
        var (status, json) = await SaveAsync(0, "vault");
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        json.GetProperty("message").GetString()!.ShouldContain("another window");
        (status, json) = await AskAsync(HttpMethod.Post, "/undo", new { version = 0 });
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        json.GetProperty("message").GetString()!.ShouldContain("another window");
    }

    [Fact]
    public async Task Of_two_windows_that_save_or_undo_at_the_same_moment_one_is_told()
    {
        await SaveAsync(0, "start");
        for (var pair = 0; pair < 200; pair++)
        {
            var version = (await AskAsync(HttpMethod.Get, "")).Json.GetProperty("version").GetInt32();
            var one = SaveAsync(version, $"one {pair}");
            var other = pair % 3 == 2 ? AskAsync(HttpMethod.Post, "/undo", new { version }) : SaveAsync(version, $"other {pair}");
            var answers = await Task.WhenAll(one, other);
            answers.Select(a => (int)a.Status).Order().ToArray().ShouldBe([200, 422], $"pair {pair}");

            // What the window was told is saved is what everybody gets.
            var saved = answers.Single(a => a.Status == HttpStatusCode.OK).Json;
            Words((await AskAsync(HttpMethod.Get, "")).Json).ShouldBe(Words(saved));
            if (saved.GetProperty("version").GetInt32() < version)
            {
                await StepAsync("/redo");
            }
        }

        (await app.QueryAsync(db => db.SectionStates.CountAsync(s => s.IsCurrent && s.Kind == SectionKind.Terms))).ShouldBe(1);
    }

    [Fact]
    public async Task A_wrong_entry_is_named_and_nothing_is_saved()
    {
        var (status, json) = await SaveAsync(0, "");
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        json.GetProperty("message").GetString()!.ShouldContain("has no word");
        (await AskAsync(HttpMethod.Put, "", new { version = 0, content = "nonsense" })).Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        Words((await AskAsync(HttpMethod.Get, "")).Json).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_deleted_lesson_is_offered_for_restoring_and_comes_back()
    {
        using var answer = await ida.FormAsync("/?handler=Delete", ("id", lesson.ToString()));
        (await ida.PageAsync(answer.Headers.Location!.ToString())).ShouldContain("Restore it");
        (await ida.Http.GetAsync($"/lessons/{lesson:N}/prepare")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        await ida.FormAsync("/?handler=Restore", ("id", lesson.ToString()));
        (await ida.Http.GetAsync($"/lessons/{lesson:N}/prepare")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Units_group_lessons_in_order_and_give_them_back_when_removed()
    {
        var second = await ida.CreateLessonAsync("Dome");
        await ida.FormAsync("/?handler=CreateUnit", ("title", "Masonry"));
        var unit = (await app.QueryAsync(db => db.Units.SingleAsync())).Id.ToString();
        await ida.FormAsync("/?handler=MoveToUnit", ("id", lesson.ToString()), ("unit", unit));
        await ida.FormAsync("/?handler=MoveToUnit", ("id", second.ToString()), ("unit", unit));
        await ida.FormAsync("/?handler=Move", ("id", second.ToString()), ("by", "-1"));
        var teacher = (await app.QueryAsync(db => db.Users.SingleAsync())).Id;
        var units = await app.WithAsync(s => s.GetRequiredService<LessonService>().ListAsync(teacher, CancellationToken.None));
        units.ShouldHaveSingleItem().Lessons.Select(l => l.Title).ShouldBe(["Dome", "Arch"]);
        await ida.FormAsync("/?handler=DeleteUnit", ("id", unit));
        units = await app.WithAsync(s => s.GetRequiredService<LessonService>().ListAsync(teacher, CancellationToken.None));
        units.ShouldHaveSingleItem().Unit.ShouldBeNull();
        units[0].Lessons.Count.ShouldBe(2);
    }

    [Fact]
    public async Task Publishing_without_a_recording_says_what_to_do()
    {
        using var answer = await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/publish");
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await answer.Content.ReadAsStringAsync()).ShouldContain("Record a take first");
    }

    [Fact]
    public async Task A_database_is_copied_before_it_is_migrated()
    {
        var folder = Directory.CreateTempSubdirectory().FullName;
        var file = Path.Combine(folder, "archtalk.db");
        var options = new DbContextOptionsBuilder<ArchTalkDb>().UseSqlite(DatabaseSetup.ConnectionString(file)).Options;
        await using (var db = new ArchTalkDb(options))
        {
            await DatabaseSetup.MigrateAsync(db);
            Directory.GetFiles(folder, "*.before-*").ShouldBeEmpty("there was nothing to lose");

            // As if a later version had one migration more than this file has seen.
            await db.Database.ExecuteSqlRawAsync("DELETE FROM __EFMigrationsHistory; DROP TABLE Units;");
        }

        await using (var db = new ArchTalkDb(options))
        {
            await Should.ThrowAsync<Exception>(() => DatabaseSetup.MigrateAsync(db));
        }

        Directory.GetFiles(folder, "*.before-*").ShouldHaveSingleItem();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task The_model_and_the_migrations_agree() =>
        (await app.QueryAsync(db => Task.FromResult(db.Database.HasPendingModelChanges()))).ShouldBeFalse();
}
