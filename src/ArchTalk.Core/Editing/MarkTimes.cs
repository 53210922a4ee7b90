using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>When something was drawn or typed in a take, of what counts of it in the end.</summary>
internal sealed class MarkTimes
{
    private readonly (TakeTime From, TakeTime To)[] marks;

    // The latest end of a mark and of all before it: what reaches into a stretch is found without going through all of them.
    private readonly TakeTime[] latest;

    public MarkTimes(TakeLog log)
    {
        marks = [.. log.Live.Actions.Where(a => a is StrokeDrawn or Typed).Select(a => (a.At, (a as StrokeDrawn)?.End ?? a.At))];
        latest = new TakeTime[marks.Length];
        for (var i = 0; i < marks.Length; i++)
        {
            latest[i] = i > 0 && latest[i - 1] > marks[i].To ? latest[i - 1] : marks[i].To;
        }
    }

    /// <summary>Whether anything is drawn or typed in a stretch, also what began before it.</summary>
    public bool AnyIn(TimeRange<TakeTime> range)
    {
        for (var i = Search.CountTo(marks.Length, i => marks[i].From < range.End) - 1; i >= 0 && latest[i] >= range.Start; i--)
        {
            if (marks[i].To >= range.Start)
            {
                return true;
            }
        }

        return false;
    }
}
