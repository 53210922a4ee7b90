using System.Net;
using System.Text.Json;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Time;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Publishing;
using ArchTalk.Web.Recording;
using ArchTalk.Web.Timelines;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace ArchTalk.Web.Tests;

/// <summary>What a lesson is compiled from, what is kept of that, and when it is anew.</summary>
public sealed class CompiledLessonTests : IAsyncLifetime
{
    private readonly App app = new();
    private Client ida = null!;
    private Guid lesson;
    private Guid[] boards = [];

    private string Api => $"/api/lessons/{lesson}";

    public async ValueTask InitializeAsync()
    {
        ida = await app.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Arch");
        await ida.UploadAsync(lesson, "pages.pdf", Samples.Pdf(2));
        await app.RunJobsAsync();
        boards = [.. (await ida.CallAsync(HttpMethod.Get, $"{Api}/boards")).GetProperty("boards").EnumerateArray()
            .Select(b => b.GetProperty("id").GetGuid())];
        await Samples.RecordAsync(app, ida, lesson);
    }

    public ValueTask DisposeAsync()
    {
        app.Dispose();
        return ValueTask.CompletedTask;
    }

    private Task<long> RevisionAsync() => app.QueryAsync(db => db.Lessons.Where(l => l.Id == lesson).Select(l => l.Revision).SingleAsync());

    private Task<CompiledLesson> CompileAsync() => app.Services.GetRequiredService<LessonCompiler>().CompileAsync(lesson, CancellationToken.None);

    private async Task<JsonElement> TimelineAsync() => await ida.CallAsync(HttpMethod.Get, $"/lessons/{lesson:N}/timeline.json");

    private async Task<int> LengthAsync() => (await TimelineAsync()).GetProperty("length").GetInt32();

    private async Task SaveEditsAsync(EditList edits, int version) =>
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/Edits", new { content = edits, version });

    private async Task<TakeId> TakeAsync() => new((await CompileAsync()).Arrangement.Placements[0].Take.Value);

    /// <summary>Row C1: a picture replaced at the same height was published as it had been before.</summary>
    [Fact]
    public async Task Every_write_to_what_a_lesson_is_compiled_from_raises_its_revision()
    {
        async Task RaisesAsync(string what, Func<Task> write)
        {
            var before = await RevisionAsync();
            var compiled = await CompileAsync();
            await write();
            (await RevisionAsync()).ShouldBeGreaterThan(before, what);
            (await CompileAsync()).ShouldNotBeSameAs(compiled, what);
        }

        Task Patch(object change) => ida.CallAsync(HttpMethod.Patch, $"{Api}/boards/{boards[0]}", change);
        var size = (await TimelineAsync()).GetProperty("boards")[0].GetProperty("pictures").EnumerateArray().Last();
        var picture = Samples.Picture(size.GetProperty("width").GetInt32(), size.GetProperty("height").GetInt32(), SkiaSharp.SKColors.Red);
        var old = size.GetProperty("src").GetString();
        await RaisesAsync(
            "a picture of the same size",
            () => ida.UploadAsync(HttpMethod.Put, $"{Api}/boards/{boards[0]}/picture", "red.png", picture));
        (await TimelineAsync()).GetProperty("boards")[0].GetProperty("pictures").EnumerateArray().Last().GetProperty("src").GetString()
            .ShouldNotBe(old);
        await RaisesAsync("a title", () => Patch(new { title = "Another" }));
        await RaisesAsync("an alternative text", () => Patch(new { alternativeText = "An arch of five stones." }));
        (await ida.Http.GetStringAsync($"/lessons/{lesson:N}/ink/0.json")).ShouldContain("An arch of five stones.");
        await RaisesAsync("the order", () => ida.CallAsync(HttpMethod.Put, $"{Api}/boards/order", boards.Reverse().ToArray()));
        object[] items = [new { kind = "cover", id = Guid.NewGuid(), x = 10, y = 10, width = 100, height = 50, text = "" }];
        await RaisesAsync("items", () => ida.CallAsync(HttpMethod.Put, $"{Api}/boards/{boards[0]}/items", new { content = items, version = 0 }));
        await RaisesAsync("undoing them", () => ida.CallAsync(HttpMethod.Post, $"{Api}/boards/{boards[0]}/items/undo", new { version = 1 }));
        object[] chapters = [new { id = Guid.NewGuid(), title = "One", take = (Guid?)null, takeSample = 0 }];
        await RaisesAsync("a list", () => ida.CallAsync(HttpMethod.Put, $"{Api}/sections/Chapters", new { content = chapters, version = 0 }));
        var take = await TakeAsync();
        await RaisesAsync("an edit", () => SaveEditsAsync(new EditList { Mutes = [new(take, new(new(0), new(480)))] }, 0));
        await RaisesAsync("a take put aside", () => ida.CallAsync(HttpMethod.Delete, $"{Api}/takes/{take.Value}"));
        await RaisesAsync("and put back", () => ida.CallAsync(HttpMethod.Post, $"{Api}/takes/{take.Value}/restore"));
        await RaisesAsync("another take", () => Samples.RecordAsync(app, ida, lesson));
        await RaisesAsync("a board taken away", () => ida.CallAsync(HttpMethod.Delete, $"{Api}/boards/{boards[1]}"));
    }

