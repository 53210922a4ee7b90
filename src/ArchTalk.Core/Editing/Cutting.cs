using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>Lays a range of a take into the lesson: what is taken out of it, made shorter, and put in.</summary>
internal sealed class Cutting(EditList edits)
{
    private readonly ILookup<TakeId, Cut> cuts = edits.Cuts
        .Concat(edits.LeavesOutTemporary ? edits.Temporary.Select(t => new Cut(t.Take, t.Source)) : [])
        .Where(c => !c.Source.IsEmpty).ToLookup(c => c.Take);

    // One that isn't made shorter isn't changed.
    private readonly ILookup<TakeId, ShortenedSilence> silences = edits.Silences
        .Where(s => s.Length > Duration.Zero && s.Length < s.Source.End - s.Source.Start).ToLookup(s => s.Take);

    private readonly ILookup<TakeId, InsertedPause> pauses = edits.Pauses.Where(p => p.Length > Duration.Zero).ToLookup(p => p.Take);

    /// <summary>The map of a range; null for one that nothing is left of, not even the moments of a cut.</summary>
    public TimeMap? Map(TakeId take, TakePath path, TimeRange<TakeTime> source, LessonTime start)
    {
        var pieces = new List<TimeMapPiece>();
        ShortenedSilence? last = null;
        var edges = Edges(take, path, source);
        for (var i = 0; i + 1 < edges.Length; i++)
        {
            var range = new TimeRange<TakeTime>(edges[i], edges[i + 1]);
            var kind = KindOf(take, path, range.Start);
            var waits = pauses[take].Where(p => p.At == range.Start).Aggregate(Duration.Zero, (sum, p) => sum + p.Length);
            if (waits > Duration.Zero && kind is PieceKind.Straight or PieceKind.Shortened)
            {
                Add(pieces, PieceKind.Pause, new(range.Start, range.Start), waits, start, isMore: false);
            }

            var silence = kind == PieceKind.Shortened ? SilenceAt(take, range.Start) : null;

            var length = kind switch
            {
                PieceKind.Straight => range.End - range.Start,
                PieceKind.Shortened => LengthWithin(silence!, range),
                _ => Duration.Zero,
            };

            // So little of a silence that no sample is left of it.
            Add(
                pieces,
                kind == PieceKind.Shortened && length == Duration.Zero ? PieceKind.CutKeepingMarks : kind,
                range,
                length,
                start,
                isMore: silence == last);
            last = silence;
        }

        return pieces.TrueForAll(p => p.Kind == PieceKind.TakenBack) ? null : new TimeMap(pieces);
    }

    private TakeTime[] Edges(TakeId take, TakePath path, TimeRange<TakeTime> source) =>
    [
        .. cuts[take].Select(c => c.Source).Concat(silences[take].Select(s => s.Source)).Concat(path.Stretches.Select(s => s.Range))
            .SelectMany(r => (TakeTime[])[r.Start, r.End]).Concat(pauses[take].Select(p => p.At)).Where(source.Contains)
            .Append(source.Start).Append(source.End).Distinct().Order(),
    ];

    private PieceKind KindOf(TakeId take, TakePath path, TakeTime at)
    {
        if (!path.Contains(at))
        {
            return PieceKind.TakenBack;
        }

        var hit = cuts[take].Where(c => c.Source.Contains(at)).ToArray();
        return hit.Length > 0 ? (Array.TrueForAll(hit, c => c.KeepsMarks) ? PieceKind.CutKeepingMarks : PieceKind.Cut)
            : SilenceAt(take, at) is not null ? PieceKind.Shortened
            : PieceKind.Straight;
    }

    // Of silences that overlap, the one that is made shortest for its length.
    private ShortenedSilence? SilenceAt(TakeId take, TakeTime at) => silences[take].Where(s => s.Source.Contains(at))
        .MinBy(s => (double)s.Length.Samples / (s.Source.End - s.Source.Start).Samples);

    // Counted from the silence's beginning, so that its parts make up the whole to the sample.
    private static Duration LengthWithin(ShortenedSilence silence, TimeRange<TakeTime> range)
    {
        var whole = silence.Source.End - silence.Source.Start;
        Duration From(TakeTime time) => TimeMapPiece.Scale(time - silence.Source.Start, silence.Length, whole);
        return From(range.End) - From(range.Start);
    }

    // Pieces of one kind that follow each other are one; silences have each their own pace.
    private static void Add(List<TimeMapPiece> pieces, PieceKind kind, TimeRange<TakeTime> source, Duration length, LessonTime start, bool isMore)
    {
        var from = pieces.Count == 0 ? start : pieces[^1].Target.End;
        if (isMore && pieces.Count > 0 && pieces[^1] is var last && last.Kind == kind)
        {
            pieces[^1] = new(kind, new(last.Source.Start, source.End), new(last.Target.Start, from + length));
        }
        else
        {
            pieces.Add(new(kind, source, new(from, from + length)));
        }
    }
}
