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

    /// <summary>Reads a take from its journal file.</summary>
    /// <exception cref="InvalidDataException">The file isn't a journal.</exception>
    public static async Task<Take> ReadAsync(string path, CancellationToken cancel)
    {
        var length = new FileInfo(path).Length;
        var bytes = new byte[length];
        await using (var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite))
        {
            await file.ReadExactlyAsync(bytes, cancel);
        }

        return Journal.TryRead(bytes, out var journal)
            ? Take.FromJournal(journal)
            : throw new InvalidDataException($"{path} is not a journal.");
    }

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
