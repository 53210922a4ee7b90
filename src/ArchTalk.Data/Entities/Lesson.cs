using ArchTalk.Core.Boards.Scans;

namespace ArchTalk.Data.Entities;

/// <summary>An ordered list of lessons.</summary>
public sealed class Unit
{
    public Guid Id { get; set; }

    public string TeacherId { get; set; } = "";

    public string Title { get; set; } = "";

    public int Order { get; set; }
}

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

    /// <summary>When it was put aside; it can be restored.</summary>
    public DateTimeOffset? DeletedAt { get; set; }

    /// <summary>The unguessable part of the students' link, made when first published.</summary>
    public string? WatchToken { get; set; }

    /// <summary>Whether the link is closed.</summary>
    public bool IsWithdrawn { get; set; }

    /// <summary>Whether search engines may list the students' page.</summary>
    public bool IsFindable { get; set; }

    public List<Board> Boards { get; } = [];

    public List<Take> Takes { get; } = [];

    public List<Publication> Publications { get; } = [];
}

/// <summary>Where a board comes from.</summary>
public enum BoardKind
{
    /// <summary>An empty surface that grows downwards.</summary>
    Empty = 0,

    /// <summary>A page of a PDF.</summary>
    Page = 1,

    /// <summary>A picture.</summary>
    Picture = 2,

    /// <summary>A film or sound to be played within the lesson.</summary>
    Clip = 3,
}

/// <summary>A board of a lesson. Its pictures and words lie in the lesson's files.</summary>
public sealed class Board
{
    public Guid Id { get; set; }

    public Guid LessonId { get; set; }

    public BoardKind Kind { get; set; }

    public int Order { get; set; }

    public string Title { get; set; } = "";

    /// <summary>In board units; the width is always 1600.</summary>
    public int Height { get; set; }

    /// <summary>The file it came from, as the teacher named it.</summary>
    public string Source { get; set; } = "";

    /// <summary>Sizes of the picture's copies in pixels, small to large; empty for an empty board.</summary>
    public List<PictureCopy> Pictures { get; set; } = [];

    /// <summary>What the teacher means to say here.</summary>
    public string Notes { get; set; } = "";

    /// <summary>What there is to see, for those who hear it.</summary>
    public string AlternativeText { get; set; } = "";

    /// <summary>Whether it is only offered: a hidden slide that the teacher has not taken yet.</summary>
    public bool IsOffered { get; set; }

    /// <summary>Web addresses found in the slide it comes from, proposed as references.</summary>
    public List<BoardLink> Links { get; set; } = [];

    /// <summary>The picture as it came, kept for other settings; null for what can't be set.</summary>
    public string? Original { get; set; }

    /// <summary>How the original is turned, straightened, cropped and lightened.</summary>
    public ScanSettings? Scan { get; set; }

    /// <summary>Counts the pictures it has had; copies are named after it, since browsers keep what they were sent.</summary>
    public int Revision { get; set; }

    public BoardClip? Clip { get; set; }

    public DateTimeOffset? DeletedAt { get; set; }

    /// <summary>The copies of its picture in pixels, small to large; a drawing kept as such is none of them.</summary>
    public IEnumerable<PictureCopy> InPixels => Pictures.Where(p => p.File.EndsWith(".jpg", StringComparison.Ordinal));

    public Core.Boards.Board ToCore() => new(Id, Title, Height);
}

/// <summary>One size of a board's picture.</summary>
public sealed record PictureCopy(string File, int Width, int Height);

/// <summary>A proposed reference.</summary>
public sealed record BoardLink(string Title, string Address, bool IsDismissed);

/// <summary>The film or sound of a media board.</summary>
/// <param name="StartMs">Where playing begins.</param>
/// <param name="EndMs">Where it ends.</param>
/// <param name="Files">Names of its copies, MP4 first.</param>
public sealed record BoardClip(bool HasPicture, int LengthMs, int StartMs, int EndMs, IReadOnlyList<string> Files);

/// <summary>A recording pass; its journal lies in the lesson's files.</summary>
public sealed class Take
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

    /// <summary>Length in samples at 48 kHz; 0 until it has ended.</summary>
    public long Samples { get; set; }

    public DateTimeOffset? DeletedAt { get; set; }

    /// <summary>Its journal was found on the disk without a row, after the database was put back from a copy, say.</summary>
    public bool IsFound { get; set; }
}

/// <summary>One published, immutable version of a lesson.</summary>
public sealed class Publication
{
    public Guid Id { get; set; }

    public Guid LessonId { get; set; }

    /// <summary>Counts up from 1.</summary>
    public int Number { get; set; }

    public DateTimeOffset PublishedAt { get; set; }

    public int LengthMs { get; set; }

    /// <summary>Whether it stays open under its number when a newer one is published: the teacher wants it so.</summary>
    public bool IsKeptOpen { get; set; }
}
