namespace ArchTalk.Data.Entities;

/// <summary>A file that students can download, kept with a lesson under its identity.</summary>
public sealed class Attachment
{
    public Guid Id { get; set; }

    public Guid LessonId { get; set; }

    /// <summary>Its own name, under which students get it; never a path.</summary>
    public string FileName { get; set; } = "";

    public DateTimeOffset CreatedAt { get; set; }
}
