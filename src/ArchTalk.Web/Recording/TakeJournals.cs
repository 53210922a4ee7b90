using System.Collections.Concurrent;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Data.Files;

namespace ArchTalk.Web.Recording;

/// <summary>
/// The journals that are being written, each open once and used by one request at a time. One that nobody uses for a while is closed.
/// </summary>
public sealed class TakeJournals : IDisposable
{
    // A recorder sends several times a second. Who comes back after this long waits until the journal is read again.
    private static readonly TimeSpan Idle = TimeSpan.FromMinutes(10);

    private readonly LessonFiles files;
    private readonly TakeSounds sounds;
    private readonly TimeProvider clock;
    private readonly ITimer timer;
    private readonly ConcurrentDictionary<Guid, Entry> open = new();

    public TakeJournals(LessonFiles files, TakeSounds sounds, TimeProvider clock)
    {
        (this.files, this.sounds, this.clock) = (files, sounds, clock);
        timer = clock.CreateTimer(_ => CloseIdle(), null, Idle, Idle);
    }

    /// <summary>How many journals are open.</summary>
    public int Open => open.Values.Count(e => e.File is not null);

    /// <summary>Does something with the journal of a take while nobody else does.</summary>
    public async Task<T> UseAsync<T>(Guid lesson, Guid take, Func<JournalFile, Task<T>> work, CancellationToken cancel)
    {
        var entry = open.GetOrAdd(take, _ => new Entry());
        await entry.Turn.WaitAsync(cancel);
        try
        {
            entry.UsedAt = clock.GetUtcNow();
            entry.File ??= JournalFile.Open(files.Journal(lesson, take), take);
            var result = await work(entry.File);
            if (entry.File.IsEnded)
            {
                entry.Close();
            }

            return result;
        }
        catch (IOException)
        {
            // What is on the disk is no longer known (a full disk, say): it is read afresh next time.
            entry.Close();
            throw;
        }
        finally
        {
            entry.Turn.Release();
        }
    }

    /// <summary>
    /// Listens to what was just saved of a take; called within its turn. When the take has ended and all of it was heard, what was
    /// measured is kept with it.
    /// </summary>
    public void Listen(Guid lesson, Guid take)
    {
        var entry = open[take];
        entry.Live ??= new LiveTake(files.Journal(lesson, take));
        if (entry.Live.Follow() && entry.File!.IsEnded)
        {
            sounds.Keep(lesson, take, entry.Live.Measures());
        }
    }

    /// <summary>Where somebody speaks in the last stretch of what was saved of a take; called within its turn.</summary>
    public IReadOnlyList<HeardPhrase> LastPhrases(Guid lesson, Guid take, Duration within)
    {
        var entry = open[take];
        entry.Live ??= new LiveTake(files.Journal(lesson, take));
        while (!entry.Live.Follow())
        {
        }

        return entry.Live.LastPhrases(within);
    }

    /// <summary>Closes the journal of a take, if it is open.</summary>
    public async Task CloseAsync(Guid take)
    {
        if (open.TryGetValue(take, out var entry))
        {
            await entry.Turn.WaitAsync();
            entry.Close();
            entry.Turn.Release();
        }
    }

    /// <summary>Reads what was done in a take from its journal file, record by record: its sound is passed over.</summary>
    /// <exception cref="InvalidDataException">The file isn't a journal.</exception>
    public static TakeLog Read(string path)
    {
        using var file = OpenToRead(path);
        return JournalReader.Open(file) is { } journal
            ? TakeLog.Read(journal.Take, journal.Entries())
            : throw new InvalidDataException($"{path} is not a journal.");
    }

    /// <summary>A journal's bytes, also while it is being written.</summary>
    public static FileStream OpenToRead(string path) =>
        new(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete, bufferSize: 1 << 16);

    public void Dispose()
    {
        timer.Dispose();
        foreach (var entry in open.Values)
        {
            entry.Close();
            entry.Turn.Dispose();
        }
    }

    private void CloseIdle()
    {
        foreach (var entry in open.Values.Where(e => e.File is not null && clock.GetUtcNow() - e.UsedAt > Idle))
        {
            if (entry.Turn.Wait(TimeSpan.Zero))
            {
                entry.Close();
                entry.Turn.Release();
            }
        }
    }

    private sealed class Entry
    {
        public SemaphoreSlim Turn { get; } = new(1);

        public DateTimeOffset UsedAt { get; set; }

        public JournalFile? File { get; set; }

        public LiveTake? Live { get; set; }

        public void Close()
        {
            File?.Dispose();
            Live?.Dispose();
            (File, Live) = (null, null);
        }
    }
}
