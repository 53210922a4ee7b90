using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>
/// The second compiler: slow and plain. It goes through the actions of each range one by one, applies them to the boards by the
/// rules at the joins, and keeps a copy of the boards after each. It shares nothing with the compiler but its input.
/// </summary>
internal sealed class ReferenceCompiler
{
    private sealed record Piece(string Kind, long From, long To, long At, long Ends, ShortenedSilence? Silence = null);

    private sealed record Mark(int Placement, StrokeKey Key, int Board, int Style, (int X, int Y, int Ms)[] Points)
    {
        public bool Undone, Ended;
        public HashSet<(int, StrokeKey)> ErasedBy = [];

        public Mark Copy() => this with { ErasedBy = [.. ErasedBy], Undone = Undone, Ended = Ended };

        public bool Alive => !Undone && !Ended && ErasedBy.Count == 0;
    }

    private sealed class State
    {
        public List<Mark> Marks = [];
        public Dictionary<(int, StrokeKey), List<(int, StrokeKey)>> Erasures = [];
        public (int Board, int? Beside)? Shown;
        public Dictionary<(int Board, int Pane), View> Views = [];
        public Dictionary<int, int> Heights = [];
        public Dictionary<(int Board, Guid Item), bool> Hidden = [];
        public Dictionary<(int Board, Guid Item, string Name), int> Parameters = [];

        public State Copy() => new()
        {
            Marks = [.. Marks.Select(m => m.Copy())], Erasures = new(Erasures), Shown = Shown, Views = new(Views), Heights = new(
                Heights), Hidden = new(Hidden), Parameters = new(Parameters),
        };
    }

    private sealed class Placed(TakeLog log, long asOf, long start, long end)
    {
        public readonly TakeLog Log = log;
        public readonly long AsOf = asOf, Start = start;
        public long End = end;
        public List<Piece> Pieces = [];
        public List<(long Take, State State)> States = [];

        public long Lesson(long t) => Pieces.LastOrDefault(p => p.Kind != "pause" && p.From <= t && t < p.To) is not { } p ? Pieces[^1].Ends
            : p.Silence is not null ? p.At + (long)Math.Floor((((decimal)(t - p.From) * (p.Ends - p.At)) / (p.To - p.From)) + 0.5m)
            : p.Kind == "straight" ? p.At + t - p.From : p.At;

        public Piece? Find(long t) => Pieces.SingleOrDefault(p => p.From <= t && t < p.To);
    }

    private readonly IReadOnlyList<Board> boards;
    private readonly EditList edits;
    private readonly LessonVariant variant;
    private readonly List<Placed> placed = [];
    private readonly List<(long At, State State)> states = [];
    private readonly List<(long At, int Board, Guid Item)> answers = [];
    private readonly List<Action> still = [];
    private State now = new();

    public ReferenceCompiler(IReadOnlyList<Board> boards, IReadOnlyList<TakeLog> logs, EditList edits, LessonVariant variant)
    {
        (this.boards, this.edits, this.variant) = (boards, edits, variant);
        for (var i = 0; i < boards.Count; i++)
        {
            now.Heights[i] = boards[i].Height;
        }

        states.Add((-1, now.Copy()));
        Place(logs);
        for (var p = 0; p < placed.Count; p++)
        {
            Play(p);
        }

        still.ForEach(fill => fill());
        edits.Stops.Where(s => s.Kind == StopKind.UntilAnswerShown && s.Answer is not null).ToList().ForEach(ShowAnswer);
    }

    public long Length { get; private set; }

    public string Told => string.Join('\n', placed.Select(
        p => $"ref {p.Log.Id.ToString()[..8]} {p.AsOf} {string.Join(' ', p.Pieces.Select(q => $"{q.Kind} {q.From}-{q.To} at {q.At}-{q.Ends}"))}"));

    /// <summary>Times at which something may change.</summary>
    public IEnumerable<long> Times => states.Select(s => s.At).Concat(answers.Select(a => a.At))
        .Concat(placed.SelectMany(p => p.Pieces).SelectMany(p => (long[])[p.At, p.Ends]))
        .Concat(now.Marks.SelectMany(m => m.Points.Select(p => p.Ms * 48L)))
        .Where(t => t >= 0)
        .Distinct();

    // Whether what was done at a time, as the n-th deed of its take, counts at a later time: the last retake before then decides.
    private static bool Counts(TakeLog log, long t, int n, long asOf)
    {
        for (var i = log.Actions.Count - 1; i >= 0; i--)
        {
            if (log.Actions[i] is Retaken r && r.At.Samples < asOf)
            {
                return t >= r.At.Samples && n > i ? t < asOf : Counts(log, t, n, r.To.Samples);
            }
        }

        return t < asOf;
    }

    private static bool Counts(Placed p, long t) => Counts(p.Log, t, int.MaxValue, p.AsOf);

