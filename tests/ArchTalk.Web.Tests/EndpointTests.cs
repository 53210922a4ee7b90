using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using ArchTalk.Data.Entities;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.Routing;
using Microsoft.AspNetCore.Routing.Patterns;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace ArchTalk.Web.Tests;

/// <summary>
/// Every route there is, taken from the table of endpoints, so that a new one is tried without being named here: by strangers, by
/// another teacher, and with input of fifty wrong forms. Nobody sees what isn't theirs, and nothing answers with a fault of its own.
/// </summary>
public sealed class EndpointTests : IAsyncLifetime
{
    private const string Canary = "Canary of Ida";
    private readonly App app = new();
    private Client ida = null!;
    private Guid lesson;
    private Guid board;
    private Guid take;

    public async ValueTask InitializeAsync()
    {
        ida = await app.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync(Canary);
        board = (await ida.CallAsync(HttpMethod.Post, $"/api/lessons/{lesson}/boards", new { title = Canary })).GetProperty("id").GetGuid();
        take = (await ida.CallAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes")).GetProperty("take").GetGuid();
    }

    public ValueTask DisposeAsync()
    {
        app.Dispose();
        return ValueTask.CompletedTask;
    }

    private sealed record Route(HttpMethod Method, string Path, bool IsOfLesson)
    {
        public bool IsWrite => Method != HttpMethod.Get && Method != HttpMethod.Head;

        public bool IsApi => Path.StartsWith("/api/", StringComparison.Ordinal);
    }

    // A value for every place in an address; a place of a name that isn't here fails the test, so that it is thought about.
    private Dictionary<string, string> Values() => new(StringComparer.Ordinal)
    {
        ["lesson"] = lesson.ToString(),
        ["id"] = lesson.ToString(),
        ["board"] = board.ToString(),
        ["minute"] = "0",
        ["take"] = take
            .ToString(),
        ["job"] = Guid.NewGuid().ToString(),
        ["kind"] = "Terms",
        ["stored"] = Guid.NewGuid()
            .ToString("N"),
        ["file"] = "small.jpg",
        ["token"] = "unknown-token",
        ["number"] = "1",
        ["format"] = "csv",
        ["step"] = "Record",
        ["resolution"] = "1",
    };

    private IEnumerable<Route> Routes(IReadOnlyDictionary<string, string> values)
    {
        foreach (var endpoint in app.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>())
        {
            var methods = endpoint.Metadata.GetMetadata<IHttpMethodMetadata>()?.HttpMethods is { Count: > 0 } named ? named : ["GET", "POST"];
            var path = "/" + string.Join('/', endpoint.RoutePattern.PathSegments.Select(s => string.Concat(s.Parts.Select(p => p switch
            {
                RoutePatternLiteralPart literal => literal.Content,
                RoutePatternSeparatorPart separator => separator.Content,
                // A board is known by its identity, and to players by its number.
                RoutePatternParameterPart place => place.ParameterPolicies.Any(p => p.Content == "int") && Guid.TryParse(values[place.Name], out _)
                    ? "0"
                    : values[place.Name],
                _ => throw new InvalidOperationException("An unknown part."),
            }))));
            foreach (var method in methods)
            {
                yield return new Route(new HttpMethod(method), path, endpoint.RoutePattern.Parameters.Any(p => p.Name == "lesson" || p.Name == "id"));
            }
        }
    }

    [Fact]
    public async Task Strangers_get_nothing_of_anybody_by_any_route()
    {
        string[] open = ["/sign-in", "/first-run", "/error", "/w/unknown-token/1", "/w/unknown-token/1/small.jpg", $"/api/takes/{take}/records"];
        var otto = await app.SignInAsync("otto@example.org");
        using var bare = app.CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false, HandleCookies = false });
        var signedOut = new Client(app.CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false }));
        var before = await app.QueryAsync(db => db.Sessions.Select(s => s.KeyHash).ToListAsync());
        await signedOut.SignInAsync("otto@example.org", App.Password);
        (await app.QueryAsync(db => db.Sessions.Where(s => !before.Contains(s.KeyHash)).ExecuteDeleteAsync())).ShouldBe(1);

        var tried = 0;
        foreach (var route in Routes(Values()).DistinctBy(r => (r.Method, r.Path)))
        {
            var what = $"{route.Method} {route.Path}";
            foreach (var (name, http, cookie) in new[] {
                ("nobody", bare, (string?)null),
                ("a made-up cookie", bare, "archtalk=CfDJ8made-up"),
                ("an ended session", signedOut.Http, null) })
            {
                using var request = new HttpRequestMessage(route.Method, route.Path);
                if (cookie is not null)
                {
                    request.Headers.Add("Cookie", cookie);
                }

                using var answer = await http.SendAsync(request);
                var text = await answer.Content.ReadAsStringAsync();
                text.ShouldNotContain(Canary, Case.Sensitive, what);
                ((int)answer.StatusCode).ShouldBeLessThan(500, $"{what} as {name}");
                if (!open.Contains(route.Path))
                {
                    answer.StatusCode.ShouldBe(route.IsApi ? HttpStatusCode.Unauthorized : HttpStatusCode.Redirect, $"{what} as {name}");
                }
            }

            if (route.IsOfLesson)
            {
                using var answer = await otto.SendAsync(route.Method, route.Path, route.IsWrite ? new { } : null);
                (await answer.Content.ReadAsStringAsync()).ShouldNotContain(Canary, Case.Sensitive, what);
                answer.StatusCode.ShouldBeOneOf(
                    [HttpStatusCode.NotFound, HttpStatusCode.BadRequest, HttpStatusCode.UnsupportedMediaType, HttpStatusCode.MethodNotAllowed],
                    what);
            }

            tried++;
        }

        tried.ShouldBeGreaterThan(60);
        (await app.QueryAsync(db => db.Lessons.SingleAsync())).Title.ShouldBe(Canary);
    }

    [Fact]
    public async Task No_write_by_any_route_without_the_antiforgery_token()
    {
        var before = await CountAsync();
        foreach (var route in Routes(Values()).Where(
            r => r.IsWrite && r.Path is not "/error" && !r.Path.StartsWith("/api/takes/", StringComparison.Ordinal))
            .DistinctBy(r => (r.Method, r.Path)))
        {
            // A page that only shows something lets nothing be sent to it.
            using var answer = await ida.SendAsync(route.Method, route.Path, route.IsApi ? new { } : new FormUrlEncodedContent([]), withToken: false);
            answer.StatusCode.ShouldBeOneOf(
                [HttpStatusCode.BadRequest, HttpStatusCode.UnsupportedMediaType, HttpStatusCode.MethodNotAllowed],
                $"{route.Method} {route.Path}");
        }

        (await CountAsync()).ShouldBe(before);
    }

    [Fact]
    public async Task Fifty_forms_of_wrong_input_are_answered_by_every_route()
    {
        var wrong = WrongBodies().ToArray();
        wrong.Length.ShouldBeGreaterThanOrEqualTo(50);
        foreach (var route in Routes(Values()).Where(r => r.IsWrite).DistinctBy(r => (r.Method, r.Path)))
        {
            foreach (var (type, body) in wrong)
            {
                using var content = new ByteArrayContent(body);
                content.Headers.ContentType = type is null ? null : MediaTypeHeaderValue.Parse(type);
                using var answer = await ida.SendAsync(route.Method, route.Path, content);
                await HoldsAsync(
                    answer,
                    route,
                    $"{route.Method} {route.Path} with {type}: {Encoding.Latin1.GetString(body)[..Math.Min(60, body.Length)]}");
            }
        }
    }

    [Fact]
    public async Task Wrong_names_in_addresses_are_answered_by_every_route()
    {
        string[] wrong =
        [
            "x", "0", "-1", "99999999999999999999", "00000000-0000-0000-0000-000000000000", "..", "..%2F..%2Farchtalk.db", "%2e%2e%2f", "a%0d%0ab",
            "~", "*", "%F0%9F%98%80",
            "null", "true", "{}", "con", "Items", "terms", new('9', 400), "%25", "1.5", "small.jpg%2F..",
        ];
        foreach (var name in Values().Keys)
        {
            foreach (var value in wrong)
            {
                var values = Values();
                values[name] = value;
                foreach (var route in Routes(values).Where(r => r.Path.Contains(value, StringComparison.Ordinal)).DistinctBy(r => (r.Method, r.Path)))
                {
                    using var answer = await ida.SendAsync(route.Method, route.Path, route.IsWrite ? new { } : null);
                    await HoldsAsync(answer, route, $"{route.Method} {route.Path}");
                }
            }
        }
    }

    // (A %00 in an address is refused by Kestrel before the application sees it.) A null, a number, a list or half of a character in each
    // place of what pages really send.
    [Fact]
    public async Task Holes_and_wrong_kinds_in_what_pages_send_are_refused_and_change_nothing()
    {
        var api = $"/api/lessons/{lesson}";
        (string Path, object Content)[] lists =
        [
            ($"{api}/sections/Terms", new object[] { new { id = Guid.NewGuid(), word = "arch", reading = "", meaning = "", language = "",
            translations = new[] { new { language = "fr", text = "arc" } } } }),
            ($"{api}/sections/References", new object[] {
                new { id = Guid.NewGuid(), kind = "web", title = "t", address = "https://example.org", pages = "", note = "" } }),
            ($"{api}/sections/Chapters", new object[] { new { id = Guid.NewGuid(), title = "c", take = Guid.NewGuid(), sample = 0 } }),
            ($"{api}/sections/Task", new { steps = new[] { "a" }, ready = "", handIn = "", where = "", when = "", choices = new[] {
                "b" }, classes = new[] { new { @class = "7a", where = "", when = "" } } }),
            ($"{api}/sections/Details", new { language = "en", otherLanguages = new[] { "fr" }, aims = new[] { "x" }, agenda = new[] { "y" } }),
            ($"{api}/boards/{board}/items", new object[] { new { kind = "text", id = Guid
                .NewGuid(), x = 1, y = 1, width = 100, height = 20, size = "reading", paragraphs = new[] { new[] { new { text = "a" } } } } }),
            ($"{api}/boards/{board}/items", new object[] { new { kind = "table", id = Guid.NewGuid(), x = 1, y = 1, width = 100, height = 20,
            rows = new[] { new[] { new { text = "a", isBlank = false, answers = new[] { "b" } } } } } }),
            ($"{api}/boards/{board}/items", new object[] { new { kind = "figure", id = Guid.NewGuid(), x = 1, y = 1, width = 400, height = 300,
            figure = new { type = "axes", curve = "x", points = new[] { new { x = 1, y = 1, name = "P" } } } } }),
            ($"{api}/boards/{board}/items", new object[] {
                new { kind = "label", id = Guid.NewGuid(), x = 1, y = 1, width = 100, height = 20, text = "key", tipX = 1, tipY = 1,
                    language = "" } }),
        ];
        var tried = 0;
        foreach (var (path, content) in lists)
        {
            var whole = JsonSerializer.SerializeToNode(content)!;
            foreach (var broken in Broken(whole))
            {
                var version = (await ida.CallAsync(HttpMethod.Get, path)).GetProperty("version").GetInt32();
                using var answer = await ida.SendAsync(
                    HttpMethod.Put,
                    path,
                    new StringContent($$"""{"content":{{broken}},"version":{{version}}}""", Encoding.UTF8, "application/json"));
                var text = await answer.Content.ReadAsStringAsync();
                answer.StatusCode
                    .ShouldBeOneOf([HttpStatusCode.OK, HttpStatusCode.UnprocessableEntity, HttpStatusCode.BadRequest], $"{path} {broken}: {text}");
                tried++;
            }

            // Whatever was let in can be looked at.
            foreach (var look in new[] {
                path,
                $"{api}/boards",
                $"/lessons/{lesson}/boards/{board}/items.svg",
                $"/lessons/{lesson}/vocabulary.tbx",
                $"/lessons/{lesson}/vocabulary.csv",
                $"/lessons/{lesson}/prepare",
                $"{api}/boards/{board}/seen" })
            {
                (await ida.Http.GetAsync(look)).StatusCode.ShouldBe(HttpStatusCode.OK, look);
            }
        }

        tried.ShouldBeGreaterThan(200);
    }

    private static async Task HoldsAsync(HttpResponseMessage answer, Route route, string what)
    {
        ((int)answer.StatusCode).ShouldBeLessThan(500, what);
        if (route.IsApi && !answer.IsSuccessStatusCode && answer.StatusCode != HttpStatusCode.NotFound)
        {
            var text = await answer.Content.ReadAsStringAsync();
            answer.Content.Headers.ContentType?.MediaType.ShouldBe("application/json", $"{what}: {(int)answer.StatusCode} {text}");
        }
    }

    private static IEnumerable<(string? Type, byte[] Body)> WrongBodies()
    {
        string[] json =
        [
            "", "null", "[]", "{}", "0", "\"x\"", "true", "{", "[", "{\"content\"", "{\"content\":null}", "{\"content\":[],\"version\":null}",
            "{\"content\":[],\"version\":\"x\"}",
            "{\"content\":{},\"version\":0}", "{\"content\":[null],\"version\":0}", "{\"content\":[[[]]],\"version\":0}",
            "{\"content\":[{}],\"version\":0}", "{\"content\":\"x\",\"version\":0}",
            "{\"content\":[{\"kind\":\"unknown\"}],\"version\":0}", "{\"content\":[],\"version\":-1}", "{\"content\":[],\"version\":1e99}",
            "{\"version\":0}", "{\"title\":null}", "{\"title\":[]}", "{\"title\":{}}",
            "{\"ticked\":null}", "{\"ticked\":[null]}", "{\"ticked\":[\"x\"]}", "{\"left\":null,\"right\":null}", "{\"address\":null}",
            "{\"lines\":null,\"version\":0}", "{\"ids\":null,\"to\":null}",
            "{\"ids\":[\"x\"],\"to\":[]}", "{\"turn\":1e300}", "{\"turn\":0,\"degrees\":\"NaN\"}", "{\"is\":null}", "{\"title\":\"\\u0000\\u0001\"}",
            "{\"title\":\"\\ud800\"}", "[null]", "[\"x\"]",
            "{\"a\":1,\"a\":2}", "{\"title\":\"" + new string('x', 100_000) + "\"}", new string('[', 2000), string.Concat(
                Enumerable.Repeat("{\"a\":", 2000)), "\uFEFF{}", "{\"content\":[1e400],\"version\":0}",
        ];
        foreach (var text in json)
        {
            yield return ("application/json", Encoding.UTF8.GetBytes(text));
        }

        yield return ("application/json", [0xFF, 0xFE, 0x00, 0xD8]);
        yield return ("application/json; charset=utf-7", "{}"u8.ToArray());
        yield return ("text/plain", "{}"u8.ToArray());
        yield return ("application/xml", "<x/>"u8.ToArray());
        yield return ("application/x-www-form-urlencoded", "a=b"u8.ToArray());
        yield return ("multipart/form-data; boundary=x", "--x--"u8.ToArray());
        yield return (null, "{}"u8.ToArray());
    }

    private static IEnumerable<string> Broken(System.Text.Json.Nodes.JsonNode whole)
    {
        var paths = new List<string>();
        void Walk(System.Text.Json.Nodes.JsonNode? node)
        {
            if (node is null)
            {
                return;
            }

            paths.Add(node.GetPath());
            switch (node)
            {
                case System.Text.Json.Nodes.JsonArray array:
                    array.ToList().ForEach(Walk);
                    break;
                case System.Text.Json.Nodes.JsonObject parts:
                    parts.Select(p => p.Value).ToList().ForEach(Walk);
                    break;
                default:
                    break;
            }
        }

        Walk(whole);
        foreach (var path in paths.Where(p => p != "$"))
        {
            foreach (var wrong in new[] { "null", "7", "[]", "{}", "\"\\u0000x\\u0007\"", "\"\\ud83d\"", "1e308" })
            {
                const string Mark = "\"here it is\"";
                var copy = System.Text.Json.Nodes.JsonNode.Parse(whole.ToJsonString())!;
                var place = Find(copy, path);
                place.ReplaceWith("here it is");
                yield return copy.ToJsonString().Replace(Mark, wrong, StringComparison.Ordinal);
            }
        }
    }

    private static System.Text.Json.Nodes.JsonNode Find(System.Text.Json.Nodes.JsonNode node, string path)
    {
        if (node.GetPath() == path)
        {
            return node;
        }

        var inner = node switch
        {
            System.Text.Json.Nodes.JsonArray array => array.OfType<System.Text.Json.Nodes.JsonNode>(),
            System.Text.Json.Nodes.JsonObject parts => parts.Select(p => p.Value).OfType<System.Text.Json.Nodes.JsonNode>(),
            _ => [],
        };
        return Find(inner.Single(n => path == n.GetPath() || path.StartsWith(n.GetPath() + ".", StringComparison.Ordinal)
            || path.StartsWith(n.GetPath() + "[", StringComparison.Ordinal)), path);
    }

    private Task<int> CountAsync() => app.QueryAsync(async db =>
        await db.Lessons.CountAsync() + await db.Boards.CountAsync() + await db.Takes.CountAsync() + await db.Jobs.CountAsync()
            + await db.SectionStates.CountAsync()
            + await db.Attachments.CountAsync());
}
