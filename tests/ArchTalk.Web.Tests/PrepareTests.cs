using System.Net;
using System.Text;
using System.Text.Json;

namespace ArchTalk.Web.Tests;

/// <summary>What is prepared on boards and beside them.</summary>
public sealed class PrepareTests : IAsyncLifetime
{
    private readonly App app = new();
    private Client ida = null!;
    private Guid lesson;
    private Guid board;

    private string Api => $"/api/lessons/{lesson}";

    private string Items => $"{Api}/boards/{board}/items";

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

    private static object Label(string text, int x, int y, Guid? term = null) =>
        new { id = Guid.NewGuid(), text, x, y, width = 100, height = 60, tipX = 800, tipY = 450, termId = term, kind = "label" };

    private static object Cover(int x) => new { kind = "cover", id = Guid.NewGuid(), x, y = 10, width = 100, height = 50 };

    private Task<JsonElement> SaveAsync(int version, params object[] content) => ida.CallAsync(HttpMethod.Put, Items, new { content, version });

    private static int Count(JsonElement view) => view.GetProperty("content").GetArrayLength();

    [Fact]
    public async Task Items_are_drawn_and_undo_and_redo_survive_a_reload()
    {
        await SaveAsync(0, Cover(10));
        var two = await SaveAsync(1, Cover(10), Label("hoop", 200, 200));
        two.GetProperty("drawings").GetArrayLength().ShouldBe(2);
        two.GetProperty("content")[1].GetProperty("width").GetDouble().ShouldNotBe(100, "a label is as wide as its words");

        Count(await ida.CallAsync(HttpMethod.Get, Items)).ShouldBe(2);
        Count(await ida.CallAsync(HttpMethod.Post, $"{Items}/undo", new { version = 2 })).ShouldBe(1);
        var reloaded = await ida.CallAsync(HttpMethod.Get, Items);
        reloaded.GetProperty("canRedo").GetBoolean().ShouldBeTrue();
        Count(await ida.CallAsync(HttpMethod.Post, $"{Items}/redo", new { version = 1 })).ShouldBe(2);
    }

    [Fact]
    public async Task Another_window_and_bad_items_change_nothing()
    {
        await SaveAsync(0, Cover(10));
        (await ida.RefusalAsync(HttpMethod.Put, Items, new { content = Array.Empty<object>(), version = 0 })).ShouldContain("another window");
        (await ida.RefusalAsync(HttpMethod.Put, Items, new { content = new[] { new { kind = "robot", id = Guid.NewGuid() } }, version = 1 }))
            .ShouldContain("could not be read");
        (await ida.RefusalAsync(HttpMethod.Put, Items, new { content = new[] { new { id = Guid.NewGuid() } }, version = 1 })).ShouldContain(
            "could not be read");
        (await ida.RefusalAsync(
            HttpMethod.Put,
            Items.Replace(board.ToString(), Guid.NewGuid().ToString(), StringComparison.Ordinal),
            new { content = Array.Empty<object>(), version = 0 }))
            .ShouldContain("not there any more");
        (await ida.RefusalAsync(HttpMethod.Put, $"{Api}/sections/Items", new { content = Array.Empty<object>(), version = 0 })).ShouldContain(
            "Open the board");
        Count(await ida.CallAsync(HttpMethod.Get, Items)).ShouldBe(1);
    }

    // Found in the running application: one wrong value silently held up everything that was put on the board after it.
    [Fact]
    public async Task A_wrong_item_is_kept_as_typed_is_told_and_holds_up_no_other()
    {
        var clock = new
        {
            kind = "figure",
            id = Guid.NewGuid(),
            x = 10,
            y = 10,
            width = 400,
            height = 400,
            figure = new { figure = "clock", hour = 24, minute = 5 },
            typed = new Dictionary<string, string> { ["figure.minute"] = "soon" },
        };
        var view = await SaveAsync(0, clock, Label(" ", 0, 0), Label("hoop", 200, 600));
        Count(view).ShouldBe(3);
        view.GetProperty("content")[0].GetProperty("figure").GetProperty("hour").GetInt32().ShouldBe(24);
        view.GetProperty("content")[0].GetProperty("typed").GetProperty("figure.minute").GetString().ShouldBe("soon");
        view.GetProperty("notices").EnumerateObject().Select(n => n.Value.GetString()!).ShouldBe(
            ["“soon” under “Minute” can't be read. Type a whole number such as 7. Until then the figure keeps what it had there.", "A label has no "
                + "words. Type what the part is called, or remove the label."], ignoreOrder: true);
        Count(await ida.CallAsync(HttpMethod.Get, Items)).ShouldBe(3, "after a reload too");

        // Everybody but the teacher sees what is right.
        (await ida.Http.GetStringAsync($"/lessons/{lesson}/boards/{board}/items.svg")).ShouldContain("hoop");
        (await ida.Http.GetStringAsync($"/lessons/{lesson}/publish")).ShouldContain("2 items on your boards can&#x27;t be shown and are left out");

        // Copying takes them along as they are, and a mended one is right again.
        var other = (await ida.CallAsync(HttpMethod.Post, $"{Api}/boards", new { title = "Other" })).GetProperty("id").GetGuid();
        await ida.CallAsync(HttpMethod.Post, $"{Items}/copy", new { ids = new[] { clock.id }, to = new[] { other } });
        Count(await ida.CallAsync(HttpMethod.Get, $"{Api}/boards/{other}/items")).ShouldBe(1);
        var mended = await SaveAsync(1, new
        {
            clock.kind,
            clock.id,
            clock.x,
            clock.y,
            clock.width,
            clock
            .height,
            figure = new { figure = "clock", hour = 2, minute = 5 },
            typed = new Dictionary<string, string> { ["figure.hour"] = "3" }
        });
        mended.GetProperty("notices").EnumerateObject().ShouldBeEmpty();
        mended.GetProperty("content")[0].GetProperty("figure").GetProperty("hour").GetInt32().ShouldBe(3);
    }