    [Fact]
    public async Task The_revision_is_raised_in_the_transaction_of_the_write_or_not_at_all()
    {
        var before = await RevisionAsync();
        await app.QueryAsync(async db =>
        {
            await using var turn = await db.Database.BeginTransactionAsync();
            (await db.Boards.FirstAsync(b => b.Id == boards[0])).Title = "Never";
            await db.SaveChangesAsync();
            return true;
        });
        (await RevisionAsync()).ShouldBe(before);
        await app.QueryAsync(async db =>
        {
            (await db.Lessons.SingleAsync(l => l.Id == lesson)).ChangedAt = DateTimeOffset.UtcNow;
            return await db.SaveChangesAsync();
        });
        (await RevisionAsync()).ShouldBe(before, "what isn't compiled doesn't count");
    }

    [Fact]
    public async Task Two_writers_at_once_both_raise_it()
    {
        var before = await RevisionAsync();
        await Task.WhenAll(Enumerable.Range(0, 8).Select(i => app.QueryAsync(async db =>
        {
            (await db.Boards.SingleAsync(b => b.Id == boards[i % 2])).Notes = $"{i}";
            return await db.SaveChangesAsync();
        })));
        (await RevisionAsync()).ShouldBe(before + 8);
    }

    [Fact]
    public async Task What_is_kept_serves_until_something_changes_and_simultaneous_requests_compile_once()
    {
        var all = await Task.WhenAll(Enumerable.Range(0, 10).Select(_ => CompileAsync()));
        all.ShouldAllBe(c => ReferenceEquals(c, all[0]));
        (await CompileAsync()).ShouldBeSameAs(all[0]);
    }

    [Fact]
    public async Task Edits_are_a_list_like_the_others_saved_undone_and_refused_from_an_old_state()
    {
        var take = await TakeAsync();
        TimeRange<TakeTime> Range(int from, int to) => new(TakeTime.FromMilliseconds(from), TakeTime.FromMilliseconds(to));
        await SaveEditsAsync(
            new EditList { Cuts = [new(take, Range(500, 1000))], Silences = [new(take, Range(1200, 1800), Duration.FromMilliseconds(100))] },
            0);
        (await LengthAsync()).ShouldBe(1000);
        using (var voice = await ida.Http.GetAsync($"/lessons/{lesson:N}/voice.wav"))
        {
            // Row C11: the voice ignored the time map.
            voice.Content.Headers.ContentLength!.Value.ShouldBeInRange(96_000, 96_200);
        }

        (await ida.RefusalAsync(HttpMethod.Put, $"{Api}/sections/Edits", new { content = EditList.Empty, version = 0 })).ShouldContain(
            "another window");
        (await ida.RefusalAsync(
            HttpMethod.Put,
            $"{Api}/sections/Edits",
            new { content = new { pauses = new[] { new { take = take.Value, at = 0, length = -1 } } }, version = 1 }))
            .ShouldContain("a pause lasts at most");
        (await ida.RefusalAsync(
            HttpMethod.Put,
            $"{Api}/sections/Edits",
            new { content = new { cuts = new[] { new { take = take.Value, source = new { start = 9, end = 3 } } } }, version = 1 }))
            .ShouldContain("nothing was changed");
        await ida.CallAsync(HttpMethod.Post, $"{Api}/sections/Edits/undo", new { version = 1 });
        (await LengthAsync()).ShouldBe(2000);
        await ida.CallAsync(HttpMethod.Post, $"{Api}/sections/Edits/redo", new { version = 0 });
        (await LengthAsync()).ShouldBe(1000);
    }

