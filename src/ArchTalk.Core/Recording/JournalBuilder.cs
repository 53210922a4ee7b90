using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>Writes a journal in order, as a recorder does: for the demo, for tests and for measurements.</summary>
public sealed class JournalBuilder(ushort epoch = 1, uint firstSequence = 0)
{
    private readonly List<JournalRecord> records = [];
    private uint next = firstSequence;

    public IReadOnlyList<JournalRecord> Records => records;

    public JournalBuilder Segment(SegmentStart start) => Add(JournalRecordKind.Segment, JournalPayloads.Segment(start));

    public JournalBuilder Audio(int segment, long firstSample, ReadOnlySpan<short> samples) =>
        Add(JournalRecordKind.Audio, JournalPayloads.Audio(segment, firstSample, samples));

    public JournalBuilder Anchors(int segment, params IReadOnlyList<ClockAnchor> anchors) =>
        Add(JournalRecordKind.Anchors, JournalPayloads.Anchors(segment, anchors));

    public JournalBuilder Events(int segment, params IReadOnlyList<TakeEvent> events) =>
        Add(JournalRecordKind.Events, JournalPayloads.Events(segment, events));

    public JournalBuilder Pause(int segment, long sample) =>
        Add(JournalRecordKind.Pause, JournalPayloads.Point(new(segment, sample)));

    public JournalBuilder Resume(int segment, long sample) =>
        Add(JournalRecordKind.Resume, JournalPayloads.Point(new(segment, sample)));

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
}
