namespace ArchTalk.Data.Entities;

/// <summary>The work in progress.</summary>
public sealed class Lesson
{
    public Guid Id { get; set; }

    public string TeacherId { get; set; } = "";

    public Teacher? Teacher { get; set; }

    public Guid? UnitId { get; set; }

    public Unit? Unit { get; set; }

    /// <summary>Place within the unit.</summary>
    public int Order { get; set; }

    public string Title { get; set; } = "";

    public DateTimeOffset CreatedAt { get; set; }

    public DateTimeOffset ChangedAt { get; set; }

    /// <summary>
    /// Raised in the same transaction as any write to what the lesson is compiled from: boards, takes, lists, items, edits, its name.
    /// What is worked out from a lesson is kept under this number.
    /// </summary>
    public long Revision { get; set; }

    /// <summary>When it was put aside; it can be restored.</summary>
    public DateTimeOffset? DeletedAt { get; set; }

    /// <summary>The unguessable part of the students' link, made when first published.</summary>
    public string? WatchToken { get; set; }

    /// <summary>Whether the link is closed.</summary>
    public bool IsWithdrawn { get; set; }

    /// <summary>Whether search engines may list the students' page.</summary>
    public bool IsFindable { get; set; }

    /// <summary>
    /// The gain of the whole voice on top of its takes' own, in dB. It is kept so that an edit doesn't change the level of what wasn't
    /// edited; null before the first.
    /// </summary>
    public double? VoiceGainDb { get; set; }

    /// <summary>By how much the voice came out louder (filters, held peaks) than its takes promise, in LU; null when not known yet.</summary>
    public double? VoiceShiftLu { get; set; }

    public List<BoardRow> Boards { get; } = [];

    public List<TakeRow> Takes { get; } = [];

    public List<Publication> Publications { get; } = [];
}