    [Fact]
    public async Task A_board_is_lengthened_and_shortened_to_what_is_on_it()
    {
        var address = $"{Api}/boards/{board}/height";
        async Task<int> Height(int? height) => (await ida.CallAsync(HttpMethod.Put, address, new { height })).GetProperty("height").GetInt32();
        (await Height(2000)).ShouldBe(2000);
        await SaveAsync(0, new { kind = "cover", id = Guid.NewGuid(), x = 10, y = 1100, width = 100, height = 50 });
        (await Height(null)).ShouldBe(1190, "with a little room below the lowest item");
        await SaveAsync(1);
        (await Height(null)).ShouldBe(900, "a slide at least");
        (await ida.RefusalAsync(HttpMethod.Put, address, new { height = 30_000 })).ShouldContain("can't be longer than 22 slides");
    }

    [Fact]
    public async Task A_board_of_labels_gets_an_unlabelled_copy_with_numbers()
    {
        (await ida.RefusalAsync(HttpMethod.Post, $"{Api}/boards/{board}/unlabelled")).ShouldContain("no labels yet");
        var view = await SaveAsync(0, Label("hoop", 100, 300), Label("lantern", 900, 100));
        view.GetProperty("labels").EnumerateArray().Select(l => (l.GetProperty("number").GetInt32(), l.GetProperty("text").GetString()))
            .ShouldBe([(1, "hoop"), (2, "lantern")]);

        var copy = (await ida.CallAsync(HttpMethod.Post, $"{Api}/boards/{board}/unlabelled")).GetProperty("id").GetGuid();
        var drawings = (await ida.CallAsync(HttpMethod.Get, $"{Api}/boards/{copy}/items")).GetProperty("drawings");
        string[] shown = [.. drawings.EnumerateArray().SelectMany(d => d.GetProperty("drawing").GetProperty("shapes").EnumerateArray())
            .Where(s => s.GetProperty("is").GetString() == "text").Select(s => s.GetProperty("text").GetString()!)];
        shown.ShouldBe(["1", "2"]);
        var picture = await ida.Http.GetStringAsync($"/lessons/{lesson:N}/boards/{copy:N}/items.svg");
        picture.ShouldNotContain("lantern");
        (await ida.CallAsync(HttpMethod.Get, $"{Api}/boards")).GetProperty("boards")[1].GetProperty("id").GetGuid()
            .ShouldBe(copy, "it comes right after its original");
    }

    [Fact]
    public async Task A_clean_copy_and_an_empty_board_come_right_after_a_board()
    {
        await ida.CallAsync(HttpMethod.Post, $"{Api}/boards", new { title = "Last" });
        await SaveAsync(0, Label("hoop", 100, 300), Cover(10));
        var copy = (await ida.CallAsync(HttpMethod.Post, $"{Api}/boards/{board}/clean-copy")).GetProperty("id").GetGuid();
        var empty = (await ida.CallAsync(HttpMethod.Post, $"{Api}/boards/{copy}/empty-after")).GetProperty("id").GetGuid();
        var all = (await ida.CallAsync(HttpMethod.Get, $"{Api}/boards")).GetProperty("boards").EnumerateArray().ToArray();
        all.Select(b => b.GetProperty("id").GetGuid()).Take(3).ShouldBe([board, copy, empty]);
        all[1].GetProperty("title").GetString().ShouldEndWith("(clean)");
        all[2].GetProperty("kind").GetString().ShouldBe("empty");
        async Task<string[]> IdsAsync(Guid of) => [.. (await ida.CallAsync(HttpMethod.Get, $"{Api}/boards/{of}/items")).GetProperty("content")
            .EnumerateArray().Select(i => i.GetProperty("id").GetString()!)];
        (await IdsAsync(copy)).Length.ShouldBe(2);
        (await IdsAsync(copy)).Intersect(await IdsAsync(board)).ShouldBeEmpty("items of their own");
        (await ida.RefusalAsync(HttpMethod.Post, $"{Api}/boards/{Guid.NewGuid()}/clean-copy")).ShouldContain("not there any more");
    }

