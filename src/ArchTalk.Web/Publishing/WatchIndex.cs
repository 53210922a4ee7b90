using System.Collections.Concurrent;
using System.Collections.Frozen;
using ArchTalk.Data;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Publishing;

/// <summary>What a request for a publication needs to know of the lesson its link leads to.</summary>
/// <param name="Stamp">Another whenever anything of it may have changed: what is made of it can be kept under this.</param>
/// <param name="IsClosed">The link was withdrawn, or the lesson put aside.</param>
/// <param name="Newest">The number of the newest publication.</param>
/// <param name="KeptOpen">Older ones that stay open.</param>
public sealed record WatchFacts(long Stamp, Guid Lesson, bool IsClosed, bool IsFindable, int Newest, FrozenSet<int> KeptOpen)
{
    /// <summary>
    /// What a link leads to with a number, or without one: its newest publication, or one that is closed as soon as a newer one is there
    /// unless the teacher keeps it open. Null for a number that never was.
    /// </summary>
    public Opened? Open(int? number)
    {
        if (number > Newest || number < 1)
        {
            return null;
        }

        var isReplaced = !IsClosed && number < Newest && !KeptOpen.Contains(number.Value);
        return new Opened(Lesson, number ?? Newest, IsClosed || isReplaced, Content: null)
        {
            IsFindable = IsFindable && !IsClosed,
            IsReplaced = isReplaced,
        };
    }
}

/// <summary>
/// What links lead to, in memory, so that watching asks no database. Whoever changes any of it says so by <see cref="Forget"/>, after the
/// change was written; the next request reads it anew.
/// </summary>
public sealed class WatchIndex(IDbContextFactory<ArchTalkDb> databases)
{
    // Links of a large school; each takes some hundred bytes.
    private const int MostKept = 20_000;

    private readonly ConcurrentDictionary<string, WatchFacts> kept = new(StringComparer.Ordinal);
    private readonly Lock turn = new();
    private long changes;
    private long stamps;

    /// <summary>What a link leads to; null for an unknown one, or when nothing was published.</summary>
    public async ValueTask<WatchFacts?> FindAsync(string token, CancellationToken cancel) =>
        kept.TryGetValue(token, out var facts) ? facts : await ReadAsync(token, cancel);

    /// <summary>Called after anything of a lesson was changed that its link depends on.</summary>
    public void Forget(Guid lesson)
    {
        lock (turn)
        {
            changes++;
            foreach (var (token, facts) in kept)
            {
                if (facts.Lesson == lesson)
                {
                    kept.TryRemove(token, out _);
                }
            }
        }
    }

    private async Task<WatchFacts?> ReadAsync(string token, CancellationToken cancel)
    {
        var before = Interlocked.Read(ref changes);
        await using var db = await databases.CreateDbContextAsync(cancel);
        var row = await db.Lessons.AsNoTracking().Where(l => l.WatchToken == token).Select(l => new
        {
            l.Id,
            IsClosed = l.IsWithdrawn || l.DeletedAt != null,
            l.IsFindable,
            Newest = l.Publications.Max(p => (int?)p.Number),
            Kept = l.Publications.Where(p => p.IsKeptOpen).Select(p => p.Number).ToList(),
        }).SingleOrDefaultAsync(cancel);
        if (row?.Newest is not { } newest)
        {
            return null;
        }

        var facts = new WatchFacts(Interlocked.Increment(ref stamps), row.Id, row.IsClosed, row.IsFindable, newest, row.Kept.ToFrozenSet());
        lock (turn)
        {
            // What was changed while this was read may not be in it: it answers this request and isn't kept.
            if (changes == before)
            {
                if (kept.Count >= MostKept)
                {
                    kept.Clear();
                }

                kept[token] = facts;
            }
        }

        return facts;
    }
}
