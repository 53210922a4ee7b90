using System.Globalization;
using System.Runtime.InteropServices;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>A point of ink in take time: tenths of a board unit, pressure 0 to 255.</summary>
public readonly record struct TakePoint(int X, int Y, byte Pressure, TakeTime At);

/// <summary>A stroke's identity across takes: the take that drew it and its number there.</summary>
public readonly record struct StrokeKey(TakeId Take, int Number);

/// <summary>What a take did at a moment, in take time; what a timeline is compiled from.</summary>
public abstract record TakeAction(TakeTime At);

/// <summary>A stroke was drawn; <see cref="TakeAction.At"/> is when it began.</summary>
public sealed record StrokeDrawn(
    TakeTime At, StrokeKey Stroke, Guid Board, string Tool, string Ink, string Width, IReadOnlyList<TakePoint> Points) : TakeAction(At);

public sealed record StrokesErased(TakeTime At, int Action, IReadOnlyList<StrokeKey> Strokes) : TakeAction(At);

public sealed record ActionUndone(TakeTime At, int Action) : TakeAction(At);

public sealed record ActionRedone(TakeTime At, int Action) : TakeAction(At);

public sealed record BoardChanged(TakeTime At, Guid Board) : TakeAction(At);

/// <summary>Left, top and width in tenths of a board unit.</summary>
public sealed record ViewChanged(TakeTime At, Guid Board, int X, int Y, int Width) : TakeAction(At);

/// <summary>The pointer is at a place of a board, in tenths of a board unit; null when it left.</summary>
public sealed record PointerChanged(TakeTime At, Guid Board, (int X, int Y)? Place) : TakeAction(At);

/// <summary>Height in board units.</summary>
public sealed record BoardLengthened(TakeTime At, Guid Board, int Height) : TakeAction(At);

/// <summary>What lies under a cover is shown, or hidden again.</summary>
public sealed record CoverChanged(TakeTime At, Guid Board, Guid Item, bool IsUncovered) : TakeAction(At);

/// <summary>Sound of a take: where in the take it begins and its samples, or silence where sound is missing.</summary>
/// <param name="At">Where it begins.</param>
/// <param name="Length">How long it is.</param>
/// <param name="Pcm">16-bit mono, empty when the sound is missing.</param>
public readonly record struct TakeSound(TakeTime At, Duration Length, ReadOnlyMemory<byte> Pcm)
{
    public bool IsMissing => Pcm.IsEmpty;
}

/// <summary>
/// One recording pass, read from its journal: voice and everything done on the boards, on one clock. Segments are laid end
/// to end, pauses are left out, missing sound is kept as silence so that everything after it stays in its place.
/// </summary>
public sealed class Take
{
    private Take(TakeId id, Duration length, IReadOnlyList<TakeSound> sound, IReadOnlyList<TakeAction> actions, bool ended)
    {
        Id = id;
        Length = length;
        Sound = sound;
        Actions = actions;
        IsEnded = ended;
    }

    public TakeId Id { get; }

    public Duration Length { get; }

    public IReadOnlyList<TakeSound> Sound { get; }

    /// <summary>Ordered by time; of equal times, as they were journalled.</summary>
    public IReadOnlyList<TakeAction> Actions { get; }

    /// <summary>Whether the teacher stopped it; otherwise it was interrupted.</summary>
    public bool IsEnded { get; }

    /// <summary>All samples in order, silence where sound is missing.</summary>
    public short[] ToSamples()
    {
        var samples = new short[Length.Samples];
        foreach (var part in Sound.Where(p => !p.IsMissing))
        {
            MemoryMarshal.Cast<byte, short>(part.Pcm.Span).CopyTo(samples.AsSpan((int)part.At.Samples));
        }

        return samples;
    }

    public static Take FromJournal(Journal journal)
    {
        var id = new TakeId(journal.Take);
        var segments = new List<SegmentReader>();
        foreach (var record in journal.Records)
        {
            Read(record, segments);
        }

        var sound = new List<TakeSound>();
        var start = TakeTime.Zero;
        var missingLeft = SegmentReader.MostMissing;
        foreach (var segment in segments)
        {
            segment.LayOut(start, sound, ref missingLeft);
            start = segment.End;
        }

        var actions = TakeActions.Resolve(id, segments);
        return new Take(id, start - TakeTime.Zero, sound, actions, journal.Records.Any(r => r.Kind == JournalRecordKind.End));
    }

    /// <summary>Reads "12" as a stroke of <paramref name="take"/> and "take:12" as one of another take; null when it is neither.</summary>
    internal static StrokeKey? ParseStroke(string text, TakeId take)
    {
        var colon = text.IndexOf(':', StringComparison.Ordinal);
        if (colon >= 0)
        {
            if (!Guid.TryParse(text.AsSpan(0, colon), out var other))
            {
                return null;
            }

            take = new TakeId(other);
        }

        return int.TryParse(text.AsSpan(colon + 1), NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            ? new StrokeKey(take, number)
            : null;
    }

    private static void Read(JournalRecord record, List<SegmentReader> segments)
    {
        SegmentReader? Find(int number) => segments.FindLast(s => s.Start.Segment == number);

        switch (record.Kind)
        {
            case JournalRecordKind.Segment when JournalPayloads.ReadSegment(record.Payload.Span) is { } start:
                segments.Add(new SegmentReader(start));
                break;
            case JournalRecordKind.Audio when JournalPayloads.ReadAudio(record.Payload) is { } chunk:
                Find(chunk.Segment)?.Chunks.Add(chunk);
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
