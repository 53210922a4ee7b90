using System.Text.Json.Serialization;

namespace ArchTalk.Core.Time;

/// <summary>A half-open range of time, from <see cref="Start"/> up to but not including <see cref="End"/>.</summary>
/// <typeparam name="TTime">The space the range lives in: <see cref="TakeTime"/> or <see cref="LessonTime"/>.</typeparam>
public readonly record struct TimeRange<TTime>
    where TTime : struct, IComparable<TTime>
{
    /// <exception cref="ArgumentException">The end lies before the start.</exception>
    [JsonConstructor]
    public TimeRange(TTime start, TTime end)
    {
        if (end.CompareTo(start) < 0)
        {
            throw new ArgumentException($"A range can't end ({end}) before it starts ({start}).", nameof(end));
        }

        Start = start;
        End = end;
    }

    public TTime Start { get; }

    public TTime End { get; }

    [JsonIgnore]
    public bool IsEmpty => Start.CompareTo(End) == 0;

    public bool Contains(TTime time) => time.CompareTo(Start) >= 0 && time.CompareTo(End) < 0;

    /// <summary>Whether some time lies in both.</summary>
    public bool Meets(TimeRange<TTime> other) => Common(other) is not null;

    /// <summary>What lies in both; null when nothing does.</summary>
    public TimeRange<TTime>? Common(TimeRange<TTime> other)
    {
        var start = Start.CompareTo(other.Start) > 0 ? Start : other.Start;
        var end = End.CompareTo(other.End) < 0 ? End : other.End;
        return start.CompareTo(end) < 0 ? new TimeRange<TTime>(start, end) : null;
    }
}
