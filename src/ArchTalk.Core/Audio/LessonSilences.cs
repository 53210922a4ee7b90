using ArchTalk.Core.Editing;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>The silences of a lesson, from those of its takes.</summary>
public static class LessonSilences
{
    /// <summary>
    /// In order, those that meet at a join made one. Inserted pauses and mutes are silences; of a silence of which something was taken
    /// out, the rest is one.
    /// </summary>
    public static IReadOnlyList<TimeRange<LessonTime>> Of(Arrangement arrangement, Func<TakeId, TakeMeasures> measures)
    {
        var silences = new List<TimeRange<LessonTime>>();
        foreach (var (target, from) in VoicePlan.Of(arrangement).Stretches)
        {
            if (from is not { } moment)
            {
                Add(silences, target);
                continue;
            }

            var source = new TimeRange<TakeTime>(moment.At, moment.At + (target.End - target.Start));
            foreach (var silence in measures(moment.Take).Silences)
            {
                var (start, end) = (Later(silence.Start, source.Start), Earlier(silence.End, source.End));
                if (start < end)
                {
                    Add(silences, new(target.Start + (start - source.Start), target.Start + (end - source.Start)));
                }
            }
        }

        return silences;
    }

    private static TakeTime Later(TakeTime a, TakeTime b) => a > b ? a : b;

    private static TakeTime Earlier(TakeTime a, TakeTime b) => a < b ? a : b;

    private static void Add(List<TimeRange<LessonTime>> silences, TimeRange<LessonTime> next)
    {
        if (silences.Count > 0 && silences[^1].End == next.Start)
        {
            silences[^1] = new(silences[^1].Start, next.End);
        }
        else
        {
            silences.Add(next);
        }
    }
}
