using System.Text.Json;
using CliWrap;
using CliWrap.Buffered;

namespace ArchTalk.Web.Tests;

/// <summary>What the server writes as timeline.json is what docs/formats/timeline.schema.json says, by ajv (npm), a JSON Schema 2020-12 validator.</summary>
public sealed class TimelineSchemaTests : IDisposable
{
    private readonly App app = new();

    public void Dispose() => app.Dispose();

    [Fact]
    public async Task The_timeline_follows_its_schema_and_the_schema_refuses_others()
    {
        var ida = await app.SignInAsync("ida@example.org");
        var lesson = await ida.CreateLessonAsync("Arch");
        await ida.UploadAsync(lesson, "pages.pdf", Samples.Pdf(2));
        await app.RunJobsAsync();
        await Samples.RecordAsync(app, ida, lesson);
        var timeline = await ida.Http.GetStringAsync($"/lessons/{lesson:N}/timeline.json");
        using var read = JsonDocument.Parse(timeline);
        read.RootElement.GetProperty("pointer").GetArrayLength().ShouldBeGreaterThan(0, "there is something to check");

        (await FaultsAsync(timeline)).ShouldBe("");
        (await FaultsAsync(timeline.Replace("\"version\":1", "\"version\":2", StringComparison.Ordinal))).ShouldContain("/version");
        (await FaultsAsync(timeline.Replace("\"styles\"", "\"stiles\"", StringComparison.Ordinal))).ShouldContain("styles");
    }

    private static async Task<string> FaultsAsync(string timeline)
    {
        var schema = await File.ReadAllTextAsync(Path.Combine(Repository.Root, "docs", "formats", "timeline.schema.json"));
        string Module(params string[] parts) => JsonSerializer.Serialize(new Uri(Repository.NpmFile(parts)).AbsoluteUri);
        var script =
            $$"""
            const { default: Ajv } = await import({{Module("ajv", "dist", "2020.js")}});
            const { default: addFormats } = await import({{Module("ajv-formats", "dist", "index.js")}});
            let text = "";
            for await (const chunk of process.stdin) text += chunk;
            const { schema, timeline } = JSON.parse(text);
            const ajv = new (Ajv.default ?? Ajv)({ allErrors: true });
            (addFormats.default ?? addFormats)(ajv);
            const check = ajv.compile(JSON.parse(schema));
            console.log(check(JSON.parse(timeline)) ? "" : check.errors.map((e) => `${e.instancePath} ${e.message}`).join("; "));
            """;
        var result = await Cli.Wrap("node").WithArguments(["--input-type=module", "-e", script])
            .WithStandardInputPipe(PipeSource.FromString(JsonSerializer.Serialize(new { schema, timeline }))).ExecuteBufferedAsync();
        return result.StandardOutput.Trim();
    }
}
