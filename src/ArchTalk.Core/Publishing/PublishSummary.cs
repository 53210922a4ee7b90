using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Publishing;

/// <summary>A line of what students will find.</summary>
/// <param name="IsThere">Whether it is there, or missing.</param>
/// <param name="Text">What there is of it, or what follows from its missing.</param>
/// <param name="Step">Where it is changed.</param>
/// <param name="Change">The name of what is changed there.</param>
public sealed record SummaryLine(bool IsThere, string Text, LessonStep Step, string Change);

/// <summary>What students will find in a lesson if it is published now.</summary>
public static class PublishSummary
{
    /// <param name="narration">How long the narration is, as a clock shows it; null when nothing is recorded.</param>
    public static IReadOnlyList<SummaryLine> Of(
        string? narration,
        int boards,
        int chapters,
        int terms,
        int references,
        LessonTask task,
        int wrongItems) =>
    [
        new(
            narration is not null,
            narration is null ? "No recording yet" : $"{narration} of narration on {Count(boards, "board")}",
            LessonStep.Record,
            "Record"),
        new(chapters > 0, chapters > 0 ? Count(chapters, "chapter") : "No chapters: students can't jump to a part", LessonStep.Refine, "Chapters"),
        new(terms > 0, terms > 0 ? $"{Count(terms, "term")} in the vocabulary" : "No vocabulary", LessonStep.Prepare, "Vocabulary"),
        new(references > 0, references > 0 ? Count(references, "reference") : "No references", LessonStep.Prepare, "References"),
        new(
            !task.IsEmpty,
            task.IsEmpty ? "No task" : task.Steps.Count > 0 ? $"A task of {Count(task.Steps.Count, "step")}" : "A task",
            LessonStep.Prepare,
            "Task"),
        .. wrongItems == 0 ? Array.Empty<SummaryLine>() : [new SummaryLine(
            IsThere: false,
            $"{Count(wrongItems, "item")} on your boards can't be shown and {(wrongItems == 1 ? "is" : "are")} left out",
            LessonStep.Prepare,
            "Boards")],
    ];

    private static string Count(int number, string word) => $"{number} {word}{(number == 1 ? "" : "s")}";
}
