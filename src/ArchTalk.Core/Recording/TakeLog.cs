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
/// What was done in one recording pass, in take time, and how far it extends; it holds no sound (<see cref="TakeVoice"/> reads
/// that). Segments are laid end to end, pauses are left out, missing sound counts as silence so that everything after it stays in
/// its place. Strokes and the pointer are smoothed and simplified here, once.
/// </summary>
public sealed class TakeLog
{
    private readonly Lazy<TakePath> live;

    /// <param name="actions">Ordered by time; of equal times, as they were done.</param>
    public TakeLog(TakeId id, Duration length, IReadOnlyList<TakeAction> actions, IReadOnlyList<TakeSound>? sound = null, bool isEnded = true)
    {
        Id = id;
        Length = length;
        Actions = actions;
        Sound = sound ?? [];
        IsEnded = isEnded;
        live = new(() => TakePath.Of(actions, End));
    }

    public TakeId Id { get; }

    public Duration Length { get; }

    public TakeTime End => TakeTime.Zero + Length;

    /// <summary>Everything that was done, also what a retake took back.</summary>
    public IReadOnlyList<TakeAction> Actions { get; }

    /// <summary>In order, without gaps.</summary>
    public IReadOnlyList<TakeSound> Sound { get; }

    /// <summary>Whether the teacher finished it; otherwise it was interrupted, or is being recorded.</summary>
    public bool IsEnded { get; }

    /// <summary>What counts of it in the end: without anything that a retake took back.</summary>
    public TakePath Live => live.Value;

    /// <summary>What counted of it at a moment: the branch that a later retake took back, say.</summary>
    public TakePath As(TakeTime of) => of >= End ? Live : TakePath.Of(Actions, of);

    /// <summary>Reads a take from the records of its journal.</summary>
    public static TakeLog Read(Guid take, IEnumerable<JournalEntry> entries)
    {
        var id = new TakeId(take);
        var segments = new List<SegmentReader>();
        var isEnded = false;
        foreach (var entry in entries)
        {
            Read(entry, segments);
            isEnded |= entry.Record.Kind == JournalRecordKind.End;
        }

        var sound = new List<TakeSound>();
        var start = TakeTime.Zero;
        var missingLeft = SegmentReader.MostMissing;
        foreach (var segment in segments)
        {
            segment.LayOut(start, sound, ref missingLeft);
            start = segment.End;
        }

        return new TakeLog(id, start - TakeTime.Zero, TakeActions.Resolve(id, segments), sound, isEnded);
    }

    private static void Read(JournalEntry entry, List<SegmentReader> segments)
    {
        SegmentReader? Find(int number) => segments.FindLast(s => s.Start.Segment == number);

        var record = entry.Record;
        switch (record.Kind)
        {
            case JournalRecordKind.Segment when JournalPayloads.ReadSegment(record.Payload.Span) is { } start:
                segments.Add(new SegmentReader(start));
                break;
            case JournalRecordKind.Audio when JournalPayloads.ReadAudio(record.Payload) is { } chunk:
                Find(chunk.Segment)?.Chunks
                    .Add(new(chunk.FirstSample, chunk.Length, entry.Offset + JournalRecord.HeaderSize + AudioChunk.HeaderSize));
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
    }
}
