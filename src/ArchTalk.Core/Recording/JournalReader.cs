using System.Buffers.Binary;

namespace ArchTalk.Core.Recording;

/// <summary>A record as it lies in a journal.</summary>
/// <param name="Checksum">Its CRC-32C.</param>
/// <param name="Offset">Of its first byte.</param>
public readonly record struct JournalEntry(JournalRecord Record, uint Checksum, long Offset);

/// <summary>
/// Reads a journal from its beginning, one record at a time. Reading never fails: it gives everything before the first damage. A
/// record that repeats an earlier one byte for byte is passed over; a gap in the sequence, another record with a used number, or a
/// damaged record ends the reading.
/// </summary>
public sealed class JournalReader
{
    private readonly Stream bytes;
    private readonly Dictionary<uint, uint> seen = [];

    private JournalReader(Stream bytes, Guid take)
    {
        this.bytes = bytes;
        Take = take;
    }

    public Guid Take { get; }

    /// <summary>The bytes up to the end of the last good record that was read; once all are read, the rest is a torn tail.</summary>
    public long ValidLength { get; private set; } = Journal.HeaderSize;

    /// <summary>The sequence number that the record after the last one read must start with.</summary>
    public uint NextSequence { get; private set; }

    /// <summary>Reads the header; null when it isn't there.</summary>
    public static JournalReader? Open(Stream bytes)
    {
        var header = new byte[Journal.HeaderSize];
        return bytes.ReadAtLeast(header, header.Length, throwOnEndOfStream: false) == header.Length && Journal.TryReadHeader(header, out var take)
            ? new JournalReader(bytes, take)
            : null;
    }

    /// <summary>
    /// The records in order, each once. Gone through again, it gives those that have come since; the stream is read from where the
    /// last good record ended.
    /// </summary>
    public IEnumerable<JournalEntry> Entries()
    {
        bytes.Seek(ValidLength, SeekOrigin.Begin);
        while (ReadOne() is { } read && JournalRecord.TryRead(read, out var record, out var checksum))
        {
            var entry = new JournalEntry(record, checksum, ValidLength);
            var isNew = record.FirstSequence == NextSequence;
            if (!isNew && (!seen.TryGetValue(record.Sequence, out var known) || known != checksum))
            {
                yield break;
            }

            ValidLength += record.Size;
            if (isNew)
            {
                seen[record.Sequence] = checksum;
                NextSequence = record.Sequence + 1;
                yield return entry;
            }
        }
    }

    // The bytes of the next record by the length it says it has; null when it is cut short or can't be that long.
    private byte[]? ReadOne()
    {
        Span<byte> length = stackalloc byte[sizeof(uint)];
        if (bytes.ReadAtLeast(length, length.Length, throwOnEndOfStream: false) < length.Length)
        {
            return null;
        }

        var payload = BinaryPrimitives.ReadUInt32LittleEndian(length);
        if (payload > JournalRecord.MaxPayload)
        {
            return null;
        }

        var whole = new byte[JournalRecord.HeaderSize + payload + JournalRecord.ChecksumSize];
        length.CopyTo(whole);
        return bytes.ReadAtLeast(whole.AsSpan(length.Length), whole.Length - length.Length, throwOnEndOfStream: false) == whole.Length - length.Length
            ? whole
            : null;
    }
}
