using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>What is on the boards, and what each deed does to it.</summary>
internal sealed partial class ReferenceCompiler
{
    private sealed record Mark(int Placement, StrokeKey Key, int Board, int Style, (int X, int Y, int Ms)[] Points, int LineHeight = 0)
    {
        public bool Undone, Ended;

        // What was typed; null for a stroke.
        public Writing? Text;
        public HashSet<(int, StrokeKey)> ErasedBy = [];

        public Mark Copy() => this with { ErasedBy = [.. ErasedBy], Undone = Undone, Ended = Ended, Text = Text };

        public bool Alive => !Undone && !Ended && ErasedBy.Count == 0;
    }

    private sealed class State
    {
        public List<Mark> Marks = [];
        public Dictionary<(int, StrokeKey), List<(int, StrokeKey)>> Erasures = [];
        public (int Board, int? Beside)? Shown;
        public Dictionary<(int Board, int Pane), View> Views = [];
        public Dictionary<int, int> Heights = [];
        public Dictionary<int, Light?> Lights = [];
        public Dictionary<(int Board, Guid Item), bool> Hidden = [];
        public Dictionary<(int Board, Guid Item, string Name), int> Parameters = [];

        public State Copy() => new()
        {
            Marks = [.. Marks.Select(m => m.Copy())],
            Erasures = new(Erasures),
            Shown = Shown,
            Views = new(Views),
            Heights = new(
                Heights),
            Lights = new(Lights),
            Hidden = new(Hidden),
            Parameters = new(Parameters),
        };
    }

    private sealed record Gone(TakeTime At, StrokeKey Key) : TakeAction(At);

    private sealed record Added(TakeTime At, AddedStroke Stroke) : TakeAction(At);

    // A stroke ends where what comes next of it was taken back.
    private static IReadOnlyList<TakePoint> Kept(Placed p, IReadOnlyList<TakePoint> points)
    {
        var ends = Edges(p.Log).Where(e => e > points[0].At.Samples && e < p.AsOf && !Counts(p, e)).Append(long.MaxValue).Min();
        var kept = points.TakeWhile(q => q.At.Samples < ends).ToList();
        return kept.Count == points.Count ? points : [.. kept, Between(kept[^1], points[kept.Count], ends)];
    }

    private static TakePoint Between(TakePoint a, TakePoint b, long t)
    {
        var share = b.At == a.At ? 1 : (double)(t - a.At.Samples) / (b.At - a.At).Samples;
        int Mix(int x, int y) => x + (int)Math.Round((y - x) * share);
        return new(Mix(a.X, b.X), Mix(a.Y, b.Y), 0, new TakeTime(t));
    }

