namespace ArchTalk.Reader.Contract;

/// <summary>A copy of a picture that was written: its file name and size in pixels.</summary>
public sealed record PictureFile(string Name, int Width, int Height);

/// <summary>How large the copies of a board's picture are.</summary>
public static class PictureSizes
{
    /// <summary>Pages of documents are drawn this many pixels wide.</summary>
    public const int PageWidth = 3840;

    /// <summary>
    /// Widths in pixels: for the board strip, for a phone or a laptop, for a close-up to a third of the board on a screen 1280
    /// pixels wide, and for the closest one on a screen 1920 wide. Only a picture that has as many pixels gets the widest copy.
    /// </summary>
    public static readonly IReadOnlyList<(string Name, int Width)> All = [("small", 400), ("medium", 1600), ("large", PageWidth), ("huge", 7680)];

    /// <summary>The longest side in pixels of a picture that lies on a board.</summary>
    public const int ItemSide = 2400;

    /// <summary>What a browser can be relied on to decode in one piece.</summary>
    public const int TallestCopy = 16_000;
}
