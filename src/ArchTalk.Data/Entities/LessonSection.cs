namespace ArchTalk.Data.Entities;

/// <summary>Which list of a lesson.</summary>
public enum SectionKind
{
    Chapters = 0,
    Terms = 1,
    References = 2,
    Task = 3,
    Details = 4,

    /// <summary>The items of one board.</summary>
    Items = 5,

    /// <summary>What the teacher decided about the takes: an <see cref="Core.Editing.EditList"/>.</summary>
    Edits = 6,

    /// <summary>What is done to the voice: <see cref="Core.Audio.VoiceSettings"/>.</summary>
    Voice = 7,
}

/// <summary>
/// One state of one of a lesson's lists, or of the items on a board. Every change adds a state; undo and redo only move
/// <see cref="IsCurrent"/>, so they survive a reload.
/// </summary>
public sealed class SectionState
{
    public long Id { get; set; }

    public Guid LessonId { get; set; }

    public SectionKind Kind { get; set; }

    /// <summary>The board whose items these are; empty for the lists of the whole lesson.</summary>
    public Guid BoardId { get; set; }

    /// <summary>Counts up from 1 along the line of undo.</summary>
    public int Number { get; set; }

    public bool IsCurrent { get; set; }

    public string Json { get; set; } = "";

    /// <summary>What was done, in words, for the history; null where only the list was changed.</summary>
    public string? Said { get; set; }

    public DateTimeOffset SavedAt { get; set; }
}
