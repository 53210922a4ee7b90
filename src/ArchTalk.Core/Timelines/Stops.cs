using ArchTalk.Core.Editing;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>Places thinking stops, and finds where their answers are uncovered.</summary>
internal static class Stops
{
    /// <summary>How long after a stop the answer is uncovered that the teacher named and never uncovered.</summary>
    public static readonly Duration AnswerAfter = Duration.FromMilliseconds(1);

    /// <summary>
    /// The stops in order of time. A stop with an answer is followed by the teacher's own uncovering on the board that is shown; if
    /// none follows before the next board and the answer's cover is named, its uncovering is added to <paramref name="boards"/>.
    /// </summary>
    public static IReadOnlyList<TimedStop> Place(Arrangement arrangement, TimelineBoard[] boards, IReadOnlyList<Step<ShownBoards>> shown)
    {
        var stops = new List<TimedStop>();
        foreach (var stop in arrangement.Edits.Stops)
        {
            foreach (var at in arrangement.Places(new Moment(stop.Take, stop.At), WhenCut.SnapBehind))
            {
                stops.Add(new(
                    at,
                    stop,
                    stop.Kind == StopKind.UntilAnswerShown && boards.Length > 0 ? AnswerAt(at, stop, boards, shown, arrangement.Length) : null));
            }
        }

        return [.. stops.OrderBy(s => s.At)];
    }

    private static LessonTime? AnswerAt(
        LessonTime at,
        ThinkingStop stop,
        TimelineBoard[] boards,
        IReadOnlyList<Step<ShownBoards>> shown,
        Duration length)
    {
        var index = shown.ValueAt(at, new ShownBoards(0)).Board;
        var left = shown.Where(s => s.At > at && s.Value.Board != index).Select(s => s.At).Append(LessonTime.Zero + length).Min();
        var uncovered = boards[index].Items.Where(i => stop.Answer is null || i.Item == stop.Answer)
            .SelectMany(i => i.Shows).Where(s => !s.Value && s.At > at && s.At < left).Select(s => s.At).ToArray();
        if (uncovered.Length > 0)
        {
            return uncovered.Min();
        }

        var added = at + AnswerAfter;
        if (stop.Answer is not { } cover || added >= left)
        {
            return null;
        }

        boards[index] = boards[index] with { Items = [.. Uncovering(boards[index].Items, cover, added)] };
        return added;
    }

    private static IEnumerable<ItemSpans> Uncovering(IReadOnlyList<ItemSpans> items, Guid cover, LessonTime at)
    {
        var before = items.FirstOrDefault(i => i.Item == cover)?.Shows ?? [new(LessonTime.Zero, Value: true)];
        var shows = new List<Step<bool>>();
        foreach (var step in before.Where(s => s.At <= at).Append(new(at, Value: false)).Concat(before.Where(s => s.At > at)))
        {
            shows.Add(step.At, step.Value);
        }

        return items.Where(i => i.Item != cover).Append(new ItemSpans(cover, shows)).OrderBy(i => i.Item);
    }
}
