using System.Net;
using System.Text.Json;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Publishing;
using ArchTalk.Web.Recording;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace ArchTalk.Web.Tests;

/// <summary>What was prepared, as it reaches students; and the order in which jobs are done.</summary>
public sealed class PublicationTests : IAsyncLifetime
{
    private readonly App app = new();
    private Client ida = null!;
    private Guid lesson;
    private Guid board;

    private string Api => $"/api/lessons/{lesson}";

    public async ValueTask InitializeAsync()
    {
        ida = await app.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Dome");
        board = (await ida.CallAsync(HttpMethod.Post, $"{Api}/boards", new { title = "Section" })).GetProperty("id").GetGuid();
    }

    public ValueTask DisposeAsync()
    {
        app.Dispose();
        return ValueTask.CompletedTask;
    }

    // A second of silence in which one thing is done.
    private async Task RecordAsync(TakeEvent happened)
    {
        var take = await app.WithAsync(s => s.GetRequiredService<RecordingService>().StartAsync(lesson, CancellationToken.None));
        var journal = new JournalBuilder().Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false))
            .Audio(0, 0, new short[24_000]).Audio(0, 24_000, new short[24_000])
            .Anchors(0, new ClockAnchor(0, 0), new ClockAnchor(48_000, 1000)).Events(0, new BoardShown(0, board), happened).End();
        byte[] body = [.. journal.Records.SelectMany(r => r.ToBytes())];
        var answer = await app.WithAsync(async s =>
        {
            var recording = s.GetRequiredService<RecordingService>();
            var admitted = await recording.AdmitAsync(take.Take, take.Token, CancellationToken.None);
            return await recording.AppendAsync(admitted!, take.Token, body, CancellationToken.None);
        });
        answer.Outcome.ShouldBe(UploadOutcome.Saved);
    }

    private async Task<(string Page, string Files)> PublishAsync()
    {
        await app.WithAsync(async s =>
        {
            await s.GetRequiredService<PublishingService>().PublishAsync(lesson, CancellationToken.None);
            return true;
        });
        await app.RunJobsAsync();
        var job = await app.QueryAsync(db => db.Jobs.SingleAsync(j => j.Kind == JobKind.Publish));
        job.State.ShouldBe(JobState.Done, job.Message);
        var token = await app.QueryAsync(db => db.Lessons.Where(l => l.Id == lesson).Select(l => l.WatchToken).SingleAsync());
        using var student = app.CreateClient();
        return (WebUtility.HtmlDecode(await student.GetStringAsync($"/w/{token}")), $"/w/{token}/1");
    }

    [Fact]
    public async Task Students_get_the_details_the_words_the_files_and_the_task_of_their_class()
    {
        var cover = Guid.NewGuid();
        using var sent = await ida.UploadAsync(HttpMethod.Post, $"{Api}/attachments", "sheet.txt", "Fill me in."u8.ToArray());
        var file = JsonDocument.Parse(await sent.Content.ReadAsStringAsync()).RootElement.GetProperty("stored").GetString()!;
        object[] references = [new { id = Guid.NewGuid(), kind = "file", title = "A sheet", address = "", pages = "", note = "", stored = file, fileName = "sheet.txt" }];
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/References", new { content = references, version = 0 });
        object[] terms = [new { id = Guid.NewGuid(), word = "hoop", reading = "", meaning = "a ring", language = "", translations = new[] { new { language = "de", text = "der Ring" } }, memoryAid = "like a barrel's", status = "later" }];
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/Terms", new { content = terms, version = 0 });
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/Details", new { content = new { language = "en", aims = new[] { "hold a foot together" }, contact = "Tuesday", organiserBoard = board }, version = 0 });
        var task = new { steps = new[] { "Draw." }, ready = "", handIn = "", where = "", when = "", choices = new[] { "a model" }, worked = "One is done.", marking = "Two points.", classes = new[] { new { @class = "10b", where = "folder", when = "Monday" } } };
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/Task", new { content = task, version = 0 });
        object[] items = [new { kind = "cover", id = cover, x = 10, y = 10, width = 100, height = 50, text = "7" }, new { kind = "blank", id = Guid.NewGuid(), x = 200, y = 10, width = 100, height = 50, answers = new[] { "secret word" } }];
        await ida.CallAsync(HttpMethod.Put, $"{Api}/boards/{board}/items", new { content = items, version = 0 });
        await ida.CallAsync(HttpMethod.Patch, $"{Api}/boards/{board}", new { alternativeText = "A dome cut in half.", notes = "Only for the teacher." });
        await RecordAsync(new CoverLifted(600, board, cover, IsUncovered: true));

        var (page, files) = await PublishAsync();
        foreach (var words in new[] { "hold a foot together", "Tuesday", "der Ring", "like a barrel's", "(for later)", "a model", "One is done.", "Two points.", "10b:", "folder, Monday", "A sheet" })
        {
            page.ShouldContain(words);
        }

        using var student = app.CreateClient();
        using var download = await student.GetAsync($"{files}/files/{file}.bin");
        download.Content.Headers.ContentType!.MediaType.ShouldBe("application/octet-stream");
        (await download.Content.ReadAsStringAsync()).ShouldBe("Fill me in.");

        using var timeline = JsonDocument.Parse(await student.GetStringAsync($"{files}/timeline.json"));
        var lifted = timeline.RootElement.GetProperty("boards")[0].GetProperty("covers")[0];
        lifted.GetProperty("item").GetGuid().ShouldBe(cover);
        lifted.GetProperty("uncovered").EnumerateArray().Select(n => n.GetInt32()).ShouldBe([0, 0, 600, 1]);

        // What is to be found out, and what the teacher means to say, stay with the teacher.
        var ink = await student.GetStringAsync($"{files}/ink/0.json");
        ink.ShouldContain("A dome cut in half. Something covered. A blank to fill.");
        foreach (var text in new[] { ink, page })
        {
            text.ShouldNotContain("secret word");
            text.ShouldNotContain("Only for the teacher");
        }
    }

    [Fact]
    public async Task A_publication_keeps_its_items_and_files_whatever_is_changed_afterwards()
    {
        object[] items = [new { kind = "label", id = Guid.NewGuid(), text = "lantern", x = 10, y = 10, width = 100, height = 50, tipX = 500, tipY = 300 }];
        await ida.CallAsync(HttpMethod.Put, $"{Api}/boards/{board}/items", new { content = items, version = 0 });
        await RecordAsync(new ViewMoved(500, board, [0, 0, 16_000]));
        var (_, files) = await PublishAsync();
        await ida.CallAsync(HttpMethod.Put, $"{Api}/boards/{board}/items", new { content = Array.Empty<object>(), version = 1 });

        using var student = app.CreateClient();
        (await student.GetStringAsync($"{files}/ink/0.json")).ShouldContain("lantern");
        (await ida.Http.GetStringAsync($"/lessons/{lesson:N}/ink/0.json")).ShouldNotContain("lantern");
    }

    [Fact]
    public async Task Reading_a_scanned_book_does_not_keep_the_next_file_waiting()
    {
        await app.WithAsync(async s =>
        {
            var jobs = s.GetRequiredService<JobService>();
            for (var i = 0; i < 3; i++)
            {
                await jobs.AddAsync(JobKind.Read, lesson, Guid.NewGuid().ToString("N"), $"page {i}", CancellationToken.None);
            }

            return true;
        });
        await ida.UploadAsync(lesson, "next.png", Samples.Picture());
        (await app.Services.GetRequiredService<JobRunner>().RunNextAsync(CancellationToken.None)).ShouldBeTrue();
        var jobs = await app.QueryAsync(db => db.Jobs.ToListAsync());
        jobs.Single(j => j.Kind == JobKind.Import).State.ShouldBe(JobState.Done);
        jobs.Count(j => j.Kind == JobKind.Read && j.State == JobState.Waiting).ShouldBe(4, "the new picture is read too, when its turn comes");
    }
}
