using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>What a list of edits may hold.</summary>
public static class EditRules
{
    /// <summary>Most edits of a lesson: a silence in each second of three hours.</summary>
    public const int Most = 10_000;

    /// <summary>Most points of a stroke that was added.</summary>
    public const int MostPoints = 20_000;

    /// <summary>Longest pause that is put in, and longest wait of a thinking stop.</summary>
    public static readonly Duration LongestWait = Duration.FromSeconds(600);

    private const int FarthestPlace = 10_000_000;

    /// <summary>The list as it is, or the first thing that is wrong.</summary>
    public static Checked<EditList> Check(EditList edits) => FaultOf(edits) is { } fault ? fault : new Checked<EditList>(edits, null);

    private static string? FaultOf(EditList e)
    {
        const string Unchanged = "Nothing was changed.";
        if (e.Count > Most)
        {
            return $"A lesson can hold {Most} edits. Take some back first; this one was not made.";
        }

        if (e.Silences.Any(s => s.Length <= Duration.Zero) || e.Pauses.Any(p => p.Length <= Duration.Zero || p.Length > LongestWait))
        {
            return $"A silence has to keep some length, and a pause lasts at most {LongestWait.Seconds:0} seconds. {Unchanged}";
        }

        if (e.AddedInk.Any(s => s.Points.Count is 0 or > MostPoints || s.Points.Any(p => p.After < Duration.Zero || IsFar(p.X) || IsFar(p.Y)))
            || e.Marks.Any(m => IsFar(m.MoveX) || IsFar(m.MoveY)))
        {
            return $"The added drawing could not be read. Draw it once more. {Unchanged}";
        }

        if (e.Stops.Any(s => s.Wait < Duration.Zero || s.Wait > LongestWait || !Enum.IsDefined(s.Kind)))
        {
            return $"A thinking stop lasts at most {LongestWait.Seconds:0} seconds. {Unchanged}";
        }

        if (e.Corrections.Select(c => ItemRules.Fault(c.Note)).FirstOrDefault(f => f is not null) is { } fault)
        {
            return fault;
        }

        return e.Stops.Any(s => s.Question.Length > LessonRules.LongestText)
            ? $"The question is longer than {LessonRules.LongestText} characters. Shorten it. {Unchanged}"
            : null;
    }

    private static bool IsFar(int place) => Math.Abs((long)place) > FarthestPlace;
}
