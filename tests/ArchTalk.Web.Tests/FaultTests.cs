using System.Net;
using System.Text.Json;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Setup;
using Microsoft.AspNetCore.Http;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Tests;

/// <summary>What goes wrong, as a person is told it.</summary>
public sealed class FaultTests
{
    public static TheoryData<Exception, int, string> Exceptions => new()
    {
        { new IOException("No space left on device : '/srv/data/x'", 28), 507, "disk is full" },
        { new IOException("Read-only file system : '/srv/data/x'", 30), 507, "may not write" },
        { new UnauthorizedAccessException("Access to the path '/srv/data/x' is denied."), 507, "may not write" },
        { new SqliteException("database is locked", 5), 503, "busy" },
        { new SqliteException("database or disk is full", 13), 507, "disk is full" },
        { new SqliteException("attempt to write a readonly database", 8), 507, "may not write" },
        { new DbUpdateException("x", new SqliteException("database is locked", 5)), 503, "busy" },
        { new BadHttpRequestException("Request body too large.", 413), 413, "larger than" },
        { new BadHttpRequestException("Failed to read parameter", 400), 400, "could not be read" },
        { new MediaException("The picture is broken."), 422, "The picture is broken." },
        { new Refusal("There is nothing."), 422, "There is nothing." },
        { new InvalidOperationException("/srv/data/x at ArchTalk.Web"), 500, "could not do that" },
    };

    [Theory]
    [MemberData(nameof(Exceptions))]
    public void Every_fault_has_a_status_and_words_without_paths(Exception exception, int status, string words)
    {
        var fault = Fault.Of(exception);
        fault.Status.ShouldBe(status);
        fault.Message.ShouldContain(words);
        fault.Message.ShouldNotContain("/srv");
        fault.Message.ShouldEndWith(".");
    }

    [Fact]
    public void What_nobody_can_see_is_taken_out_of_what_was_typed()
    {
        TypedContent.Clean("an\u0000 arch\u0007\n\tand a \ud83d\ude00\ufffe").ShouldBe("an arch\n\tand a \ud83d\ude00");
        using var json = JsonDocument.Parse("""{"a":["x\u0001",1,true,null]}""");
        Should.Throw<Refusal>(() => TypedContent.Clean(json.RootElement)).Message.ShouldContain("nothing was changed");
        using var many = JsonDocument.Parse("[" + string.Join(',', Enumerable.Repeat("0", 200_000)) + "]");
        Should.Throw<Refusal>(() => TypedContent.Clean(many.RootElement)).Message.ShouldContain("more in it than can be kept");
    }

    [Fact]
    public async Task A_picture_that_can_not_be_read_leaves_the_old_one_and_says_why()
    {
        using var app = new App();
        var ida = await app.SignInAsync("ida@example.org");
        var lesson = await ida.CreateLessonAsync("Arch");
        var board = (await ida.CallAsync(HttpMethod.Post, $"/api/lessons/{lesson}/boards", new { title = "x" })).GetProperty("id").GetGuid();
        using var refused = await ida.UploadAsync(
            HttpMethod.Put,
            $"/api/lessons/{lesson}/boards/{board}/picture",
            "broken.png",
            Samples.Picture()[..60]);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await refused.Content.ReadAsStringAsync()).ShouldContain("The picture is broken");
        (await app.QueryAsync(db => db.Boards.SingleAsync())).Pictures.ShouldBeEmpty();
        Directory.GetDirectories(Path.Combine(app.DataFolder, "lessons", lesson.ToString("N"), "boards", board.ToString("N"))).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_folder_that_became_read_only_and_an_upload_that_is_too_large_are_told_in_words()
    {
        using var app = new App(("Limits:FileBytes", "1000"));
        var ida = await app.SignInAsync("ida@example.org");
        var lesson = await ida.CreateLessonAsync("Arch");
        using var large = await ida.UploadAsync(lesson, "large.png", new byte[5000]);
        large.StatusCode.ShouldBe(HttpStatusCode.RequestEntityTooLarge);
        (await large.Content.ReadAsStringAsync()).ShouldContain("large.png");

        // A file stands where the folder should be made.
        var place = Path.Combine(app.DataFolder, "lessons", lesson.ToString("N"));
        Directory.CreateDirectory(Path.GetDirectoryName(place)!);
        await File.WriteAllTextAsync(place, "x");
        using var refused = await ida.UploadAsync(lesson, "small.png", new byte[500]);
        ((int)refused.StatusCode).ShouldBeGreaterThanOrEqualTo(500);
        var text = await refused.Content.ReadAsStringAsync();
        text.ShouldNotContain(app.DataFolder);
        JsonDocument.Parse(text).RootElement.GetProperty("message").GetString()!.ShouldContain("What was saved before is kept.");
    }
}
