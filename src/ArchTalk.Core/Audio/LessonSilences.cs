using ArchTalk.Core.Editing;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>The silences of a lesson, and where somebody speaks in it, from those of its takes.</summary>
public static class LessonSilences
{
    /// <summary>
    /// In order, those that meet at a join made one. Inserted pauses and mutes are silences; of a silence of which something was taken
    /// out, the rest is one.
    /// </summary>
    public static IReadOnlyList<TimeRange<LessonTime>> Of(Arrangement arrangement, Func<TakeId, TakeMeasures> measures)
    {
        var silences = new List<TimeRange<LessonTime>>();
        var takes = arrangement.Placements.Select(p => p.Take).Distinct().ToDictionary(t => t, t => measures(t).Silences);
        foreach (var stretch in VoicePlan.Of(arrangement).Stretches)
        {
            foreach (var silence in stretch.From is { } from ? Heard(stretch.Target, from, takes[from.Take]) : [stretch.Target])
            {
                Add(silences, silence);
            }
        }

        return silences;
    }

    /// <summary>Where somebody speaks, in order; a phrase that a join cuts is two.</summary>
    public static IEnumerable<TimeRange<LessonTime>> Phrases(Arrangement arrangement, Func<TakeId, TakeMeasures> measures) =>
        VoicePlan.Of(arrangement).Stretches.SelectMany(s => s.From is { } from ? Heard(s.Target, from, measures(from.Take).Phrases) : []);

    // What of the ranges of a take is heard in a stretch of the lesson that begins with a moment, and where.
    private static IEnumerable<TimeRange<LessonTime>> Heard(TimeRange<LessonTime> target, Moment from, IReadOnlyList<TimeRange<TakeTime>> ranges)
    {
        var source = new TimeRange<TakeTime>(from.At, from.At + (target.End - target.Start));
        for (var i = Search.CountTo(ranges.Count, i => ranges[i].End <= source.Start); i < ranges.Count && ranges[i].Start < source.End; i++)
        {
            if (ranges[i].Common(source) is { } heard)
            {
                yield return new(target.Start + (heard.Start - source.Start), target.Start + (heard.End - source.Start));
            }
        }
    }

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
