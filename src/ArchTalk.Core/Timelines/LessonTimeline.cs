using ArchTalk.Core.Boards;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>A span during which a stroke is alive; no end means to the end of the lesson.</summary>
public readonly record struct Life(LessonTime Birth, LessonTime? Death)
{
    public bool Contains(LessonTime time) => Birth <= time && (Death is not { } death || time < death);
}

/// <summary>A stroke of the lesson: how it looks, when it is there, and its points with lesson times.</summary>
/// <param name="Key">Which take drew it, and its number there.</param>
/// <param name="Style">Index in <see cref="InkStyle.All"/>.</param>
/// <param name="Lives">In order, not touching; more than one when an erasure was undone.</param>
/// <param name="Points">At least one, in order of time.</param>
public sealed record TimelineStroke(StrokeKey Key, int Style, IReadOnlyList<Life> Lives, IReadOnlyList<InkPoint> Points)
{
    /// <summary>When it first appears.</summary>
    public LessonTime Birth => Lives[0].Birth;
}

/// <summary>A value that holds from a time on.</summary>
public readonly record struct Step<T>(LessonTime At, T Value);

/// <summary>A board in the lesson, with what happens on it.</summary>
/// <param name="Board">Its name, and its height at the end.</param>
/// <param name="Heights">Its height in units from each time on; the first at 0.</param>
/// <param name="Views">Its view from each time on; before the first it is seen from the top.</param>
/// <param name="Strokes">Ordered by birth.</param>
public sealed record TimelineBoard(
    Board Board, IReadOnlyList<Step<int>> Heights, IReadOnlyList<Step<View>> Views, IReadOnlyList<TimelineStroke> Strokes)
{
    /// <summary>The covers that are lifted in the lesson; any other cover lies in its place throughout.</summary>
    public IReadOnlyList<CoverSteps> Covers { get; init; } = [];
}

/// <summary>When an item, a cover, is lifted.</summary>
/// <param name="IsUncovered">From each time on; false before the first.</param>
public sealed record CoverSteps(Guid Item, IReadOnlyList<Step<bool>> IsUncovered);

/// <summary>Where the pointer is.</summary>
/// <param name="Board">Index of the board.</param>
/// <param name="X">In tenths of a board unit.</param>
/// <param name="Y">In tenths of a board unit.</param>
public readonly record struct PointerPlace(int Board, int X, int Y);

/// <summary>Where a part of a take is in the lesson.</summary>
public sealed record TimelineRange(TakeId Take, TimeMap Map);

/// <summary>A stroke that is there at a time, and how many of its points have been drawn by then.</summary>
public readonly record struct VisibleStroke(int Index, int Points);

/// <summary>What there is to see at one time.</summary>
/// <param name="Board">Index of the board shown.</param>
/// <param name="Height">The board's height then, in units.</param>
/// <param name="View">The view on it.</param>
/// <param name="Strokes">The living strokes of that board, oldest first.</param>
/// <param name="Pointer">The pointer, when it is on that board.</param>
public sealed record Scene(int Board, int Height, View View, IReadOnlyList<VisibleStroke> Strokes, PointerPlace? Pointer)
{
    /// <summary>The covers of that board that are lifted.</summary>
    public IReadOnlyList<Guid> Uncovered { get; init; } = [];
}

/// <summary>
/// The compiled lesson. Every rule is already applied: what is left is spans and steps, and <see cref="At"/> says what is
/// there at a time. Players and painters hold no rules of their own and must agree with it.
/// </summary>
public sealed class LessonTimeline(
    Duration length,
    IReadOnlyList<TimelineBoard> boards,
    IReadOnlyList<Step<int>> shown,
    IReadOnlyList<Step<PointerPlace?>> pointer,
    IReadOnlyList<TimelineRange> ranges)
{
    public Duration Length { get; } = length;

    public IReadOnlyList<TimelineBoard> Boards { get; } = boards;

    /// <summary>Which board is shown from each time on; the first at 0 when there is any board.</summary>
    public IReadOnlyList<Step<int>> Shown { get; } = shown;

    /// <summary>Where the pointer is from each time on; null when it is nowhere.</summary>
    public IReadOnlyList<Step<PointerPlace?>> Pointer { get; } = pointer;

    public IReadOnlyList<TimelineRange> Ranges { get; } = ranges;

    /// <summary>The scene at a time. Times after the end show the end.</summary>
    /// <exception cref="InvalidOperationException">The lesson has no boards.</exception>
    public Scene At(LessonTime time)
    {
        if (Boards.Count == 0)
        {
            throw new InvalidOperationException("A lesson without boards has no scene.");
        }

        var index = ValueAt(Shown, time, 0);
        var board = Boards[index];
        var strokes = new List<VisibleStroke>();
        for (var i = 0; i < board.Strokes.Count && board.Strokes[i].Birth <= time; i++)
        {
            if (IsAlive(board.Strokes[i], time))
            {
                strokes.Add(new(i, DrawnBy(board.Strokes[i].Points, time)));
            }
        }

        var place = ValueAt(Pointer, time, null);
        var height = ValueAt(board.Heights, time, board.Board.Height);
        return new Scene(
            index, height, ValueAt(board.Views, time, View.Top).Within(height), strokes, place is { } p && p.Board == index ? place : null)
        {
            Uncovered = [.. board.Covers.Where(c => ValueAt(c.IsUncovered, time, before: false)).Select(c => c.Item)],
        };
    }

    /// <summary>All lesson times of a moment: none when it was cut out, several when its take is used more than once.</summary>
    public IEnumerable<LessonTime> TimesOf(Moment moment) =>
        Ranges.Where(r => r.Take == moment.Take && !r.Map.IsCut(moment.At)).Select(r => r.Map.ToLesson(moment.At)).OfType<LessonTime>();

    /// <summary>The moment heard at a lesson time; null in a lesson without recording.</summary>
    public Moment? MomentAt(LessonTime time)
    {
        foreach (var range in Ranges)
        {
            if ((range.Map.Target.Contains(time) || range == Ranges[^1]) && range.Map.ToTake(time) is { } at)
            {
                return new Moment(range.Take, at);
            }
        }

        return null;
    }

    private static bool IsAlive(TimelineStroke stroke, LessonTime time)
    {
        foreach (var life in stroke.Lives)
        {
            if (life.Contains(time))
            {
                return true;
            }
        }

        return false;
    }

    private static int DrawnBy(IReadOnlyList<InkPoint> points, LessonTime time)
    {
        var milliseconds = time.Samples / Clock.SamplesPerMillisecond;
        if (points[^1].Milliseconds <= milliseconds)
        {
            return points.Count;
        }

        int low = 0, high = points.Count;
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (points[middle].Milliseconds <= milliseconds)
            {
                low = middle + 1;
            }
            else
            {
                high = middle;
            }
        }

        // A stroke that is alive shows at least the point it begins with, though milliseconds are rounded.
        return Math.Max(1, low);
    }

    private static T ValueAt<T>(IReadOnlyList<Step<T>> steps, LessonTime time, T before)
    {
        int low = 0, high = steps.Count;
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (steps[middle].At <= time)
            {
                low = middle + 1;
            }
            else
            {
                high = middle;
            }
        }

        return low == 0 ? before : steps[low - 1].Value;
    }
}
