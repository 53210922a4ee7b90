using System.Buffers.Text;
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
public sealed record Opened(Guid Lesson, int Number, bool IsWithdrawn, PublishedLesson? Content);

/// <summary>Publishes, withdraws, and finds what a link leads to.</summary>
public sealed class PublishingService(ArchTalkDb db, LessonFiles files, JobService jobs)
{
    /// <summary>Begins a new publication; the link stays the same.</summary>
    /// <exception cref="Refusal">There is nothing to publish yet.</exception>
    public async Task<Job> PublishAsync(Guid lesson, CancellationToken cancel)
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
        await db.SaveChangesAsync(cancel);
        return await jobs.AddAsync(JobKind.Publish, lesson, "", found.Title, cancel);
    }

    /// <summary>Closes the link, or opens it again.</summary>
    public async Task SetWithdrawnAsync(Guid lesson, bool withdrawn, CancellationToken cancel)
    {
        var found = await db.Lessons.SingleAsync(l => l.Id == lesson, cancel);
        found.IsWithdrawn = withdrawn;
        await db.SaveChangesAsync(cancel);
    }

    public Task<List<Publication>> ListAsync(Guid lesson, CancellationToken cancel) =>
        db.Publications.AsNoTracking().Where(p => p.LessonId == lesson).OrderByDescending(p => p.Number).ToListAsync(cancel);

    /// <summary>What the link with this token leads to: its newest publication, or one of a given number; null for an unknown link.</summary>
    public async Task<Opened?> OpenAsync(string token, int? number, CancellationToken cancel)
    {
        var row = await db.Lessons.AsNoTracking().Where(l => l.WatchToken == token)
            .Select(l => new { l.Id, l.IsWithdrawn, Newest = l.Publications.Max(p => (int?)p.Number) }).SingleOrDefaultAsync(cancel);
        if (row?.Newest is not { } newest || number > newest || number < 1)
        {
            return null;
        }

        return new Opened(row.Id, number ?? newest, row.IsWithdrawn, Content: null);
    }

    /// <summary>The same with the content of lesson.json, when the link is open.</summary>
    public async Task<Opened?> OpenWithContentAsync(string token, CancellationToken cancel)
    {
        var opened = await OpenAsync(token, null, cancel);
        if (opened is null or { IsWithdrawn: true })
        {
            return opened;
        }

        await using var file = File.OpenRead(Path.Combine(files.Publication(opened.Lesson, opened.Number), "lesson.json"));
        return opened with { Content = await JsonSerializer.DeserializeAsync<PublishedLesson>(file, JsonSerializerOptions.Web, cancel) };
    }
}
