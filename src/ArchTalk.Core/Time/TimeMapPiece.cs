namespace ArchTalk.Core.Time;

/// <summary>What became of a stretch of a take in the lesson.</summary>
public enum PieceKind
{
    /// <summary>As it was recorded.</summary>
    Straight = 0,

    /// <summary>Taken out: take time without lesson time. What was drawn wholly inside is gone.</summary>
    Cut = 1,

    /// <summary>Taken out, while what was drawn inside stays: it is there at the join.</summary>
    CutKeepingMarks = 2,

    /// <summary>A silence made short: ink in it is drawn faster.</summary>
    Shortened = 3,

    /// <summary>A pause put in: lesson time without take time.</summary>
    Pause = 4,

    /// <summary>A branch that a retake took back: as if it had not been recorded.</summary>
    TakenBack = 5,
}

/// <summary>One piece of a <see cref="TimeMap"/>: a half-open range of take time laid over a half-open range of lesson time.</summary>
/// <param name="Kind">Says how long both may be.</param>
/// <param name="Source">Where it comes from; empty for a pause.</param>
/// <param name="Target">Where it goes; empty for what was taken out or back, shorter than the source for a shortened silence.</param>
public readonly record struct TimeMapPiece(PieceKind Kind, TimeRange<TakeTime> Source, TimeRange<LessonTime> Target)
{
    /// <summary>Whether it was taken out, with or without what was drawn in it.</summary>
    public bool IsCut => Kind is PieceKind.Cut or PieceKind.CutKeepingMarks;

    internal bool IsSound
    {
        get
        {
            var (source, target) = (Source.End - Source.Start, Target.End - Target.Start);
            return Kind switch
            {
                PieceKind.Straight => source == target && source > Duration.Zero,
                // A sample of one may be left whole.
                PieceKind.Shortened => Duration.Zero < target && target <= source,
                PieceKind.Pause => source == Duration.Zero && target > Duration.Zero,
                _ => source > Duration.Zero && target == Duration.Zero,
            };
        }
    }

    /// <summary>The lesson time of a take time from the start to the end of the source, both included.</summary>
    internal LessonTime ToLesson(TakeTime time) =>
        Kind == PieceKind.Shortened
            ? Target.Start + Scale(time - Source.Start, Target.End - Target.Start, Source.End - Source.Start)
            : Target.Start + (Target.IsEmpty ? Duration.Zero : time - Source.Start);

    /// <summary>The take time heard at a lesson time of the target.</summary>
    internal TakeTime ToTake(LessonTime time) => Kind switch
    {
        PieceKind.Straight => Source.Start + (time - Target.Start),
        PieceKind.Shortened => Source.Start + Scale(time - Target.Start, Source.End - Source.Start, Target.End - Target.Start),
        _ => Source.Start,
    };

    // Int128: an hour is 1.7e8 samples, and its square no longer fits 64 bits exactly once scaled.
    internal static Duration Scale(Duration offset, Duration to, Duration from) =>
        new((long)((((Int128)offset.Samples * to.Samples) + (from.Samples / 2)) / from.Samples));
}
