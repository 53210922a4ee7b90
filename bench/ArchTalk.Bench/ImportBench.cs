using System.Diagnostics;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Media.Boxes;
using ArchTalk.Reader.Contract;
using ArchTalk.Reader.Readers;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Lessons;
using ArchTalk.Tests;
using ArchTalk.Web.Setup;
using CliWrap;
using Microsoft.Extensions.DependencyInjection;
using SkiaSharp;

namespace ArchTalk.Bench;

/// <summary>
/// Import of a PDF of 100 pages against poppler drawing the same pages at the same size on the same cores: alone, and with the same
/// copies written. Import of a deck against LibreOffice and the import of its PDF.
/// </summary>
internal static class ImportBench
{
    private const int Pages = 100;

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("archtalk-bench-").FullName;
        var pdf = Path.Combine(folder, "pages.pdf");
        Write(pdf);
        var alone = await TimeAsync("pdftoppm", "-scale-to-x", "3840", "-scale-to-y", "-1", pdf, Path.Combine(folder, "splash"));
        Array.ForEach(Directory.GetFiles(folder, "*.ppm"), File.Delete);
        var copied = await WithOwnCopiesAsync(folder, pdf);
        var drawn = await WithCopiesAsync(folder, pdf);
        var (import, first) = await ImportAsync(folder, pdf, "pages.pdf");
        Measure.Say(
            $"import of {Pages} pages, three copies each: {import:0.0} s, first board to be seen after {first:0.00} s; two pdftoppm and the same "
                + $"copies made of what they drew: {copied:0.0} s (ratio {import / copied:0.00}); two pdftoppm drawing all three sizes: "
                    + $"{drawn:0.0} s (ratio {import / drawn:0.00}); pdftoppm alone, one core, nothing else written: {alone:0.0} s (ratio "
                        + $"{import / alone:0.00})");
        await DeckAsync(folder);
        Directory.Delete(folder, recursive: true);
    }

    private static async Task<double> TimeAsync(string program, params string[] arguments)
    {
        var start = Stopwatch.GetTimestamp();
        await Cli.Wrap(program).WithArguments(arguments).ExecuteAsync();
        return Stopwatch.GetElapsedTime(start).TotalSeconds;
    }

    // A pdftoppm for each page, on each core, and the copies made of what it drew.
    private static async Task<double> WithOwnCopiesAsync(string folder, string pdf)
    {
        var start = Stopwatch.GetTimestamp();
        await Parallel.ForEachAsync(
            Enumerable.Range(1, Pages), new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount }, async (page, cancel) =>
            {
                var drawn = Path.Combine(folder, $"reference-{page}");
                await Cli.Wrap("pdftoppm").WithArguments(
                    ["-jpeg", "-jpegopt", "quality=90,optimize=n", "-singlefile", "-f", $"{page}", "-l", $"{page}", "-scale-to-x", "3840",
                    "-scale-to-y", "-1", pdf, drawn]).ExecuteAsync(cancel);
                PictureReader.ImportPage(drawn + ".jpg", null, Path.Combine(folder, "reference", $"{page}"));
            });
        return Stopwatch.GetElapsedTime(start).TotalSeconds;
    }

    // One pdftoppm on each core, each with its share of the pages, drawing them at the three sizes one after another.
    private static async Task<double> WithCopiesAsync(string folder, string pdf)
    {
        var (start, cores) = (Stopwatch.GetTimestamp(), Environment.ProcessorCount);
        await Task.WhenAll(Enumerable.Range(0, cores).Select(async core =>
        {
            foreach (var (name, width) in PictureSizes.All.Take(3))
            {
                await Cli.Wrap("pdftoppm").WithArguments(
                    ["-jpeg", "-jpegopt", "quality=90,optimize=n", "-f", $"{(Pages * core / cores) + 1}", "-l", $"{Pages * (core + 1) / cores}",
                    "-scale-to-x", $"{width}", "-scale-to-y", "-1", pdf, Path.Combine(folder, $"reference-{name}")]).ExecuteAsync();
            }
        }));
        return Stopwatch.GetElapsedTime(start).TotalSeconds;
    }

    private static async Task DeckAsync(string folder)
    {
        var deck = Path.Combine(folder, "deck.pptx");
        await Cli.Wrap("node").WithArguments(["-e", DeckScript, Path.Combine(Repository.Web, "package.json"), deck]).ExecuteAsync();
        var limits = new MediaLimits();
        var looks = new DeckLooks(new Box(new BoxOptions(), limits), new MediaPrograms(), limits);
        var start = Stopwatch.GetTimestamp();
        var (_, pdf, _) = await looks.DrawAsync(deck, folder, CancellationToken.None);
        var office = Stopwatch.GetElapsedTime(start).TotalSeconds;
        var (pages, _) = await ImportAsync(folder, pdf, "deck.pdf");
        var (import, _) = await ImportAsync(folder, deck, "deck.pptx");
        Measure.Say(
            $"import of a deck of 40 slides: {import:0.0} s; LibreOffice alone {office:0.0} s and the import of its PDF {pages:0.0} s, together "
                + $"{office + pages:0.0} s (ratio {import / (office + pages):0.00})");
    }

    internal const string DeckScript =
        """
        const { createRequire } = require("node:module");
        const Deck = createRequire(process.argv[1])("pptxgenjs");
        const deck = new Deck();
        for (let i = 1; i <= Number(process.argv[3] ?? 40); i++) {
          const slide = deck.addSlide();
          slide.addText(`Slide ${i}`, { x: 0.5, y: 0.3, w: 9, h: 1, fontSize: 32 });
          slide.addNotes(`Notes ${i}`);
          for (let n = 0; n < 12; n++) slide.addShape("ellipse", { x: n * 0.7, y: 1.5 + (n * i) % 3, w: 0.6, h: 0.6, fill: { color: "0F4C4A" } });
          slide.addText("Every stone of an arch leans on its neighbour.", { x: 0.5, y: 4.6, w: 9, h: 0.6, fontSize: 20 });
        }
        deck.writeFile({ fileName: process.argv[2] });
        """;

    private static async Task<(double Seconds, double First)> ImportAsync(string folder, string source, string name)
    {
        var services = new ServiceCollection();
        services.AddLogging();
        services.AddArchTalkServices(
            new ArchTalkOptions { DataFolder = Path.Combine(folder, $"data-{name}") },
            folder,
            Path.Combine(Repository.Web, "wwwroot/app/fonts"));
        await using var provider = services.BuildServiceProvider();
        await using var scope = provider.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<ArchTalkDb>();
        await DatabaseSetup.MigrateAsync(db);
        var teacher = new Teacher { UserName = "bench" };
        db.Add(teacher);
        await db.SaveChangesAsync();
        var lesson = await scope.ServiceProvider.GetRequiredService<LessonService>().CreateAsync(teacher.Id, "Bench", null, CancellationToken.None);
        var files = scope.ServiceProvider.GetRequiredService<LessonFiles>();
        Directory.CreateDirectory(files.Uploads(lesson.Id));
        File.Copy(source, Path.Combine(files.Uploads(lesson.Id), "upload"));
        var job = await scope.ServiceProvider.GetRequiredService<JobService>()
            .AddAsync(JobKind.Import, lesson.Id, "upload", name, CancellationToken.None);
        var start = Stopwatch.GetTimestamp();
        var running = provider.GetRequiredService<JobRunner>().RunNextAsync(CancellationToken.None);
        var picture = Path.Combine(files.Board(lesson.Id, ImportJob.BoardId(job.Id, 1)), "small.jpg");
        while (!File.Exists(picture) && !running.IsCompleted)
        {
            await Task.Delay(5);
        }

        var first = Stopwatch.GetElapsedTime(start).TotalSeconds;
        await running;
        return (Stopwatch.GetElapsedTime(start).TotalSeconds, first);
    }

    // Slides with lines, curves and blocks of colour, each page different.
    internal static void Write(string target)
    {
        using var stream = File.Create(target);
        using var document = SKDocument.CreatePdf(stream);
        var random = new Random(4);
        using var line = new SKPaint { IsStroke = true, StrokeWidth = 2, IsAntialias = true };
        using var block = new SKPaint { IsAntialias = true };
        for (var page = 0; page < Pages; page++)
        {
            using var canvas = document.BeginPage(960, 540);
            for (var i = 0; i < 60; i++)
            {
                block.Color = new SKColor((uint)random.Next() | 0xFF00_0000);
                canvas.DrawRect(random.Next(900), random.Next(500), random.Next(10, 160), random.Next(4, 40), block);
                canvas.DrawCircle(random.Next(960), random.Next(540), random.Next(5, 90), line);
            }

            document.EndPage();
        }

        document.Close();
    }
}
