using System.Runtime.InteropServices;
using System.Text;
using System.Text.Json;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Formats;

/// <summary>
/// What was measured of a take, as a file beside its journal (docs/formats/measures.md). It can always be made anew from the journal, so
/// a file of another version is passed over.
/// </summary>
public static class MeasuresFile
{
    // Most of a file that isn't ours would ask for more.
    private const int LongestHead = 64 << 20;

    private static ReadOnlySpan<byte> Magic => "ATALKM01"u8;

    public static void Write(Stream file, TakeMeasures measures)
    {
        var head = JsonSerializer.SerializeToUtf8Bytes(
            new Head(
                measures.Length.Samples,
                measures.TruePeak,
                measures.NoiseFloorDb,
                measures.Hum,
                [.. measures.Phrases.SelectMany(p => (long[])[p.Start.Samples, p.End.Samples])]),
            JsonSerializerOptions.Web);
        using var writer = new BinaryWriter(file, Encoding.UTF8, leaveOpen: true);
        writer.Write(Magic);
        writer.Write(head.Length);
        writer.Write(head);
        writer.Write(measures.Steps.Length);
        writer.Write(MemoryMarshal.AsBytes(measures.Steps.AsSpan()));
        for (var resolution = 0; resolution < Waveform.Resolutions; resolution++)
        {
            var peaks = measures.Waveform.Peaks(resolution);
            writer.Write(peaks.Count);
            foreach (var peak in peaks)
            {
                writer.Write(peak);
            }
        }
    }

    /// <summary>Null when it isn't whole, or of another version.</summary>
    public static TakeMeasures? Read(Stream file)
    {
        using var reader = new BinaryReader(file, Encoding.UTF8, leaveOpen: true);
        try
        {
            if (!reader.ReadBytes(Magic.Length).AsSpan().SequenceEqual(Magic)
                || JsonSerializer.Deserialize<Head>(reader.ReadBytes(Math.Clamp(reader.ReadInt32(), 0, LongestHead)), JsonSerializerOptions.Web)
                    is not { } head)
            {
                return null;
            }

            var steps = ReadMany<float>(reader);
            var peaks = new List<short>[Waveform.Resolutions];
            for (var resolution = 0; resolution < peaks.Length; resolution++)
            {
                peaks[resolution] = [.. ReadMany<short>(reader)];
            }

            var phrases = head.Phrases.Chunk(2).Select(p => new TimeRange<TakeTime>(new TakeTime(p[0]), new TakeTime(p[1])));
            return new TakeMeasures(
                new Duration(head.Length), [.. phrases], steps, head.TruePeak, head.NoiseFloorDb, head.Hum, new Waveform(peaks));
        }
        catch (Exception e) when (e is EndOfStreamException or JsonException or ArgumentException or IndexOutOfRangeException)
        {
            return null;
        }
    }

    private static T[] ReadMany<T>(BinaryReader reader)
        where T : unmanaged
    {
        var count = reader.ReadInt32();
        var bytes = reader.ReadBytes(checked(Math.Clamp(count, 0, LongestHead) * Marshal.SizeOf<T>()));
        return bytes.Length == count * Marshal.SizeOf<T>() ? MemoryMarshal.Cast<byte, T>(bytes).ToArray() : throw new EndOfStreamException();
    }

    // Samples; phrases as starts and ends in turn.
    private sealed record Head(long Length, float TruePeak, double NoiseFloorDb, Hum? Hum, long[] Phrases);
}
