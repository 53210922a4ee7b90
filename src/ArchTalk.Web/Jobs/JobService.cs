using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Jobs;

/// <summary>A job as pages show it.</summary>
/// <param name="SecondsLeft">Estimated from the parts done so far; null when nothing is known yet.</param>
public sealed record JobView(Guid Id, string Kind, string State, string Title, int Done, int Total, string Message, int? SecondsLeft)
{
    /// <summary>Addresses of pictures that can be shown before the job is done.</summary>
    public IReadOnlyList<string> Pictures { get; init; } = [];
}

/// <summary>Wakes the worker when there is something to do.</summary>
public sealed class JobSignal : IDisposable
{
    private readonly SemaphoreSlim signal = new(0);

    public void Raise() => signal.Release();

    /// <summary>Returns when work was announced, or after <paramref name="limit"/> at the latest.</summary>
    public Task WaitAsync(TimeSpan limit, CancellationToken cancel) => signal.WaitAsync(limit, cancel);

    public void Dispose() => signal.Dispose();
}

/// <summary>Adds, lists and cancels jobs.</summary>
public sealed class JobService(ArchTalkDb db, LessonFiles files, JobSignal signal, TimeProvider clock)
{
    /// <summary>How long a finished job is still shown.</summary>
    private static readonly TimeSpan Shown = TimeSpan.FromMinutes(10);

    public async Task<Job> AddAsync(JobKind kind, Guid lesson, string subject, string title, CancellationToken cancel)
    {
        var job = new Job
        {
            Id = Guid.CreateVersion7(),
            Kind = kind,
            LessonId = lesson,
            Subject = subject,
            Title = title,
            CreatedAt = clock.GetUtcNow(),
        };
        db.Jobs.Add(job);
        await db.SaveChangesAsync(cancel);
        signal.Raise();
        return job;
    }

    /// <summary>Jobs of a lesson that are under way, failed, or just finished, oldest first.</summary>
    public async Task<IReadOnlyList<JobView>> ListAsync(Guid lesson, IReadOnlyCollection<JobKind> kinds, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        var since = now - Shown;
        var jobs = await db.Jobs.AsNoTracking().Where(j => j.LessonId == lesson && kinds.Contains(j.Kind))
            .Where(j => j.State == JobState.Waiting || j.State == JobState.Running || j.State == JobState.Failed || j.FinishedAt > since)
            .OrderBy(j => j.CreatedAt).ToListAsync(cancel);
        return [.. jobs.Select(j => View(j, now))];
    }

    public async Task<JobView?> GetAsync(Guid lesson, Guid id, CancellationToken cancel) =>
        await db.Jobs.AsNoTracking().SingleOrDefaultAsync(j => j.Id == id && j.LessonId == lesson, cancel) is { } job
            ? View(job, clock.GetUtcNow())
            : null;

    /// <summary>The latest job of a kind about a subject, whatever its state.</summary>
    public async Task<JobView?> LatestAsync(Guid lesson, JobKind kind, string subject, CancellationToken cancel) =>
        await db.Jobs.AsNoTracking().Where(j => j.LessonId == lesson && j.Kind == kind && j.Subject == subject).OrderByDescending(j => j.CreatedAt)
            .FirstOrDefaultAsync(cancel)
            is { } job ? View(job, clock.GetUtcNow()) : null;

    /// <summary>Asks a job to stop; one that hasn't begun is stopped at once.</summary>
    public async Task CancelAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        if (await db.Jobs.SingleOrDefaultAsync(j => j.Id == id && j.LessonId == lesson, cancel) is { } job)
        {
            job.CancelRequested = true;
            var isWaiting = job.State == JobState.Waiting;
            if (isWaiting)
            {
                (job.State, job.FinishedAt) = (JobState.Cancelled, clock.GetUtcNow());
            }

            await db.SaveChangesAsync(cancel);
            if (isWaiting && ImportJob.Kinds.Contains(job.Kind))
            {
                File.Delete(Path.Combine(files.Uploads(lesson), job.Subject));
            }
        }
    }

    /// <summary>Takes a finished or failed job off the list.</summary>
    public Task DismissAsync(Guid lesson, Guid id, CancellationToken cancel) =>
        db.Jobs.Where(j => j.Id == id && j.LessonId == lesson && j.State != JobState.Waiting && j.State != JobState.Running)
            .ExecuteDeleteAsync(cancel);

    private static JobView View(Job job, DateTimeOffset now)
    {
        int? left = job is { State: JobState.Running, Done: > 0, StartedAt: { } started } && job.Total > job.Done
            ? (int)Math.Ceiling((now - started).TotalSeconds / job.Done * (job.Total - job.Done))
            : null;
        return new(job.Id, Name(job.Kind), Name(job.State), job.Title, job.Done, job.Total, job.Message, left);
    }

    private static string Name<T>(T value)
        where T : struct, Enum => value.ToString().ToLowerInvariant();
}
