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

    private async Task<(string Page, string Files)> PublishAsync(int number = 1)
    {
        await app.WithAsync(async s =>
        {
            await s.GetRequiredService<PublishingService>().PublishAsync(lesson, CancellationToken.None);
            return true;
        });
        await app.RunJobsAsync();
        var job = await app.QueryAsync(db => db.Jobs.OrderBy(j => j.CreatedAt).LastAsync(j => j.Kind == JobKind.Publish));
        job.State.ShouldBe(JobState.Done, job.Message);
        var token = await app.QueryAsync(db => db.Lessons.Where(l => l.Id == lesson).Select(l => l.WatchToken).SingleAsync());
        using var student = app.CreateClient();
        return (WebUtility.HtmlDecode(await student.GetStringAsync($"/w/{token}")), $"/w/{token}/{number}");
    }

    [Fact]
    public async Task Students_get_the_details_the_words_the_files_and_the_task_of_their_class()
    {
        var cover = Guid.NewGuid();
        using var sent = await ida.UploadAsync(HttpMethod.Post, $"{Api}/attachments", "sheet.txt", "Fill me in."u8.ToArray());
        var file = JsonDocument.Parse(await sent.Content.ReadAsStringAsync()).RootElement.GetProperty("stored").GetString()!;
        object[] references = [new { id = Guid
            .NewGuid(), kind = "file", title = "A sheet", address = "", pages = "", note = "", stored = file, fileName = "sheet.txt" }];
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/References", new { content = references, version = 0 });
        object[] terms = [new { id = Guid.NewGuid(), word = "hoop", reading = "", meaning = "a ring", language = "", translations = new[] {
            new { language = "de", text = "der Ring" } }, memoryAid = "like a barrel's", status = "later" }];
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/Terms", new { content = terms, version = 0 });
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/Details", new
        {
            content = new
            {
                language = "en",
                aims = new[] {
            "hold a foot together" },
                contact = "Tuesday",
                organiserBoard = board
            },
            version = 0
        });
        var task = new
        {
            steps = new[] { "Draw." },
            ready = "",
            handIn = "",
            where = "",
            when = "",
            choices = new[] {
            "a model" },
            worked = "One is done.",
            marking = "Two points.",
            classes = new[] { new { @class = "10b", where = "folder", when = "Monday" } }
        };
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/Task", new { content = task, version = 0 });
        object[] items = [new { kind = "cover", id = cover, x = 10, y = 10, width = 100, height = 50, text = "7" }, new { kind = "blank", id = Guid
            .NewGuid(), x = 200, y = 10, width = 100, height = 50, answers = new[] { "secret word" } }];
        await ida.CallAsync(HttpMethod.Put, $"{Api}/boards/{board}/items", new { content = items, version = 0 });
        await ida.CallAsync(
            HttpMethod.Patch,
            $"{Api}/boards/{board}",
            new { alternativeText = "A dome cut in half.", notes = "Only for the teacher." });
        await RecordAsync(new CoverLifted(600, board, cover, IsUncovered: true));

        var (page, files) = await PublishAsync();
        foreach (var words in new[] {
            "hold a foot together",
            "Tuesday",
            "der Ring",
            "like a barrel's",
            "(for later)",
            "a model",
            "One is done.",
            "Two points.",
            "10b:",
            "folder, Monday",
            "A sheet" })
        {
            page.ShouldContain(words);
        }

        using var student = app.CreateClient();
        using var download = await student.GetAsync($"{files}/files/{file}.bin");
        download.Content.Headers.ContentType!.MediaType.ShouldBe("application/octet-stream");
        (await download.Content.ReadAsStringAsync()).ShouldBe("Fill me in.");

        using var timeline = JsonDocument.Parse(await student.GetStringAsync($"{files}/timeline.json"));
        var lifted = timeline.RootElement.GetProperty("boards")[0].GetProperty("items")[0];
        lifted.GetProperty("item").GetGuid().ShouldBe(cover);
        lifted.GetProperty("shows").EnumerateArray().Select(n => n.GetInt32()).ShouldBe([0, 1, 600, -1]);

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
    public async Task What_a_cover_hides_is_in_nothing_that_is_loaded_before_it_is_lifted()
    {
        await ida.UploadAsync(HttpMethod.Put, $"{Api}/boards/{board}/picture", "red.png", Samples.Picture(1600, 900, SkiaSharp.SKColors.Red));
        object Text(
            string text,
            int x) => new
            {
                kind = "text",
                id = Guid.NewGuid(),
                x,
                y = 100,
                width = 300,
                height = 60,
                size = "reading",
                paragraphs = new[] { new[] { new { text } } }
            };
        object[] items =
        [
            Text("voussoir", 100), Text("keystone", 900), new { kind = "cover", id = Guid
                .NewGuid(), x = 80, y = 80, width = 500, height = 400, text = "?" }, Text("overit", 120),
        ];
        await ida.CallAsync(HttpMethod.Put, $"{Api}/boards/{board}/items", new { content = items, version = 0 });
        await RecordAsync(new ViewMoved(500, board, [0, 0, 16_000]));
        var (page, files) = await PublishAsync();

        using var student = app.CreateClient();
        var (ink, timeline) = (await student.GetStringAsync($"{files}/ink/0.json"), await student.GetStringAsync($"{files}/timeline.json"));
        foreach (var loaded in new[] { page, ink, timeline })
        {
            loaded.ShouldNotContain("voussoir");
        }

        ink.ShouldContain("keystone");
        ink.ShouldContain("overit");
        async Task<SkiaSharp.SKColor> AtAsync(string picture, int x, int y)
        {
            using var bitmap = SkiaSharp.SKBitmap.Decode(await student.GetByteArrayAsync($"{files}/{picture}"));
            return bitmap.GetPixel(x * bitmap.Width / 1600, y * bitmap.Width / 1600);
        }

        var shown = JsonDocument.Parse(timeline).RootElement.GetProperty("boards")[0];
        var under = JsonDocument.Parse(await student.GetStringAsync($"{files}/{shown.GetProperty("under").GetString()}")).RootElement;
        under.GetProperty("items").GetRawText().ShouldContain("voussoir");
        under.GetProperty("description").GetString().ShouldBe("voussoir. keystone. overit.");
        foreach (var picture in shown.GetProperty("pictures").EnumerateArray().Select(p => p.GetProperty("src").GetString()!))
        {
            page.ShouldNotContain("/under/");
            (await AtAsync(picture, 300, 200)).Green.ShouldBeGreaterThan((byte)150, $"{picture} under the cover");
            (await AtAsync(picture, 1200, 700)).Green.ShouldBeLessThan((byte)60, $"{picture} beside it");
        }

        foreach (var picture in under.GetProperty("pictures").EnumerateArray().Select(p => p.GetProperty("src").GetString()!))
        {
            (await AtAsync(picture, 300, 200)).Green.ShouldBeLessThan((byte)60, picture);
        }
    }

    [Fact]
    public async Task Only_the_newest_version_is_open_unless_one_is_kept_and_all_of_it_closes_at_once()
    {
        await RecordAsync(new ViewMoved(500, board, [0, 0, 16_000]));
        var (_, first) = await PublishAsync();
        using var student = app.CreateClient();
        async Task<HttpStatusCode> StatusAsync(string path) => (await student.GetAsync(path)).StatusCode;
        async Task HoldsAsync(string folder, HttpStatusCode status)
        {
            foreach (var path in new[] { folder, $"{folder}/timeline.json", $"{folder}/voice.m4a", $"{folder}/ink/0.json" })
            {
                (await StatusAsync(path)).ShouldBe(status, path);
            }
        }

        await HoldsAsync(first, HttpStatusCode.OK);
        var cache = (await student.GetAsync($"{first}/timeline.json")).Headers;
        cache.CacheControl!.MaxAge!.Value.TotalMinutes.ShouldBeLessThanOrEqualTo(10);
        using var again = new HttpRequestMessage(HttpMethod.Get, $"{first}/timeline.json");
        again.Headers.IfNoneMatch.Add(cache.ETag!);
        (await student.SendAsync(again)).StatusCode.ShouldBe(HttpStatusCode.NotModified);

        await ida.CallAsync(HttpMethod.Patch, $"{Api}/boards/{board}", new { title = "Section of a dome" });
        var (_, second) = await PublishAsync(2);
        await HoldsAsync(first, HttpStatusCode.Gone);
        (await (await student.GetAsync(first)).Content.ReadAsStringAsync()).ShouldContain("Open the newer version");
        await HoldsAsync(second, HttpStatusCode.OK);
        (await ida.PageAsync($"/lessons/{lesson:N}/publish")).ShouldContain("Keep version 1 open");
        await ida.CallAsync(HttpMethod.Put, $"{Api}/publications/1/kept-open", new { @is = true });
        await HoldsAsync(first, HttpStatusCode.OK);
        (await ida.RefusalAsync(HttpMethod.Put, $"{Api}/publications/9/kept-open", new { @is = true })).ShouldContain("not there");

        await ida.CallAsync(HttpMethod.Post, $"{Api}/withdraw");
        await HoldsAsync(first, HttpStatusCode.Gone);
        await HoldsAsync(second, HttpStatusCode.Gone);
        await ida.CallAsync(HttpMethod.Post, $"{Api}/reopen");
        await HoldsAsync(second, HttpStatusCode.OK);

        // A lesson that is put aside takes its link along, and brings it back.
        await ida.PageAsync("/");
        await ida.FormAsync("/?handler=Delete", ("id", lesson.ToString()));
        await HoldsAsync(first, HttpStatusCode.Gone);
        await HoldsAsync(second, HttpStatusCode.Gone);
        await ida.FormAsync("/?handler=Restore", ("id", lesson.ToString()));
        await HoldsAsync(second, HttpStatusCode.OK);
    }

    [Fact]
    public async Task Search_engines_list_a_lesson_only_if_its_teacher_wants_it()
    {
        await RecordAsync(new ViewMoved(500, board, [0, 0, 16_000]));
        var (page, files) = await PublishAsync();
        page.ShouldContain("noindex");
        await ida.CallAsync(HttpMethod.Put, $"{Api}/findable", new { @is = true });
        using var student = app.CreateClient();
        (await student.GetStringAsync(files[..^2])).ShouldNotContain("noindex");
    }

    [Fact]
    public async Task A_reference_to_a_file_that_the_lesson_does_not_have_is_refused_and_never_a_path()
    {
        var otto = await app.SignInAsync("otto@example.org");
        var other = await otto.CreateLessonAsync("Other");
        using var sent = await otto.UploadAsync(HttpMethod.Post, $"/api/lessons/{other}/attachments", "sheet.txt", "Otto's"u8.ToArray());
        var ottos = JsonDocument.Parse(await sent.Content.ReadAsStringAsync()).RootElement.GetProperty("stored").GetString()!;
        foreach (var stored in new[] { "../../../archtalk.db", "/etc/passwd", "..", "", ottos, Guid.NewGuid().ToString("N"), "x\0y" })
        {
            object[] references = [new { id = Guid
                .NewGuid(), kind = "file", title = "A sheet", address = "", pages = "", note = "", stored, fileName = "../../x.txt" }];
            (await ida.RefusalAsync(HttpMethod.Put, $"{Api}/sections/References", new { content = references, version = 0 })).ShouldContain(
                "A sheet");
        }

        (await ida.Http.GetAsync($"/lessons/{lesson:N}/attachments/{ottos}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Teachers_take_turns_and_a_lessons_own_files_keep_their_order()
    {
        var otto = await app.SignInAsync("otto@example.org");
        var other = await otto.CreateLessonAsync("Other");
        var second = await ida.CreateLessonAsync("Second");
        foreach (var (who, where, name) in new[] {
            (ida, lesson, "a1.png"),
            (ida, lesson, "a2.png"),
            (ida, second, "a3.png"),
            (otto, other, "o1.png") })
        {
            await who.UploadAsync(where, name, Samples.Picture());
        }

        var runner = app.Services.GetRequiredService<JobRunner>();
        await Task.WhenAll(runner.RunNextAsync(CancellationToken.None), runner.RunNextAsync(CancellationToken.None));
        var done = (await app.QueryAsync(db => db.Jobs.Where(j => j.State == JobState.Done).Select(j => j.Title).ToListAsync())).Order(
            StringComparer.Ordinal);
        done.ShouldBe(["a1.png", "o1.png"]);
        await app.RunJobsAsync();
        (await app.QueryAsync(db => db.Boards.Where(b => b.LessonId == lesson).OrderBy(b => b.Order).Select(b => b.Title).ToListAsync())).ShouldBe(
            ["Section", "a1", "a2"]);
    }

    [Fact]
    public async Task What_nobody_refers_to_is_cleared_away_when_the_server_starts()
    {
        var uploads = Directory.CreateDirectory(Path.Combine(app.DataFolder, "lessons", lesson.ToString("N"), "uploads")).FullName;
        var (young, old) = (Path.Combine(uploads, Guid.NewGuid().ToString("N")), Path.Combine(uploads, Guid.NewGuid().ToString("N")));
        foreach (var file in new[] { young, old })
        {
            await File.WriteAllTextAsync(file, "x");
        }

        File.SetLastWriteTimeUtc(old, DateTime.UtcNow.AddDays(-3));
        var work = Directory.CreateDirectory(Path.Combine(app.DataFolder, "lessons", lesson.ToString("N"), "boards", board.ToString("N"), "work-1"))
            .FullName;
        async Task<string> AttachAsync()
        {
            using var sent = await ida.UploadAsync(HttpMethod.Post, $"{Api}/attachments", "sheet.txt", "x"u8.ToArray());
            return JsonDocument.Parse(await sent.Content.ReadAsStringAsync()).RootElement.GetProperty("stored").GetString()!;
        }

        var (kept, lost) = (await AttachAsync(), await AttachAsync());
        object[] references = [new { id = Guid
            .NewGuid(), kind = "file", title = "A sheet", address = "", pages = "", note = "", stored = kept, fileName = "sheet.txt" }];
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/References", new { content = references, version = 0 });
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/References", new { content = Array.Empty<object>(), version = 1 });
        await app.QueryAsync(db => db.Attachments.ExecuteUpdateAsync(s => s.SetProperty(a => a.CreatedAt, DateTimeOffset.UtcNow.AddDays(-3))));
        await app.WithAsync(async s =>
        {
            await s.GetRequiredService<Leftovers>().SweepAsync(CancellationToken.None);
            return true;
        });
        File.Exists(young).ShouldBeTrue();
        File.Exists(old).ShouldBeFalse();
        Directory.Exists(work).ShouldBeFalse();

        // Undo can bring the reference back, so its file stays.
        (await app.QueryAsync(db => db.Attachments.Select(a => a.Id).ToListAsync())).ShouldBe([Guid.ParseExact(kept, "N")]);
        Directory.GetFiles(Path.Combine(app.DataFolder, "lessons", lesson.ToString("N"), "attachments")).Select(f => Path.GetFileName(f)!)
            .ShouldBe([kept]);
        lost.ShouldNotBe(kept);

        // One that is cancelled while it waits leaves nothing at once.
        await ida.UploadAsync(lesson, "a.png", Samples.Picture());
        var job = await app.QueryAsync(db => db.Jobs.SingleAsync(j => j.State == JobState.Waiting));
        await ida.CallAsync(HttpMethod.Post, $"{Api}/jobs/{job.Id}/cancel");
        Directory.GetFiles(uploads).ShouldBe([young]);
    }

    [Fact]
    public async Task A_file_that_stops_its_programs_is_tried_twice_and_given_up_with_the_reason()
    {
        using var strict = new App(("Limits:MemoryMegabytes", "20"));
        var otto = await strict.SignInAsync("ida@example.org");
        var other = await otto.CreateLessonAsync("Dome");
        await otto.UploadAsync(other, "big.png", Samples.Picture(4000, 3000, SkiaSharp.SKColors.Beige));
        await strict.RunJobsAsync();
        var job = await strict.QueryAsync(db => db.Jobs.SingleAsync());
        (job.State, job.Title).ShouldBe((JobState.Failed, "big.png"));
        job.Message.ShouldEndWith(".");
        job.Attempts.ShouldBe(2, job.Message);
        Directory.GetFileSystemEntries(Path.Combine(strict.DataFolder, "lessons", other.ToString("N"), "uploads")).ShouldBeEmpty();
        (await strict.QueryAsync(db => db.Boards.CountAsync())).ShouldBe(0);
    }

    [Fact]
    public async Task A_publication_keeps_its_items_and_files_whatever_is_changed_afterwards()
    {
        object[] items = [new { kind = "label", id = Guid
            .NewGuid(), text = "lantern", x = 10, y = 10, width = 100, height = 50, tipX = 500, tipY = 300 }];
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
