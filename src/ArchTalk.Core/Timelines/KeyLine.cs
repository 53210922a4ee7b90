using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>A line that students are to write down, to mark in their own book, or to look at.</summary>
/// <param name="Stroke">The first of its strokes, which names it.</param>
/// <param name="At">When the first of its strokes appears.</param>
/// <param name="WholeAt">When all of it is there.</param>
/// <param name="Board">Index of the board.</param>
/// <param name="Box">Where its strokes lie, with the words they settled on, in board units.</param>
/// <param name="Text">Its words; empty when it is only to be seen.</param>
/// <param name="IsMust">Whether students must know it.</param>
public sealed record KeyLine(
    MarkKey Stroke, LessonTime At, LessonTime WholeAt, int Board, Box Box, KeyLineKind Kind, string Text, bool IsMust);

/// <summary>Finds the key lines of a compiled lesson.</summary>
internal static class KeyLines
{
    /// <summary>
    /// What was last said of each line in its take, for every copy of it in the lesson, in order of time. One whose first stroke isn't in
    /// the lesson or was undone is none; one that was wiped off with its board still is.
    /// </summary>
    /// <param name="isUndone">Whether a stroke is undone when the lesson ends.</param>
    public static IReadOnlyList<KeyLine> Of(
        IEnumerable<(int Number, TakePath Path)> placements, IReadOnlyList<TimelineBoard> boards, Func<MarkKey, bool> isUndone)
    {
        var strokes = new Dictionary<MarkKey, (int Board, TimelineStroke Stroke)>();
        for (var board = 0; board < boards.Count; board++)
        {
            foreach (var stroke in boards[board].Strokes)
            {
                strokes[stroke.Key] = (board, stroke);
            }
        }

        var lines = new List<KeyLine>();
        foreach (var (number, path) in placements)
        {
            var last = path.Actions.OfType<KeyLineChanged>().GroupBy(k => k.Strokes[0]).Select(g => g.Last());
            foreach (var said in last.Where(k => k.Kind is not null))
            {
                (int Board, TimelineStroke Stroke)[] own =
                    [.. said.Strokes.Distinct().Select(s => new MarkKey(number, s)).Where(strokes.ContainsKey).Select(k => strokes[k])];
                var first = new MarkKey(number, said.Strokes[0]);
                if (own.Length > 0 && own[0].Stroke.Key == first && !isUndone(first))
                {
                    var whole = own.Max(s => Math.Max(s.Stroke.Birth.WholeMilliseconds, s.Stroke.Points[^1].Milliseconds));
                    lines.Add(new(
                        first, own.Min(s => s.Stroke.Birth), LessonTime.FromMilliseconds(whole), own[0].Board, BoxOf(own.Select(s => s.Stroke)),
                        said.Kind!.Value, said.Text.Trim(), said.IsMust));
                }
            }
        }

        return [.. lines.OrderBy(l => l.At)];
    }

    private static Box BoxOf(IEnumerable<TimelineStroke> strokes)
    {
        var (left, top, right, bottom) = (double.MaxValue, double.MaxValue, double.MinValue, double.MinValue);
        foreach (var stroke in strokes)
        {
            foreach (var point in stroke.Points)
            {
                // A pen lies at the foot of its words, a highlighter in their middle.
                var (above, below) = stroke.Band > 0 ? (stroke.Band / 20.0, stroke.Band / 20.0) : (stroke.LineHeight / 10.0, 0);
                (left, right) = (Math.Min(left, point.X / 10.0), Math.Max(right, point.X / 10.0));
                (top, bottom) = (Math.Min(top, (point.Y / 10.0) - above), Math.Max(bottom, (point.Y / 10.0) + below));
            }
        }

        return new(left, top, right - left, bottom - top);
    }
}
