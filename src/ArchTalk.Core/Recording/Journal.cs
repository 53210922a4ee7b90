using System.Diagnostics.CodeAnalysis;

namespace ArchTalk.Core.Recording;

/// <summary>
/// The append-only bytes a take is written to: a header naming the take, then records in order of their sequence.
/// <see cref="JournalReader"/> reads long ones record by record; this holds a whole one.
/// </summary>
public sealed class Journal
{
    /// <summary>"ATALKJ01" and the take's 16-byte identity.</summary>
    public const int HeaderSize = 24;

    private static ReadOnlySpan<byte> Magic => "ATALKJ01"u8;

    private Journal(JournalReader reader)
    {
        Entries = [.. reader.Entries()];
        Take = reader.Take;
        ValidLength = reader.ValidLength;
        NextSequence = reader.NextSequence;
    }

    public Guid Take { get; }

    public IReadOnlyList<JournalEntry> Entries { get; }

    public IReadOnlyList<JournalRecord> Records => [.. Entries.Select(e => e.Record)];

    /// <summary>The bytes up to the end of the last good record; the rest is a torn tail.</summary>
    public long ValidLength { get; }

    /// <summary>The sequence number that the next record must start with.</summary>
    public uint NextSequence { get; }

    /// <summary>The header of a new journal.</summary>
    public static byte[] Header(Guid take)
    {
        var header = new byte[HeaderSize];
        Magic.CopyTo(header);
        take.TryWriteBytes(header.AsSpan(Magic.Length), bigEndian: true, out _);
        return header;
    }

    /// <summary>Reads a journal as <see cref="JournalReader"/> does. False only when the header itself is not there.</summary>
    public static bool TryRead(byte[] bytes, [NotNullWhen(true)] out Journal? journal)
    {
        using var stream = new MemoryStream(bytes, writable: false);
        journal = JournalReader.Open(stream) is { } reader ? new Journal(reader) : null;
        return journal is not null;
    }

    internal static bool TryReadHeader(ReadOnlySpan<byte> header, out Guid take)
    {
        take = header.StartsWith(Magic) ? new Guid(header[Magic.Length..HeaderSize], bigEndian: true) : Guid.Empty;
        return header.StartsWith(Magic);
    }
}
