using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Scans;

namespace ArchTalk.Data.Entities;

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
public sealed class BoardRow
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

    public Board ToCore() => new(Id, Title, Height);
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
