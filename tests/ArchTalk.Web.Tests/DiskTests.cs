using System.Net;
using ArchTalk.Data.Files;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Lessons;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using SkiaSharp;

namespace ArchTalk.Web.Tests;

/// <summary>What a lesson takes on the disk (row C12).</summary>
public sealed class DiskTests : IAsyncLifetime
{
    private readonly App app = new();
    private Client ida = null!;
    private Guid lesson;

    private string Api => $"/api/lessons/{lesson}";

    private LessonFiles Files => app.Services.GetRequiredService<LessonFiles>();

    public async ValueTask InitializeAsync()
    {
        ida = await app.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Arch");
        await ida.UploadAsync(lesson, "pages.pdf", Samples.Pdf(2));
        await app.RunJobsAsync();
        await Samples.RecordAsync(app, ida, lesson);
    }

    public ValueTask DisposeAsync()
    {
        app.Dispose();
        return ValueTask.CompletedTask;
    }

    private Task<DiskUse> UseAsync() => app.WithAsync(s => s.GetRequiredService<DiskService>().UseAsync(lesson, default));

    private async Task<Guid> BoardAsync() =>
        (await ida.CallAsync(HttpMethod.Get, $"{Api}/boards")).GetProperty("boards")[0].GetProperty("id").GetGuid();

    private async Task PublishAsync()
    {
        await ida.CallAsync(HttpMethod.Post, $"{Api}/publish");
        await app.RunJobsAsync();
    }

    [Fact]
    public async Task A_publication_takes_no_room_for_pictures_and_voice_that_are_there_already()
    {
        await PublishAsync();
        var use = await UseAsync();
        long Of(string name) => use.Parts.Single(p => p.Name == name).Bytes;

        Of("Recording").ShouldBeGreaterThan(2 * 96_000);
        Of("Boards").ShouldBeGreaterThan(10_000);
        Of("The voice as students hear it").ShouldBeGreaterThan(1000);
        Of("Versions published").ShouldBeLessThan(20_000, "its own are the timeline, the ink, words");
        var page = await ida.PageAsync($"/lessons/{lesson}/disk");
        page.ShouldContain("This lesson takes");
        page.ShouldContain("1 take");
        page.ShouldContain("Nothing. Takes and boards");
    }

    [Fact]
    public async Task What_was_put_aside_goes_for_good_when_asked_and_nothing_else_does()
    {
        await PublishAsync();
        var take = await app.QueryAsync(db => db.Takes.Where(t => t.LessonId == lesson).Select(t => t.Id).SingleAsync());
        var board = await BoardAsync();
        (await ida.RefusalAsync(HttpMethod.Delete, $"{Api}/takes/{take}/for-good")).ShouldContain("not among what was put aside");
        (await ida.RefusalAsync(HttpMethod.Delete, $"{Api}/boards/{board}/for-good")).ShouldContain("not among what was put aside");
        await ida.CallAsync(HttpMethod.Delete, $"{Api}/takes/{take}");
        await ida.CallAsync(HttpMethod.Delete, $"{Api}/boards/{board}");
        (await UseAsync()).Aside.Count.ShouldBe(2);
        (await ida.PageAsync($"/lessons/{lesson}/disk")).ShouldContain("Delete for good");

        await ida.CallAsync(HttpMethod.Delete, $"{Api}/takes/{take}/for-good");
        await ida.CallAsync(HttpMethod.Delete, $"{Api}/boards/{board}/for-good");
        (await UseAsync()).Aside.ShouldBeEmpty();
        Directory.Exists(Files.Take(lesson, take)).ShouldBeFalse();
        Directory.Exists(Files.Board(lesson, board)).ShouldBeFalse();
        (await app.QueryAsync(db => db.SectionStates.AnyAsync(s => s.BoardId == board))).ShouldBeFalse();
        await app.WithAsync(async s =>
        {
            await s.GetRequiredService<Web.Recording.RecordingService>().FindLostAsync(default);
            return true;
        });
        (await UseAsync()).Aside.ShouldBeEmpty("nothing is found again");

        // Its publication has all it had.
        var token = await app.QueryAsync(db => db.Lessons.Where(l => l.Id == lesson).Select(l => l.WatchToken).SingleAsync());
        using var student = app.CreateClient();
        foreach (var file in new[] { "timeline.json", "voice.m4a", $"boards/{board:N}/small.jpg" })
        {
            (await student.GetAsync($"/w/{token}/1/{file}")).StatusCode.ShouldBe(HttpStatusCode.OK, file);
        }
    }

    [Fact]
    public async Task Of_a_picture_that_is_replaced_again_and_again_only_the_last_two_lie_with_the_board()
    {
        await PublishAsync();
        var board = await BoardAsync();
        var published = Directory.GetFiles(Path.Combine(Files.Publication(lesson, 1), "boards", board.ToString("N")));
        for (var i = 0; i < 4; i++)
        {
            (await ida.UploadAsync(
                HttpMethod.Put, $"{Api}/boards/{board}/picture", "new.png", Samples.Picture(1600, 900, i % 2 == 0 ? SKColors.Red : SKColors.Blue)))
                .EnsureSuccessStatusCode();
        }

        string[] Copies() => [.. Directory.GetFiles(Files.Board(lesson, board), "*small.jpg").Select(f => Path.GetFileName(f)).Order()];
        Copies().ShouldBe(["r3-small.jpg", "r4-small.jpg"]);
        published.ShouldAllBe(f => File.Exists(f));

        foreach (var file in Directory.GetFiles(Files.Board(lesson, board)))
        {
            File.SetLastWriteTimeUtc(file, DateTime.UtcNow.AddDays(-3));
        }

        await app.WithAsync(async s =>
        {
            await s.GetRequiredService<Leftovers>().SweepAsync(default);
            return true;
        });
        Copies().ShouldBe(["r4-small.jpg"]);
        File.Exists(Path.Combine(Files.Board(lesson, board), "original.bin")).ShouldBeTrue();
        File.Exists(Files.BoardText(lesson, board)).ShouldBeTrue();
    }

    [Fact]
    public void Files_are_shared_when_they_are_the_same_and_copied_where_they_are_not()
    {
        var (earlier, later) = (Directory.CreateDirectory(Path.Combine(app.DataFolder, "a")).FullName, Path.Combine(app.DataFolder, "b"));
        Directory.CreateDirectory(Path.Combine(later, "in"));
        Directory.CreateDirectory(Path.Combine(earlier, "in"));
        void Write(string folder, string name, string text) => File.WriteAllText(Path.Combine(folder, name), text);
        Write(earlier, "in/same", "keystone");
        Write(later, "in/same", "keystone");
        Write(earlier, "other", "keystone");
        Write(later, "other", "keystoned");
        Write(later, "new", "voussoir");

        SharedFiles.Share(later, earlier).ShouldBe(8);
        SharedFiles.Identity(Path.Combine(later, "in/same")).ShouldBe(SharedFiles.Identity(Path.Combine(earlier, "in/same")));
        SharedFiles.Identity(Path.Combine(later, "other")).Place.ShouldNotBe(SharedFiles.Identity(Path.Combine(earlier, "other")).Place);
        SharedFiles.Share(later, Path.Combine(app.DataFolder, "none")).ShouldBe(0);
        Directory.Delete(earlier, recursive: true);
        File.ReadAllText(Path.Combine(later, "in/same")).ShouldBe("keystone");
        Should.Throw<FileNotFoundException>(() => SharedFiles.Link(Path.Combine(later, "gone"), Path.Combine(later, "x")));
    }
}
