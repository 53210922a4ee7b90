// Files of others stand here as they come, in long lines.
#pragma warning disable RCS0056

using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Jobs;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using SkiaSharp;

namespace ArchTalk.Web.Tests;

/// <summary>What teachers bring: decks, drawings, scans, clips, and files that must not get in.</summary>
public sealed class SourceTests : IAsyncLifetime
{
    private readonly App app = new();
    private Client ida = null!;
    private Guid lesson;

    private string Api => $"/api/lessons/{lesson}";

    public async ValueTask InitializeAsync()
    {
        ida = await app.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Dome");
    }

    public ValueTask DisposeAsync()
    {
        app.Dispose();
        return ValueTask.CompletedTask;
    }

    private static byte[] DemoFile(string name) => File.ReadAllBytes(Repository.DemoFile(name));

    private static byte[] Archive(params (string Name, string Content)[] entries)
    {
        using var stream = new MemoryStream();
        using (var archive = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, content) in entries)
            {
                using var writer = new StreamWriter(archive.CreateEntry(name).Open());
                writer.Write(content);
            }
        }

        return stream.ToArray();
    }

    private async Task<JsonElement> AddAsync(string name, byte[] bytes, App? on = null)
    {
        (await ida.UploadAsync(lesson, name, bytes)).StatusCode.ShouldBe(HttpStatusCode.Accepted);
        await (on ?? app).RunJobsAsync();
        return await ida.CallAsync(HttpMethod.Get, $"{Api}/boards");
    }

    private static string[] Titles(JsonElement boards) => [.. boards.EnumerateArray().Select(b => b.GetProperty("title").GetString()!)];

    [Fact]
    public async Task A_deck_becomes_boards_with_its_titles_notes_links_and_hidden_slides_offered()
    {
        var view = await AddAsync("dome-slides.pptx", DemoFile("dome-slides.pptx"));
        Titles(view.GetProperty("boards")).ShouldBe(["A dome is an arch turned round", "Where stone is pulled", "Three ways to hold the foot"]);
        view.GetProperty("boards")[0].GetProperty("notes").GetString()!.ShouldBe(
            "Turn the paper arch round its keystone while saying it.\nAsk: what has become of the voussoirs? Wait three seconds.");
        view.GetProperty("boards")[1].GetProperty("alternativeText").GetString()!.ShouldContain("chain at its foot");
        view.GetProperty("boards")[0].GetProperty("height").GetInt32().ShouldBe(900);
        view.GetProperty("links")[0].GetProperty("address").GetString().ShouldBe("https://example.org/dome-model");

        // The words of the slide are those the picture shows.
        var first = view.GetProperty("boards")[0].GetProperty("id").GetGuid();
        var words = (await ida.CallAsync(HttpMethod.Get, $"{Api}/boards/{first}/words")).GetProperty("words");
        words.EnumerateArray().Select(w => w.GetProperty("text").GetString()).ShouldContain("hoops.");

        var hidden = view.GetProperty("offered")[0];
        hidden.GetProperty("title").GetString()!.ShouldStartWith("Spare");
        await ida.CallAsync(HttpMethod.Post, $"{Api}/boards/offer", new { ticked = new[] { hidden.GetProperty("id").GetGuid() } });
        await ida.CallAsync(HttpMethod.Post, $"{Api}/links/dismiss", new { address = "https://example.org/dome-model" });
        view = await ida.CallAsync(HttpMethod.Get, $"{Api}/boards");
        view.GetProperty("boards").GetArrayLength().ShouldBe(4);
        view.GetProperty("offered").GetArrayLength().ShouldBe(0);
        view.GetProperty("links").GetArrayLength().ShouldBe(0);
    }

    [Fact]
    public async Task A_server_killed_while_a_deck_is_drawn_leaves_no_half_of_it_and_begins_again()
    {
        (await ida.UploadAsync(lesson, "dome-slides.pptx", DemoFile("dome-slides.pptx"))).StatusCode.ShouldBe(HttpStatusCode.Accepted);
        var runner = app.Services.GetRequiredService<JobRunner>();
        using (var power = new CancellationTokenSource())
        {
            power.CancelAfter(700);
            await runner.RunNextAsync(power.Token).ContinueWith(_ => { }, TaskScheduler.Default);
        }

        (await app.QueryAsync(db => db.Boards.CountAsync())).ShouldBe(0);
        await runner.FreeAbandonedAsync(CancellationToken.None);
        await app.RunJobsAsync();
        (await app.QueryAsync(db => db.Boards.CountAsync())).ShouldBe(4);
        Directory.GetFileSystemEntries(Path.Combine(app.DataFolder, "lessons", lesson.ToString("N"), "uploads")).ShouldBeEmpty();
    }

    [Fact]
    public async Task Without_LibreOffice_or_when_it_hangs_the_lesson_stays_as_it_was()
    {
        var script = StandIn.Program(app.DataFolder, "hanging", "sleep 600");
        foreach (var (program, message) in new[] { ("no-such-office", "Save the deck as a PDF"), (script, "did not finish within 1 seconds") })
        {
            using var other = new App(("Programs:LibreOffice", program), ("Limits:SecondsPerDeck", "1"));
            ida = await other.SignInAsync("ida@example.org");
            lesson = await ida.CreateLessonAsync("Dome");
            await AddAsync("good.png", Samples.Picture(32, 18, SKColors.Beige), other);
            var view = await AddAsync("dome-slides.pptx", DemoFile("dome-slides.pptx"), other);
            Titles(view.GetProperty("boards")).ShouldBe(["good"]);
            view.GetProperty("jobs").EnumerateArray().Single(j => j.GetProperty("state").GetString() == "failed").GetProperty("message").GetString()!
                .ShouldContain(message);
        }
    }

    [Fact]
    public async Task Without_a_box_the_server_says_so_at_start_and_takes_only_what_can_reach_for_nothing()
    {
        using var open = new App(("Box:Program", "no-such-box"));
        ida = await open.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Dome");
        open.Log.ShouldContain(l => l.Contains("PDFs, decks and SVG pictures are refused", StringComparison.Ordinal));
        await AddAsync("good.png", Samples.Picture(32, 18, SKColors.Beige), open);
        await AddAsync("domes.pdf", DemoFile("domes.pdf"), open);
        var view = await AddAsync("dome-slides.pptx", DemoFile("dome-slides.pptx"), open);
        Titles(view.GetProperty("boards")).ShouldBe(["good"]);
        view.GetProperty("jobs").EnumerateArray().Where(j => j.GetProperty("state").GetString() == "failed")
            .Select(j => j.GetProperty("message").GetString()!)
            .ShouldBe(Enumerable.Repeat("PDFs, decks and SVG pictures are not taken here, because the server can't open them safely: bubblewrap is "
                + "not installed or not allowed. Add pages as PNG or JPEG pictures, or ask whoever runs the server; ./demo installs it.", 2));

        using var daring = new App(("Box:Program", "no-such-box"), ("Box:ReadsFilesWithoutIt", "true"));
        ida = await daring.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Dome");
        daring.Log.ShouldContain(l => l.Contains("a hostile file can read", StringComparison.Ordinal));
        (await AddAsync("domes.pdf", DemoFile("domes.pdf"), daring)).GetProperty("boards").GetArrayLength().ShouldBe(2);
    }

    [Fact]
    public async Task While_a_hostile_file_is_worked_on_another_teachers_import_goes_on()
    {
        // A program that hangs stands for every file that takes all the time it is given.
        var script = StandIn.Program(app.DataFolder, "hanging", "sleep 600");
        using var busy = new App(("Programs:LibreOffice", script), ("Limits:SecondsPerDeck", "60"));
        ida = await busy.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Dome");
        var otto = await busy.SignInAsync("otto@example.org");
        var other = await otto.CreateLessonAsync("Other");
        await ida.UploadAsync(lesson, "dome-slides.pptx", DemoFile("dome-slides.pptx"));
        await otto.UploadAsync(other, "good.png", Samples.Picture());
        var runner = busy.Services.GetRequiredService<JobRunner>();
        using var stop = new CancellationTokenSource();
        var held = runner.RunNextAsync(stop.Token);
        (await runner.RunNextAsync(CancellationToken.None)).ShouldBeTrue();
        held.IsCompleted.ShouldBeFalse();
        (await busy.QueryAsync(db => db.Boards.SingleAsync())).Title.ShouldBe("good");
        await stop.CancelAsync();
        await held;
    }

    [Fact]
    public async Task Hostile_and_broken_files_are_named_and_leave_the_lesson_as_it_was()
    {
        var deck = DemoFile("dome-slides.pptx");
        byte[] compound = [0xD0, 0xCF, 0x11, 0xE0, 0xA1, 0xB1, 0x1A, 0xE1];
        (string Name, byte[] Bytes, string Reason)[] files =
        [
            ("cut.pptx", deck[..(deck.Length / 2)], "broken"),
            ("locked.pptx", [.. compound, .. Encoding.Unicode.GetBytes("EncryptedPackage")], "password"),
            ("old.ppt", compound, "old binary format"),
            ("things.zip", Archive(("a.txt", "x")), "not a PPTX or ODP deck"),
            ("bomb.odp", Archive(
                ("mimetype", "application/vnd.oasis.opendocument.presentation"),
                ("content.xml", new string('a', 1_200_000_000 / 400))), "broken"),
            ("entity.svg", Encoding.UTF8.GetBytes(
                """<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg" width="9" height="9">&x;</svg>"""), "document type"),
            ("loop.svg", Encoding.UTF8
                .GetBytes("""<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><g id="a"><use href="#a"/></g></svg>"""), "without end"),
            ("wide.png", Samples.Picture(60_000, 2, SKColors.Beige), "60000 × 2 pixels"),
            ("library.pdf", Samples.Pdf(10_000), "10000 pages; at most 20"),
            ("deck.pptx", Encoding.UTF8.GetBytes("just words"), "whatever its name says"),
            ("film.mp4", [0, 0, 0, 24, .. "ftypisom"u8, 0, 0, 0, 0], "MP4, WebM, MP3 or WAV"),
            ("nothing.odp", [], "empty"),
        ];
        await AddAsync("good.png", Samples.Picture(32, 18, SKColors.Beige));
        foreach (var (name, bytes, reason) in files)
        {
            var view = await AddAsync(name, bytes);
            Titles(view.GetProperty("boards")).ShouldBe(["good"], name);
            view.GetProperty("jobs").EnumerateArray().Single(j => j.GetProperty("title").GetString() == name).GetProperty("message").GetString()!
                .ShouldContain(reason, Case.Sensitive, name);
        }

        Directory.GetFileSystemEntries(Path.Combine(app.DataFolder, "lessons", lesson.ToString("N"), "uploads")).ShouldBeEmpty();
        Directory.GetDirectories(Path.Combine(app.DataFolder, "lessons", lesson.ToString("N"), "boards")).Length.ShouldBe(1);
    }

    [Fact]
    public async Task A_deck_that_grows_beyond_the_limit_is_refused()
    {
        using var small = new App(("Limits:ArchiveBytes", "100000"));
        ida = await small.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Dome");
        var view = await AddAsync("bomb.pptx", Archive(("ppt/presentation.xml", new string('a', 3_000_000))), small);
        view.GetProperty("jobs")[0].GetProperty("message").GetString()!.ShouldContain("grows beyond");
    }

    [Fact]
    public async Task An_SVG_is_kept_without_what_acts_and_served_so_that_it_can_do_nothing()
    {
        var svg = """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 160 90"><script>alert(1)</script><rect width="80" height="90" onclick="x()" fill="red"/></svg>""";
        var board = (await AddAsync("drawing.svg", Encoding.UTF8.GetBytes(svg))).GetProperty("boards")[0];
        var sharp = board.GetProperty("large").GetString()!;
        sharp.ShouldEndWith(".svg");
        using var answer = await ida.Http.GetAsync(sharp);
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("image/svg+xml");
        answer.Headers.GetValues("Content-Security-Policy").Single()
            .ShouldBe("default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox");
        var text = await answer.Content.ReadAsStringAsync();
        text.ShouldContain("rect");
        text.ShouldNotContain("script");
        text.ShouldNotContain("onclick");
        board.GetProperty("small").GetString()!.ShouldEndWith("small.jpg");
    }

    [Fact]
    public async Task A_photographed_page_is_set_right_and_its_words_are_read()
    {
        var board = (await AddAsync("workbook-page.jpg", DemoFile("workbook-page.jpg"))).GetProperty("boards")[0];
        var path = $"{Api}/boards/{board.GetProperty("id").GetGuid()}";
        board.GetProperty("canBeScanned").GetBoolean().ShouldBeTrue();
        var proposal = await ida.CallAsync(HttpMethod.Get, $"{path}/scan/proposal");
        proposal.GetProperty("corners").GetProperty("topLeft").GetProperty("x").GetDouble().ShouldBeInRange(0.01, 0.2);
        proposal.GetProperty("degrees").GetDouble().ShouldBe(0, 0.4, "its corners put it straight");
        proposal.GetProperty("raisesContrast").GetBoolean().ShouldBeTrue();
        var set = await ida.CallAsync(HttpMethod.Put, $"{path}/scan", proposal);
        set.GetProperty("large").GetString()
            .ShouldNotBe(board.GetProperty("large").GetString(), "browsers keep what they were sent, so a new picture has a new name");
        await app.RunJobsAsync();

        var words = await ida.CallAsync(HttpMethod.Get, $"{path}/words");
        words.GetProperty("reading").GetProperty("state").GetString().ShouldBe("done");
        var read = string.Join(' ', words.GetProperty("words").EnumerateArray().Select(w => w.GetProperty("text").GetString()));
        read.ShouldContain("A dome can be cut into rings lying level, called hoops.");
        words.GetProperty("words")[0].GetProperty("confidence").GetInt32().ShouldBeInRange(40, 100);
        (await ida.RefusalAsync(
            HttpMethod.Put,
            $"{path}/scan",
            new { turn = 0, degrees = 40, left = 0, top = 0, right = 0, bottom = 0, raisesContrast = false }))
            .ShouldContain("quarter");
    }

    [Fact]
    public async Task A_reading_that_hangs_is_told_and_leaves_the_board_alone()
    {
        var script = StandIn.Program(app.DataFolder, "slow-reader", "[ \"$1\" = --list-langs ] && { printf 'List\\neng\\n'; exit; }\nsleep 600");
        using var slow = new App(("Programs:Tesseract", script), ("Limits:SecondsPerReading", "1"));
        ida = await slow.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Dome");
        var board = (await AddAsync("page.png", Samples.Picture(320, 180, SKColors.Beige), slow)).GetProperty("boards")[0];
        var words = await ida.CallAsync(HttpMethod.Get, $"{Api}/boards/{board.GetProperty("id").GetGuid()}/words");
        words.GetProperty("words").GetArrayLength().ShouldBe(0);
        words.GetProperty("reading").GetProperty("message").GetString()!.ShouldContain("did not finish within 1 seconds");
    }

    [Fact]
    public async Task A_newer_picture_keeps_everything_on_the_board_and_a_bad_one_changes_nothing()
    {
        var board = (await AddAsync("old.png", Samples.Picture(320, 180, SKColors.Beige))).GetProperty("boards")[0];
        var path = $"{Api}/boards/{board.GetProperty("id").GetGuid()}";
        await ida.CallAsync(
            HttpMethod.Put,
            $"{path}/items",
            new { content = new[] { new { kind = "cover", id = Guid.NewGuid(), x = 10, y = 10, width = 100, height = 50 } }, version = 0 });
        await ida.CallAsync(HttpMethod.Patch, path, new { notes = "Say it slowly." });
        using (var bad = await ida.UploadAsync(HttpMethod.Put, $"{path}/picture", "new.pdf", Samples.Pdf(1)))
        {
            bad.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            (await bad.Content.ReadAsStringAsync()).ShouldContain("The old picture was kept");
        }

        (await ida.CallAsync(HttpMethod.Get, path)).GetProperty("medium").GetString().ShouldBe(board.GetProperty("medium").GetString());
        using var good = await ida.UploadAsync(HttpMethod.Put, $"{path}/picture", "new.png", Samples.Picture(320, 400, SKColors.DarkRed));
        good.StatusCode.ShouldBe(HttpStatusCode.OK);
        var after = await ida.CallAsync(HttpMethod.Get, path);
        after.GetProperty("height").GetInt32().ShouldBe(2000);
        after.GetProperty("notes").GetString().ShouldBe("Say it slowly.");
        (await ida.CallAsync(HttpMethod.Get, $"{path}/items")).GetProperty("drawings").GetArrayLength().ShouldBe(1);
        using var picture = SKBitmap.Decode(await ida.Http.GetByteArrayAsync(after.GetProperty("medium").GetString()));
        picture.GetPixel(5, 5).Red.ShouldBeInRange((byte)130, (byte)148);
    }

    [Fact]
    public async Task Two_pictures_are_put_beside_each_other_after_the_first()
    {
        await AddAsync("left.png", Samples.Picture(320, 180, SKColors.DarkRed));
        var boards = (await AddAsync("right.png", Samples.Picture(320, 180, SKColors.DarkGreen))).GetProperty("boards");
        Guid Id(int i) => boards[i].GetProperty("id").GetGuid();
        await ida.CallAsync(HttpMethod.Post, $"{Api}/boards/side-by-side", new { left = Id(0), right = Id(1) });
        Titles((await ida.CallAsync(HttpMethod.Get, $"{Api}/boards")).GetProperty("boards")).ShouldBe(["left", "left | right", "right"]);
        var empty = await ida.CallAsync(HttpMethod.Post, $"{Api}/boards", new { title = "empty" });
        (await ida.RefusalAsync(HttpMethod.Post, $"{Api}/boards/side-by-side", new { left = Id(0), right = empty.GetProperty("id").GetGuid() }))
            .ShouldContain("with a picture");
    }

    [Fact]
    public async Task A_sound_becomes_a_media_board_whose_start_and_end_can_be_set()
    {
        var wav = new MemoryStream();
        using (var writer = new BinaryWriter(wav, Encoding.ASCII, leaveOpen: true))
        {
            var data = new byte[48_000 * 2];
            writer.Write([.. "RIFF"u8, .. BitConverter.GetBytes(36 + data.Length), .. "WAVEfmt "u8, .. BitConverter.GetBytes(16), 1, 0, 1, 0]);
            writer.Write([.. BitConverter.GetBytes(48_000), .. BitConverter.GetBytes(96_000), 2, 0, 16, 0, .. "data"u8, .. BitConverter.GetBytes(
                data.Length), .. data]);
        }

        var board = (await AddAsync("bell.wav", wav.ToArray())).GetProperty("boards")[0];
        board.GetProperty("kind").GetString().ShouldBe("clip");
        board.GetProperty("clip").GetProperty("lengthMs").GetInt32().ShouldBeInRange(990, 1010);
        var path = $"{Api}/boards/{board.GetProperty("id").GetGuid()}";
        await ida.CallAsync(HttpMethod.Patch, path, new { clipStartMs = 200, clipEndMs = 700 });
        (await ida.CallAsync(HttpMethod.Get, path)).GetProperty("clip").GetProperty("endMs").GetInt32().ShouldBe(700);
        (await ida.RefusalAsync(HttpMethod.Patch, path, new { clipStartMs = 900 })).ShouldContain("end after it starts");
        using var part = new HttpRequestMessage(HttpMethod.Get, $"/lessons/{lesson:N}/boards/{board.GetProperty("id").GetGuid():N}/clip.webm");
        part.Headers.Range = new(0, 99);
        (await ida.Http.SendAsync(part)).StatusCode.ShouldBe(HttpStatusCode.PartialContent);
    }

    [Fact]
    public async Task The_first_pages_can_be_seen_while_the_rest_is_made_and_cancelling_leaves_none()
    {
        (await ida.UploadAsync(lesson, "pages.pdf", Samples.Pdf(20))).StatusCode.ShouldBe(HttpStatusCode.Accepted);
        var running = app.Services.GetRequiredService<JobRunner>().RunNextAsync(CancellationToken.None);
        JsonElement job;
        do
        {
            await Task.Delay(20);
            job = (await ida.CallAsync(HttpMethod.Get, $"{Api}/boards")).GetProperty("jobs").EnumerateArray().FirstOrDefault();
        }
        while (!running.IsCompleted && (job.ValueKind == JsonValueKind.Undefined || job.GetProperty("pictures").GetArrayLength() == 0));

        running.IsCompleted.ShouldBeFalse("the first page was seen before the last was made");
        (await ida.Http.GetAsync(job.GetProperty("pictures")[0].GetString())).StatusCode.ShouldBe(HttpStatusCode.OK);
        await ida.CallAsync(HttpMethod.Post, $"{Api}/jobs/{job.GetProperty("id").GetGuid()}/cancel");
        await running;
        (await app.QueryAsync(db => db.Jobs.SingleAsync(j => j.Kind == JobKind.Import))).State.ShouldBeOneOf(JobState.Cancelled, JobState.Done);
        var count = await app.QueryAsync(db => db.Boards.CountAsync());
        count.ShouldBeOneOf(0, 20);
    }
}
