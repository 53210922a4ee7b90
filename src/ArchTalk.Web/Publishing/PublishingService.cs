using System.Buffers.Text;
using System.Globalization;
using System.Security.Cryptography;
using System.Text.Json;
using ArchTalk.Core.Publishing;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Publishing;

/// <summary>The publication that a students' link leads to.</summary>
/// <param name="IsClosed">It was withdrawn, put aside with its lesson, or replaced.</param>
public sealed record Opened(Guid Lesson, int Number, bool IsClosed, PublishedLesson? Content)
{
    /// <summary>A newer version is open under the same link.</summary>
    public bool IsReplaced { get; init; }

    /// <summary>Whether search engines may list it.</summary>
    public bool IsFindable { get; init; }
}

/// <summary>Publishes, withdraws, and finds what a link leads to.</summary>
public sealed class PublishingService(ArchTalkDb db, LessonFiles files, JobService jobs, JobSignal signal, WatchIndex index)
{
    /// <summary>
    /// Begins a new publication; the link stays the same. Pressed again while one is being made of the same state of the lesson, or
    /// after it was made, nothing is made twice; a link that was closed is opened.
    /// </summary>
    /// <returns>The job; null when the newest publication is of this state already.</returns>
    /// <exception cref="Refusal">There is nothing to publish yet.</exception>
    public async Task<Job?> PublishAsync(Guid lesson, CancellationToken cancel)
    {
        // SQLite lets one writer in: of two presses the second sees what the first has begun.
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var job = await BeginAsync(lesson, cancel);
        await turn.CommitAsync(cancel);
        index.Forget(lesson);

        // The worker may have looked before the row was there.
        signal.Raise();
        return job;
    }

    private async Task<Job?> BeginAsync(Guid lesson, CancellationToken cancel)
    {
        var samples = await db.Takes.Where(t => t.LessonId == lesson && t.DeletedAt == null && t.EndedAt != null).SumAsync(t => t.Samples, cancel);
        if (samples == 0)
        {
            throw new Refusal("There is no recording yet. Record a take first; then publish.");
        }

        if (await db.Takes.AnyAsync(t => t.LessonId == lesson && t.DeletedAt == null && t.EndedAt == null, cancel))
        {
            throw new Refusal("A take is not finished. Open Record to go on with it or to finish it; then publish.");
        }

        var found = await db.Lessons.SingleAsync(l => l.Id == lesson, cancel);
        found.WatchToken ??= Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(16));
        var revision = found.Revision.ToString(CultureInfo.InvariantCulture);
        var begun = await db.Jobs.Where(j => j.LessonId == lesson && j.Kind == JobKind.Publish && j.Subject == revision && !j.CancelRequested)
            .FirstOrDefaultAsync(j => j.State == JobState.Waiting || j.State == JobState.Running, cancel);
        if (begun is not null)
        {
            return begun;
        }

        var newest = await db.Publications.Where(p => p.LessonId == lesson).OrderByDescending(p => p.Number).FirstOrDefaultAsync(cancel);
        if (newest?.Revision == found.Revision)
        {
            found.IsWithdrawn = false;
            await db.SaveChangesAsync(cancel);
            return null;
        }

        await db.SaveChangesAsync(cancel);
        return await jobs.AddAsync(JobKind.Publish, lesson, revision, found.Title, cancel);
    }

    /// <summary>Closes the link, or opens it again.</summary>
    public async Task SetWithdrawnAsync(Guid lesson, bool withdrawn, CancellationToken cancel)
    {
        var found = await db.Lessons.SingleAsync(l => l.Id == lesson, cancel);
        found.IsWithdrawn = withdrawn;
        await db.SaveChangesAsync(cancel);
        index.Forget(lesson);
    }

    /// <summary>Lets search engines list the students' page, or not.</summary>
    public async Task SetFindableAsync(Guid lesson, bool findable, CancellationToken cancel)
    {
        await db.Lessons.Where(l => l.Id == lesson).ExecuteUpdateAsync(s => s.SetProperty(l => l.IsFindable, findable), cancel);
        index.Forget(lesson);
    }

    /// <summary>Keeps a version open under its number beside newer ones, or closes it.</summary>
    /// <exception cref="Refusal">There is no such version.</exception>
    public async Task SetKeptOpenAsync(Guid lesson, int number, bool keptOpen, CancellationToken cancel)
    {
        if (await db.Publications.Where(p => p.LessonId == lesson && p.Number == number)
            .ExecuteUpdateAsync(s => s.SetProperty(p => p.IsKeptOpen, keptOpen), cancel) == 0)
        {
            throw new Refusal("This version is not there. Reload the page to see those that are.");
        }

        index.Forget(lesson);
    }

    public Task<List<Publication>> ListAsync(Guid lesson, CancellationToken cancel) =>
        db.Publications.AsNoTracking().Where(p => p.LessonId == lesson).OrderByDescending(p => p.Number).ToListAsync(cancel);

    /// <summary>
    /// What the link with this token leads to, with the content of lesson.json when it is open; null for an unknown link. With the lesson
    /// put aside all of it is closed.
    /// </summary>
    public async Task<Opened?> OpenAsync(string token, int? number, CancellationToken cancel)
    {
        var opened = (await index.FindAsync(token, cancel))?.Open(number);
        if (opened is null or { IsClosed: true })
        {
            return opened;
        }

        await using var file = File.OpenRead(Path.Combine(files.Publication(opened.Lesson, opened.Number), "lesson.json"));
        return opened with { Content = await JsonSerializer.DeserializeAsync<PublishedLesson>(file, JsonSerializerOptions.Web, cancel) };
    }
}
