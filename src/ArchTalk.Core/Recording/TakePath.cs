using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>A stretch of a path through a take.</summary>
/// <param name="FirstAction">The index of the first action that can belong to it: what came before a retake of the same time doesn't.</param>
public readonly record struct PathStretch(TimeRange<TakeTime> Range, int FirstAction);

/// <summary>
/// A take as it stood at a moment: without what had been taken back by then, as if that had not been recorded. A stroke that was
/// being drawn at the moment that was gone back to ends there.
/// </summary>
public sealed class TakePath
{
    private IReadOnlyDictionary<StrokeKey, (TakeTime First, TakeTime Last)>? typing;

    private TakePath(IReadOnlyList<PathStretch> stretches, IReadOnlyList<TakeAction> actions, IReadOnlyList<PointerRun> pointer)
    {
        Stretches = stretches;
        Actions = actions;
        Pointer = pointer;
    }

    /// <summary>In order, not touching unless a retake lies between them.</summary>
    public IReadOnlyList<PathStretch> Stretches { get; }

    /// <summary>Ordered by time, without the pointer and the retakes.</summary>
    public IReadOnlyList<TakeAction> Actions { get; }

    /// <summary>Where the pointer was, ordered by time, one run after another.</summary>
    public IReadOnlyList<PointerRun> Pointer { get; }

    /// <summary>From when to when each text was typed.</summary>
    public IReadOnlyDictionary<StrokeKey, (TakeTime First, TakeTime Last)> Typing => typing ??= Actions.OfType<Typed>()
        .GroupBy(t => t.Text).ToDictionary(g => g.Key, g => (g.First().At, g.Last().At));

    public Duration Length => Stretches.Aggregate(Duration.Zero, (sum, s) => sum + (s.Range.End - s.Range.Start));

    /// <summary>Whether a moment belongs to it.</summary>
    public bool Contains(TakeTime time) => Stretches.Any(s => s.Range.Contains(time));

    public bool IsSameAs(TakePath other) => Stretches.SequenceEqual(other.Stretches);

    /// <summary>Whether it has the same stretches as another path before a moment.</summary>
    public bool IsSameBefore(TakePath other, TakeTime time) => Before(time).SequenceEqual(other.Before(time));

    /// <summary>Whether nothing of it lies between two moments.</summary>
    public bool IsEmptyBetween(TakeTime from, TakeTime to) => from >= to || !Stretches.Any(s => s.Range.Start < to && from < s.Range.End);

    /// <param name="actions">All actions of the take, in order.</param>
    /// <param name="end">The moment the take is looked at.</param>
    internal static TakePath Of(IReadOnlyList<TakeAction> actions, TakeTime end)
    {
        var stretches = StretchesTo(actions, end);
        var done = new List<TakeAction>();
        var pointer = new PointerRuns();
        foreach (var stretch in stretches)
        {
            var wentOn = stretch.Range.End;
            var first = Search.CountTo(actions.Count, i => actions[i].At < stretch.Range.Start);
            for (var i = Math.Max(stretch.FirstAction, first); i < actions.Count && actions[i].At < wentOn; i++)
            {
                switch (actions[i])
                {
                    case StrokeDrawn s when s.End >= wentOn && wentOn < end:
                        done.Add(s with { Points = PenPath.Before(s.Points, wentOn) });
                        break;
                    case PointerChanged p:
                        pointer.Add(p);
                        break;
                    case not Retaken:
                        done.Add(actions[i]);
                        break;
                }
            }
        }

        return new TakePath(stretches, done, pointer.End(end));
    }

    private IEnumerable<TimeRange<TakeTime>> Before(TakeTime time) =>
        Stretches.Where(s => s.Range.Start < time).Select(s => new TimeRange<TakeTime>(s.Range.Start, s.Range.End < time ? s.Range.End : time));

    // The path to a moment is the path to where the last retake before it went back to, and what was done since that retake.
    private static List<PathStretch> StretchesTo(IReadOnlyList<TakeAction> actions, TakeTime end)
    {
        var stretches = new List<PathStretch>();
        while (true)
        {
            var last = actions.Count - 1;
            while (last >= 0 && (actions[last] is not Retaken || actions[last].At >= end))
            {
                last--;
            }

            var start = last < 0 ? TakeTime.Zero : actions[last].At;
            if (start < end)
            {
                stretches.Insert(0, new(new(start, end), last + 1));
            }

            if (last < 0)
            {
                return stretches;
            }

            end = ((Retaken)actions[last]).To;
        }
    }
}
