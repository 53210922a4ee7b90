using System.Net;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Tests;

public sealed class SecurityTests : IDisposable
{
    private readonly App app = new();

    public void Dispose() => app.Dispose();

    [Fact]
    public async Task Without_a_teacher_every_page_leads_to_the_first_run_and_then_never_again()
    {
        using var http = app.CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false });
        (await http.GetAsync("/")).Headers.Location!.ToString().ShouldBe("/first-run");
        (await http.GetAsync("/w/anything")).Headers.Location!.ToString().ShouldBe("/first-run");
        var client = new Client(http);
        await client.PageAsync("/first-run");
        (await (await client.FormAsync("/first-run", ("name", "A"), ("email", "a@example.org"), ("password", "short"))).Content.ReadAsStringAsync())
            .ShouldContain("at least 10 characters");
        (await client.FormAsync("/first-run", ("name", "A"), ("email", "a@example.org"), ("password", App.Password))).Headers.Location!.ToString()
            .ShouldBe("/");
        (await http.GetAsync("/first-run")).Headers.Location!.ToString().ShouldBe("/sign-in");
        await client.PageAsync("/");
        await client.FormAsync("/first-run", ("name", "B"), ("email", "b@example.org"), ("password", App.Password));
        (await app.QueryAsync(db => db.Users.CountAsync())).ShouldBe(1);
    }

    [Fact]
    public async Task Teachers_see_only_their_own_lessons()
    {
        var ida = await app.SignInAsync("ida@example.org");
        var otto = await app.SignInAsync("otto@example.org");
        var lesson = await ida.CreateLessonAsync("Ida's arch");
        (await ida.PageAsync("/")).ShouldContain("Ida&#x27;s arch");
        (await otto.PageAsync("/")).ShouldNotContain("Ida&#x27;s");
        foreach (var path in new[] {
            $"/lessons/{lesson:N}/prepare",
            $"/lessons/{lesson:N}/record",
            $"/api/lessons/{lesson}/boards",
            $"/api/lessons/{lesson}/terms/earlier",
            $"/lessons/{lesson:N}/vocabulary.tbx",
            $"/lessons/{lesson:N}/timeline.json",
            $"/api/lessons/{lesson}/takes" })
        {
            (await ida.Http.GetAsync(path)).StatusCode.ShouldBe(HttpStatusCode.OK, path);
            (await otto.Http.GetAsync(path)).StatusCode.ShouldBe(HttpStatusCode.NotFound, path);
        }

        (await otto.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/boards", new { title = "x" })).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        await otto.FormAsync("/?handler=Rename", ("id", lesson.ToString()), ("title", "Otto's now"));
        (await app.QueryAsync(db => db.Lessons.SingleAsync())).Title.ShouldBe("Ida's arch");
    }

    [Fact]
    public async Task Strangers_are_sent_to_sign_in_and_scripts_told_so()
    {
        await app.SignInAsync("ida@example.org");
        using var http = app.CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false });
        (await http.GetAsync("/")).Headers.Location!.ToString().ShouldContain("/sign-in");
        (await http.GetAsync($"/api/lessons/{Guid.NewGuid()}/boards")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task No_write_without_the_antiforgery_token()
    {
        var ida = await app.SignInAsync("ida@example.org");
        var lesson = await ida.CreateLessonAsync("Arch");
        var api = $"/api/lessons/{lesson}";
        (HttpMethod Method, string Path, object? Body)[] writes =
        [
            (HttpMethod.Post, $"{api}/boards", new { title = "x" }), (HttpMethod.Put, $"{api}/boards/order", Array.Empty<Guid>()),
            (HttpMethod.Put, $"{api}/sections/Terms", new { content = Array.Empty<object>(), version = 0 }), (HttpMethod
                .Post, $"{api}/sections/Terms/undo", new { version = 0 }),
            (HttpMethod.Post, $"{api}/takes", null), (HttpMethod.Post, $"{api}/publish", null), (HttpMethod.Post, $"{api}/withdraw", null),
            (HttpMethod.Post, $"{api}/files", new ByteArrayContent([1])), (HttpMethod.Delete, $"{api}/boards/{Guid.NewGuid()}", null),
        ];
        foreach (var (method, path, body) in writes)
        {
            using var answer = await ida.SendAsync(method, path, body, withToken: false);
            answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest, path);
            (await answer.Content.ReadAsStringAsync()).ShouldContain("nothing was changed");
        }

        (await app.QueryAsync(db => db.Takes.CountAsync())).ShouldBe(0);
        (await app.QueryAsync(db => db.Boards.CountAsync())).ShouldBe(0);
        (await app.QueryAsync(db => db.Jobs.CountAsync())).ShouldBe(0);
    }

    [Fact]
    public async Task Every_page_carries_a_strict_policy_and_no_inline_script()
    {
        var ida = await app.SignInAsync("ida@example.org");
        var lesson = await ida.CreateLessonAsync("Arch");
        foreach (var path in new[] {
            "/",
            $"/lessons/{lesson:N}/prepare",
            $"/lessons/{lesson:N}/record",
            $"/lessons/{lesson:N}/refine",
            $"/lessons/{lesson:N}/publish",
            "/nothing" })
        {
            using var answer = await ida.Http.GetAsync(path);
            var policy = answer.Headers.GetValues("Content-Security-Policy").Single();
            policy.ShouldContain("script-src 'self';");
            policy.ShouldContain("style-src 'self';");
            policy.ShouldNotContain("unsafe");
            var page = await answer.Content.ReadAsStringAsync();
            page.ShouldNotContain(" style=\"");
            page.ShouldNotContain("onclick=");
            page.ShouldNotContain("://fonts");
        }
    }

    [Fact]
    public async Task A_published_file_is_reached_only_by_its_link_and_only_while_it_is_open()
    {
        await app.SignInAsync("ida@example.org");
        using var http = app.CreateClient();
        foreach (var path in new[] { "/w/guess", "/w/guess/1/timeline.json", "/w/guess/1/..%2f..%2farchtalk.db" })
        {
            (await http.GetAsync(path)).StatusCode.ShouldBe(HttpStatusCode.NotFound, path);
        }
    }
}
