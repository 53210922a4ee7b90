using System.Text;
using System.Text.Json;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Tests.Editing;
using ArchTalk.Core.Timelines;
using CliWrap;
using CliWrap.Buffered;

namespace ArchTalk.Web.Tests;

/// <summary>
/// What the server writes as timeline.json is what docs/formats/timeline.schema.json says, by ajv (npm), a JSON Schema 2020-12
/// validator.
/// </summary>
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
        Task<string> ReadAsync(string name) => ida.Http.GetStringAsync($"/lessons/{lesson:N}/{name}");
        var timeline = await ReadAsync("timeline.json");
        using var read = JsonDocument.Parse(timeline);
        read.RootElement.GetProperty("pointerMinutes").GetArrayLength().ShouldBe(1, "there is something to check");

        (await FaultsAsync("", timeline)).ShouldBe("");
        (await FaultsAsync("", timeline.Replace("\"version\":2", "\"version\":3", StringComparison.Ordinal))).ShouldContain("/version");
        (await FaultsAsync("", timeline.Replace("\"styles\"", "\"stiles\"", StringComparison.Ordinal))).ShouldContain("styles");
        (await FaultsAsync("boardFile", await ReadAsync("ink/0.json"))).ShouldBe("");
        (await FaultsAsync("boardFile", (await ReadAsync("ink/0.json")).Replace("\"lives\":[", "\"lives\":[-2,", StringComparison.Ordinal)))
            .ShouldContain("lives");
        (await FaultsAsync("boardsFile", await ReadAsync("ink/end.json"))).ShouldBe("");
        (await FaultsAsync("pointerFile", await ReadAsync("pointer/0.json"))).ShouldBe("");
        (await FaultsAsync("pointerFile", await ReadAsync("ink/0.json"))).ShouldContain("runs");
    }

    /// <summary>All kinds of edits, and what lies under covers.</summary>
    [Fact]
    public async Task Edited_and_published_lessons_follow_it_too()
    {
        for (var seed = 0; seed < 12; seed++)
        {
            var (logs, edits) = RandomLessons.Make(seed);
            var compiled = TimelineCompiler.Compile(RandomLessons.Boards, Arrangement.Resolve(logs, edits));
            var file = TimelineFiles.Timeline(compiled, [[], [new BoardPicture("a.jpg", 10, 20)], []], [], new HashSet<int> { 1 });
            (await FaultsAsync("", Encoding.UTF8.GetString(TimelineFiles.ToBytes(file)))).ShouldBe("", $"seed {seed}");
        }

        var under = new UnderFile("A dome.", [], [new BoardPicture("a.jpg", 10, 20)]);
        (await FaultsAsync("underFile", Encoding.UTF8.GetString(TimelineFiles.ToBytes(under)))).ShouldBe("");
    }

    /// <param name="part">A definition of the schema; empty for the whole.</param>
    private static async Task<string> FaultsAsync(string part, string file)
    {
        var schema = await File.ReadAllTextAsync(Path.Combine(Repository.Root, "docs", "formats", "timeline.schema.json"));
        string Module(params string[] parts) => JsonSerializer.Serialize(new Uri(Repository.NpmFile(parts)).AbsoluteUri);
        var script =
            $$"""
            const { default: Ajv } = await import({{Module("ajv", "dist", "2020.js")}});
            const { default: addFormats } = await import({{Module("ajv-formats", "dist", "index.js")}});
            let text = "";
            for await (const chunk of process.stdin) text += chunk;
            const { schema, part, file } = JSON.parse(text);
            const ajv = new (Ajv.default ?? Ajv)({ allErrors: true });
            (addFormats.default ?? addFormats)(ajv);
            ajv.addSchema(JSON.parse(schema));
            const check = ajv.getSchema("timeline.schema.json" + (part ? "#/$defs/" + part : ""));
            console.log(check(JSON.parse(file)) ? "" : check.errors.map((e) => `${e.instancePath} ${e.message}`).join("; "));
            """;
        var result = await Cli.Wrap("node").WithArguments(["--input-type=module", "-e", script])
            .WithStandardInputPipe(PipeSource.FromString(JsonSerializer.Serialize(new { schema, part, file }))).ExecuteBufferedAsync();
        return result.StandardOutput.Trim();
    }
}
