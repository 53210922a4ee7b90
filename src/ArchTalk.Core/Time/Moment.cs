namespace ArchTalk.Core.Time;

/// <summary>The identity of a take.</summary>
public readonly record struct TakeId(Guid Value)
{
    public override string ToString() => Value.ToString("N");
}

/// <summary>
/// A point in what was recorded: a take and a time in it. Chapters, stops, resume positions and questions hold moments,
/// so that no edit ever moves them; a lesson's <see cref="TimeMap"/>s say where a moment is now.
/// </summary>
public readonly record struct Moment(TakeId Take, TakeTime At);
