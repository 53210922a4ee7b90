using System.Text.Json;
using System.Text.Json.Serialization;

namespace ArchTalk.Core.Time;

/// <summary>The one sample rate of every time in Arch Talk: 48,000 samples a second.</summary>
public static class Clock
{
    /// <summary>Samples in one second.</summary>
    public const int SampleRate = 48_000;

    /// <summary>Samples in one millisecond.</summary>
    public const int SamplesPerMillisecond = SampleRate / 1000;

    internal static long ToSamples(double milliseconds) =>
        checked((long)Math.Round(milliseconds * SamplesPerMillisecond, MidpointRounding.AwayFromZero));
}

/// <summary>A length of time in samples at 48 kHz; may be negative when it is a difference.</summary>
[JsonConverter(typeof(DurationJson))]
public readonly record struct Duration(long Samples) : IComparable<Duration>
{
    public static readonly Duration Zero = new(0);

    /// <summary>The length in milliseconds, with fractions.</summary>
    public double Milliseconds => (double)Samples / Clock.SamplesPerMillisecond;

    /// <summary>The length in seconds, with fractions.</summary>
    public double Seconds => (double)Samples / Clock.SampleRate;

    public static Duration FromMilliseconds(double milliseconds) => new(Clock.ToSamples(milliseconds));

    public static Duration FromSeconds(double seconds) => FromMilliseconds(seconds * 1000);

    public static Duration operator +(Duration a, Duration b) => new(checked(a.Samples + b.Samples));

    public static Duration operator -(Duration a, Duration b) => new(checked(a.Samples - b.Samples));

    public static bool operator <(Duration a, Duration b) => a.Samples < b.Samples;

    public static bool operator >(Duration a, Duration b) => a.Samples > b.Samples;

    public static bool operator <=(Duration a, Duration b) => a.Samples <= b.Samples;

    public static bool operator >=(Duration a, Duration b) => a.Samples >= b.Samples;

    public int CompareTo(Duration other) => Samples.CompareTo(other.Samples);
}

/// <summary>
/// A time within one take: audio samples at 48 kHz since the take began, its segments laid end to end.
/// Never negative. It can't be mixed with <see cref="LessonTime"/>; only a <see cref="TimeMap"/> leads from one to the other.
/// </summary>
[JsonConverter(typeof(TakeTimeJson))]
public readonly record struct TakeTime : IComparable<TakeTime>
{
    public static readonly TakeTime Zero;

    /// <exception cref="ArgumentOutOfRangeException">The count is negative.</exception>
    public TakeTime(long samples)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(samples);
        Samples = samples;
    }

    public long Samples { get; }

    public double Milliseconds => (double)Samples / Clock.SamplesPerMillisecond;

    public static TakeTime FromMilliseconds(double milliseconds) => new(Clock.ToSamples(milliseconds));

    public static TakeTime FromSeconds(double seconds) => FromMilliseconds(seconds * 1000);

    public static TakeTime operator +(TakeTime time, Duration length) => new(checked(time.Samples + length.Samples));

    public static Duration operator -(TakeTime a, TakeTime b) => new(a.Samples - b.Samples);

    public static bool operator <(TakeTime a, TakeTime b) => a.Samples < b.Samples;

    public static bool operator >(TakeTime a, TakeTime b) => a.Samples > b.Samples;

    public static bool operator <=(TakeTime a, TakeTime b) => a.Samples <= b.Samples;

    public static bool operator >=(TakeTime a, TakeTime b) => a.Samples >= b.Samples;

    public int CompareTo(TakeTime other) => Samples.CompareTo(other.Samples);
}

/// <summary>A take time in JSON: its samples.</summary>
internal sealed class TakeTimeJson : JsonConverter<TakeTime>
{
    public override TakeTime Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.GetInt64() is >= 0 and var samples ? new TakeTime(samples) : throw new JsonException("A take has no time before its beginning.");

    public override void Write(Utf8JsonWriter writer, TakeTime value, JsonSerializerOptions options) => writer.WriteNumberValue(value.Samples);
}

/// <summary>A length of time in JSON: its samples.</summary>
internal sealed class DurationJson : JsonConverter<Duration>
{
    public override Duration Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => new(reader.GetInt64());

    public override void Write(Utf8JsonWriter writer, Duration value, JsonSerializerOptions options) => writer.WriteNumberValue(value.Samples);
}
