namespace ArchTalk.Data.Entities;

/// <summary>Which list of a lesson.</summary>
public enum SectionKind
{
    Chapters = 0,
    Terms = 1,
    References = 2,
    Task = 3,
}

/// <summary>
/// One state of one of a lesson's lists. Every change adds a state; undo and redo only move
/// <see cref="IsCurrent"/>, so they survive a reload.
/// </summary>
public sealed class SectionState
{
    public long Id { get; set; }

    public Guid LessonId { get; set; }

    public SectionKind Kind { get; set; }

    /// <summary>Counts up from 1 along the line of undo.</summary>
    public int Number { get; set; }

    public bool IsCurrent { get; set; }

    public string Json { get; set; } = "";

    public DateTimeOffset SavedAt { get; set; }
}