    private void Apply(TakeAction action, int number, long at)
    {
        var (p, take) = (placed[number], placed[number].Log.Id);
        int Index(Guid? board) => boards.ToList().FindIndex(b => b.Id == board);
        IEnumerable<Mark> Copies(StrokeKey key) => now.Marks.Where(m => m.Key == key);
        switch (action)
        {
            case StrokeDrawn s when Index(s.Board) >= 0 && !WentAlong(p, s.Points[0].At.Samples, s.Points[^1].At.Samples)
                && !now.Marks.Any(m => m.Placement == number && m.Key == s.Stroke):
                now.Marks.Add(new(number, s.Stroke, Index(s.Board), s.Style, Lesson(p, s.Points), s.LineHeight));
                break;
            case Typed t when Index(t.Board) >= 0 && !WentAlong(p, TypedAt(p, t.Text).Min(), TypedAt(p, t.Text).Max()):
                var typed = t.IsFirst ? [] : Copies(t.Text).ToList();
                if (typed.Count == 0 && !now.Marks.Any(m => m.Placement == number && m.Key == t.Text))
                {
                    now.Marks.Add(new(number, t.Text, Index(t.Board), 0, []) { Text = Writing.Empty });
                    typed = [now.Marks[^1]];
                }

                typed.Where(m => m.Text is not null).ToList().ForEach(m => m.Text = t.Letters);
                break;
            case Added { Stroke: { IsAtStandstill: true } s } when Index(s.Board) >= 0 && p.Find(action.At.Samples)!.Kind != "cut":
                var later = new (int, int, int)[s.Points.Count];
                now.Marks.Add(new(number, new(new(s.Id), 0), Index(s.Board), InkStyle.IndexOf(s.Tool, s.Ink, s.Width), later));
                still.Add(() => Still(p, s, at).CopyTo(later, 0));
                break;
            case Added { Stroke: { IsAtStandstill: false } s }:
                var points = new List<TakePoint>();
                foreach (var q in s.Points)
                {
                    points.Add(new(
                        q.X,
                        q.Y,
                        q.Pressure,
                        points.Count > 0 && (q.Take != take || q.At < points[^1].At) ? new TakeTime(long.MaxValue / 2) : q.At));
                }

                Apply(new StrokeDrawn(s.Points[0].At, new(new(s.Id), 0), s.Board, InkStyle.IndexOf(s.Tool, s.Ink, s.Width), points), number, at);
                break;
            case Gone g:
                Copies(g.Key).ToList().ForEach(m => m.Ended = true);
                break;
            case StrokesErased e:
                var hit = e.Strokes.Distinct().SelectMany(Copies).Where(m => m.Alive).ToList();
                hit.ForEach(m => m.ErasedBy.Add((number, new(take, e.Action))));
                now.Erasures[(number, new(take, e.Action))] = [.. hit.Select(m => (m.Placement, m.Key))];
                break;
            case ActionUndone or ActionRedone:
                var (key, isUndo) = (new StrokeKey(
                    take,
                    action is ActionUndone u ? u.Action : ((ActionRedone)action).Action), action is ActionUndone);
                Copies(key).ToList().ForEach(m => m.Undone = isUndo);
                foreach (var erasure in now.Erasures.Where(e => e.Key.Item2 == key))
                {
                    now.Marks.Where(m => erasure.Value.Contains((m.Placement, m.Key))).ToList()
                        .ForEach(m => _ = isUndo ? m.ErasedBy.Remove(erasure.Key) : m.ErasedBy.Add(erasure.Key));
                }

                break;
            case BoardChanged b when Index(b.Board) >= 0:
                now.Shown = (Index(b.Board), Index(b.Beside) >= 0 ? Index(b.Beside) : null);
                break;
            case ViewChanged v when Index(v.Board) >= 0:
                now.Views[(Index(v.Board), v.Pane)] = new View(v.X, v.Y, v.Width).Within(now.Heights[Index(v.Board)]);
                break;
            case BoardLengthened g when Index(g.Board) >= 0:
                now.Heights[Index(g.Board)] = Math.Max(now.Heights[Index(g.Board)], Math.Min(g.Height, Board.MaxHeight));
                break;
            case LightChanged l when Index(l.Board) >= 0:
                now.Lights[Index(l.Board)] = l.Light;
                break;
            case CoverChanged c when Index(c.Board) >= 0:
                now.Hidden[(Index(c.Board), c.Item)] = c.IsUncovered;
                break;
            case ParameterSet s when Index(s.Board) >= 0:
                now.Parameters[(Index(s.Board), s.Item, s.Name)] = s.Value;
                break;
        }
    }

    // Drawn wholly inside a cut: nothing of what lies between its ends is in the lesson.
    private static bool WentAlong(Placed p, long from, long to) => p.Find(from)?.Kind == "cut" && to < p.End
        && p.Pieces.Where(q => q.Kind != "pause" && q.From <= to && from < q.To).All(q => q.Kind is "cut" or "dead");

    private long[] TypedAt(Placed p, StrokeKey text) => [.. Actions(p).OfType<Typed>().Where(t => t.Text == text).Select(t => t.At.Samples)];

    private static (int X, int Y, int Ms)[] Lesson(Placed p, IReadOnlyList<TakePoint> points)
    {
        var mapped = new List<(int X, int Y, int Ms)>();
        for (var i = 0; i < points.Count; i++)
        {
            foreach (var piece in i == 0 ? [] : p.Pieces.Take(p.Pieces.Count - 1).Where(q => points[i - 1].At.Samples < q.To
                && q.To <= points[i].At.Samples || (q.Kind == "pause" && points[i - 1].At.Samples < q.To && q.To <= points[i].At.Samples)))
            {
                var border = Between(points[i - 1], points[i], piece.To);
                mapped.Add((border.X, border.Y, Ms(piece.Ends)));
            }

            mapped.Add((points[i].X, points[i].Y, Ms(p.Lesson(points[i].At.Samples))));
        }

        return [.. mapped];
    }

    private (int X, int Y, int Ms)[] Still(Placed p, AddedStroke s, long at)
    {
        var changes = states.Select(t => t.At).Where(t => t >= 0 && ShownAt(t) != ShownAt(t - 1));
        var limit = p.Pieces.Where(q => q.At == q.Ends).Select(q => q.At).Concat(changes).Where(t => t > at).Append(p.Pieces[^1].Ends).Min();
        return [.. s.Points.Select(q => (q.X, q.Y, Ms(Math.Min(at + q.After.Samples, limit))))];
    }

    private static int Ms(long samples) => (int)((samples + 24) / 48);
}
