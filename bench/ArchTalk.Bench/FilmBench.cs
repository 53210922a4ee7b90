using System.Diagnostics;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Lessons;
using ArchTalk.Tests;
using ArchTalk.Web.Setup;
using CliWrap;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace ArchTalk.Bench;

/// <summary>
/// Import of a film of a minute against its encoder alone, until it can be played; and how long a picture waits that is added to the
/// same lesson while the film is being made.
/// </summary>
internal static class FilmBench
{
    private static readonly CancellationToken None = CancellationToken.None;

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("archtalk-bench-").FullName;
        var (film, picture) = (Path.Combine(folder, "film.mkv"), Path.Combine(folder, "picture.png"));
        await Ffmpeg(
            "-f",
            "lavfi",
            "-i",
            "testsrc2=s=1280x720:r=30:d=60",
            "-f",
            "lavfi",
            "-i",
            "sine=d=60",
            "-c:v",
            "mpeg4",
            "-q:v",
            "4",
            "-shortest",
            film);
        await Ffmpeg("-f", "lavfi", "-i", "testsrc2=s=1600x900:d=1", "-frames:v", "1", picture);
        var start = Stopwatch.GetTimestamp();
        await Ffmpeg(
            "-i",
            film,
            "-vf",
            "format=yuv420p",
            "-c:v",
            "libx264",
            "-preset",
            "veryfast",
            "-crf",
            "23",
            "-c:a",
            "aac",
            "-b:a",
            "128k",
            "-ac",
            "2",
            Path.Combine(folder, "alone.mp4"));
        var alone = Stopwatch.GetElapsedTime(start).TotalSeconds;

        var services = new ServiceCollection();
        services.AddLogging();
        services.AddArchTalkServices(
            new ArchTalkOptions { DataFolder = Path.Combine(folder, "data") },
            folder,
            Path.Combine(Repository.Web, "wwwroot/app/fonts"));
        await using var provider = services.BuildServiceProvider();
        await using var scope = provider.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<ArchTalkDb>();
        await DatabaseSetup.MigrateAsync(db);
        var teacher = new Teacher { UserName = "bench" };
        db.Add(teacher);
        await db.SaveChangesAsync();
        var lesson = (await scope.ServiceProvider.GetRequiredService<LessonService>().CreateAsync(teacher.Id, "Bench", null, None)).Id;
        var uploads = scope.ServiceProvider.GetRequiredService<LessonFiles>().Uploads(lesson);
        Directory.CreateDirectory(uploads);
        var jobs = scope.ServiceProvider.GetRequiredService<JobService>();
        var runner = provider.GetRequiredService<JobRunner>();

        // Once alone, until it can be played.
        File.Copy(film, Path.Combine(uploads, "one"));
        await jobs.AddAsync(JobKind.Film, lesson, "one", "film", None);
        start = Stopwatch.GetTimestamp();
        var making = runner.RunNextAsync(None);
        await UntilBoardsAsync(provider, 1);
        var first = Stopwatch.GetElapsedTime(start).TotalSeconds;
        await making;

        // And once with a picture that comes meanwhile.
        File.Copy(film, Path.Combine(uploads, "two"));
        await jobs.AddAsync(JobKind.Film, lesson, "two", "film", None);
        making = runner.RunNextAsync(None);
        await Task.Delay(1000);
        File.Copy(picture, Path.Combine(uploads, "picture"));
        await jobs.AddAsync(JobKind.Import, lesson, "picture", "picture", None);
        start = Stopwatch.GetTimestamp();
        var short1 = runner.RunNextAsync(None);
        await UntilBoardsAsync(provider, 2);
        var waited = Stopwatch.GetElapsedTime(start).TotalSeconds;
        await Task.WhenAll(making, short1);
        Measure.Say($"a film of 60 s can be played after {first:0.0} s; its encoder alone {alone:0.0} s (ratio {first / alone:0.00}); a picture "
            + $"added while another film is made is there after {waited:0.0} s");
        Directory.Delete(folder, recursive: true);
    }

    private static async Task UntilBoardsAsync(IServiceProvider provider, int count)
    {
        while (true)
        {
            await using var scope = provider.CreateAsyncScope();
            if (await scope.ServiceProvider.GetRequiredService<ArchTalkDb>().Boards.CountAsync() >= count)
            {
                return;
            }

            await Task.Delay(50);
        }
    }

    private static Task Ffmpeg(params string[] arguments) =>
        Cli.Wrap("ffmpeg").WithArguments(["-v", "error", "-nostdin", "-y", .. arguments]).ExecuteAsync();
}
