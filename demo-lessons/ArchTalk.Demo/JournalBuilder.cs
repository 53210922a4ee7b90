using System.Buffers.Binary;
using System.Runtime.InteropServices;
using System.Text.Json;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Demo;

/// <summary>Writes a journal in order, as a recorder does: for the demo, for tests and for measurements.</summary>
internal sealed class JournalBuilder(ushort epoch = 1, uint firstSequence = 0)
{
    private readonly List<JournalRecord> records = [];
    private uint next = firstSequence;

    public IReadOnlyList<JournalRecord> Records => records;

    public JournalBuilder Segment(SegmentStart start) => Add(JournalRecordKind.Segment, SegmentPayload(start));

    public JournalBuilder Audio(int segment, long firstSample, ReadOnlySpan<short> samples) =>
        Add(JournalRecordKind.Audio, AudioPayload(segment, firstSample, samples));

    /// <summary>A whole sound from the segment's beginning, a quarter of a second at a time, as a recorder sends it.</summary>
    public JournalBuilder Sound(int segment, ReadOnlySpan<short> samples)
    {
        const int Block = Clock.SampleRate / 4;
        for (var at = 0; at < samples.Length; at += Block)
        {
            Audio(segment, at, samples.Slice(at, Math.Min(Block, samples.Length - at)));
        }

        return this;
    }

    public JournalBuilder Anchors(int segment, params IReadOnlyList<ClockAnchor> anchors) =>
        Add(JournalRecordKind.Anchors, AnchorsPayload(segment, anchors));

    public JournalBuilder Events(int segment, params IReadOnlyList<TakeEvent> events) =>
        Add(JournalRecordKind.Events, EventsPayload(segment, events));

    public JournalBuilder Pause(int segment, long sample) =>
        Add(JournalRecordKind.Pause, PointPayload(new(segment, sample)));

    public JournalBuilder Resume(int segment, long sample) =>
        Add(JournalRecordKind.Resume, PointPayload(new(segment, sample)));

    public JournalBuilder End() => Add(JournalRecordKind.End, []);

    /// <summary>The whole journal with its header.</summary>
    public byte[] ToBytes(Guid take)
    {
        using var bytes = new MemoryStream();
        bytes.Write(Journal.Header(take));
        foreach (var record in records)
        {
            bytes.Write(record.ToBytes());
        }

        return bytes.ToArray();
    }

    private JournalBuilder Add(JournalRecordKind kind, byte[] payload)
    {
        records.Add(new JournalRecord(kind, epoch, next++, payload));
        return this;
    }

    private static byte[] SegmentPayload(SegmentStart start) => JsonSerializer.SerializeToUtf8Bytes(start, JournalPayloads.Json);

    internal static byte[] AudioPayload(int segment, long firstSample, ReadOnlySpan<short> samples)
    {
        var payload = new byte[AudioChunk.HeaderSize + (samples.Length * sizeof(short))];
        WritePoint(payload, new SegmentPoint(segment, firstSample));
        MemoryMarshal.AsBytes(samples).CopyTo(payload.AsSpan(AudioChunk.HeaderSize));
        return payload;
    }

    internal static byte[] AnchorsPayload(int segment, IReadOnlyList<ClockAnchor> anchors)
    {
        var payload = new byte[4 + (anchors.Count * 16)];
        BinaryPrimitives.WriteInt32LittleEndian(payload, segment);
        for (var i = 0; i < anchors.Count; i++)
        {
            var target = payload.AsSpan(4 + (i * 16));
            BinaryPrimitives.WriteInt64LittleEndian(target, anchors[i].Sample);
            BinaryPrimitives.WriteDoubleLittleEndian(target[8..], anchors[i].PerformanceMs);
        }

        return payload;
    }

    internal static byte[] EventsPayload(int segment, IReadOnlyList<TakeEvent> events)
    {
        var json = JsonSerializer.SerializeToUtf8Bytes(events, JournalPayloads.Json);
        var payload = new byte[4 + json.Length];
        BinaryPrimitives.WriteInt32LittleEndian(payload, segment);
        json.CopyTo(payload.AsSpan(4));
        return payload;
    }

    internal static byte[] PointPayload(SegmentPoint point)
    {
        var payload = new byte[12];
        WritePoint(payload, point);
        return payload;
    }

    private static void WritePoint(Span<byte> target, SegmentPoint point)
    {
        BinaryPrimitives.WriteInt32LittleEndian(target, point.Segment);
        BinaryPrimitives.WriteInt64LittleEndian(target[4..], point.Sample);
    }
}
