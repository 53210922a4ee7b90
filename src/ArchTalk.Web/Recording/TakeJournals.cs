using System.Collections.Concurrent;
using ArchTalk.Core.Recording;
using ArchTalk.Data.Files;

namespace ArchTalk.Web.Recording;

/// <summary>The journals that are being written, each open once and used by one request at a time.</summary>
public sealed class TakeJournals(LessonFiles files) : IDisposable
{
    private readonly ConcurrentDictionary<Guid, Entry> open = new();

    /// <summary>Does something with the journal of a take while nobody else does.</summary>
    public async Task<T> UseAsync<T>(Guid lesson, Guid take, Func<JournalFile, Task<T>> work, CancellationToken cancel)
    {
        var entry = open.GetOrAdd(take, _ => new Entry());
        await entry.Turn.WaitAsync(cancel);
        try
        {
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
    public static FileStream OpenToRead(string path) => new(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite, bufferSize: 1 << 16);

    public void Dispose()
    {
        foreach (var entry in open.Values)
        {
            entry.Close();
            entry.Turn.Dispose();
        }
    }

    private sealed class Entry
    {
        public SemaphoreSlim Turn { get; } = new(1);

        public JournalFile? File { get; set; }

        public void Close()
        {
            File?.Dispose();
            File = null;
        }
    }
}
