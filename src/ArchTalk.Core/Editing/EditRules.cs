using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Ink;
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

    /// <summary>No moment of a take is later: a take of a month.</summary>
    public static readonly Duration LatestMoment = Duration.FromSeconds(31 * 24 * 3600);

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

        if (Moments(e).Any(samples => samples > LatestMoment.Samples))
        {
            return $"An edit names a moment that no recording has. Reload the page and make it once more. {Unchanged}";
        }

        if (e.Silences.Any(s => s.Length <= Duration.Zero) || e.Pauses.Any(p => p.Length <= Duration.Zero || p.Length > LongestWait))
        {
            return $"A silence has to keep some length, and a pause lasts at most {LongestWait.Seconds:0} seconds. {Unchanged}";
        }

        if (e.AddedInk.Any(s => s.Points.Count is 0 or > MostPoints || s.Points.Any(p => p.After < Duration.Zero || IsFar(p.X) || IsFar(p.Y)))
            || e.Marks.Any(m => IsFar(m.MoveX) || IsFar(m.MoveY) || (m.Settled is { } line && IsFar(line))))
        {
            return $"The added drawing could not be read. Draw it once more. {Unchanged}";
        }

        if (e.Stops.Any(s => s.Wait < Duration.Zero || s.Wait > LongestWait || !Enum.IsDefined(s.Kind)))
        {
            return $"A thinking stop lasts at most {LongestWait.Seconds:0} seconds. {Unchanged}";
        }

        Item[] notes = [.. e.Corrections.Select(c => c.Note)];
        if ((ItemRules.Check(notes).Fault ?? notes.Select(ItemRules.Fault).FirstOrDefault(f => f is not null)) is { } fault)
        {
            return fault;
        }

        return e.Stops.Any(s => s.Question.Length > LessonRules.LongestText)
            ? $"The question is longer than {LessonRules.LongestText} characters. Shorten it. {Unchanged}"
            : null;
    }

    // All times and lengths of takes, in samples.
    private static IEnumerable<long> Moments(EditList e) =>
    [
        // The end of a range may lie behind everything: it is the end of its take.
        .. e.Sequence.SelectMany(s => (long[])[s.Source.Start.Samples, s.As?.Samples ?? 0]),
        .. e.Cuts.Select(c => c.Source.End.Samples), .. e.Silences.SelectMany(s => (long[])[s.Source.End.Samples, s.Length.Samples]),
        .. e.Pauses.Select(p => p.At.Samples), .. e.Mutes.Select(m => m.Source.End.Samples), .. e.Temporary.Select(t => t.Source.End.Samples),
        .. e.Marks.SelectMany(m => (long[])[m.Begins?.Samples ?? 0, m.Ends?.Samples ?? 0]),
        .. e.AddedInk.SelectMany(s => s.Points).SelectMany(p => (long[])[p.At.Samples, p.After.Samples]), .. e.Stops.Select(s => s.At.Samples),
        .. e.Corrections.SelectMany(c => (long[])[c.At.Samples, c.Until?.Samples ?? 0]), .. e.Left.Select(l => l.Start.Samples),
    ];

    private static bool IsFar(SettledStroke line) =>
        IsFar(line.From.X) || IsFar(line.From.Y) || IsFar(line.To.X) || IsFar(line.To.Y) || line.Height < 0 || IsFar(line.Height);

    private static bool IsFar(int place) => Math.Abs((long)place) > FarthestPlace;
}
