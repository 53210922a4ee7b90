using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>Which stretches of which takes make up a lesson, and what becomes of them when something is recorded in its middle.</summary>
public static class Sequences
{
    /// <summary>All ranges of a lesson, in order. A take that is still being recorded is in its place already.</summary>
    public static IReadOnlyList<SequenceRange> Of(IReadOnlyList<TakeLog> logs, EditList edits)
    {
        var known = logs.Select(l => l.Id).ToHashSet();
        var named = edits.Sequence.Select(r => r.Take).ToHashSet();
        var unnamed = logs.Where(l => !named.Contains(l.Id)).ToLookup(l => l.Place is not null);
        SequenceRange[] ranges =
        [
            .. edits.Sequence.Where(r => known.Contains(r.Take)),
            .. unnamed[false].Select(Whole),
        ];
        return unnamed[true].Where(l => !l.IsEnded).Aggregate(ranges, (all, take) => [.. TakenIn(take, all)]);
    }

    /// <summary>The stretches in whose stead a take was recorded, without what a retake had taken back in them.</summary>
    public static IReadOnlyList<TakeStretch> Replaced(TakeLog take, IReadOnlyList<TakeLog> logs)
    {
        if (take.Place is not { } place)
        {
            return [];
        }

        TakeStretch[] all = place.From.Take == place.Until.Take
            ? [new(place.From.Take, Ordered(place.From.At, place.Until.At))]
            : [new(place.From.Take, new(place.From.At, new(long.MaxValue))), new(place.Until.Take, new(TakeTime.Zero, place.Until.At))];
        return
        [
            .. from stretch in all
               join log in logs on stretch.Take equals log.Id
               from live in log.Live.Stretches
               let part = live.Range.Common(stretch.Source)
               where part is not null
               select new TakeStretch(stretch.Take, part.Value),
        ];
    }

    /// <summary>
    /// The ranges with a take in the place that it was recorded for; at the end when that place isn't in the lesson any more.
    /// </summary>
    /// <param name="logs">The takes of the lesson, without or with the new one.</param>
    public static IReadOnlyList<SequenceRange> With(TakeLog take, IReadOnlyList<TakeLog> logs, EditList edits) =>
        TakenIn(take, [.. Of(logs, edits).Where(r => r.Take != take.Id)]);

    private static IReadOnlyList<SequenceRange> TakenIn(TakeLog take, IReadOnlyList<SequenceRange> found)
    {
        var ranges = found.ToList();
        var first = take.Place is { } place ? ranges.FindIndex(r => Holds(r, place.From)) : -1;
        if (first < 0)
        {
            return [.. ranges, Whole(take)];
        }

        // A place that ends nowhere, or before it begins, ends where it begins.
        var (from, until) = (take.Place!.From, take.Place.Until);
        var last = ranges.FindIndex(first, r => Holds(r, until));
        (last, until) = last < 0 || (last == first && until.At < from.At) ? (first, from) : (last, until);
        SequenceRange[] placed =
        [
            ranges[first] with { Source = new(ranges[first].Source.Start, from.At) },
            Whole(take),
            ranges[last] with { Source = new(until.At, ranges[last].Source.End) },
        ];
        return [.. ranges.Take(first), .. placed.Where(r => !r.Source.IsEmpty), .. ranges.Skip(last + 1)];
    }

    /// <summary>The ranges as they are without a take that was recorded for a place: what it replaced is back.</summary>
    public static IReadOnlyList<SequenceRange> Without(TakeLog take, IReadOnlyList<TakeLog> logs, EditList edits)
    {
        var ranges = Of(logs, edits).ToList();
        var at = ranges.FindIndex(r => r.Take == take.Id);
        return at < 0
            ? ranges
            :
            [
                .. ranges.Take(at), .. Replaced(take, logs).Select(s => new SequenceRange(s.Take, s.Source)),
                .. ranges.Skip(at).Where(r => r.Take != take.Id),
            ];
    }

    /// <summary>What a retake had taken back, as a range.</summary>
    /// <param name="source">From where the retake went back to, to where it was pressed.</param>
    public static SequenceRange Branch(TakeId take, TimeRange<TakeTime> source) => new(take, source, source.End);

    /// <summary>
    /// The ranges with what a retake had taken back before what was said instead; null when its place isn't in the lesson any more.
    /// </summary>
    public static IReadOnlyList<SequenceRange>? WithBranch(SequenceRange branch, IReadOnlyList<TakeLog> logs, EditList edits)
    {
        var ranges = Of(logs, edits).ToList();
        var (from, to) = (branch.Source.Start, branch.Source.End);
        var at = ranges.FindIndex(r => r.Take == branch.Take && (r.As is null || r.As > to) && r.Source.Start <= from && to <= r.Source.End);
        if (at < 0)
        {
            return null;
        }

        var whole = ranges[at];
        SequenceRange[] parts = [whole with { Source = new(whole.Source.Start, from) }, branch, whole with { Source = new(to, whole.Source.End) }];
        return [.. ranges.Take(at), .. parts.Where(r => !r.Source.IsEmpty), .. ranges.Skip(at + 1)];
    }

    /// <summary>The ranges with what lies between two moments moved before a third; null stands for the end of the lesson.</summary>
    /// <returns>Null when one of the moments is in no range, or the third lies between the others.</returns>
    public static IReadOnlyList<SequenceRange>? Moved(
        IReadOnlyList<TakeLog> logs, EditList edits, Moment from, Moment? to, Moment? before)
    {
        var ranges = Of(logs, edits).ToList();
        foreach (var moment in new[] { from, to, before }.OfType<Moment>())
        {
            Split(ranges, moment);
        }

        int Index(Moment? moment) =>
            moment is { } m ? ranges.FindIndex(r => r.Take == m.Take && r.Source.Start == m.At && !r.Source.IsEmpty) : ranges.Count;
        var (first, last, target) = (Index(from), Index(to), Index(before));
        if (first < 0 || last <= first || target < 0 || (first <= target && target <= last))
        {
            return null;
        }

        var moved = ranges[first..last];
        ranges.RemoveRange(first, last - first);
        ranges.InsertRange(target > first ? target - moved.Count : target, moved);
        return ranges;
    }

    private static void Split(List<SequenceRange> ranges, Moment moment)
    {
        var at = ranges.FindIndex(r => r.Take == moment.Take && r.Source.Start < moment.At && moment.At < r.Source.End);
        if (at >= 0)
        {
            var range = ranges[at];
            ranges[at] = range with { Source = new(range.Source.Start, moment.At) };
            ranges.Insert(at + 1, range with { Source = new(moment.At, range.Source.End) });
        }
    }

    // One that goes on being recorded has no end yet: named as it is now, what follows would be missing.
    private static SequenceRange Whole(TakeLog take) =>
        new(take.Id, new(TakeTime.Zero, take.IsEnded ? take.End : TakeTime.Zero + EditRules.LatestMoment));

    // At its end, too: what is recorded there comes behind it.
    private static bool Holds(SequenceRange range, Moment moment) =>
        range.Take == moment.Take && range.Source.Start <= moment.At && moment.At <= range.Source.End;

    private static TimeRange<TakeTime> Ordered(TakeTime a, TakeTime b) => a <= b ? new(a, b) : new(b, a);
}
