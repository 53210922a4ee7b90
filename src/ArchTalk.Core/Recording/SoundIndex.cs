using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>Where a stretch of a take's sound lies in its journal, or that it is missing.</summary>
/// <param name="At">Where it begins in the take.</param>
/// <param name="Length">How long it is.</param>
/// <param name="Offset">Of its first byte in the journal (16-bit mono, little endian); -1 when the sound is missing.</param>
public readonly record struct TakeSound(TakeTime At, Duration Length, long Offset)
{
    public bool IsMissing => Offset < 0;
}

/// <summary>
/// Where the sound of a take lies in its journal, built record by record, also while it is being recorded. What was laid is never
/// moved by what comes later.
/// </summary>
public sealed class SoundIndex
{
    private readonly List<SegmentReader> segments = [];
    private readonly List<TakeSound> sound = [];
    private Duration missingLeft = SegmentReader.MostMissing;

    /// <summary>In order, without gaps.</summary>
    public IReadOnlyList<TakeSound> Sound => sound;

    public Duration Length => sound.Count == 0 ? Duration.Zero : sound[^1].At + sound[^1].Length - TakeTime.Zero;

    /// <summary>Whether the end of the take has come.</summary>
    public bool IsEnded { get; private set; }

    internal IReadOnlyList<SegmentReader> Segments => segments;

    /// <summary>A moment as a recorder names it: its segment, and its sample counted from that segment's first.</summary>
    public (int Segment, long Sample) NameOf(TakeTime time)
    {
        var segment = segments[Math.Max(0, Search.CountTo(segments.Count, i => segments[i].Begin <= time) - 1)];
        return (segment.Start.Segment, segment.SampleAt(time));
    }

    /// <summary>Takes in the next record of the journal. Sound that names another segment than the last one is passed over.</summary>
    public void Add(JournalEntry entry)
    {
        var record = entry.Record;
        switch (record.Kind)
        {
            case JournalRecordKind.Segment when JournalPayloads.ReadSegment(record.Payload.Span) is { } start:
                segments.Add(new SegmentReader(start, TakeTime.Zero + Length));
                break;
            case JournalRecordKind.Audio when JournalPayloads.ReadAudio(record.Payload) is { } chunk:
                if (segments.Count > 0 && segments[^1].Start.Segment == chunk.Segment)
                {
                    segments[^1].Lay(chunk, entry.Offset + JournalRecord.HeaderSize + AudioChunk.HeaderSize, sound, ref missingLeft);
                }

                break;
            case JournalRecordKind.Anchors when JournalPayloads.ReadAnchors(record.Payload.Span) is { } anchors:
                Find(anchors.Segment)?.Anchors.AddRange(anchors.Anchors);
                break;
            case JournalRecordKind.Events when JournalPayloads.ReadEvents(record.Payload.Span) is { } events:
                Find(events.Segment)?.Events.AddRange(events.Events);
                break;
            case JournalRecordKind.Pause when JournalPayloads.ReadPoint(record.Payload.Span) is { } pause:
                Find(pause.Segment)?.Pause(pause.Sample);
                break;
            case JournalRecordKind.Resume when JournalPayloads.ReadPoint(record.Payload.Span) is { } resume:
                Find(resume.Segment)?.Resume(resume.Sample);
                break;
        }

        IsEnded |= record.Kind == JournalRecordKind.End;
    }

    private SegmentReader? Find(int number) => segments.FindLast(s => s.Start.Segment == number);
}
