using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>A stretch of a take as it lies in the lesson: the take and the map from its time to the lesson's.</summary>
public sealed record TakeRange(Take Take, TimeMap Map)
{
    /// <summary>Whole takes one after another, nothing taken out.</summary>
    public static IReadOnlyList<TakeRange> EndToEnd(IEnumerable<Take> takes)
    {
        var ranges = new List<TakeRange>();
        var start = LessonTime.Zero;
        foreach (var take in takes.Where(t => t.Length > Duration.Zero))
        {
            var map = TimeMap.Straight(new(TakeTime.Zero, TakeTime.Zero + take.Length), start);
            ranges.Add(new TakeRange(take, map));
            start = map.Target.End;
        }

        return ranges;
    }
}
