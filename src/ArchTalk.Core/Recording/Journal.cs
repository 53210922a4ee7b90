using System.Diagnostics.CodeAnalysis;

namespace ArchTalk.Core.Recording;

/// <summary>
/// The append-only bytes a take is written to: a header naming the take, then records in order of their sequence.
/// Reading never fails: it gives back everything before the first damage.
/// </summary>
public sealed class Journal
{
    /// <summary>"ATALKJ01" and the take's 16-byte identity.</summary>
    public const int HeaderSize = 24;

    private static ReadOnlySpan<byte> Magic => "ATALKJ01"u8;

    private Journal(Guid take, IReadOnlyList<JournalRecord> records, IReadOnlyList<uint> checksums, int validLength)
    {
        Take = take;
        Records = records;
        Checksums = checksums;
        ValidLength = validLength;
    }

    public Guid Take { get; }

    public IReadOnlyList<JournalRecord> Records { get; }

    /// <summary>The CRC-32C of each record, in the same order.</summary>
    public IReadOnlyList<uint> Checksums { get; }

    /// <summary>The bytes up to the end of the last good record; the rest is a torn tail.</summary>
    public int ValidLength { get; }

    /// <summary>The sequence number that the next record must start with.</summary>
    public uint NextSequence => Records.Count == 0 ? 0 : Records[^1].Sequence + 1;

    /// <summary>The header of a new journal.</summary>
    public static byte[] Header(Guid take)
    {
        var header = new byte[HeaderSize];
        Magic.CopyTo(header);
        take.TryWriteBytes(header.AsSpan(Magic.Length), bigEndian: true, out _);
        return header;
    }

    /// <summary>
    /// Reads a journal. A record that repeats an earlier one byte for byte is passed over; a gap in the sequence, another
    /// record with a used number, or a damaged record ends the reading. False only when the header itself is not there.
    /// </summary>
    public static bool TryRead(ReadOnlyMemory<byte> bytes, [NotNullWhen(true)] out Journal? journal)
    {
        journal = null;
        if (bytes.Length < HeaderSize || !bytes.Span.StartsWith(Magic))
        {
            return false;
        }

        var take = new Guid(bytes.Span[Magic.Length..HeaderSize], bigEndian: true);
        var records = new List<JournalRecord>();
        var checksums = new List<uint>();
        var seen = new Dictionary<uint, uint>();
        var position = HeaderSize;
        while (JournalRecord.TryRead(bytes[position..], out var record, out var checksum))
        {
            var next = records.Count == 0 ? 0 : records[^1].Sequence + 1;
            if (record.FirstSequence == next)
            {
                records.Add(record);
                checksums.Add(checksum);
                seen[record.Sequence] = checksum;
            }
            else if (!seen.TryGetValue(record.Sequence, out var known) || known != checksum)
            {
                break;
            }

            position += record.Size;
        }

        journal = new Journal(take, records, checksums, position);
        return true;
    }
}
