using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>Compares the compiler with the slow one on lessons made up by a seed.</summary>
internal static class TwoCompilers
{
    /// <summary>
    /// Where both compilers differ for a made-up lesson; null when they agree at, before and after every time at which
    /// something changes.
    /// </summary>
    internal static string? Difference(int seed)
    {
        var (logs, edits) = RandomLessons.Make(seed);
        var timeline = TimelineCompiler.Compile(RandomLessons.Boards, Arrangement.Resolve(logs, edits));
        var reference = new ReferenceCompiler(RandomLessons.Boards, logs, edits);
        if (timeline.Length.Samples != reference.Length)
        {
            return $"length {timeline.Length.Samples}, by the reference {reference.Length}\n{Told(logs, edits, timeline)}\n{reference.Told}";
        }

        foreach (var time in reference.Times.SelectMany(t => (long[])[t - 1, t, t + 1, t + 48]).Where(t => t >= 0).Distinct())
        {
            var (one, other) = (SceneText.Of(timeline, new LessonTime(time)), reference.At(time));
            if (timeline.At(new LessonTime(time)).Panes[0] is var pane && time < timeline.Length.Samples
                && reference.PointerDifference(time, pane.Board, pane.Pointer) is { } pointer)
            {
                return $"at {time} the pointer: {pointer}\n{Told(logs, edits, timeline)}";
            }

            if (one != other)
            {
                return $"at {time}, {one.Zip(other).TakeWhile(x => x.First == x.Second).Count()} of {one.Length} and {other.Length}\n{one}\nby the "
                    + $"reference\n{other}\n{Told(logs, edits, timeline)}\n{reference.Told}";
            }
        }

        var terms = timeline.TermsSaid.Select(t => (t.At.Samples, t.Term)).Order().ToArray();
        if (!terms.SequenceEqual(reference.TermsSaid()))
        {
            return $"terms {string.Join(' ', terms)}\nby the reference {string.Join(' ', reference.TermsSaid())}\n{Told(logs, edits, timeline)}";
        }

        var lines = SceneText.KeyLines(timeline.KeyLines.Select(
            l => (l.Stroke.Placement, l.Stroke.Stroke, l.At.Samples, l.Board, l.Kind, l.Text)));
        return lines == reference.KeyLines() ? null : $"key lines {lines}\nby the reference {reference.KeyLines()}\n{Told(logs, edits, timeline)}";
    }

    private static string Told(IEnumerable<TakeLog> logs, EditList edits, LessonTimeline timeline) => string.Join('\n', (IEnumerable<string>)
    [
        .. logs.Select(l => $"take {l.Id.ToString()[..8]} {l.Length.Samples} "
            + $"{string.Join(' ', l.Actions.OfType<Retaken>().Select(r => $"{r.At.Samples}>{r.To.Samples}"))}"),
        .. edits.Sequence.Select(s => $"range {s.Take.ToString()[..8]} {s.Source.Start.Samples}-{s.Source.End.Samples} as {s.As?.Samples}"),
        .. timeline.Placements.Select(p => $"lies {p.Take.ToString()[..8]} {string.Join(' ', p.Map.Pieces.Select(Told))}"),
    ]);

    private static string Told(TimeMapPiece p) =>
        $"{p.Kind} {p.Source.Start.Samples}-{p.Source.End.Samples} at {p.Target.Start.Samples}-{p.Target.End.Samples}";
}
