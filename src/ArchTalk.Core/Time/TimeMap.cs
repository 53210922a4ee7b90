namespace ArchTalk.Core.Time;

/// <summary>
/// Where one take range went in the lesson: a monotone, piecewise straight function from take time to lesson time, exact
/// at the joins. Its pieces have names, are half-open, and touch each other in both spaces.
/// </summary>
public sealed class TimeMap
{
    private readonly TimeMapPiece[] pieces;

    /// <exception cref="ArgumentException">There is no piece, one is not what its name says, or two don't touch.</exception>
    public TimeMap(IEnumerable<TimeMapPiece> pieces)
    {
        this.pieces = [.. pieces];
        if (this.pieces.Length == 0)
        {
            throw new ArgumentException("A time map needs at least one piece.", nameof(pieces));
        }

        for (var i = 0; i < this.pieces.Length; i++)
        {
            if (!this.pieces[i].IsSound)
            {
                throw new ArgumentException($"Piece {i} isn't {this.pieces[i].Kind}: {this.pieces[i]}.", nameof(pieces));
            }

            if (i > 0
                && (this.pieces[i].Source.Start != this.pieces[i - 1].Source.End || this.pieces[i].Target.Start != this.pieces[i - 1].Target.End))
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
        new([new TimeMapPiece(PieceKind.Straight, source, new(start, start + (source.End - source.Start)))]);

    /// <summary>The piece a take time lies in; null outside the source range. A time at which a pause was put in lies after it.</summary>
    public TimeMapPiece? PieceAt(TakeTime time) => Source.Contains(time) ? pieces[IndexOf(time)] : null;

    /// <summary>
    /// The lesson time of a take time: that of the join for what was taken out, that of the nearest edge outside the source range.
    /// </summary>
    public LessonTime ToLesson(TakeTime time) =>
        time < pieces[0].Source.Start ? pieces[0].Target.Start
        : time >= pieces[^1].Source.End ? pieces[^1].Target.End
        : pieces[IndexOf(time)].ToLesson(time);

    /// <summary>The take time heard at a lesson time, or null outside the half-open target range. At a join it is the time after the cut.</summary>
    public TakeTime? ToTake(LessonTime time)
    {
        if (!Target.Contains(time))
        {
            return null;
        }

        // The last piece that has begun has a length: one without any is followed by another that begins at the same time.
        int low = 0, high = pieces.Length - 1;
        while (low < high)
        {
            var middle = (low + high + 1) / 2;
            (low, high) = pieces[middle].Target.Start <= time ? (middle, high) : (low, middle - 1);
        }

        return pieces[low].ToTake(time);
    }

    /// <summary>The index of the last piece that begins at or before a time within the source range.</summary>
    internal int IndexOf(TakeTime time)
    {
        int low = 0, high = pieces.Length - 1;
        while (low < high)
        {
            var middle = (low + high + 1) / 2;
            (low, high) = pieces[middle].Source.Start <= time ? (middle, high) : (low, middle - 1);
        }

        return low;
    }
}
