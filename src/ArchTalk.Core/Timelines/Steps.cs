using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>A value that holds from a time on.</summary>
public readonly record struct Step<T>(LessonTime At, T Value);

/// <summary>Reads and writes lists of steps, which are ordered by time.</summary>
public static class Steps
{
    /// <summary>The value at a time.</summary>
    /// <param name="before">What holds before the first step.</param>
    public static T ValueAt<T>(this IReadOnlyList<Step<T>> steps, LessonTime time, T before)
    {
        var count = Search.CountTo(steps.Count, i => steps[i].At <= time);
        return count == 0 ? before : steps[count - 1].Value;
    }

    /// <summary>
    /// Adds a step at or after the last one. Of several values at one instant the last counts; one that changes nothing is no
    /// step.
    /// </summary>
    internal static void Add<T>(this List<Step<T>> steps, LessonTime at, T value)
    {
        if (steps.Count > 0 && steps[^1].At == at)
        {
            steps.RemoveAt(steps.Count - 1);
        }

        if (steps.Count == 0 || !EqualityComparer<T>.Default.Equals(steps[^1].Value, value))
        {
            steps.Add(new Step<T>(at, value));
        }
    }
}
