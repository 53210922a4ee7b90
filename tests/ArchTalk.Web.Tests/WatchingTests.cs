using System.Net;
using ArchTalk.Web.Publishing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace ArchTalk.Web.Tests;

/// <summary>Watching is serving files (row C14): what a link leads to is in memory, and no change is ever missed.</summary>
public sealed class WatchingTests : IAsyncLifetime
{
    private readonly App app = new();
    private Client ida = null!;
    private Guid lesson;
    private string link = "";

    private string Api => $"/api/lessons/{lesson}";

    public async ValueTask InitializeAsync()
    {
        ida = await app.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Arch");
        await ida.UploadAsync(lesson, "pages.pdf", Samples.Pdf(2));
        await app.RunJobsAsync();
        await Samples.RecordAsync(app, ida, lesson);
        await PublishAsync();
        link = $"/w/{await app.QueryAsync(db => db.Lessons.Where(l => l.Id == lesson).Select(l => l.WatchToken).SingleAsync())}";
    }

    public ValueTask DisposeAsync()
    {
        app.Dispose();
        return ValueTask.CompletedTask;
    }

    private async Task PublishAsync()
    {
        await ida.CallAsync(HttpMethod.Post, $"{Api}/publish");
        await app.RunJobsAsync();
    }

    private async Task<HttpStatusCode> AskAsync(string path, string? compression = null)
    {
        using var student = app.CreateClient();
        using var request = new HttpRequestMessage(HttpMethod.Get, path);
        if (compression is not null)
        {
            request.Headers.AcceptEncoding.ParseAdd(compression);
        }

        return (await student.SendAsync(request)).StatusCode;
    }

    [Fact]
    public async Task Once_asked_for_neither_the_page_nor_its_files_ask_the_database()
    {
        (await AskAsync(link)).ShouldBe(HttpStatusCode.OK);
        (await AskAsync($"{link}/1/timeline.json")).ShouldBe(HttpStatusCode.OK);

        // Closed behind the program's back: it would be seen if the database were asked.
        await app.QueryAsync(db => db.Lessons.Where(l => l.Id == lesson).ExecuteUpdateAsync(s => s.SetProperty(l => l.IsWithdrawn, true)));
        (await AskAsync(link)).ShouldBe(HttpStatusCode.OK);
        (await AskAsync($"{link}/1/timeline.json")).ShouldBe(HttpStatusCode.OK);
        app.Services.GetRequiredService<WatchIndex>().Forget(lesson);
        (await AskAsync(link)).ShouldBe(HttpStatusCode.Gone);
        (await AskAsync($"{link}/1/timeline.json")).ShouldBe(HttpStatusCode.Gone);
    }