    [Fact]
    public async Task All_boards_come_in_one_response_with_what_the_lesson_leaves_on_them()
    {
        var all = (await ida.CallAsync(HttpMethod.Get, $"/lessons/{lesson:N}/ink/end.json")).GetProperty("boards");
        all.EnumerateArray().Select(b => b.GetProperty("id").GetGuid()).ShouldBe(boards);
        all[0].GetProperty("strokes").GetArrayLength().ShouldBe(1);
    }

    [Fact]
    public async Task A_correction_is_drawn_over_everything_on_its_board()
    {
        var take = await TakeAsync();
        var note = new Core.Boards.Items.TextItem { Id = Guid.NewGuid(), X = 100, Y = 100, Width = 400, Paragraphs = [[new("It pushes outwards.")]] };
        await SaveEditsAsync(new EditList { Corrections = [new(take, TakeTime.FromMilliseconds(500), boards[0], note)] }, 0);
        (await ida.Http.GetStringAsync($"/lessons/{lesson:N}/ink/0.json")).ShouldContain("It pushes outwards.");
        (await TimelineAsync()).GetProperty("boards")[0].GetProperty("items")[0].GetProperty("shows").EnumerateArray().Select(v => v.GetInt32())
            .ShouldBe([0, 0, 500, 1]);
    }

    /// <summary>Row C5: the press of Publish was not deduplicated, and a job that was taken again made a second publication.</summary>
    [Fact]
    public async Task Pressed_twice_it_publishes_once_and_a_job_that_runs_again_makes_no_second()
    {
        var presses = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => ida.SendAsync(HttpMethod.Post, $"{Api}/publish")));
        presses.ShouldAllBe(p => p.StatusCode == HttpStatusCode.Accepted);
        (await app.QueryAsync(db => db.Jobs.CountAsync(j => j.Kind == JobKind.Publish))).ShouldBe(1);
        await app.RunJobsAsync();
        await ida.CallAsync(HttpMethod.Post, $"{Api}/publish");
        await app.RunJobsAsync();
        (await PublicationsAsync()).ShouldBe([1], "nothing has changed");

        // Killed after the publication was there and before its job had ended.
        await app.QueryAsync(
            db => db.Jobs.Where(j => j.Kind == JobKind.Publish).ExecuteUpdateAsync(s => s.SetProperty(j => j.State, JobState.Waiting)));
        await app.RunJobsAsync();
        (await PublicationsAsync()).ShouldBe([1]);
        (await app.QueryAsync(db => db.Jobs.SingleAsync(j => j.Kind == JobKind.Publish))).State.ShouldBe(JobState.Done);

        await ida.CallAsync(HttpMethod.Post, $"{Api}/withdraw");
        await ida.CallAsync(HttpMethod.Post, $"{Api}/publish");
        (await app.QueryAsync(db => db.Lessons.SingleAsync(l => l.Id == lesson))).IsWithdrawn.ShouldBeFalse("it opens the link again");
        await ida.CallAsync(HttpMethod.Patch, $"{Api}/boards/{boards[0]}", new { title = "Changed" });
        await ida.CallAsync(HttpMethod.Post, $"{Api}/publish");
        await app.RunJobsAsync();
        (await PublicationsAsync()).ShouldBe([1, 2]);
    }

    private Task<List<int>> PublicationsAsync() =>
        app.QueryAsync(db => db.Publications.Where(p => p.LessonId == lesson).OrderBy(p => p.Number).Select(p => p.Number).ToListAsync());
}
