using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Publishing;

/// <summary>A chapter of a publication: whole milliseconds and its name.</summary>
public sealed record PublishedChapter(int AtMs, string Title);

/// <summary>A board of a publication: its name and the address of its small picture, if it has one.</summary>
/// <param name="Sheet">The address of its sharpest picture, when it is the one to fill in while watching.</param>
public sealed record PublishedBoard(string Title, string? Picture, string? Sheet = null)
{
    /// <summary>The board's identity in the timeline; null in publications of before.</summary>
    public Guid? Id { get; init; }

    /// <summary>The film or sound that students can play on it.</summary>
    public PublishedClip? Clip { get; init; }
}

/// <summary>A film or sound on a board.</summary>
/// <param name="StartMs">Where playing begins.</param>
/// <param name="EndMs">Where it ends.</param>
/// <param name="Files">Addresses of its copies, MP4 first.</param>
public sealed record PublishedClip(bool HasPicture, int StartMs, int EndMs, IReadOnlyList<string> Files);

/// <summary>
/// lesson.json of a publication: everything the Watch page shows beside the board, as it was when it was published.
/// </summary>
/// <param name="Number">The publication's number.</param>
/// <param name="LengthMs">Length in whole milliseconds.</param>
/// <param name="Language">BCP 47 tag of the lesson's language.</param>
public sealed record PublishedLesson(
    string Title,
    string Teacher,
    string? Unit,
    int Number,
    DateTimeOffset PublishedAt,
    int LengthMs,
    string Language,
    IReadOnlyList<PublishedChapter> Chapters,
    IReadOnlyList<Term> Terms,
    IReadOnlyList<Reference> References,
    LessonTask Task,
    IReadOnlyList<PublishedBoard> Boards,
    LessonDetails? Details = null)
{
    /// <summary>Where a file to download lies among the publication's files.</summary>
    public static string FileOf(Guid attachment) => $"files/{attachment:N}.bin";
}
