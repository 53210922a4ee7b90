namespace ArchTalk.Core.Time;

/// <summary>One straight piece of a <see cref="TimeMap"/>: a range of take time laid over a range of lesson time.</summary>
/// <param name="Source">Where it comes from.</param>
/// <param name="Target">Where it goes; empty for a cut, shorter than the source for a shortened silence.</param>
public readonly record struct TimeMapPiece(TimeRange<TakeTime> Source, TimeRange<LessonTime> Target)
{
    public bool IsCut => Target.IsEmpty && !Source.IsEmpty;
}

/// <summary>
/// Where one take range went in the lesson: a monotone, piecewise straight function from take time to lesson time, exact
/// at the joins. Pieces touch each other in both spaces.
/// </summary>
public sealed class TimeMap
{
    private readonly TimeMapPiece[] pieces;

    /// <exception cref="ArgumentException">There is no piece, or two pieces don't touch.</exception>
    public TimeMap(IEnumerable<TimeMapPiece> pieces)
    {
        this.pieces = [.. pieces];
        if (this.pieces.Length == 0)
        {
            throw new ArgumentException("A time map needs at least one piece.", nameof(pieces));
        }

        for (var i = 1; i < this.pieces.Length; i++)
        {
            if (this.pieces[i].Source.Start != this.pieces[i - 1].Source.End ||
                this.pieces[i].Target.Start != this.pieces[i - 1].Target.End)
            {
                throw new ArgumentException($"Piece {i} doesn't start where piece {i - 1} ends.", nameof(pieces));
            }
        }
    }

    public IReadOnlyList<TimeMapPiece> Pieces => pieces;

    public TimeRange<TakeTime> Source => new(pieces[0].Source.Start, pieces[^1].Source.End);

    public TimeRange<LessonTime> Target => new(pieces[0].Target.Start, pieces[^1].Target.End);

    /// <summary>A range laid into the lesson unchanged.</summary>
    public static TimeMap Straight(TimeRange<TakeTime> source, LessonTime start) =>
        new([new TimeMapPiece(source, new(start, start + (source.End - source.Start)))]);

    /// <summary>
    /// The lesson time of a take time, or null outside the source range (its end counts as inside, so that the last
    /// stroke can end there). A time inside a cut comes out at the join.
    /// </summary>
    public LessonTime? ToLesson(TakeTime time)
    {
        if (time < pieces[0].Source.Start || time > pieces[^1].Source.End)
        {
            return null;
        }

        var piece = pieces[IndexOf(time)];
        var source = piece.Source.End - piece.Source.Start;
        if (source == Duration.Zero)
        {
            return piece.Target.Start;
        }

        var target = piece.Target.End - piece.Target.Start;
        return piece.Target.Start + Scale(time - piece.Source.Start, target, source);
    }

    /// <summary>The take time heard at a lesson time, or null outside the target range. At a join it is the time after the cut.</summary>
    public TakeTime? ToTake(LessonTime time)
    {
        if (time < pieces[0].Target.Start || time > pieces[^1].Target.End)
        {
            return null;
        }

        var found = Array.FindLastIndex(pieces, p => !p.Target.IsEmpty && p.Target.Start <= time);
        if (found < 0)
        {
            return pieces[0].Source.Start;
        }

        var piece = pieces[found];
        return piece.Source.Start
            + Scale(time - piece.Target.Start, piece.Source.End - piece.Source.Start, piece.Target.End - piece.Target.Start);
    }

    /// <summary>Whether a take time lies inside a cut (not at its edges).</summary>
    public bool IsCut(TakeTime time) => Array.Exists(pieces, p => p.IsCut && p.Source.Start < time && time < p.Source.End);

    // Int128: an hour is 1.7e8 samples, and its square no longer fits 64 bits exactly once scaled.
    private static Duration Scale(Duration offset, Duration to, Duration from) =>
        new((long)((((Int128)offset.Samples * to.Samples) + (from.Samples / 2)) / from.Samples));

    private int IndexOf(TakeTime time)
    {
        int low = 0, high = pieces.Length - 1;
        while (low < high)
        {
            var middle = (low + high + 1) / 2;
            if (pieces[middle].Source.Start <= time)
            {
                low = middle;
            }
            else
            {
                high = middle - 1;
            }
        }

        return low;
    }
}
