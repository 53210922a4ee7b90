using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>
/// Compiles boards and take ranges into a <see cref="LessonTimeline"/>. A pure function: the same input gives the same
/// timeline. State is carried from each range into the next. What happened in a part that was cut takes effect at the join,
/// except that strokes begun there are gone.
/// </summary>
public static class TimelineCompiler
{
    /// <summary>
    /// Drawn lines stay within this of what the hand did, in tenths of a board unit (half a unit): smoothing and
    /// simplification share it.
    /// </summary>
    public const double InkTolerance = 5;

    // What smoothing may have moved, and half a tenth for each rounded coordinate, is not simplification's to spend.
    private const double SimplifyTolerance = InkTolerance - Smoothing.MaxShift;

    public static LessonTimeline Compile(IReadOnlyList<Board> boards, IReadOnlyList<TakeRange> ranges)
    {
        var lesson = new LessonState(boards);
        foreach (var range in ranges)
        {
            foreach (var action in range.Take.Actions)
            {
                if (range.Map.ToLesson(action.At) is { } at)
                {
                    lesson.Apply(action, range, at);
                }
            }
        }

        var length = ranges.Count == 0 ? Duration.Zero : ranges[^1].Map.Target.End - LessonTime.Zero;
        return lesson.ToTimeline(length, [.. ranges.Select(r => new TimelineRange(r.Take.Id, r.Map))]);
    }

    private sealed class LessonState(IReadOnlyList<Board> boards)
    {
        private readonly Dictionary<Guid, int> indexes = boards.Select((b, i) => (b.Id, i)).ToDictionary(p => p.Id, p => p.i);
        private readonly List<Step<int>> shown = [];
        private readonly List<Step<PointerPlace?>> pointer = [];
        private readonly List<Step<View>>[] views = [.. boards.Select(_ => new List<Step<View>>())];
        private readonly List<Step<int>>[] heights = [.. boards.Select(b => new List<Step<int>> { new(LessonTime.Zero, b.Height) })];
        private readonly List<(StrokeDrawn Stroke, TimeMap Map)>[] strokes = [.. boards.Select(_ => new List<(StrokeDrawn, TimeMap)>())];
        private readonly SortedDictionary<Guid, List<Step<bool>>>[] covers = [.. boards.Select(_ => new SortedDictionary<Guid, List<Step<bool>>>())];
        private readonly InkLedger ledger = new();

        public void Apply(TakeAction action, TakeRange range, LessonTime at)
        {
            switch (action)
            {
                case StrokeDrawn s when Index(s.Board) is { } board && !range.Map.IsCut(s.At):
                    strokes[board].Add((s, range.Map));
                    ledger.Draw(s.Stroke, at);
                    break;
                case StrokesErased e:
                    ledger.Erase(new(range.Take.Id, e.Action), e.Strokes, at);
                    break;
                case ActionUndone u:
                    ledger.Undo(new(range.Take.Id, u.Action), at);
                    break;
                case ActionRedone r:
                    ledger.Redo(new(range.Take.Id, r.Action), at);
                    break;
                case BoardChanged b when Index(b.Board) is { } board:
                    // The lesson opens with its first board, also when that was shown a moment after the recorder started.
                    Add(shown, shown.Count == 0 ? LessonTime.Zero : at, board);
                    break;
                case ViewChanged v when Index(v.Board) is { } board:
                    Add(views[board], at, new View(v.X, v.Y, v.Width).Within(heights[board][^1].Value));
                    break;
                case PointerChanged p:
                    Add(pointer, at, p.Place is { } place && Index(p.Board) is { } pointed ? new PointerPlace(pointed, place.X, place.Y) : null);
                    break;
                case BoardLengthened g when Index(g.Board) is { } board && g.Height > heights[board][^1].Value:
                    Add(heights[board], at, Math.Min(g.Height, Board.MaxHeight));
                    break;
                case CoverChanged c when Index(c.Board) is { } board:
                    if (!covers[board].TryGetValue(c.Item, out var steps))
                    {
                        // Every cover lies in its place until it is first lifted.
                        covers[board][c.Item] = steps = [new(LessonTime.Zero, Value: false)];
                    }

                    Add(steps, at, c.IsUncovered);
                    break;
            }
        }

        public LessonTimeline ToTimeline(Duration length, IReadOnlyList<TimelineRange> ranges)
        {
            if (shown.Count == 0 && boards.Count > 0)
            {
                shown.Add(new(LessonTime.Zero, 0));
            }

            return new LessonTimeline(length, [.. boards.Select((b, i) => ToBoard(b, i))], shown, pointer, ranges);
        }

        private TimelineBoard ToBoard(Board board, int index)
        {
            var compiled = new TimelineStroke?[strokes[index].Count];
            Parallel.For(0, compiled.Length, i => compiled[i] = ToStroke(strokes[index][i].Stroke, strokes[index][i].Map));
            return new TimelineBoard(
                board with { Height = heights[index][^1].Value },
                heights[index],
                views[index],
                [.. compiled.OfType<TimelineStroke>().OrderBy(s => s.Birth)])
            {
                Covers = [.. covers[index].Select(c => new CoverSteps(c.Key, c.Value))],
            };
        }

        private TimelineStroke? ToStroke(StrokeDrawn stroke, TimeMap map)
        {
            var lives = ledger.LivesOf(stroke.Stroke);
            if (lives.Count == 0)
            {
                return null;
            }

            var points = new InkPoint[stroke.Points.Count];
            for (var i = 0; i < points.Length; i++)
            {
                var point = stroke.Points[i];

                // A stroke still being drawn when the range ends is finished there.
                var at = map.ToLesson(point.At) ?? map.Target.End;
                points[i] = new InkPoint(point.X, point.Y, point.Pressure, at.WholeMilliseconds);
            }

            var style = InkStyle.IndexOf(stroke.Tool, stroke.Ink, stroke.Width);
            return new TimelineStroke(stroke.Stroke, style, lives, Simplification.Simplify(Smoothing.Smooth(points), SimplifyTolerance));
        }

        private int? Index(Guid board) => indexes.TryGetValue(board, out var index) ? index : null;

        // Of several values at one instant the last counts; a value that changes nothing is no step.
        private static void Add<T>(List<Step<T>> steps, LessonTime at, T value)
        {
            if (steps.Count > 0 && steps[^1].At == at)
            {
                steps[^1] = new(at, value);
            }
            else if (steps.Count == 0 || !EqualityComparer<T>.Default.Equals(steps[^1].Value, value))
            {
                steps.Add(new(at, value));
            }
        }
    }
}