    [Fact]
    public async Task Items_are_copied_to_other_boards_under_identities_of_their_own()
    {
        var other = (await ida.CallAsync(HttpMethod.Post, $"{Api}/boards", new { title = "Other" })).GetProperty("id").GetGuid();
        var view = await SaveAsync(0, Cover(10), Cover(300));
        var id = view.GetProperty("content")[1].GetProperty("id").GetGuid();
        await ida.CallAsync(HttpMethod.Post, $"{Items}/copy", new { ids = new[] { id }, to = new[] { other, board } });
        var copied = (await ida.CallAsync(HttpMethod.Get, $"{Api}/boards/{other}/items")).GetProperty("content");
        copied.GetArrayLength().ShouldBe(1);
        copied[0].GetProperty("x").GetDouble().ShouldBe(300);
        copied[0].GetProperty("id").GetGuid().ShouldNotBe(id);
        Count(await ida.CallAsync(HttpMethod.Get, Items)).ShouldBe(2);
    }

    [Fact]
    public async Task How_students_see_a_board_is_told_for_both_screens()
    {
        await SaveAsync(0, new
        {
            kind = "text",
            id = Guid.NewGuid(),
            x = 100,
            y = 100,
            width = 900,
            height = 90,
            size = "small",
            paragraphs = new[] {
            new[] { new { text = "Load" } } }
        });
        var seen = await ida.CallAsync(HttpMethod.Get, $"{Api}/boards/{board}/seen");
        seen.EnumerateArray().Select(s => s.GetProperty("screen").GetProperty("name").GetString()).ShouldBe(["phone", "laptop"]);
        seen[0].GetProperty("smallestMinutes").GetDouble().ShouldBeInRange(16, 18);
        seen[0].GetProperty("groups").GetArrayLength().ShouldBe(0);
        seen[0].GetProperty("smallest").GetString().ShouldNotBeNull().ShouldContain("16′ needed");
    }

    [Fact]
    public async Task Vocabulary_comes_from_lines_cells_and_files_and_goes_out_again()
    {
        var terms = $"{Api}/terms";
        await ida.CallAsync(HttpMethod.Post, $"{terms}/add", new { lines = "voussoir /vuːˈswɑː/ (noun): a wedge\nkeystone", version = 0 });
        await ida.CallAsync(
            HttpMethod.Post,
            $"{terms}/add",
            new { lines = "word\ttranslation de\narch\tder Bogen\nkeystone\tder Schlussstein", version = 1 });
        var sorted = (await ida.CallAsync(HttpMethod.Post, $"{terms}/sort", new { version = 2 })).GetProperty("content");
        sorted.EnumerateArray().Select(t => t.GetProperty("word").GetString()).ShouldBe(["arch", "keystone", "voussoir"]);
        sorted[1].GetProperty("translations")[0].GetProperty("text").GetString().ShouldBe("der Schlussstein");

        var tbx = await ida.Http.GetByteArrayAsync($"/lessons/{lesson:N}/vocabulary.tbx");
        var csv = await ida.Http.GetStringAsync($"/lessons/{lesson:N}/vocabulary.csv");
        csv.ShouldContain("arch");
        foreach (var file in new[] { tbx, Encoding.UTF8.GetBytes(csv) })
        {
            var other = await ida.CreateLessonAsync("Again");
            using var answer = await ida.UploadAsync(HttpMethod.Post, $"/api/lessons/{other}/terms/import?version=0", "list", file);
            var said = await answer.Content.ReadAsStringAsync();
            answer.StatusCode.ShouldBe(HttpStatusCode.OK, said);
            var read = JsonDocument.Parse(said).RootElement.GetProperty("content");
            said.ShouldContain("3 words taken in: 3 new");
            read.EnumerateArray().Select(t => t.GetProperty("word").GetString()).ShouldBe(["arch", "keystone", "voussoir"]);
            read[2].GetProperty("reading").GetString().ShouldBe("/vuːˈswɑː/");
            read[2].GetProperty("partOfSpeech").GetString().ShouldBe("noun");
        }

        (await ida.RefusalAsync(HttpMethod.Post, $"{terms}/add", new { lines = " ", version = 3 })).ShouldContain("nothing to add");
        using var bad = await ida.UploadAsync(HttpMethod.Post, $"{terms}/import?version=3", "list", [0xFF, 0xFE, 0x41]);
        (await bad.Content.ReadAsStringAsync()).ShouldContain("UTF-8");
    }

