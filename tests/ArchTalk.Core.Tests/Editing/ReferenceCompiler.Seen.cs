using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>What is to be seen of the boards at a time.</summary>
internal sealed partial class ReferenceCompiler
{
    // Where a moment is now; what was taken out is at the join, and what was recorded anew is at the end of what is there instead, or
    // where that begins.
    private long[] Places(TakeId take, TakeTime at, bool whenCut, bool isBehind = false)
    {
        long[] places = [.. placed.Where(p => p.Log.Id == take && p.Find(at.Samples) is { Kind: not "dead" } q
            && (whenCut || q.Kind is not ("cut" or "keep"))).Select(p => p.Lesson(at.Samples))];
        var took = placed.FirstOrDefault(p => p.Log.Place is { } place && (place.From.Take == place.Until.Take
            ? take == place.From.Take && Math.Min(place.From.At.Samples, place.Until.At.Samples) <= at.Samples
                && at.Samples < Math.Max(place.From.At.Samples, place.Until.At.Samples)
            : (take == place.From.Take && at >= place.From.At) || (take == place.Until.Take && at < place.Until.At)));
        return places.Length > 0 || !whenCut || took is null || logs.FirstOrDefault(l => l.Id == take) is not { } log
            || at >= log.End || !Counts(log, at.Samples, int.MaxValue, log.Length.Samples)
            ? places
            : [isBehind ? took.Pieces[^1].Ends : took.Pieces[0].At];
    }

    // A stop whose answer isn't uncovered before the next board uncovers it itself.
    private void ShowAnswer(ThinkingStop stop)
    {
        foreach (var at in Places(stop.Take, stop.At, whenCut: true, isBehind: true))
        {
            var board = ShownAt(at).Board;
            var left = states.Select(s => s.At).Where(t => t > at && ShownAt(t).Board != board).Append(Length).Min();
            var isUncovered = states.Select(s => s.At).Concat(answers.Select(a => a.At)).Where(t => at < t && t < left)
                .Any(t => IsHidden(board, stop.Answer!.Value, t) && !IsHidden(board, stop.Answer.Value, t - 1));
            if (!isUncovered && at + 48 < left)
            {
                answers.Add((at + 48, board, stop.Answer!.Value));
            }
        }
    }

    private State StateAt(long time) => states.Last(s => s.At <= time).State;

    // The lesson opens with its first board.
    private (int Board, int? Beside) ShownAt(long time) =>
        StateAt(time).Shown ?? StateAt(states.FirstOrDefault(s => s.State.Shown is not null).At).Shown ?? (0, null);

    private bool IsHidden(int board, Guid item, long time)
    {
        bool Recorded(long t) => StateAt(t).Hidden.GetValueOrDefault((board, item));
        var shown = answers.Where(a => a.Board == board && a.Item == item && a.At <= time).Select(a => a.At).Append(-1).Max();
        return shown >= 0 && !states.Any(s => shown < s.At && s.At <= time && Recorded(s.At) != Recorded(s.At - 1)) || Recorded(time);
    }

    private bool Shows(Correction note, long time)
    {
        var births = Places(note.Take, note.At, whenCut: false).Where(t => t <= time).Append(-1).Max();
        var ends = note.Until is { } until ? Places(note.Take, until, whenCut: true).Where(t => t <= time).Append(-1).Max() : -1;
        return births >= 0 && births >= ends;
    }

    /// <summary>What is to be seen at a time, in words that can be compared.</summary>
    public string At(long time)
    {
        var (board, beside) = ShownAt(time);
        var state = StateAt(time);
        return string.Join(
            "; ",
            (beside is { } second ? [(board, 0), (second, 1)] : new[] { (board, 0) }).Select(x => Pane(state, x.Item1, x.Item2, time)));
    }

    private string Pane(State state, int board, int pane, long time)
    {
        var texts = state.Marks.Where(m => m.Board == board && m.Alive && m.Text is not null)
            .Select(m => SceneText.Text(new MarkKey(m.Placement, m.Key), m.Text!.Value));
        var marks = state.Marks.Where(m => m.Board == board && m.Alive && m.Text is null)
            .Select(m => (m, Count: Math.Max(1, m.Points.Count(q => q.Ms <= time / 48))))
            .Select(m => $"{m.m.Placement}/{m.m.Key}/{m.m.Style}-{m.m.LineHeight}@{m.m.Points[m.Count - 1].X},{m.m.Points[m.Count - 1].Y}");
        var covers = state.Hidden.Keys.Concat(answers.Select(a => (a.Board, a.Item))).Where(k => k.Item1 == board && IsHidden(board, k.Item2, time))
            .Select(k => k.Item2)
            .Distinct();
        var notes = edits.Corrections.Where(c => c.Board == boards[board].Id && !Shows(c, time)).Select(c => c.Note.Id);
        return SceneText.Pane(
            board, state.Heights[board], state.Views.GetValueOrDefault((board, pane), View.Top).Within(state.Heights[board]),
            marks.Concat(texts), covers.Concat(
                notes),
            state.Parameters.Where(q => q.Key.Board == board).Select(q => $"{q.Key.Item}.{q.Key.Name}={q.Value}"),
            state.Lights.GetValueOrDefault(board));
    }

