namespace ArchTalk.Data.Entities;

/// <summary>One published, immutable version of a lesson.</summary>
public sealed class Publication
{
    public Guid Id { get; set; }

    public Guid LessonId { get; set; }

    /// <summary>Counts up from 1.</summary>
    public int Number { get; set; }

    /// <summary>The job that made it; a job that runs again makes no second one. Null in those of earlier releases.</summary>
    public Guid? JobId { get; set; }

    /// <summary>The lesson's revision when it was made; 0 in those of earlier releases.</summary>
    public long Revision { get; set; }

    public DateTimeOffset PublishedAt { get; set; }

    public int LengthMs { get; set; }

    /// <summary>Whether it stays open under its number when a newer one is published: the teacher wants it so.</summary>
    public bool IsKeptOpen { get; set; }
}
