namespace ArchTalk.Data.Entities;

/// <summary>A recording pass; its journal lies in the lesson's files.</summary>
public sealed class TakeRow
{
    public Guid Id { get; set; }

    public Guid LessonId { get; set; }

    public int Order { get; set; }

    public DateTimeOffset StartedAt { get; set; }

    /// <summary>When its end was journalled; null while recording or after an interruption.</summary>
    public DateTimeOffset? EndedAt { get; set; }

    /// <summary>SHA-256 of the upload token, in hex.</summary>
    public string TokenHash { get; set; } = "";

    /// <summary>The writer that may append; an older one is refused.</summary>
    public int Epoch { get; set; }

    /// <summary>Length in samples at 48 kHz, without what retakes took back; 0 until it has ended.</summary>
    public long Samples { get; set; }

    public DateTimeOffset? DeletedAt { get; set; }

    /// <summary>Its journal was found on the disk without a row, after the database was put back from a copy, say.</summary>
    public bool IsFound { get; set; }
}
