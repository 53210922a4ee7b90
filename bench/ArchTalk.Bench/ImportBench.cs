using System.Diagnostics;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Setup;
using CliWrap;
using Microsoft.Extensions.DependencyInjection;
using SkiaSharp;

namespace ArchTalk.Bench;

/// <summary>Import of a PDF of 100 pages against poppler alone drawing the same pages, at the same size, on the same machine.</summary>
internal static class ImportBench
{
    private const int Pages = 100;

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("archtalk-bench-").FullName;
        var pdf = Path.Combine(folder, "pages.pdf");
        Write(pdf);
        var cairo = await TimeAsync("pdftocairo", "-jpeg", "-scale-to-x", "3840", "-scale-to-y", "-1", pdf, Path.Combine(folder, "cairo"));
        var splash = await TimeAsync("pdftoppm", "-scale-to-x", "3840", "-scale-to-y", "-1", pdf, Path.Combine(folder, "splash"));
        Array.ForEach(Directory.GetFiles(folder, "*.ppm"), File.Delete);
        var import = await ImportAsync(folder, pdf);
        Measure.Say($"import of {Pages} pages, three copies each: {import:0.0} s; pdftocairo -jpeg alone, largest copy only: {cairo:0.0} s (ratio {import / cairo:0.00}); pdftoppm alone: {splash:0.0} s (ratio {import / splash:0.00})");
        Directory.Delete(folder, recursive: true);
    }

    private static async Task<double> TimeAsync(string program, params string[] arguments)
    {
        var start = Stopwatch.GetTimestamp();
        await Cli.Wrap(program).WithArguments(arguments).ExecuteAsync();
        return Stopwatch.GetElapsedTime(start).TotalSeconds;
    }

    private static async Task<double> ImportAsync(string folder, string pdf)
    {
        var services = new ServiceCollection();
        services.AddLogging();
        services.AddArchTalkServices(new ArchTalkOptions { DataFolder = Path.Combine(folder, "data") }, folder);
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
        File.Copy(pdf, Path.Combine(files.Uploads(lesson.Id), "upload"));
        await scope.ServiceProvider.GetRequiredService<JobService>().AddAsync(JobKind.Import, lesson.Id, "upload", "pages.pdf", CancellationToken.None);
        var start = Stopwatch.GetTimestamp();
        await provider.GetRequiredService<JobRunner>().RunNextAsync(CancellationToken.None);
        return Stopwatch.GetElapsedTime(start).TotalSeconds;
    }

    // Slides with lines, curves and blocks of colour, each page different.
    private static void Write(string target)
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
