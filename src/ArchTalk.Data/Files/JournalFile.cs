using ArchTalk.Core.Recording;

namespace ArchTalk.Data.Files;

/// <summary>What became of records offered to a <see cref="JournalFile"/>.</summary>
public enum AppendResult
{
    /// <summary>They are on the disk, now or from before.</summary>
    Saved = 0,

    /// <summary>Something before them is missing.</summary>
    Gap = 1,

    /// <summary>Other bytes were saved under the same number before.</summary>
    Conflict = 2,

    /// <summary>They are of an earlier writer than the present one.</summary>
    Fenced = 3,

    /// <summary>The take had ended before them.</summary>
    Ended = 4,
}

/// <summary>
/// The journal of one take as a file that only grows. Opening cuts off a torn tail; appending returns once the bytes are on
/// the disk. Not safe for use by two threads at once.
/// </summary>
public sealed class JournalFile : IDisposable
{
    private readonly FileStream file;
    private readonly Dictionary<uint, uint> checksums = [];

    private JournalFile(FileStream file, JournalReader journal)
    {
        this.file = file;
        foreach (var entry in journal.Entries())
        {
            checksums[entry.Record.Sequence] = entry.Checksum;
            Note(entry.Record);
        }

        NextSequence = journal.NextSequence;
        file.SetLength(journal.ValidLength);
        file.Seek(0, SeekOrigin.End);
    }

    /// <summary>The number the next record must start with.</summary>
    public uint NextSequence { get; private set; }

    /// <summary>The writer of the last record; 0 when there is none.</summary>
    public int LastEpoch { get; private set; }

    /// <summary>Samples of sound on the disk.</summary>
    public long SavedSamples { get; private set; }

    /// <summary>Whether the end of the take is on the disk.</summary>
    public bool IsEnded { get; private set; }

    public static JournalFile Open(string path, Guid take)
    {
        var folder = Path.GetDirectoryName(path)!;
        Directory.CreateDirectory(folder);
        var opened = new FileStream(path, FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.Read, bufferSize: 0);
        try
        {
            if (JournalReader.Open(opened) is not { } journal || journal.Take != take)
            {
                // Killed before the header was written: nothing can have been acknowledged yet. Anything longer is not ours to overwrite.
                if (opened.Length >= Journal.HeaderSize)
                {
                    throw new InvalidDataException($"The journal {path} doesn't belong to the take {take}.");
                }

                opened.SetLength(0);
                opened.Write(Journal.Header(take));
                opened.Flush(flushToDisk: true);
                DurableFiles.FlushFolder(folder);
                DurableFiles.FlushFolder(Path.GetDirectoryName(folder)!);
                opened.Seek(0, SeekOrigin.Begin);
                journal = JournalReader.Open(opened)!;
            }

            return new JournalFile(opened, journal);
        }
        catch
        {
            opened.Dispose();
            throw;
        }
    }

    /// <summary>
    /// Appends records that were checked before. Those that are there already, with the same checksum, are passed over. All of them
    /// are written and flushed before it returns <see cref="AppendResult.Saved"/>; with another answer the records before the fault are.
    /// </summary>
    /// <param name="epoch">The writer that may append now; what an earlier one sends is refused unless it is there already.</param>
    public AppendResult Append(IEnumerable<JournalRecord> records, int epoch)
    {
        var result = AppendResult.Saved;
        using var bytes = new MemoryStream();
        foreach (var record in records)
        {
            var written = record.ToBytes();
            var checksum = BitConverter.ToUInt32(written, written.Length - JournalRecord.ChecksumSize);
            result = Judge(record, checksum, epoch);
            if (result != AppendResult.Saved)
            {
                break;
            }

            if (record.FirstSequence == NextSequence)
            {
                bytes.Write(written);
                checksums[record.Sequence] = checksum;
                NextSequence = record.Sequence + 1;
                Note(record);
            }
        }

        if (bytes.Length > 0)
        {
            file.Write(bytes.GetBuffer(), 0, (int)bytes.Length);
            file.Flush(flushToDisk: true);
        }

        return result;
    }

    public void Dispose() => file.Dispose();

    private AppendResult Judge(JournalRecord record, uint checksum, int epoch)
    {
        if (record.Sequence < NextSequence && checksums.TryGetValue(record.Sequence, out var known) && known == checksum)
        {
            return AppendResult.Saved;
        }

        if (IsEnded)
        {
            return AppendResult.Ended;
        }

        if (record.Epoch != epoch)
        {
            return AppendResult.Fenced;
        }

        return record.FirstSequence.CompareTo(NextSequence) switch
        {
            < 0 => AppendResult.Conflict,
            > 0 => AppendResult.Gap,
            _ => AppendResult.Saved,
        };
    }

    private void Note(JournalRecord record)
    {
        SavedSamples += record.Kind == JournalRecordKind.Audio ? (record.Payload.Length - AudioChunk.HeaderSize) / sizeof(short) : 0;
        LastEpoch = record.Epoch;
        IsEnded |= record.Kind == JournalRecordKind.End;
    }
}