    private static IEnumerable<long> Edges(TakeLog log) => log.Actions.OfType<Retaken>().SelectMany(r => (long[])[r.At.Samples, r.To.Samples]);

    private static bool SameBefore(Placed a, Placed b, long t) =>
        Edges(a.Log).Append(0).Append(a.AsOf).Append(b.AsOf).Where(e => e < t).All(e => Counts(a, e) == Counts(b, e));

    private static bool Nothing(Placed p, long from, long to) => Edges(p.Log).Append(from).Where(e => from <= e && e < to).All(e => !Counts(p, e));

    private void Place(IReadOnlyList<TakeLog> logs)
    {
        var named = edits.Sequence.Select(s => s.Take).ToArray();
        foreach (var range in edits.Sequence
            .Concat(logs.Where(l => !named.Contains(l.Id)).Select(l => new SequenceRange(l.Id, new(TakeTime.Zero, l.End)))))
        {
            if (logs.SingleOrDefault(l => l.Id == range.Take) is { } log && Math.Min(range.Source.End.Samples, log.Length.Samples) is var end
                && range.Source.Start.Samples < end)
            {
                var next = new Placed(log, Math.Min(range.As?.Samples ?? long.MaxValue, log.Length.Samples), range.Source.Start.Samples, end);
                if (placed.Count > 0 && placed[^1] is var last && last.Log == log && last.End <= next.Start && SameBefore(last, next, long.MaxValue)
                    && Nothing(next, last.End, next.Start))
                {
                    last.End = next.End;
                }
                else
                {
                    placed.Add(next);
                }
            }
        }

        placed.RemoveAll(p => Nothing(p, p.Start, p.End));
        foreach (var p in placed)
        {
            Cut(p);
        }
    }

    private void Cut(Placed p)
    {
        var take = p.Log.Id;
        var cuts = edits.Cuts.Where(c => c.Take == take).Concat(
            edits.Temporary.Where(t => variant == LessonVariant.WithoutTemporary && t.Take == take).Select(t => new Cut(take, t.Source))).ToArray();
        var silences = edits.Silences.Where(s => s.Take == take && s.Length > Duration.Zero && s.Length < s.Source.End - s.Source.Start).ToArray();
        var pauses = edits.Pauses.Where(w => w.Take == take && w.Length > Duration.Zero).ToArray();
        var edges = cuts.Select(c => c.Source).Concat(silences.Select(s => s.Source)).SelectMany(r => (long[])[r.Start.Samples, r.End.Samples])
            .Concat(pauses.Select(w => w.At.Samples)).Concat(Edges(p.Log).Append(p.AsOf).Where(e => Counts(p, e) != Counts(p, e - 1))).Where(
                e => p.Start < e && e < p.End).Append(p.Start).Append(p.End).Distinct().Order().ToArray();
        for (var i = 0; i + 1 < edges.Length; i++)
        {
            var (from, to, t) = (edges[i], edges[i + 1], new TakeTime(edges[i]));
            var hit = cuts.Where(c => c.Source.Contains(t)).ToArray();
            var silence = silences.Where(s => s.Source.Contains(t)).OrderBy(s => (double)s.Length.Samples / (s.Source.End - s.Source.Start).Samples)
                .FirstOrDefault();
            long Within(
                long at) => (long)Math.Floor(((decimal)(at - silence!.Source.Start.Samples) * silence.Length.Samples
                    / (silence.Source.End - silence.Source.Start).Samples) + 0.5m);
            var kind = !Counts(p, from)
                ? "dead"
                : hit.Length > 0 ? (hit.All(c => c.KeepsMarks) ? "keep" : "cut") : silence is null ? "straight" : "short";
            var length = kind == "straight" ? to - from : kind == "short" ? Within(to) - Within(from) : 0;
            if (kind is "straight" or "short" && pauses.Where(w => w.At == t).Sum(w => w.Length.Samples) is > 0 and var wait)
            {
                p.Pieces.Add(new("pause", from, from, Length, Length += wait));
            }

            kind = kind == "short" && length == 0 ? "keep" : kind;
            var merged = p.Pieces.Count > 0 && p.Pieces[^1] is var last && last.Kind == kind && last.Silence == (kind == "short" ? silence : null)
                ? p.Pieces[^1]
                : null;
            p.Pieces.Remove(merged!);
            p.Pieces.Add(new(kind, merged?.From ?? from, to, merged?.At ?? Length, Length += length, kind == "short" ? silence : null));
        }
    }

    private void Play(int number)
    {
        var p = placed[number];
        Enter(number);
        states.Add((p.Pieces[0].At, now.Copy()));
        p.States.Add((-1, now.Copy()));
        foreach (var action in Actions(p).Where(a => p.Start <= a.At.Samples && a.At.Samples < p.End && p.Find(a.At.Samples) is { Kind: not "dead" }))
        {
            Apply(action, number, p.Lesson(action.At.Samples));
            states.Add((p.Lesson(action.At.Samples), now.Copy()));
            p.States.Add((action.At.Samples, now.Copy()));
        }
    }