    [Fact]
    public async Task Earlier_lessons_of_the_unit_lend_their_words_and_places_are_found_on_boards()
    {
        using (await ida.FormAsync("/?handler=CreateUnit", ("title", "How buildings stand")))
        {
        }

        var unit = (await app.QueryAsync(db => Task.FromResult(db.Units.Single().Id))).ToString();
        var later = await ida.CreateLessonAsync("Vaults");
        using (await ida.FormAsync("/?handler=MoveToUnit", ("id", lesson.ToString()), ("unit", unit)))
        using (await ida.FormAsync("/?handler=MoveToUnit", ("id", later.ToString()), ("unit", unit)))
        {
        }

        var term = (await ida.CallAsync(HttpMethod.Post, $"{Api}/terms/add", new { lines = "hoop: a ring", version = 0 })).GetProperty("content")[0]
            .GetProperty("id")
            .GetGuid();
        var earlier = await ida.CallAsync(HttpMethod.Get, $"/api/lessons/{later}/terms/earlier");
        earlier[0].GetProperty("lesson").GetString().ShouldBe("Dome");
        earlier[0].GetProperty("term").GetProperty("word").GetString().ShouldBe("hoop");
        (await ida.CallAsync(HttpMethod.Get, $"{Api}/terms/earlier")).GetArrayLength().ShouldBe(0);

        await SaveAsync(0, Label("hoop", 100, 100, term), Label("rib", 900, 100));
        var place = (await ida.CallAsync(HttpMethod.Get, $"{Api}/terms/places"))[0];
        place.GetProperty("termId").GetGuid().ShouldBe(term);
        place.GetProperty("board").GetString().ShouldBe("Section");
        place.GetProperty("number").GetInt32().ShouldBe(1);
        (await ida.PageAsync($"/lessons/{later:N}/prepare")).ShouldContain("Lesson 2 of 2 in How buildings stand");
    }

    [Fact]
    public async Task A_file_to_download_is_kept_with_the_lesson_and_only_there()
    {
        using var sent = await ida.UploadAsync(HttpMethod.Post, $"{Api}/attachments", "sheet <b>.html", "<script>alert(1)</script>"u8.ToArray());
        var file = JsonDocument.Parse(await sent.Content.ReadAsStringAsync()).RootElement;
        var stored = file.GetProperty("stored").GetString();
        (await ida.Http.GetAsync($"/lessons/{lesson:N}/attachments/{stored}")).StatusCode
            .ShouldBe(HttpStatusCode.NotFound, "no reference points at it yet");
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/References", new
        {
            content = new[] { new { id = Guid.NewGuid(), kind = "file", title = "Sheet", address = "", pages = "", note = "", stored, fileName = file
                .GetProperty("fileName")
                .GetString() } },
            version = 0,
        });
        using var answer = await ida.Http.GetAsync($"/lessons/{lesson:N}/attachments/{stored}");
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("application/octet-stream");
        answer.Content.Headers.ContentDisposition!.DispositionType.ShouldBe("attachment");
        var otto = await app.SignInAsync("otto@example.org");
        (await otto.Http.GetAsync($"/lessons/{lesson:N}/attachments/{stored}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await ida.Http.GetAsync($"/lessons/{lesson:N}/attachments/..%2F..%2Farchtalk.db")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Details_are_kept_and_checked_and_the_board_page_opens()
    {
        await ida.CallAsync(
            HttpMethod.Put,
            $"{Api}/sections/Details",
            new { content = new { language = "de", agenda = new[] { "Rings", " " } }, version = 0 });
        var details = (await ida.CallAsync(HttpMethod.Get, $"{Api}/sections/Details")).GetProperty("content");
        details.GetProperty("agenda").GetArrayLength().ShouldBe(1);
        (await ida.RefusalAsync(HttpMethod.Put, $"{Api}/sections/Details", new { content = new { language = "no such language" }, version = 1 }))
            .ShouldContain("language tag");
        (await ida.PageAsync($"/lessons/{lesson:N}/prepare/{board:N}")).ShouldContain("1 of 1");
        (await ida.Http.GetAsync($"/lessons/{lesson:N}/prepare/{Guid.NewGuid():N}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }
}
