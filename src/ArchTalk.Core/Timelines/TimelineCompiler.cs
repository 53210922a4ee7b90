using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>
/// Compiles boards and an arrangement of takes into a <see cref="LessonTimeline"/>. A pure function in two passes: gather what is
/// done in each placement (<see cref="Gathering"/>), then fold it over the state of the lesson (<see cref="Folding"/>). The same
/// input gives the same timeline.
/// </summary>
public static class TimelineCompiler
{
    public static LessonTimeline Compile(IReadOnlyList<Board> boards, Arrangement arrangement)
    {
        var indexes = boards.Select((b, i) => (b.Id, i)).ToDictionary(p => p.Id, p => p.i);
        var fold = new Folding(indexes, arrangement.Placements.ToLookup(p => p.Take, p => p.Number));
        for (var i = 0; i < boards.Count; i++)
        {
            fold.Begin(i, boards[i].Height);
        }

        var drawn = Fold(fold, arrangement);
        var shown = fold.Shown.Count == 0 && boards.Count > 0 ? [new(LessonTime.Zero, new ShownBoards(0))] : fold.Shown;
        var strokes = StrokesOf(drawn, fold, shown, arrangement).Where(s => s.Stroke is not null).ToLookup(s => indexes[s.Board], s => s.Stroke!);
        TimelineBoard[] compiled =
        [
            .. boards.Select((board, i) => new TimelineBoard(
                board with { Height = fold.HeightOf(i) },
                fold.HeightsOf(i),
                [fold.ViewsOf(i, 0), fold.ViewsOf(i, 1)],
                [.. strokes[i].OrderBy(s => s.Birth)])
            {
                Texts = [.. fold.TextsOf(i)],
                Lights = fold.LightsOf(i),
                Items = [.. fold.ItemsOf(i), .. Corrections.On(board.Id, arrangement)],
                Parameters = [.. fold.ParametersOf(i)],
            }),
        ];
        var stops = Stops.Place(arrangement, compiled, shown);
        var placements = arrangement.Placements.Select(p => new TimelinePlacement(p.Take, p.Map, p.InsteadOf));
        return new LessonTimeline(arrangement.Length, compiled, shown, PointerOf(arrangement, indexes), stops, [.. placements])
        {
            KeyLines = KeyLines.Of(arrangement, compiled, fold.IsUndone),
            TermsSaid = TermsSaid.Of(arrangement),
        };
    }

    // A stroke that was drawn, with its limit when it was added at a standstill.
    private readonly record struct Drawn(MarkKey Key, TakeAction Action, LessonTime At, LessonTime Limit);

    private static List<Drawn> Fold(Folding fold, Arrangement arrangement)
    {
        var gathering = new Gathering(arrangement.Edits);
        var wanted = arrangement.Placements.Select(p => p.Entry).OfType<Entry.SetBack>().ToLookup(e => e.Placement, e => e.To);
        var snapshots = new Dictionary<Entry.SetBack, LessonState>();
        var drawn = new List<Drawn>();
        foreach (var placement in arrangement.Placements)
        {
            Enter(fold, placement, snapshots);
            var times = new Queue<TakeTime>(wanted[placement.Number].Distinct().Order());
            void KeepUpTo(TakeTime time)
            {
                while (times.TryPeek(out var next) && next <= time)
                {
                    snapshots[new Entry.SetBack(placement.Number, times.Dequeue())] = fold.Keep();
                }
            }

            foreach (var (at, action) in gathering.Of(placement))
            {
                KeepUpTo(action.At);
                if (fold.Apply(action, placement.Number, placement.Take, at) is { } key)
                {
                    drawn.Add(new(key, action, at, placement.Map.Target.End));
                }
            }

            KeepUpTo(placement.Log.End);
        }

        return drawn;
    }

    private static void Enter(Folding fold, Placement placement, Dictionary<Entry.SetBack, LessonState> snapshots)
    {
        var at = placement.Map.Target.Start;
        if (placement.Entry is Entry.SetBack back)
        {
            fold.SetBack(snapshots[back], at);
        }
        else if (placement.Entry is Entry.WithOwnBoards)
        {
            foreach (var action in Gathering.OwnBoards(placement))
            {
                fold.Apply(action, placement.Number, placement.Take, at);
            }
        }
    }

    private static (Guid Board, TimelineStroke? Stroke)[] StrokesOf(
        List<Drawn> drawn, Folding fold, IReadOnlyList<Step<ShownBoards>> shown, Arrangement arrangement)
    {
        var strokes = new (Guid, TimelineStroke?)[drawn.Count];
        for (var i = 0; i < strokes.Length; i++)
        {
            var (key, action, at, end) = drawn[i];
            var map = arrangement.Placements[key.Placement].Map;
            var lives = fold.LivesOf(key);
            strokes[i] = action switch
            {
                _ when lives.Count == 0 => default,
                StrokeDrawn s => (s.Board, new TimelineStroke(key, s.Style, lives, new LaidPoints(s.Points, map)) { LineHeight = s.LineHeight }),
                StandstillDrawn s => (s
                    .Board, new TimelineStroke(key, s.Style, lives, PointMapping.Standstill(s.Points, at, LimitOf(at, end, map, shown)))),
                _ => default,
            };
        }

        return strokes;
    }

    // The next join or board change.
    private static LessonTime LimitOf(LessonTime at, LessonTime end, TimeMap map, IReadOnlyList<Step<ShownBoards>> shown)
    {
        var joins = map.Pieces.Where(p => p.Target.IsEmpty).Select(p => p.Target.Start).Concat(shown.Select(s => s.At));
        return joins.Where(t => t > at && t < end).Append(end).Min();
    }

    private static List<TimelinePointer> PointerOf(Arrangement arrangement, Dictionary<Guid, int> indexes)
    {
        var runs = new List<TimelinePointer>();
        foreach (var placement in arrangement.Placements)
        {
            var (map, source) = (placement.Map, placement.Map.Source);
            foreach (var run in placement.Path.Pointer.Where(r => r.At < source.End && source.Start < r.End && indexes.ContainsKey(r.Board)))
            {
                var (birth, death) = (run.At < source.Start ? map.Target.Start : map.ToLesson(run.At), map.ToLesson(run.End));
                if (birth < death)
                {
                    // What is there at the very end of the lesson stays.
                    var isLast = death == LessonTime.Zero + arrangement.Length;
                    runs.Add(new(indexes[run.Board], birth, isLast ? null : death, PointMapping.Pointer(run, map)));
                }
            }
        }

        return runs;
    }
}