    [Fact]
    public async Task Everything_a_teacher_does_to_a_link_is_seen_by_the_next_request()
    {
        async Task SeesAsync(HttpStatusCode page, HttpStatusCode file, string what)
        {
            foreach (var compression in new[] { null, "gzip", "br", "br, gzip" })
            {
                (await AskAsync(link, compression)).ShouldBe(page, what);
            }

            (await AskAsync($"{link}/1/timeline.json")).ShouldBe(file, what);
        }

        async Task<string> PageAsync()
        {
            using var student = app.CreateClient();
            return await student.GetStringAsync(link);
        }

        await SeesAsync(HttpStatusCode.OK, HttpStatusCode.OK, "published");
        await ida.CallAsync(HttpMethod.Post, $"{Api}/withdraw");
        await SeesAsync(HttpStatusCode.Gone, HttpStatusCode.Gone, "withdrawn");
        await ida.CallAsync(HttpMethod.Post, $"{Api}/reopen");
        await SeesAsync(HttpStatusCode.OK, HttpStatusCode.OK, "opened again");
        (await PageAsync()).ShouldContain("noindex");
        await ida.CallAsync(HttpMethod.Put, $"{Api}/findable", new { @is = true });
        (await PageAsync()).ShouldNotContain("noindex");
        await ida.CallAsync(
            HttpMethod.Put, $"{Api}/sections/Terms", new { content = new[] { new { id = Guid.NewGuid(), word = "voussoir" } }, version = 0 });
        await PublishAsync();
        (await PageAsync()).ShouldContain("voussoir");
        await SeesAsync(HttpStatusCode.OK, HttpStatusCode.Gone, "replaced");
        await ida.CallAsync(HttpMethod.Put, $"{Api}/publications/1/kept-open", new { @is = true });
        await SeesAsync(HttpStatusCode.OK, HttpStatusCode.OK, "kept open");
        await ida.PageAsync("/");
        (await ida.FormAsync("/?handler=Delete", ("id", lesson.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await SeesAsync(HttpStatusCode.Gone, HttpStatusCode.Gone, "put aside");
        (await ida.FormAsync("/?handler=Restore", ("id", lesson.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await SeesAsync(HttpStatusCode.OK, HttpStatusCode.OK, "put back");
        (await AskAsync($"{link}x")).ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_link_that_was_withdrawn_is_open_to_nobody_also_while_many_ask()
    {
        using var stop = new CancellationTokenSource();
        using var student = app.CreateClient();
        var asking = Enumerable.Range(0, 4).Select(_ => Task.Run(async () =>
        {
            while (!stop.IsCancellationRequested)
            {
                await student.GetAsync($"{link}/1/timeline.json");
                await student.GetAsync(link);
            }
        })).ToArray();
        for (var i = 0; i < 15; i++)
        {
            await ida.CallAsync(HttpMethod.Post, $"{Api}/withdraw");
            (await AskAsync(link)).ShouldBe(HttpStatusCode.Gone);
            (await AskAsync($"{link}/1/timeline.json")).ShouldBe(HttpStatusCode.Gone);
            await ida.CallAsync(HttpMethod.Post, $"{Api}/reopen");
            (await AskAsync(link)).ShouldBe(HttpStatusCode.OK);
        }

        await stop.CancelAsync();
        await Task.WhenAll(asking);
    }

    [Fact]
    public async Task The_page_is_sent_compressed_as_the_browser_takes_it_and_is_always_the_same()
    {
        async Task<(string? Encoding, byte[] Bytes)> GetAsync(string? compression)
        {
            using var student = app.CreateClient();
            using var request = new HttpRequestMessage(HttpMethod.Get, link);
            request.Headers.TryAddWithoutValidation("Accept-Encoding", compression);
            using var answer = await student.SendAsync(request);
            answer.Headers.CacheControl!.ToString().ShouldContain("no-cache");
            answer.Headers.GetValues("Content-Security-Policy").Single().ShouldContain("script-src 'self'");
            return (answer.Content.Headers.ContentEncoding.SingleOrDefault(), await answer.Content.ReadAsByteArrayAsync());
        }

        var (_, plain) = await GetAsync(null);
        foreach (var (asked, given) in new[] { ("br", "br"), ("gzip", "gzip"), ("deflate, gzip, br", "br"), ("nonsense", null) })
        {
            var (first, again) = (await GetAsync(asked), await GetAsync(asked));
            first.Encoding.ShouldBe(given, asked);
            again.Bytes.ShouldBe(first.Bytes);
            Unpack(first).ShouldBe(plain);
        }
    }

    private static byte[] Unpack((string? Encoding, byte[] Bytes) answer)
    {
        using var packed = new MemoryStream(answer.Bytes);
        using Stream stream = answer.Encoding switch
        {
            "br" => new System.IO.Compression.BrotliStream(packed, System.IO.Compression.CompressionMode.Decompress),
            "gzip" => new System.IO.Compression.GZipStream(packed, System.IO.Compression.CompressionMode.Decompress),
            _ => packed,
        };
        using var plain = new MemoryStream();
        stream.CopyTo(plain);
        return plain.ToArray();
    }
}
