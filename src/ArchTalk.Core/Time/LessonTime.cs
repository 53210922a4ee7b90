namespace ArchTalk.Core.Time;

/// <summary>
/// A time in the edited lesson, in samples at 48 kHz since it began. Never negative. What students see and hear is
/// ordered by it; what the teacher recorded is kept in <see cref="TakeTime"/>.
/// </summary>
public readonly record struct LessonTime : IComparable<LessonTime>
{
    public static readonly LessonTime Zero;

    /// <exception cref="ArgumentOutOfRangeException">The count is negative.</exception>
    public LessonTime(long samples)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(samples);
        Samples = samples;
    }

    public long Samples { get; }

    public double Milliseconds => (double)Samples / Clock.SamplesPerMillisecond;

    /// <summary>The nearest whole millisecond, as written to timeline.json.</summary>
    public int WholeMilliseconds => checked((int)((Samples + (Clock.SamplesPerMillisecond / 2)) / Clock.SamplesPerMillisecond));

    public static LessonTime FromMilliseconds(double milliseconds) => new(Clock.ToSamples(milliseconds));

    public static LessonTime FromSeconds(double seconds) => FromMilliseconds(seconds * 1000);

    public static LessonTime operator +(LessonTime time, Duration length) => new(checked(time.Samples + length.Samples));

    public static Duration operator -(LessonTime a, LessonTime b) => new(a.Samples - b.Samples);

    public static bool operator <(LessonTime a, LessonTime b) => a.Samples < b.Samples;

    public static bool operator >(LessonTime a, LessonTime b) => a.Samples > b.Samples;

    public static bool operator <=(LessonTime a, LessonTime b) => a.Samples <= b.Samples;

    public static bool operator >=(LessonTime a, LessonTime b) => a.Samples >= b.Samples;

    public int CompareTo(LessonTime other) => Samples.CompareTo(other.Samples);
}
