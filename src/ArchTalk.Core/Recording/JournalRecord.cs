using System.Buffers.Binary;

namespace ArchTalk.Core.Recording;

/// <summary>What a journal record holds; the numbers are part of the file format (docs/formats/journal.md).</summary>
public enum JournalRecordKind : byte
{
    /// <summary>A run of one microphone begins: <see cref="SegmentStart"/> as JSON.</summary>
    Segment = 1,

    /// <summary>Sound: segment (u32), first sample (u64), then 16-bit samples.</summary>
    Audio = 2,

    /// <summary>Clock anchors: segment (u32), then pairs of sample (u64) and milliseconds (f64).</summary>
    Anchors = 3,

    /// <summary>What was done on the boards: segment (u32), then a JSON array of <see cref="TakeEvent"/>.</summary>
    Events = 4,

    /// <summary>Recording was paused: segment (u32), sample (u64).</summary>
    Pause = 5,

    /// <summary>Recording went on after a pause: segment (u32), sample (u64).</summary>
    Resume = 6,

    /// <summary>The recorder no longer has some records: the first lost sequence number (u32); its own is the last.</summary>
    Lost = 7,

    /// <summary>The take is complete. No payload.</summary>
    End = 8,
}

/// <summary>One record of a journal.</summary>
/// <param name="Kind">What the payload is.</param>
/// <param name="Epoch">Which writer made it: a reloaded tab takes the next epoch.</param>
/// <param name="Sequence">Counts up by one over the whole take, from 0.</param>
/// <param name="Payload">The bytes as described at <see cref="JournalRecordKind"/>.</param>
public readonly record struct JournalRecord(JournalRecordKind Kind, ushort Epoch, uint Sequence, ReadOnlyMemory<byte> Payload)
{
    /// <summary>Payload length (u32), kind (u8), zero (u8), epoch (u16), sequence (u32).</summary>
    public const int HeaderSize = 12;

    public const int ChecksumSize = 4;

    /// <summary>Longest payload accepted: 1 MiB; a second of sound is 96 kB.</summary>
    public const int MaxPayload = 1 << 20;

    public int Size => HeaderSize + Payload.Length + ChecksumSize;

    /// <summary>Writes the record with its CRC-32C to <paramref name="target"/> and returns the bytes used.</summary>
    public int Write(Span<byte> target)
    {
        BinaryPrimitives.WriteUInt32LittleEndian(target, (uint)Payload.Length);
        target[4] = (byte)Kind;
        target[5] = 0;
        BinaryPrimitives.WriteUInt16LittleEndian(target[6..], Epoch);
        BinaryPrimitives.WriteUInt32LittleEndian(target[8..], Sequence);
        Payload.Span.CopyTo(target[HeaderSize..]);
        var covered = HeaderSize + Payload.Length;
        BinaryPrimitives.WriteUInt32LittleEndian(target[covered..], Crc32C.Compute(target[..covered]));
        return covered + ChecksumSize;
    }

    public byte[] ToBytes()
    {
        var bytes = new byte[Size];
        Write(bytes);
        return bytes;
    }

    /// <summary>
    /// Reads the record at the start of <paramref name="bytes"/>. False when it is cut short or damaged; then nothing after it
    /// can be trusted either, since its length can't be. A kind that this release doesn't know is read like any other, so that
    /// going back to an earlier release loses nothing.
    /// </summary>
    public static bool TryRead(ReadOnlyMemory<byte> bytes, out JournalRecord record, out uint checksum)
    {
        record = default;
        checksum = 0;
        var span = bytes.Span;
        if (span.Length < HeaderSize + ChecksumSize)
        {
            return false;
        }

        var length = BinaryPrimitives.ReadUInt32LittleEndian(span);
        if (length > MaxPayload || span.Length < HeaderSize + length + ChecksumSize)
        {
            return false;
        }

        var covered = HeaderSize + (int)length;
        checksum = BinaryPrimitives.ReadUInt32LittleEndian(span[covered..]);
        var kind = (JournalRecordKind)span[4];
        if (checksum != Crc32C.Compute(span[..covered]) || span[5] != 0)
        {
            return false;
        }

        record = new JournalRecord(
            kind,
            BinaryPrimitives.ReadUInt16LittleEndian(span[6..]),
            BinaryPrimitives.ReadUInt32LittleEndian(span[8..]),
            bytes.Slice(HeaderSize, (int)length));
        return true;
    }

    /// <summary>The first sequence number this record stands for: its own, or an earlier one for <see cref="JournalRecordKind.Lost"/>.</summary>
    public uint FirstSequence =>
        Kind == JournalRecordKind.Lost && Payload.Length == sizeof(uint)
            ? Math.Min(BinaryPrimitives.ReadUInt32LittleEndian(Payload.Span), Sequence)
            : Sequence;
}