    /// <summary>What was last said of each key line, where the first of its strokes is in the lesson and isn't undone at the end.</summary>
    public string KeyLines()
    {
        var lines = new List<(int, StrokeKey, long, int, KeyLineKind, string)>();
        for (var number = 0; number < placed.Count; number++)
        {
            var said = edits.Marks.Where(m => m.Take == placed[number].Log.Id && m.Settled is not null && m.Becomes is not null)
                .Select(m => new KeyLineChanged(TakeTime.Zero, [new(m.Take, m.Stroke)], m.Becomes, m.Settled!.Text, false))
                .Concat(Actions(placed[number]).OfType<KeyLineChanged>()).ToList();
            foreach (var line in said.Where((k, i) => k.Kind is not null && !said.Skip(i + 1).Any(later => later.Strokes[0] == k.Strokes[0])))
            {
                // What came and went in one instant was never seen.
                IEnumerable<long> Seen(StrokeKey key) => states.Select(s => s.At)
                    .Where(t => StateAt(t).Marks.Any(m => m.Placement == number && m.Key == key && m.Alive)).Take(1);
                var first = states[^1].State.Marks.SingleOrDefault(m => m.Placement == number && m.Key == line.Strokes[0]);
                if (first is { Undone: false } && Seen(first.Key).Any())
                {
                    lines.Add((number, first.Key, line.Strokes.SelectMany(Seen).Min(), first.Board, line.Kind!.Value, line.Text));
                }
            }
        }

        return SceneText.KeyLines(lines);
    }

    /// <summary>Where terms are said: at their note, unless that was taken out, taken back or taken off.</summary>
    public IReadOnlyList<(long At, Guid Term)> TermsSaid() =>
    [
        .. placed.SelectMany(p => Actions(p).OfType<Noted>().GroupBy(n => n.Number)
            .Where(n => !Actions(p).OfType<NoteRemoved>().Any(r => r.Number == n.Key && r.At >= n.Last().At) && n.Last().Term is not null)
            .Select(n => (Piece: p.Find(n.First().At.Samples), At: p.Lesson(n.First().At.Samples), Term: n.Last().Term!.Value)))
            .Where(t => t.Piece is { Kind: not ("dead" or "cut" or "keep") }).Select(t => (t.At, t.Term)).Distinct().Order(),
    ];

    /// <summary>How the pointer on a board is elsewhere than it was told of, beyond what simplifying may move it; null when it is not.</summary>
    public string? PointerDifference(long time, int board, PointerPlace? shown)
    {
        var p = placed.Single(q => q.Pieces[0].At <= time && time < q.Pieces[^1].Ends);
        var piece = p.Pieces.Single(q => q.At <= time && time < q.Ends);
        var take = piece.Kind == "pause" ? piece.From : piece.Kind == "straight"
            ? piece.From + time - piece.At
            : piece.From + (long)((decimal)(time - piece.At) * (piece.To - piece.From) / (piece.Ends - piece.At));
        var told = p.Log.Actions.Where((a, n) => Counts(p.Log, a.At.Samples, n, p.AsOf)).OfType<PointerChanged>().ToArray();

        // A sample of a shortened silence stands for many of the take, and places are kept to the millisecond: what changes within one
        // is not asked for.
        var blur = piece.Kind == "short" ? ((piece.To - piece.From) / (piece.Ends - piece.At)) + 1 : 0;
        if (placed.SelectMany(q => q.Pieces).Any(q => Math.Abs(q.At - time) < 48 || Math.Abs(q.Ends - time) < 48)
            || told.Any(c => blur > 0 && Math.Abs(c.At.Samples - take) <= blur))
        {
            return null;
        }

        var last = told.LastOrDefault(c => piece.Kind == "pause" ? c.At.Samples < take : c.At.Samples <= take);
        var isThere = last?.Place is not null && boards.ToList().FindIndex(b => b.Id == last.Board) == board;
        if (!isThere || shown is null)
        {
            return isThere == shown.HasValue ? null : $"{shown}, told {last}";
        }

        // Within what was told of around then, and a little more.
        var around = told.Where(c => c.Place is not null && c.Board == last!.Board
            && Math.Abs(c.At.Samples - take) < 3000 * Math.Max(1, (piece.To - piece.From) / Math.Max(1, piece.Ends - piece.At)))
            .Append(last!).Concat(
                told.TakeWhile(c => c != last && take - last!.At.Samples < 48 * Math.Max(1, blur)).TakeLast(1)
                    .Where(c => c.Place is not null)).Select(c => c.Place!.Value).ToArray();
        var (x, y) = (shown.Value.X, shown.Value.Y);
        return x >= around.Min(q => q.X) - 65 && x <= around.Max(q => q.X) + 65 && y >= around.Min(q => q.Y) - 65 && y <= around.Max(q => q.Y) + 65
            ? null
            : $"{shown}, told {last}";
    }
}
