using ArchTalk.Data;
using ArchTalk.Media;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Setup;
using ArchTalk.Web.Timelines;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Jobs;

/// <summary>
/// Makes the copies of a lesson's voice some time after its last change, so that publishing needn't wait for them. One lesson after
/// another; what goes wrong here is told when somebody publishes.
/// </summary>
public sealed partial class VoiceWorker(
    IDbContextFactory<ArchTalkDb> databases,
    LessonCompiler compiler,
    LessonVoices voices,
    VoiceCopies copies,
    TimeProvider clock,
    ILogger<VoiceWorker> log) : BackgroundService
{
    /// <summary>So long after the last change. Who edits changes something every few seconds.</summary>
    public static readonly TimeSpan Rest = TimeSpan.FromSeconds(20);

    private static readonly TimeSpan LookAgain = TimeSpan.FromSeconds(2);

    private readonly Dictionary<Guid, Seen> seen = [];
    private bool hasLooked;

    /// <summary>The copies that are being made, or were made last.</summary>
    public Task Making { get; private set; } = Task.CompletedTask;

    /// <summary>Looks once what was changed, and begins with what has rested long enough, unless something is being made.</summary>
    public async Task StepAsync(CancellationToken cancel)
    {
        await LookAsync(cancel);
        if (Making.IsCompleted && Next() is { } lesson)
        {
            Making = MakeAsync(lesson, cancel);
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await StepAsync(stoppingToken);
                await Task.Delay(LookAgain, clock, stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                break;
            }
            catch (Exception e)
            {
                NotSeen(log, e);
                await Task.Delay(LookAgain, clock, CancellationToken.None);
            }
        }

        await Making;
    }

    // What was changed before the server started waits until it is published or changed again.
    private async Task LookAsync(CancellationToken cancel)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = await db.Lessons.AsNoTracking().Where(l => l.DeletedAt == null)
            .Select(l => new { l.Id, l.Revision, HasOpen = l.Takes.Any(t => t.EndedAt == null && t.DeletedAt == null), HasSound = l.Takes.Any() })
            .ToListAsync(cancel);
        foreach (var lesson in now)
        {
            if (!seen.TryGetValue(lesson.Id, out var before) || before.Revision != lesson.Revision)
            {
                seen[lesson.Id] = new Seen(lesson.Revision, clock.GetUtcNow(), IsToMake: hasLooked && lesson.HasSound && !lesson.HasOpen);
                if (copies.IsMaking(lesson.Id))
                {
                    await copies.StopOutdatedAsync(await voices.MixAsync(lesson.Id, cancel));
                }
            }
        }

        hasLooked = true;
    }

    private Guid? Next()
    {
        var rested = clock.GetUtcNow() - Rest;
        foreach (var (lesson, state) in seen.Where(s => s.Value.IsToMake && s.Value.ChangedAt <= rested).OrderBy(s => s.Value.ChangedAt))
        {
            seen[lesson] = state with { IsToMake = false };
            return lesson;
        }

        return null;
    }

    private async Task MakeAsync(Guid lesson, CancellationToken stop)
    {
        try
        {
            var compiled = await compiler.CompileAsync(lesson, stop);
            if (compiled.Timeline.Length > Core.Time.Duration.Zero)
            {
                await copies.MakeAheadAsync(compiled, stop);
            }
        }
        catch (OperationCanceledException)
        {
            // The server stops, or the lesson was changed meanwhile.
        }
        catch (Exception e) when (e is MediaException or Refusal)
        {
            NotMade(log, lesson, e);
        }
        catch (Exception e)
        {
            Failed(log, lesson, e);
        }
    }

    private sealed record Seen(long Revision, DateTimeOffset ChangedAt, bool IsToMake);

    [LoggerMessage(LogLevel.Information, "The voice of lesson {Lesson} could not be made ready; it is tried again when it is published.")]
    private static partial void NotMade(ILogger log, Guid lesson, Exception e);

    [LoggerMessage(LogLevel.Error, "Making the voice of lesson {Lesson} ready failed.")]
    private static partial void Failed(ILogger log, Guid lesson, Exception e);

    [LoggerMessage(LogLevel.Warning, "Changed lessons could not be looked for; it is tried again.")]
    private static partial void NotSeen(ILogger log, Exception e);
}
