using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>A span during which a stroke is alive; no end means to the end of the lesson.</summary>
public readonly record struct Life(LessonTime Birth, LessonTime? Death)
{
    public bool Contains(LessonTime time) => Birth <= time && (Death is not { } death || time < death);
}

/// <summary>A stroke's identity in a lesson: a range that is used twice draws its strokes twice.</summary>
/// <param name="Placement">The number of the placement that draws it.</param>
public readonly record struct MarkKey(int Placement, StrokeKey Stroke);

/// <summary>A stroke of the lesson: how it looks, when it is there, and its points with lesson times.</summary>
/// <param name="Style">Index in <see cref="InkStyle.All"/>.</param>
/// <param name="Lives">In order, not touching; more than one when an erasure was undone.</param>
/// <param name="Points">At least one, in order of time.</param>
public sealed record TimelineStroke(MarkKey Key, int Style, IReadOnlyList<Life> Lives, IReadOnlyList<InkPoint> Points)
{
    /// <summary>The height of the line of words it settled on, in tenths of a board unit; 0 for a stroke as it was drawn.</summary>
    public int LineHeight { get; init; }

    /// <summary>
    /// How broad it is in tenths of a board unit, with square ends: a highlighter that settled is as high as its line. 0 for as broad as
    /// its style.
    /// </summary>
    public int Band => InkStyle.All[Style].Tool == InkStyle.Highlighter ? LineHeight : 0;

    /// <summary>When it first appears.</summary>
    public LessonTime Birth => Lives[0].Birth;

    /// <summary>When all of it is there.</summary>
    public LessonTime WholeAt => LessonTime.FromMilliseconds(Points[^1].Milliseconds) is var last && last > Birth ? last : Birth;

    /// <summary>Whether it is there at a time.</summary>
    public bool IsAliveAt(LessonTime time) => Lives.Any(l => l.Contains(time));

    /// <summary>How many of its points have been drawn by a time at which it is there.</summary>
    public int DrawnBy(LessonTime time)
    {
        var milliseconds = time.Samples / Clock.SamplesPerMillisecond;

        // A stroke that is alive shows at least the point it begins with, though milliseconds are rounded.
        return Math.Max(1, Search.CountTo(Points.Count, i => Points[i].Milliseconds <= milliseconds));
    }

    /// <summary>Where the pen is on its way to the next point: x and y in tenths of a unit, pressure 0 to 255. Null when it is complete.</summary>
    public (double X, double Y, double Pressure)? TipAt(LessonTime time)
    {
        var count = DrawnBy(time);
        if (count == Points.Count)
        {
            return null;
        }

        var (from, to) = (Points[count - 1], Points[count]);
        var share = Math.Clamp(
            (((double)time.Samples / Clock.SamplesPerMillisecond) - from.Milliseconds) / Math.Max(1, to.Milliseconds - from.Milliseconds), 0, 1);
        return (from.X + (share * (to.X - from.X)), from.Y + (share * (to.Y - from.Y)), from.Pressure + (share * (to.Pressure - from.Pressure)));
    }
}

/// <summary>What was typed on a board, letter by letter.</summary>
/// <param name="X">Of its beginning, in tenths of a board unit.</param>
/// <param name="Y">Of its upper edge, in tenths of a board unit.</param>
/// <param name="Size">Of the letters (the em) in tenths of a board unit.</param>
/// <param name="Ink">The name of a writing ink.</param>
/// <param name="Lives">In order, not touching.</param>
/// <param name="Steps">The whole text from each time on.</param>
public sealed record TimelineText(
    MarkKey Key, int X, int Y, int Size, string Ink, IReadOnlyList<Life> Lives, IReadOnlyList<Step<Writing>> Steps)
{
    /// <summary>When it first appears.</summary>
    public LessonTime Birth => Lives[0].Birth;

    /// <summary>When all of it is there.</summary>
    public LessonTime WholeAt => Steps[^1].At > Birth ? Steps[^1].At : Birth;

    /// <summary>Whether it is there at a time.</summary>
    public bool IsAliveAt(LessonTime time) => Lives.Any(l => l.Contains(time));
}

/// <summary>An unbroken presence of the pointer on one board. It moves straight from point to point and rests after the last.</summary>
/// <param name="Board">Index of the board.</param>
/// <param name="Death">When it leaves; null for never.</param>
/// <param name="Points">In order of time; their pressure means nothing.</param>
public sealed record TimelinePointer(int Board, LessonTime Birth, LessonTime? Death, IReadOnlyList<InkPoint> Points)
{
    /// <summary>How long its trail stays.</summary>
    public static readonly Duration Trail = Duration.FromMilliseconds(450);

    /// <summary>Where it is at a time, in tenths of a board unit.</summary>
    public PointerPlace At(LessonTime time)
    {
        var milliseconds = (double)time.Samples / Clock.SamplesPerMillisecond;
        var count = Math.Max(1, Search.CountTo(Points.Count, i => Points[i].Milliseconds <= milliseconds));
        var from = Points[count - 1];
        if (count == Points.Count)
        {
            return new(Board, from.X, from.Y);
        }

        var to = Points[count];
        var share = Math.Clamp((milliseconds - from.Milliseconds) / Math.Max(1, to.Milliseconds - from.Milliseconds), 0, 1);
        return new(Board, from.X + (int)Math.Round((to.X - from.X) * share), from.Y + (int)Math.Round((to.Y - from.Y) * share));
    }

    /// <summary>Where it was within the last moments, oldest first, with its age in ms; empty while it rests.</summary>
    public IReadOnlyList<(PointerPlace Place, double Age)> TrailAt(LessonTime time)
    {
        var since = time - Birth > Trail ? new LessonTime(time.Samples - Trail.Samples) : Birth;
        (PointerPlace Place, LessonTime At)[] places =
        [
            (At(since), since),
            .. Points.Select(p => (Place: new PointerPlace(Board, p.X, p.Y), At: LessonTime.FromMilliseconds(p.Milliseconds)))
                .Where(p => p.At > since && p.At < time),
            (At(time), time),
        ];
        return places.All(p => p.Place == places[^1].Place) ? [] : [.. places.Select(p => (p.Place, (time - p.At).Milliseconds))];
    }
}
