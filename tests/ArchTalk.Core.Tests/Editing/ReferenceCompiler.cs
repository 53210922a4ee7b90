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
internal sealed partial class ReferenceCompiler
{
    private sealed record Piece(string Kind, long From, long To, long At, long Ends, ShortenedSilence? Silence = null);

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
    private readonly IReadOnlyList<TakeLog> logs;
    private readonly EditList edits;
    private readonly List<Placed> placed = [];
    private readonly List<(long At, State State)> states = [];
    private readonly List<(long At, int Board, Guid Item)> answers = [];
    private readonly List<Action> still = [];
    private State now = new();

    public ReferenceCompiler(IReadOnlyList<Board> boards, IReadOnlyList<TakeLog> logs, EditList edits)
    {
        (this.boards, this.logs, this.edits) = (boards, logs, edits);
        for (var i = 0; i < boards.Count; i++)
        {
            now.Heights[i] = boards[i].Height;
        }

        states.Add((-1, now.Copy()));
        Place();
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

    private void Place()
    {
        var named = edits.Sequence.Select(s => s.Take).ToArray();
        foreach (var range in edits.Sequence
            .Concat(logs.Where(l => l.Place is null && !named.Contains(l.Id)).Select(l => new SequenceRange(l.Id, new(TakeTime.Zero, l.End)))))
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
            edits.Temporary.Where(t => edits.LeavesOutTemporary && t.Take == take).Select(t => new Cut(take, t.Source))).ToArray();
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

        foreach (var own in p.Log.Actions.Where((a, n) => a is BoardChanged or ViewChanged or BoardLengthened or CoverChanged or LightChanged
                or ParameterSet
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
                if (change.Settled is { } line)
                {
                    TakePoint[] ends = [new(line.From.X, line.From.Y, 128, s.At), new(line.To.X, line.To.Y, 128, s.Points[^1].At)];
                    s = s with { Points = ends, LineHeight = line.Height };
                }

                all.Add(new StrokeDrawn(
                    s.At + later,
                    s.Stroke,
                    s.Board,
                    InkStyle.IndexOf(style.Tool, change.Ink ?? style.Ink, change.Width ?? style.Width),
                    [.. s.Points.Select(q => new TakePoint(q.X + change.MoveX, q.Y + change.MoveY, q.Pressure, q.At + later))])
                { LineHeight = s.LineHeight });
                all.AddRange(change.Ends is { } goes ? [new Gone(goes, s.Stroke)] : Array.Empty<TakeAction>());
            }
        }

        all.AddRange(edits.AddedInk.Where(a => a.Points[0].Take == p.Log.Id).Select(a => new Added(a.Points[0].At, a)));
        return all.OrderBy(a => a.At);
    }
}
