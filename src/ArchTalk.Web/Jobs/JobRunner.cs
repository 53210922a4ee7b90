using System.Collections.Concurrent;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Jobs;

/// <summary>Does one kind of job. It must be able to begin again after it was killed at any point.</summary>
public interface IJobHandler
{
    Task RunAsync(Job job, JobProgress progress, CancellationToken cancel);
}

/// <summary>Where a handler says how far it is.</summary>
public sealed class JobProgress(Func<int, int, Task> report, Func<string, Task> say)
{
    /// <summary>What the teacher should know of a job that was done, or empty.</summary>
    public string Remark { get; set; } = "";

    public Task ReportAsync(int done, int total) => report(done, total);

    /// <summary>What is being done from now on, where that isn't plain; parts and the time they take are counted anew.</summary>
    public Task SayAsync(string what) => say(what);
}

/// <summary>Takes waiting jobs under a lease and runs them.</summary>
public sealed partial class JobRunner(
    IServiceScopeFactory scopes,
    IDbContextFactory<ArchTalkDb> databases,
    TimeProvider clock,
    ILogger<JobRunner> log)
{
    /// <summary>A file that stops its programs so often is given up.</summary>
    public const int MostStopped = 2;

    private const int MostAttempts = 3;
    private static readonly TimeSpan Lease = TimeSpan.FromSeconds(30);
    private static readonly TimeSpan Heartbeat = TimeSpan.FromSeconds(1);
    private readonly ConcurrentDictionary<string, DateTimeOffset> served = new(StringComparer.Ordinal);
    private readonly SemaphoreSlim choosing = new(1);

    /// <summary>Runs the next job that waits or whose lease has run out; false when there is none.</summary>
    public async Task<bool> RunNextAsync(CancellationToken stop)
    {
        // The lanes choose one after another, so that each sees what the other has taken.
        await choosing.WaitAsync(stop);
        Job? job;
        try
        {
            job = await LeaseNextAsync(stop);
        }
        finally
        {
            choosing.Release();
        }

        if (job is null)
        {
            return false;
        }

        using var cancel = CancellationTokenSource.CreateLinkedTokenSource(stop);
        using var done = CancellationTokenSource.CreateLinkedTokenSource(stop);
        var heart = KeepAliveAsync(job.Id, cancel, done.Token);
        var (state, message) = await RunAsync(job, cancel.Token, stop);
        await done.CancelAsync();
        await heart;
        if (state is { } final)
        {
            await FinishAsync(job.Id, final, message);
        }

        return true;
    }

    /// <summary>
    /// Frees the jobs a killed server left running. Lessons are made on one node, so when it starts nobody else is at work.
    /// </summary>
    public async Task FreeAbandonedAsync(CancellationToken cancel)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await db.Jobs.Where(j => j.State == JobState.Running)
            .ExecuteUpdateAsync(s => s.SetProperty(j => j.LeaseUntil, DateTimeOffset.UnixEpoch), cancel);
    }

    private async Task<(JobState? State, string Message)> RunAsync(Job job, CancellationToken cancel, CancellationToken stop)
    {
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            var handler = scope.ServiceProvider.GetRequiredKeyedService<IJobHandler>(job.Kind);
            var progress = new JobProgress((d, t) => ReportAsync(job.Id, d, t), what => SayAsync(job.Id, what));
            await handler.RunAsync(job, progress, cancel);
            return (JobState.Done, progress.Remark);
        }
        catch (OperationCanceledException) when (stop.IsCancellationRequested)
        {
            // The server stops: the job keeps its row, and whoever starts next takes it again when the lease has run out.
            return (null, "");
        }
        catch (OperationCanceledException)
        {
            return (JobState.Cancelled, "");
        }
        catch (ProgramStoppedException e) when (job.Attempts < MostStopped)
        {
            // The machine may have been busy: it is tried once more.
            Stopped(log, job.Kind, job.Id, e);
            return (JobState.Waiting, "");
        }
        catch (Exception e) when (e is MediaException or Refusal)
        {
            if (e.InnerException is not null)
            {
                Stopped(log, job.Kind, job.Id, e);
            }

            return (JobState.Failed, e.Message);
        }
        catch (Exception e)
        {
            Unexpected(log, job.Kind, job.Id, e);
            return (JobState.Failed, Fault.Of(e).Message);
        }
    }

    private async Task<Job?> LeaseNextAsync(CancellationToken cancel)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = clock.GetUtcNow();
        var until = now + Lease;
        await db.Jobs.Where(j => j.State == JobState.Running && j.LeaseUntil < now && j.Attempts >= MostAttempts).ExecuteUpdateAsync(
            s => s.SetProperty(j => j.State, JobState.Failed).SetProperty(j => j.FinishedAt, now)
                .SetProperty(
                    j => j.Message,
                    "The server was stopped each time while working on it. Nothing that was there before is lost; try again."),
            cancel);

        // Reading the words of a whole scanned book must not keep a teacher's next file waiting.
        if (await NextAsync(db, now, cancel) is not { } next)
        {
            return null;
        }

        var candidate = next.Job;

        // Only one worker wins the row, however many try.
        var won = await db.Jobs
            .Where(j => j.Id == candidate.Id && j.State == candidate.State && j.Attempts == candidate.Attempts)
            .ExecuteUpdateAsync(
                s => s.SetProperty(j => j.State, JobState.Running).SetProperty(j => j.LeaseUntil, until).SetProperty(j => j.StartedAt, now)
                    .SetProperty(j => j.Done, 0).SetProperty(j => j.Message, "").SetProperty(j => j.Attempts, candidate.Attempts + 1),
                cancel);
        served[next.Teacher] = now;
        return won == 1 ? await db.Jobs.AsNoTracking().SingleAsync(j => j.Id == candidate.Id, cancel) : null;
    }

    // Jobs of one lesson come one after another, so that its boards stand in the order in which files were chosen; only films, which take
    // long, hold up nothing, and one lane is always left for what is short. Teachers take turns: first whoever has nothing running, then
    // whoever was served longest ago.
    private async Task<(Job Job, string Teacher)?> NextAsync(ArchTalkDb db, DateTimeOffset now, CancellationToken cancel)
    {
        var open = await (from job in db.Jobs.AsNoTracking()
                          join lesson in db.Lessons on job.LessonId equals lesson.Id
                          where job.State == JobState.Waiting || job.State == JobState.Running
                          select new { Job = job, Teacher = lesson.TeacherId }).ToListAsync(cancel);
        var running = open.Where(o => o.Job.State == JobState.Running && o.Job.LeaseUntil >= now).ToArray();
        var films = running.Count(r => r.Job.Kind == JobKind.Film);
        var next = open.Except(running)
            .Where(o => o.Job.Kind == JobKind.Film
                ? films < JobWorker.Lanes - 1
                : !running.Any(r => r.Job.LessonId == o.Job.LessonId && r.Job.Kind != JobKind.Film))
            .OrderBy(o => running.Count(r => r.Teacher == o.Teacher)).ThenBy(o => o.Job
                .Kind == JobKind.Read).ThenBy(o => served.GetValueOrDefault(o.Teacher)).ThenBy(o => o.Job.CreatedAt)
            .FirstOrDefault();
        return next is null ? null : (next.Job, next.Teacher);
    }

    private async Task KeepAliveAsync(Guid id, CancellationTokenSource job, CancellationToken done)
    {
        try
        {
            while (true)
            {
                await Task.Delay(Heartbeat, clock, done);
                await BeatAsync(id, job, done);
            }
        }
        catch (OperationCanceledException)
        {
            // The job has ended.
        }
    }

    // One that fails (the database was busy) is followed by the next, long before the lease runs out.
    private async Task BeatAsync(Guid id, CancellationTokenSource job, CancellationToken done)
    {
        try
        {
            await using var db = await databases.CreateDbContextAsync(done);
            var until = clock.GetUtcNow() + Lease;
            await db.Jobs.Where(j => j.Id == id).ExecuteUpdateAsync(s => s.SetProperty(j => j.LeaseUntil, until), done);
            if (await db.Jobs.AnyAsync(j => j.Id == id && j.CancelRequested, done))
            {
                await job.CancelAsync();
            }
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            NoHeartbeat(log, id, e);
        }
    }

    private async Task ReportAsync(Guid id, int done, int total)
    {
        await using var db = await databases.CreateDbContextAsync();
        await db.Jobs.Where(j => j.Id == id).ExecuteUpdateAsync(s => s.SetProperty(j => j.Done, done).SetProperty(j => j.Total, total));
    }

    private async Task SayAsync(Guid id, string what)
    {
        await using var db = await databases.CreateDbContextAsync();
        await db.Jobs.Where(j => j.Id == id).ExecuteUpdateAsync(
            s => s.SetProperty(j => j.Message, what).SetProperty(j => j.Done, 0).SetProperty(j => j.Total, 0)
                .SetProperty(j => j.StartedAt, clock.GetUtcNow()));
    }

    private async Task FinishAsync(Guid id, JobState state, string message)
    {
        await using var db = await databases.CreateDbContextAsync();
        DateTimeOffset? finished = state == JobState.Waiting ? null : clock.GetUtcNow();
        await db.Jobs.Where(j => j.Id == id).ExecuteUpdateAsync(
            s => s.SetProperty(j => j.State, state).SetProperty(j => j.Message, message).SetProperty(j => j.FinishedAt, finished));
    }

    [LoggerMessage(LogLevel.Information, "A program could not do its part of the {Kind} job {Id}.")]
    private static partial void Stopped(ILogger log, JobKind kind, Guid id, Exception e);

    [LoggerMessage(LogLevel.Warning, "The heartbeat of job {Id} failed and is tried again.")]
    private static partial void NoHeartbeat(ILogger log, Guid id, Exception e);

    [LoggerMessage(LogLevel.Error, "The {Kind} job {Id} failed.")]
    private static partial void Unexpected(ILogger log, JobKind kind, Guid id, Exception e);
}

/// <summary>Runs jobs as long as the server runs, three at a time, so that a long one holds up nobody else's.</summary>
public sealed partial class JobWorker(JobRunner runner, JobSignal signal, ILogger<JobWorker> log) : BackgroundService
{
    private static readonly TimeSpan LookAgain = TimeSpan.FromSeconds(5);

    public const int Lanes = 3;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await runner.FreeAbandonedAsync(stoppingToken);
        await Task.WhenAll(Enumerable.Range(0, Lanes).Select(_ => WorkAsync(stoppingToken)));
    }

    private async Task WorkAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                if (!await runner.RunNextAsync(stoppingToken))
                {
                    await signal.WaitAsync(LookAgain, stoppingToken);
                }
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e)
            {
                Failed(log, e);
                await Task.Delay(LookAgain, stoppingToken);
            }
        }
    }

    [LoggerMessage(LogLevel.Error, "The worker could not look for jobs and tries again.")]
    private static partial void Failed(ILogger log, Exception e);
}
