using System.Buffers.Binary;
using System.Runtime.InteropServices;
using System.Text.Json;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>What a recorder says when a run of one microphone begins.</summary>
/// <param name="Segment">Counts up from 0 within the take.</param>
/// <param name="DeviceRate">The rate of the device in Hz; the journal's own sound is always 48 kHz.</param>
/// <param name="InputOffsetMs">How late the microphone delivers a sound, in ms: the track's own figure, or as measured.</param>
/// <param name="Microphone">The device's name.</param>
/// <param name="EchoCancellation">As read back from the track; should be off.</param>
/// <param name="NoiseSuppression">As read back from the track; should be off.</param>
/// <param name="AutoGainControl">As read back from the track; should be off.</param>
public sealed record SegmentStart(
    int Segment,
    int DeviceRate,
    double InputOffsetMs,
    string Microphone,
    bool EchoCancellation,
    bool NoiseSuppression,
    bool AutoGainControl)
{
    /// <summary>The voice that ships with the application, to try recording without a microphone; it never joins a real take.</summary>
    public bool IsTestVoice { get; init; }
}

/// <summary>Sound as it arrived: 16-bit mono at 48 kHz, counted from the segment's first sample, pauses included in the count.</summary>
public readonly record struct AudioChunk(int Segment, long FirstSample, ReadOnlyMemory<byte> Pcm)
{
    /// <summary>Bytes of a payload before its samples: segment and first sample.</summary>
    public const int HeaderSize = 12;

    public int Length => Pcm.Length / sizeof(short);
}

/// <summary>A point in the sound of one segment.</summary>
public readonly record struct SegmentPoint(int Segment, long Sample);

/// <summary>Reads the payloads of journal records, one function for each kind. Recorders write them.</summary>
public static class JournalPayloads
{
    /// <summary>The journal's JSON: camel case, the same in the recorder.</summary>
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { AllowOutOfOrderMetadataProperties = true };

    /// <summary>No sample of a segment has a greater number: a microphone that was open for a day, pauses included.</summary>
    public const long LastSample = 24L * 3600 * Clock.SampleRate;

    // A microphone is lost and found again some times in a take, not thousands.
    private const int MostSegments = 10_000;

    /// <summary>Whether the payload can be read as what its kind says: asked before a record is accepted.</summary>
    public static bool IsValid(JournalRecord record) => IsValid(record, out _);

    /// <param name="badEvents">How many of a record's events can't be used and will be passed over; 0 for records of other kinds.</param>
    public static bool IsValid(JournalRecord record, out int badEvents)
    {
        badEvents = 0;
        return record.Kind == JournalRecordKind.Events ? ReadEvents(record.Payload.Span, out badEvents) is not null : IsValidOther(record);
    }

    private static bool IsValidOther(JournalRecord record) => record.Kind switch
    {
        JournalRecordKind.Segment => ReadSegment(record.Payload.Span) is not null,
        JournalRecordKind.Audio => ReadAudio(record.Payload) is not null,
        JournalRecordKind.Anchors => ReadAnchors(record.Payload.Span) is not null,
        JournalRecordKind.Pause or JournalRecordKind.Resume => ReadPoint(record.Payload.Span) is not null,
        JournalRecordKind.Lost => record.Payload.Length == 4
            && BinaryPrimitives.ReadUInt32LittleEndian(record.Payload.Span) <= record.Sequence,
        JournalRecordKind.End => record.Payload.IsEmpty,

        // Of a later release: kept, and passed over when the take is read.
        _ => true,
    };

    internal static SegmentStart? ReadSegment(ReadOnlySpan<byte> payload)
    {
        var start = Deserialize<SegmentStart>(payload);
        return start is { Segment: >= 0 and <= MostSegments, InputOffsetMs: >= -1000 and <= 1000 } ? start : null;
    }

    internal static AudioChunk? ReadAudio(ReadOnlyMemory<byte> payload)
    {
        if (payload.Length < 14 || (payload.Length - 12) % sizeof(short) != 0 || ReadPoint(payload.Span[..12]) is not { } point)
        {
            return null;
        }

        return new AudioChunk(point.Segment, point.Sample, payload[12..]);
    }

    internal static (int Segment, IReadOnlyList<ClockAnchor> Anchors)? ReadAnchors(ReadOnlySpan<byte> payload)
    {
        if (payload.Length < 4 || (payload.Length - 4) % 16 != 0)
        {
            return null;
        }

        var anchors = new ClockAnchor[(payload.Length - 4) / 16];
        for (var i = 0; i < anchors.Length; i++)
        {
            var source = payload[(4 + (i * 16))..];
            anchors[i] = new(BinaryPrimitives.ReadInt64LittleEndian(source), BinaryPrimitives.ReadDoubleLittleEndian(source[8..]));
            if (!double.IsFinite(anchors[i].PerformanceMs) || anchors[i].Sample is < 0 or > LastSample)
            {
                return null;
            }
        }

        return (BinaryPrimitives.ReadInt32LittleEndian(payload), anchors);
    }

    internal static (int Segment, IReadOnlyList<TakeEvent> Events)? ReadEvents(ReadOnlySpan<byte> payload) => ReadEvents(payload, out _);

    private static (int Segment, IReadOnlyList<TakeEvent> Events)? ReadEvents(ReadOnlySpan<byte> payload, out int bad)
    {
        bad = 0;
        if (payload.Length < 4 || TakeEvents.Read(payload[4..], out bad) is not { } events)
        {
            return null;
        }

        return (BinaryPrimitives.ReadInt32LittleEndian(payload), events);
    }

    internal static SegmentPoint? ReadPoint(ReadOnlySpan<byte> payload)
    {
        if (payload.Length != 12)
        {
            return null;
        }

        var point = new SegmentPoint(
            BinaryPrimitives.ReadInt32LittleEndian(payload), BinaryPrimitives.ReadInt64LittleEndian(payload[4..]));
        return point is { Segment: >= 0, Sample: >= 0 and <= LastSample } ? point : null;
    }

    private static T? Deserialize<T>(ReadOnlySpan<byte> json)
        where T : class
    {
        try
        {
            return JsonSerializer.Deserialize<T>(json, Json);
        }
        catch (Exception e) when (e is JsonException or NotSupportedException)
        {
            return null;
        }
    }
}
