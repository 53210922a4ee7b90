using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>What becomes of a moment that was taken out.</summary>
public enum WhenCut
{
    /// <summary>It is at the join: a chapter, a thinking stop.</summary>
    Snap = 0,

    /// <summary>It is nowhere: a term said, a caption's word, a mark.</summary>
    Drop = 1,

    /// <summary>As <see cref="Snap"/>, but behind what was recorded in its stead: a thinking stop.</summary>
    SnapBehind = 2,
}

/// <summary>
/// The lesson as its takes lie in it after all edits: the ordered placements, touching each other in lesson time. The one answer to
/// "where is this moment now?".
/// </summary>
public sealed class Arrangement
{
    /// <summary>No lesson is longer. A range that would make it so is left out, with all that follow.</summary>
    public static readonly Duration Longest = Duration.FromSeconds(12 * 3600);

    private Arrangement(IReadOnlyList<TakeLog> logs, IReadOnlyList<Placement> placements, EditList edits)
    {
        Logs = logs;
        Placements = placements;
        Edits = edits;
    }

    /// <summary>The takes, in the order they were recorded.</summary>
    public IReadOnlyList<TakeLog> Logs { get; }

    public IReadOnlyList<Placement> Placements { get; }

    public EditList Edits { get; }

    public Duration Length => Placements.Count == 0 ? Duration.Zero : Placements[^1].Map.Target.End - LessonTime.Zero;

    /// <summary>
    /// Works out where the takes lie. Ranges that follow each other in the take as they do in the lesson become one placement, so
    /// that splitting a range and removing nothing changes nothing.
    /// </summary>
    /// <param name="logs">The takes in the order they were recorded.</param>
    public static Arrangement Resolve(IReadOnlyList<TakeLog> logs, EditList edits)
    {
        var byTake = logs.ToDictionary(l => l.Id);
        var ranges = new List<(TakeLog Log, TakePath Path, TimeRange<TakeTime> Source)>();
        foreach (var range in Sequences.Of(logs, edits))
        {
            var log = byTake[range.Take];
            var end = range.Source.End < log.End ? range.Source.End : log.End;
            if (range.Source.Start < end)
            {
                Add(ranges, log, log.As(range.As ?? log.End), new(range.Source.Start, end));
            }
        }

        var placements = new List<Placement>();
        var cutting = new Cutting(edits);
        var at = LessonTime.Zero;
        foreach (var (log, path, source) in ranges)
        {
            if (cutting.Map(log.Id, path, source, at) is { } map)
            {
                if (map.Target.End - LessonTime.Zero > Longest)
                {
                    break;
                }

                placements.Add(new Placement(
                    placements.Count, log, path, map, EntryOf(log, path, source.Start, placements), Sequences.Replaced(log, logs)));
                at = map.Target.End;
            }
        }

        return new Arrangement(logs, placements, edits);
    }

    /// <summary>
    /// Where a moment is now: nowhere, or at one or more lesson times, each once, in order. What a retake took back is nowhere,
    /// unless it was put back. What was recorded anew is where the new stretch begins, or ends.
    /// </summary>
    public IReadOnlyList<LessonTime> Places(Moment moment, WhenCut whenCut)
    {
        var places = new List<LessonTime>();
        foreach (var placement in Placements.Where(p => p.Take == moment.Take))
        {
            if (placement.Map.PieceAt(moment.At) is { } piece && piece.Kind != PieceKind.TakenBack && (whenCut != WhenCut.Drop || !piece.IsCut)
                && piece.ToLesson(moment.At) is var at && (places.Count == 0 || places[^1] != at))
            {
                places.Add(at);
            }
        }

        return places.Count > 0 || whenCut == WhenCut.Drop ? places
            : [.. Placements.Where(p => p.InsteadOf.Any(s => s.Take == moment.Take && s.Source.Contains(moment.At))).Take(1)
                .Select(p => whenCut == WhenCut.Snap ? p.Map.Target.Start : p.Map.Target.End)];
    }

    /// <summary>Where a stretch of a take lies now, in order: the empty range at the join where all of it was taken out.</summary>
    public IEnumerable<TimeRange<LessonTime>> Spans(TakeStretch stretch) =>
        from placement in Placements
        where placement.Take == stretch.Take && placement.Map.Source.Meets(stretch.Source)
        select new TimeRange<LessonTime>(placement.Map.ToLesson(stretch.Source.Start), placement.Map.ToLesson(stretch.Source.End));

    /// <summary>The moment heard at a lesson time; at the end and after it the last one. Null in a lesson without recording.</summary>
    public Moment? MomentAt(LessonTime time)
    {
        if (Length == Duration.Zero)
        {
            return null;
        }

        var last = new LessonTime(Length.Samples - 1);
        var within = time < last ? time : last;
        var placement = Placements.First(p => p.Map.Target.Contains(within));
        return new Moment(placement.Take, placement.Map.ToTake(within)!.Value);
    }

    private static void Add(
        List<(TakeLog Log, TakePath Path, TimeRange<TakeTime> Source)> ranges, TakeLog log, TakePath path, TimeRange<TakeTime> source)
    {
        if (ranges.Count > 0 && ranges[^1] is var (log0, path0, source0) && log0 == log && source0.End <= source.Start
            && path.IsSameAs(path0) && path.IsEmptyBetween(source0.End, source.Start))
        {
            ranges[^1] = (log, path, new(source0.Start, source.End));
        }
        else
        {
            ranges.Add((log, path, source));
        }
    }

    private static Entry EntryOf(TakeLog log, TakePath path, TakeTime start, List<Placement> before)
    {
        if (start == TakeTime.Zero)
        {
            return new Entry.CarriedOn();
        }

        // After what it was recorded after, though the takes part ways from here.
        if (before.Count > 0 && before[^1] is var last && last.Log == log && last.Map.Source.End is var end && end <= start
            && path.IsEmptyBetween(end, start) && path.IsSameBefore(last.Path, end))
        {
            return new Entry.CarriedOn();
        }

        var isBranch = log.Actions.Any(a => a is Retaken r && r.To == start);
        var copies = before.Where(p => p.Log == log && p.Reaches(start) && p.Path.IsSameBefore(path, start)).ToArray();
        return isBranch && copies is [var copy] ? new Entry.SetBack(copy.Number, start) : new Entry.WithOwnBoards();
    }
}
