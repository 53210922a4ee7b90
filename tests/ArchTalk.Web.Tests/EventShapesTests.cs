using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization;
using ArchTalk.Core.Recording;
using CliWrap;
using CliWrap.Buffered;

namespace ArchTalk.Web.Tests;

/// <summary>What the pages journal (Client/journal/events.ts) and what Core reads (TakeEvent.cs) are the same, member by member, both ways.</summary>
public class EventShapesTests
{
    [Fact]
    public async Task The_browsers_events_are_the_cores_events()
    {
        var browser = await ShapesOfTheBrowserAsync();
        var core = ShapesOfTheCore();
        browser.Keys.Order(StringComparer.Ordinal).ShouldBe(core.Keys.Order(StringComparer.Ordinal));
        foreach (var (kind, members) in core)
        {
            browser[kind].OrderBy(m => m.Key, StringComparer.Ordinal).ShouldBe(members.OrderBy(m => m.Key, StringComparer.Ordinal), kind);
        }
    }

    private static async Task<Dictionary<string, Dictionary<string, string>>> ShapesOfTheBrowserAsync()
    {
        var source = Path.Combine(Repository.Web, "Client", "journal", "events.ts");
        var script =
            $$"""
            const { transformSync } = await import({{JsonSerializer.Serialize(new Uri(Repository.NpmFile("esbuild", "lib",
              "main.js")).AbsoluteUri)}});
            const { readFileSync } = await import("node:fs");
            const { code } = transformSync(readFileSync({{JsonSerializer.Serialize(source)}}, "utf8"), { loader: "ts", format: "esm" });
            const { eventShapes } = await import("data:text/javascript," + encodeURIComponent(code));
            console.log(JSON.stringify(eventShapes));
            """;
        var result = await Cli.Wrap("node").WithArguments(["--input-type=module", "-e", script]).ExecuteBufferedAsync();
        return JsonSerializer.Deserialize<Dictionary<string, Dictionary<string, string>>>(result.StandardOutput)!;
    }

    private static Dictionary<string, Dictionary<string, string>> ShapesOfTheCore() =>
        typeof(TakeEvent).GetCustomAttributes<JsonDerivedTypeAttribute>().ToDictionary(
            a => (string)a.TypeDiscriminator!,
            a => a.DerivedType.GetProperties().Where(p => p.GetCustomAttribute<JsonPropertyNameAttribute>() is not null)
                .ToDictionary(p => p.GetCustomAttribute<JsonPropertyNameAttribute>()!.Name, p => Word(p.PropertyType)));

    private static string Word(Type type) =>
        type == typeof(int) || type == typeof(long)
            ? "int"
            : type == typeof(double) ? "stamp" : type == typeof(Guid) ? "guid" : type == typeof(string) ? "text"
        : type == typeof(bool) ? "flag" : type == typeof(long[]) || type == typeof(int[]) ? "ints" : type == typeof(string[]) ? "texts"
        : throw new InvalidOperationException($"No word for {type}.");
}