    private void Enter(int number)
    {
        var p = placed[number];
        if (p.Start == 0 || (number > 0 && placed[number - 1] is var last && last.Log == p.Log && last.End <= p.Start && Nothing(p, last.End, p.Start)
            && SameBefore(p, last, last.End)))
        {
            return;
        }

        bool Reached(Placed e) => e.Log == p.Log && e.Find(p.Start - 1) is { Kind: "straight" or "short" } && SameBefore(e, p, p.Start);
        var copies = placed.Take(number).Where(Reached).ToArray();
        if (copies.Length == 1 && p.Log.Actions.Any(a => a is Retaken r && r.To.Samples == p.Start))
        {
            var shown = now.Shown;
            now = copies[0].States.Last(s => s.Take < p.Start).State.Copy();
            now.Shown ??= shown;
            return;
        }

        foreach (var own in p.Log.Actions.Where((a, n) => a is BoardChanged or ViewChanged or BoardLengthened or CoverChanged or ParameterSet
            && Counts(p.Log, a.At.Samples, n, p.AsOf)
            && a.At.Samples < p.Start).OrderBy(a => a is not BoardLengthened))
        {
            Apply(own, number, 0);
        }
    }

    // What counts of the take, with what the teacher changed and added.
    private IEnumerable<TakeAction> Actions(Placed p)
    {
        var all = new List<TakeAction>();
        foreach (var action in p.Log.Actions.Where((a, n) => a is not (Retaken or PointerChanged) && Counts(p.Log, a.At.Samples, n, p.AsOf)))
        {
            if (action is not StrokeDrawn s)
            {
                all.Add(action);
                continue;
            }

            s = s with { Points = Kept(p, s.Points) };
            var change = edits.Marks.LastOrDefault(m => m.Take == s.Stroke.Take && m.Stroke == s.Stroke.Number)
                ?? new(s.Stroke.Take, s.Stroke.Number);
            if (!change.IsGone)
            {
                var later = change.Begins is { } b ? b - s.At : Duration.Zero;
                var style = InkStyle.All[s.Style];
                all.Add(new StrokeDrawn(
                    s.At + later,
                    s.Stroke,
                    s.Board,
                    InkStyle.IndexOf(style.Tool, change.Ink ?? style.Ink, change.Width ?? style.Width),
                    [.. s.Points.Select(q => new TakePoint(q.X + change.MoveX, q.Y + change.MoveY, q.Pressure, q.At + later))]));
                all.AddRange(change.Ends is { } ends ? [new Gone(ends, s.Stroke)] : Array.Empty<TakeAction>());
            }
        }

        all.AddRange(edits.AddedInk.Where(a => a.Points[0].Take == p.Log.Id).Select(a => new Added(a.Points[0].At, a)));
        return all.OrderBy(a => a.At);
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
                now.Marks.Add(new(number, s.Stroke, Index(s.Board), s.Style, Lesson(p, s.Points)));
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

    // Where a moment is now; what was taken out is at the join.
    private IEnumerable<long> Places(
        TakeId take,
        TakeTime at,
        bool whenCut) => placed.Where(p => p.Log.Id == take && p.Find(at.Samples) is { Kind: not "dead" } q
        && (whenCut || q.Kind is not ("cut" or "keep"))).Select(p => p.Lesson(at.Samples)).ToArray();

    // A stop whose answer isn't uncovered before the next board uncovers it itself.
    private void ShowAnswer(ThinkingStop stop)
    {
        foreach (var at in Places(stop.Take, stop.At, whenCut: true))
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
        var marks = state.Marks.Where(m => m.Board == board && m.Alive).Select(m => (m, Count: Math.Max(1, m.Points.Count(q => q.Ms <= time / 48))))
            .Select(m => $"{m.m.Placement}/{m.m.Key}/{m.m.Style}@{m.m.Points[m.Count - 1].X},{m.m.Points[m.Count - 1].Y}");
        var covers = state.Hidden.Keys.Concat(answers.Select(a => (a.Board, a.Item))).Where(k => k.Item1 == board && IsHidden(board, k.Item2, time))
            .Select(k => k.Item2)
            .Distinct();
        var notes = edits.Corrections.Where(c => c.Board == boards[board].Id && !Shows(c, time)).Select(c => c.Note.Id);
        return SceneText.Pane(
            board, state.Heights[board], state.Views.GetValueOrDefault((board, pane), View.Top).Within(state.Heights[board]), marks, covers.Concat(
                notes),
            state.Parameters.Where(q => q.Key.Board == board).Select(q => $"{q.Key.Item}.{q.Key.Name}={q.Value}"));
    }

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
