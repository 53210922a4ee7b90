using System.Net;
using System.Text.Json;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Jobs;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using SkiaSharp;

namespace ArchTalk.Web.Tests;

public sealed class ImportTests : IAsyncLifetime
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

    private async Task<JsonElement> BoardsAsync()
    {
        using var answer = await ida.Http.GetAsync($"/api/lessons/{lesson}/boards");
        return JsonDocument.Parse(await answer.Content.ReadAsStringAsync()).RootElement;
    }

    [Theory]
    [InlineData("nothing.pdf", new byte[0], "empty")]
    [InlineData("letter.pdf", new byte[] { 1, 2, 3 }, "not a PDF")]
    [InlineData("cut.pdf", new byte[] { 0x25, 0x50, 0x44, 0x46, 0x2D, 0x31 }, "broken")]
    [InlineData("photo.jpg", new byte[] { 0xFF, 0xD8, 0xFF, 0xE0, 0, 0 }, "broken")]
    public async Task A_bad_file_is_named_and_leaves_the_lesson_as_it_was(string name, byte[] bytes, string reason)
    {
        await ida.UploadAsync(lesson, "good.png", Samples.Picture());
        (await ida.UploadAsync(lesson, name, bytes)).StatusCode.ShouldBe(HttpStatusCode.Accepted);
        await ida.UploadAsync(lesson, "also good.png", Samples.Picture());
        await app.RunJobsAsync();

        var view = await BoardsAsync();
        view.GetProperty("boards").EnumerateArray().Select(b => b.GetProperty("title").GetString()).ShouldBe(["good", "also good"]);
        var failed = view.GetProperty("jobs").EnumerateArray().Single(j => j.GetProperty("state").GetString() == "failed");
        failed.GetProperty("title").GetString().ShouldBe(name);
        failed.GetProperty("message").GetString()!.ShouldContain(reason);
        Directory.GetFiles(Path.Combine(app.DataFolder, "lessons", lesson.ToString("N"), "uploads")).ShouldBeEmpty();
        Directory.GetDirectories(Path.Combine(app.DataFolder, "lessons", lesson.ToString("N"), "boards")).Length.ShouldBe(2);
    }

    [Fact]
    public async Task Too_many_pages_are_refused_whole()
    {
        await ida.UploadAsync(lesson, "book.pdf", Samples.Pdf(21));
        await app.RunJobsAsync();

        var view = await BoardsAsync();
        view.GetProperty("boards").GetArrayLength().ShouldBe(0);
        view.GetProperty("jobs")[0].GetProperty("message").GetString()!.ShouldContain("21 pages; at most 20");
    }

    // Found in the running application: scanned PDFs had no scan tools and stayed "Page 1".
    [Fact]
    public async Task A_scanned_page_of_a_pdf_is_named_by_what_is_read_and_can_be_divided()
    {
        await ida.UploadAsync(lesson, "scan.pdf", Samples.ScannedPdf(isDouble: true));
        await app.RunJobsAsync();
        var board = (await BoardsAsync()).GetProperty("boards")[0];
        board.GetProperty("canBeScanned").GetBoolean().ShouldBeTrue();
        board.GetProperty("title").GetString().ShouldStartWith("The keystone");

        var scan = $"/api/lessons/{lesson}/boards/{board.GetProperty("id").GetString()}/scan";
        using (var original = await ida.Http.GetAsync($"{scan}/original?turn=1"))
        {
            using var turned = SKBitmap.Decode(await original.Content.ReadAsByteArrayAsync());
            turned.Height.ShouldBeGreaterThan(turned.Width);
        }

        await ida.CallAsync(HttpMethod.Post, $"{scan}/divide");
        await app.RunJobsAsync();
        var boards = (await BoardsAsync()).GetProperty("boards").EnumerateArray().ToArray();
        boards.Length.ShouldBe(2);
        foreach (var (half, word) in boards.Zip(["keystone", "abutment"]))
        {
            var words = await ida.CallAsync(HttpMethod.Get, $"/api/lessons/{lesson}/boards/{half.GetProperty("id").GetString()}/words");
            words.GetProperty("words").EnumerateArray().Select(w => w.GetProperty("text").GetString()).ShouldBe(["The", word]);
        }
    }

    [Fact]
    public async Task Pages_become_boards_in_order_with_three_sharp_copies()
    {
        await ida.UploadAsync(lesson, "pages.pdf", Samples.Pdf(3));
        await app.RunJobsAsync();

        var boards = await app.QueryAsync(db => db.Boards.OrderBy(b => b.Order).ToListAsync());
        boards.Select(b => b.Title).ShouldBe(["Page 1", "Page 2", "Page 3"]);
        boards.ShouldAllBe(b => b.Kind == BoardKind.Page && b.Height == 900);

        // A close-up to a third of the board on a screen 1280 wide still has a pixel for each of its own.
        boards[0].Pictures.Select(p => p.Width).ShouldBe([400, 1600, 3840]);
        var large = (await BoardsAsync()).GetProperty("boards")[0].GetProperty("large").GetString();
        using var picture = SKBitmap.Decode(await ida.Http.GetByteArrayAsync(large));
        picture.Width.ShouldBe(3840);
    }

    [Fact]
    public async Task An_import_stopped_in_the_middle_begins_again_and_leaves_no_half_of_it()
    {
        await ida.UploadAsync(lesson, "pages.pdf", Samples.Pdf(3));
        var runner = app.Services.GetRequiredService<JobRunner>();
        using (var power = new CancellationTokenSource())
        {
            power.CancelAfter(60);
            await runner.RunNextAsync(power.Token).ContinueWith(_ => { }, TaskScheduler.Default);
        }

        (await app.QueryAsync(db => db.Boards.CountAsync())).ShouldBe(0);
        await runner.FreeAbandonedAsync(CancellationToken.None);
        await app.RunJobsAsync();
        (await app.QueryAsync(db => db.Boards.CountAsync())).ShouldBe(3);
        (await app.QueryAsync(db => db.Jobs.SingleAsync(j => j.Kind == JobKind.Import))).State.ShouldBe(JobState.Done);
    }

    [Fact]
    public async Task A_server_killed_right_after_the_boards_came_in_keeps_them_and_their_pictures()
    {
        await ida.UploadAsync(lesson, "pages.pdf", Samples.Pdf(2));
        var job = await app.QueryAsync(db => db.Jobs.SingleAsync());
        var upload = Path.Combine(app.DataFolder, "lessons", lesson.ToString("N"), "uploads", job.Subject);
        var bytes = await File.ReadAllBytesAsync(upload);
        await app.RunJobsAsync();

        // As the killed server left it: the boards are in, the upload is still there, the job isn't marked.
        await File.WriteAllBytesAsync(upload, bytes);
        await app.QueryAsync(db => db.Jobs.Where(j => j.Id == job.Id).ExecuteUpdateAsync(s => s
            .SetProperty(j => j.State, JobState.Running).SetProperty(j => j.LeaseUntil, DateTimeOffset.UnixEpoch)));
        await app.RunJobsAsync();

        (await app.QueryAsync(db => db.Jobs.SingleAsync(j => j.Id == job.Id))).State.ShouldBe(JobState.Done);
        var boards = (await BoardsAsync()).GetProperty("boards");
        boards.GetArrayLength().ShouldBe(2);
        (await ida.Http.GetAsync(boards[1].GetProperty("small").GetString())).StatusCode.ShouldBe(HttpStatusCode.OK);
        File.Exists(upload).ShouldBeFalse();
    }

    [Fact]
    public async Task A_cancelled_import_adds_nothing()
    {
        await ida.UploadAsync(lesson, "pages.pdf", Samples.Pdf(2));
        var job = await app.QueryAsync(db => db.Jobs.SingleAsync());
        (await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/jobs/{job.Id}/cancel")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        await app.RunJobsAsync();

        (await app.QueryAsync(db => db.Boards.CountAsync())).ShouldBe(0);
        (await app.QueryAsync(db => db.Jobs.SingleAsync())).State.ShouldBe(JobState.Cancelled);
    }

    [Fact]
    public async Task A_job_that_kills_the_server_each_time_is_given_up()
    {
        await ida.UploadAsync(lesson, "pages.pdf", Samples.Pdf(1));
        await app.QueryAsync(db => db.Jobs.ExecuteUpdateAsync(s => s
            .SetProperty(j => j.State, JobState.Running).SetProperty(j => j.Attempts, 3).SetProperty(j => j.LeaseUntil, DateTimeOffset.UnixEpoch)));
        await app.RunJobsAsync();

        var job = await app.QueryAsync(db => db.Jobs.SingleAsync());
        job.State.ShouldBe(JobState.Failed);
        job.Message.ShouldContain("try again");
    }

    [Fact]
    public async Task Boards_are_ordered_renamed_taken_out_and_put_back()
    {
        foreach (var title in new[] { "a", "b", "c" })
        {
            await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/boards", new { title });
        }

        Guid[] Ids(JsonElement view) => [.. view.GetProperty("boards").EnumerateArray().Select(b => b.GetProperty("id").GetGuid())];
        string[] Titles(JsonElement view) => [.. view.GetProperty("boards").EnumerateArray().Select(b => b.GetProperty("title").GetString()!)];
        var ids = Ids(await BoardsAsync());
        await ida.SendAsync(HttpMethod.Put, $"/api/lessons/{lesson}/boards/order", new[] { ids[2], ids[0], Guid.NewGuid() });
        Titles(await BoardsAsync()).ShouldBe(["c", "a", "b"]);
        await ida.SendAsync(HttpMethod.Patch, $"/api/lessons/{lesson}/boards/{ids[0]}", new { title = "  A " });
        await ida.SendAsync(HttpMethod.Delete, $"/api/lessons/{lesson}/boards/{ids[2]}");
        Titles(await BoardsAsync()).ShouldBe(["A", "b"]);
        await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/boards/{ids[2]}/restore");
        Titles(await BoardsAsync()).ShouldBe(["c", "A", "b"]);
        using var gone = await ida.SendAsync(HttpMethod.Patch, $"/api/lessons/{lesson}/boards/{Guid.NewGuid()}", new { title = "x" });
        gone.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await gone.Content.ReadAsStringAsync()).ShouldContain("Reload the page");
    }
}
