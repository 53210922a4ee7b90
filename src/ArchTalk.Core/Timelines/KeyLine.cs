using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Editing;
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
    // Of an em, in any face for reading; only a picture of the line depends on it.
    private const double UsualLetter = 0.56;

    /// <summary>
    /// What was last said of each line in its take, for every copy of it in the lesson, in order of time. One whose first stroke isn't in
    /// the lesson or was undone is none; one that was wiped off with its board still is.
    /// </summary>
    /// <param name="isUndone">Whether a stroke is undone when the lesson ends.</param>
    public static IReadOnlyList<KeyLine> Of(Arrangement arrangement, IReadOnlyList<TimelineBoard> boards, Func<MarkKey, bool> isUndone)
    {
        // Of thousands of strokes a few are part of a line.
        (int Number, KeyLineChanged Said)[] said =
        [
            .. from placement in arrangement.Placements
               let recorded = placement.Path.Actions.OfType<KeyLineChanged>()
               from changes in SettledLater(placement, arrangement.Edits).Concat(recorded).GroupBy(k => k.Strokes[0])
               where changes.Last().Kind is not null
               select (placement.Number, changes.Last()),
        ];
        var wanted = said.SelectMany(s => s.Said.Strokes.Select(k => new MarkKey(s.Number, k))).ToHashSet();
        var marks = new Dictionary<MarkKey, Mark>();
        for (var board = 0; board < boards.Count; board++)
        {
            foreach (var stroke in boards[board].Strokes.Where(s => wanted.Contains(s.Key)))
            {
                marks[stroke.Key] = new(stroke.Key, board, stroke.Birth, stroke.WholeAt, BoxOf(stroke));
            }

            foreach (var text in boards[board].Texts.Where(t => wanted.Contains(t.Key)))
            {
                marks[text.Key] = new(text.Key, board, text.Birth, text.WholeAt, BoxOf(text));
            }
        }

        var lines = new List<KeyLine>();
        foreach (var (number, line) in said)
        {
            Mark[] own = [.. line.Strokes.Distinct().Select(s => new MarkKey(number, s)).Where(marks.ContainsKey).Select(k => marks[k])];
            var first = new MarkKey(number, line.Strokes[0]);
            if (own.Length > 0 && own[0].Key == first && !isUndone(first))
            {
                lines.Add(new(
                    first, own.Min(s => s.Birth), own.Max(s => s.Whole), own[0].Board, own.Select(s => s.Box).Aggregate(Joined),
                    line.Kind!.Value, line.Text.Trim(), line.IsMust));
            }
        }

        return [.. lines.OrderBy(l => l.At)];
    }

    // What is said while recording of the same line counts more.
    private static IEnumerable<KeyLineChanged> SettledLater(Placement placement, EditList edits) =>
        from change in edits.Marks
        where change.Take == placement.Take && change is { Settled: not null, Becomes: not null }
        select new KeyLineChanged(TakeTime.Zero, [change.Key], change.Becomes, change.Settled!.Text, IsMust: false);

    private static Box BoxOf(TimelineStroke stroke)
    {
        // A pen lies at the foot of its words, a highlighter in their middle.
        var (above, below) = stroke.Band > 0 ? (stroke.Band / 20.0, stroke.Band / 20.0) : (stroke.LineHeight / 10.0, 0);
        var (left, top) = (stroke.Points.Min(p => p.X) / 10.0, (stroke.Points.Min(p => p.Y) / 10.0) - above);
        return new(left, top, (stroke.Points.Max(p => p.X) / 10.0) - left, (stroke.Points.Max(p => p.Y) / 10.0) + below - top);
    }

    private static Box BoxOf(TimelineText text)
    {
        var lines = text.Steps[^1].Value.Text.Split('\n');
        var (size, width) = (text.Size / 10.0, lines.Max(l => l.Length) * UsualLetter * text.Size / 10.0);
        var left = (text.X / 10.0) - (TextSetter.Direction(text.Steps[^1].Value.Text) is true ? width : 0);
        return new(left, text.Y / 10.0, width, lines.Length * TextSetter.LineHeight * size);
    }

    private static Box Joined(Box a, Box b)
    {
        var (left, top) = (Math.Min(a.X, b.X), Math.Min(a.Y, b.Y));
        return new(left, top, Math.Max(a.X + a.Width, b.X + b.Width) - left, Math.Max(a.Y + a.Height, b.Y + b.Height) - top);
    }

    private sealed record Mark(MarkKey Key, int Board, LessonTime Birth, LessonTime Whole, Box Box);
}
