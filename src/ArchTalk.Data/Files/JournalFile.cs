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
}

/// <summary>
/// The journal of one take as a file that only grows. Opening cuts off a torn tail; appending returns once the bytes are on
/// the disk. Not safe for use by two threads at once.
/// </summary>
public sealed class JournalFile : IDisposable
{
    private readonly FileStream file;
    private readonly Dictionary<uint, uint> checksums;
    private bool ended;

    private JournalFile(FileStream file, Journal journal)
    {
        this.file = file;
        checksums = journal.Records.Select((r, i) => (r.Sequence, journal.Checksums[i])).ToDictionary(p => p.Sequence, p => p.Item2);
        NextSequence = journal.NextSequence;
        SavedSamples = journal.Records.Where(r => r.Kind == JournalRecordKind.Audio).Sum(SamplesIn);
        ended = journal.Records.Any(r => r.Kind == JournalRecordKind.End);
    }

    /// <summary>The number the next record must start with.</summary>
    public uint NextSequence { get; private set; }

    /// <summary>Samples of sound on the disk.</summary>
    public long SavedSamples { get; private set; }

    /// <summary>Whether the end of the take is on the disk.</summary>
    public bool IsEnded => ended;

    public static JournalFile Open(string path, Guid take)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        var opened = new FileStream(path, FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.Read, bufferSize: 0);
        var bytes = new byte[opened.Length];
        opened.ReadExactly(bytes);
        if (!Journal.TryRead(bytes, out var journal) || journal.Take != take)
        {
            // Killed before the header was written: nothing can have been acknowledged yet. Anything longer is not ours to overwrite.
            if (bytes.Length >= Journal.HeaderSize)
            {
                opened.Dispose();
                throw new InvalidDataException($"The journal {path} doesn't belong to the take {take}.");
            }

            bytes = Journal.Header(take);
            opened.SetLength(0);
            opened.Write(bytes);
            opened.Flush(flushToDisk: true);
            Journal.TryRead(bytes, out journal);
        }

        opened.SetLength(journal!.ValidLength);
        opened.Seek(0, SeekOrigin.End);
        return new JournalFile(opened, journal);
    }

    /// <summary>
    /// Appends records that were checked before. Those that are there already are passed over. All of them are written and
    /// flushed before it returns <see cref="AppendResult.Saved"/>; with another answer the records before the fault are.
    /// </summary>
    public AppendResult Append(IEnumerable<JournalRecord> records)
    {
        var result = AppendResult.Saved;
        using var bytes = new MemoryStream();
        foreach (var record in records)
        {
            var written = record.ToBytes();
            var checksum = BitConverter.ToUInt32(written, written.Length - JournalRecord.ChecksumSize);
            if (record.FirstSequence > NextSequence)
            {
                result = AppendResult.Gap;
                break;
            }

            if (record.FirstSequence < NextSequence)
            {
                if (checksums.GetValueOrDefault(record.Sequence) == checksum)
                {
                    continue;
                }

                result = AppendResult.Conflict;
                break;
            }

            bytes.Write(written);
            checksums[record.Sequence] = checksum;
            NextSequence = record.Sequence + 1;
            SavedSamples += record.Kind == JournalRecordKind.Audio ? SamplesIn(record) : 0;
            ended |= record.Kind == JournalRecordKind.End;
        }

        if (bytes.Length > 0)
        {
            file.Write(bytes.GetBuffer(), 0, (int)bytes.Length);
            file.Flush(flushToDisk: true);
        }

        return result;
    }

    public void Dispose() => file.Dispose();

    private static long SamplesIn(JournalRecord record) => (record.Payload.Length - 12) / sizeof(short);
}
