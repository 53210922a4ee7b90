using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Timelines;
using ArchTalk.Tests;
using ArchTalk.Demo;
using CliWrap;

namespace ArchTalk.Bench;

/// <summary>From a seek to the painted picture on the large lesson in Chromium, and the demo's size against a video of it.</summary>
internal static class SeekBench
{
    private const int Seeks = 25;

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("archtalk-bench-").FullName;
        await DemoBuilder.BuildAsync(folder, Repository.Root);
        var publication = Directory.GetDirectories(folder, "1", SearchOption.AllDirectories)
            .Single(d => d.Contains("publications", StringComparison.Ordinal));
        await ReportSizeAsync(publication, folder);
        await ReplaceAsync(publication);
        await using var server = new Server(folder);
        await server.StartAsync();
        using var browser = new Chromium();
        browser.SignIn(server.Address, "teacher@example.org", "keystone and thrust");
        browser.Go(browser.Find("a[href*='/w/']").GetAttribute("href")!);
        browser.Until(() => browser.Script<double>("return document.querySelector('audio').duration || 0") > 3000, "the long voice");
        var random = new Random(6);
        var places = Enumerable.Range(0, Seeks).Select(_ => Math.Round(random.NextDouble() * 3590, 1)).ToArray();

        // The first visit of a board loads its ink; each place is visited twice and the second time counts.
        var seeks = JsonSerializer.Deserialize<double[]>(
            browser.ScriptAsync<string>(SeekScript, (object)places.Concat(places).Cast<object>().ToArray()))!.Skip(Seeks).ToArray();
        browser.Go("about:blank");
        var empty = JsonSerializer.Deserialize<double[]>(browser.ScriptAsync<string>(EmptyScript, Seeks))!;
        var (seek, frame) = (Measure.Median(seeks), Measure.Median(empty));
        Measure.Say($"seek to painted picture, canvas read back: median {seek:0.0} ms, longest {seeks.Max():0.0} ms; an empty page's frame, read "
            + $"back: {frame:0.0} ms; ratio {seek / frame:0.0}");
    }

    private const string SeekScript =
        """
        const [places, done] = arguments;
        (async () => {
          const audio = document.querySelector('audio'), canvas = document.querySelector('canvas'), times = [];
          for (const [i, place] of places.entries()) {
            const start = performance.now();
            const seeked = new Promise((r) => audio.addEventListener('seeked', r, { once: true }));
            audio.currentTime = place;
            await seeked;
            do await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
            while (canvas.dataset.painted !== 'whole');
            canvas.getContext('2d').getImageData(0, 0, 1, 1);
            times.push(performance.now() - start);
            await new Promise((r) => setTimeout(r, i < places.length / 2 ? 900 : 50));
          }
          done(JSON.stringify(times));
        })();
        """;

    internal const string EmptyScript =
        """
        const [count, done] = arguments;
        (async () => {
          const canvas = document.createElement('canvas'), times = [];
          canvas.width = 864; canvas.height = 486;
          document.body.append(canvas);
          const context = canvas.getContext('2d');
          for (let i = 0; i < count; i++) {
            const start = performance.now();
            await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
            context.fillRect(0, 0, 1, 1);
            context.getImageData(0, 0, 1, 1);
            times.push(performance.now() - start);
          }
          done(JSON.stringify(times));
        })();
        """;

    /// <summary>Puts the large lesson in the place of the demo's publication, with an hour of silence as its voice.</summary>
    private static async Task ReplaceAsync(string publication)
    {
        var timeline = TimelineCompiler.Compile(LargeLesson.Boards, LargeLesson.Whole);
        var file = TimelineFiles.Timeline(timeline, [.. LargeLesson.Boards.Select(_ => Array.Empty<BoardPicture>())], []);
        await File.WriteAllBytesAsync(Path.Combine(publication, "timeline.json"), TimelineFiles.ToBytes(file));
        for (var i = 0; i < timeline.Boards.Count; i++)
        {
            await File.WriteAllBytesAsync(
                Path.Combine(publication, TimelineFiles.InkName(i)),
                TimelineFiles.ToBytes(TimelineFiles.Board(timeline.Boards[i], [])));
        }

        Directory.CreateDirectory(Path.Combine(publication, "pointer"));
        foreach (var minute in file.PointerMinutes)
        {
            await File.WriteAllBytesAsync(
                Path.Combine(publication, TimelineFiles.PointerName(minute)),
                TimelineFiles.ToBytes(TimelineFiles.Pointer(timeline, minute)));
        }

        await Cli.Wrap("ffmpeg").WithArguments(
            ["-v", "error", "-y", "-f", "lavfi", "-i", "anullsrc=r=48000:cl=mono", "-t", "3600", "-c:a", "aac", "-b:a", "32k", "-movflags",
            "+faststart", Path.Combine(publication, "voice.m4a")]).ExecuteAsync();
        var path = Path.Combine(publication, "lesson.json");
        var lesson = JsonNode.Parse(await File.ReadAllBytesAsync(path))!;
        lesson["lengthMs"] = 3_600_000;
        await File.WriteAllTextAsync(path, lesson.ToJsonString());
    }

    // The reference is generous to the video: the boards stand still in it, without ink, at the frame rate of a talk.
    private static async Task ReportSizeAsync(string publication, string folder)
    {
        var timeline = await File.ReadAllBytesAsync(Path.Combine(publication, "timeline.json"));
        var sent = CompileBench.Compressed(timeline);
        foreach (var ink in Directory.GetFiles(Path.Combine(publication, "ink")))
        {
            sent += CompileBench.Compressed(await File.ReadAllBytesAsync(ink));
        }

        using var document = JsonDocument.Parse(timeline);
        var seconds = document.RootElement.GetProperty("length").GetInt32() / 1000.0;
        var pictures = Directory.GetFiles(Path.Combine(publication, "boards"), "medium.jpg", SearchOption.AllDirectories);
        var list = Path.Combine(folder, "slides.txt");
        var each = (seconds / pictures.Length).ToString("0.00", CultureInfo.InvariantCulture);
        await File.WriteAllLinesAsync(list, pictures.Select(p => $"file '{p}'\nduration {each}"));
        var video = Path.Combine(folder, "reference.mp4");
        await Cli.Wrap("ffmpeg").WithArguments(
        [
            "-v", "error", "-y", "-f", "concat", "-safe", "0", "-i", list, "-vf",
            "scale=1280:720:force_original_aspect_ratio=decrease,pad=1280:720:-1:-1,fps=25,format=yuv420p",
            "-c:v", "libx264", "-preset", "medium", "-crf", "23", video,
        ]).ExecuteAsync();
        var mediumPictures = pictures.Sum(p => new FileInfo(p).Length);
        Measure.Say($"demo, {seconds:0} s: timeline and ink as sent {sent} bytes, with the boards' pictures for a laptop {sent + mediumPictures}; "
            + $"the same minutes as 720p video without sound and without ink: {new FileInfo(video).Length} bytes");
    }
}
