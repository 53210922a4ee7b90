using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>Finds when the teacher fills a blank: students who try it themselves see that beside their own.</summary>
public static class FilledBlanks
{
    // What is written by hand reaches beyond the line it is meant for, by so much of the letters' size.
    private const double Around = 0.5;

    /// <summary>
    /// When the first stroke or text of which the middle lies in the blank appears, and when all of it is there; null when it stays empty.
    /// What is wiped off again counts only when nothing else is written there.
    /// </summary>
    public static (LessonTime At, LessonTime WholeAt)? Of(BlankPlace blank, TimelineBoard board)
    {
        var around = Around * blank.Size;
        bool IsIn(double x, double y) => x >= blank.X - around && x <= blank.X + blank.Width + around
            && y >= blank.Y - around && y <= blank.Y + blank.Height + around;

        // What was typed there begins in it.
        (Life Last, LessonTime At, LessonTime WholeAt)[] found =
        [
            .. board.Strokes.Where(s => IsIn(Middle(s.Points, p => p.X), Middle(s.Points, p => p.Y)))
                .Select(s => (s.Lives[^1], s.Birth, s.WholeAt)),
            .. board.Texts.Where(t => IsIn(t.X / 10.0, (t.Y + (t.Size / 2.0)) / 10))
                .Select(t => (t.Lives[^1], t.Birth, t.WholeAt)),
        ];
        var stays = found.Where(f => f.Last.Death is null).ToArray();
        var counted = stays.Length > 0 ? stays : found;
        return counted.Length == 0 ? null : (counted.Min(f => f.At), counted.Max(f => f.WholeAt));
    }

    private static double Middle(IReadOnlyList<InkPoint> points, Func<InkPoint, int> of) => (points.Min(of) + points.Max(of)) / 20.0;
}
