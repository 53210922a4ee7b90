namespace ArchTalk.Core.Boards;

/// <summary>A visual surface: <see cref="Width"/> units wide and as high as what is on it.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Title">Its name in the board strip and of chapters.</param>
/// <param name="Height">In board units.</param>
public sealed record Board(Guid Id, string Title, int Height)
{
    /// <summary>Every board is 1600 units wide.</summary>
    public const int Width = 1600;

    /// <summary>A slide, and an empty board before it grows, is 900 units high.</summary>
    public const int SlideHeight = 900;

    /// <summary>An empty board can grow to this height in units: about 22 screens.</summary>
    public const int MaxHeight = 20_000;

    /// <summary>An empty board grows by this many units at a time.</summary>
    public const int GrowBy = 300;

    /// <summary>Writing nearer to the end of an empty board than this, in units, makes it grow.</summary>
    public const int GrowBefore = 160;

    /// <summary>The least free room below the last item of a board that is lengthened or shortened for it, in units.</summary>
    public const int RoomBelow = 40;

    /// <summary>How high a board is at least: as its picture, or a slide where there is none, and as what is on it.</summary>
    /// <param name="pictureHeight">In board units; null without a picture.</param>
    /// <param name="lowest">The lowest edge of an item in board units; null without items.</param>
    public static int LeastHeight(int? pictureHeight, double? lowest) =>
        Math.Min(MaxHeight, Math.Max(
            pictureHeight ?? SlideHeight,
            lowest is { } edge ? (int)Math.Ceiling(edge) + (edge > (pictureHeight ?? SlideHeight) ? RoomBelow : 0) : 0));

    /// <summary>A picture or page higher than this many times its width gets white at its sides, so that the board is long enough for it.</summary>
    public const double TallestShape = (double)MaxHeight / Width;

    /// <summary>The height in units of a board that shows a picture of the given size in pixels.</summary>
    public static int HeightFor(int pixelWidth, int pixelHeight) =>
        Math.Clamp((int)Math.Round((double)Width * pixelHeight / pixelWidth), 1, MaxHeight);
}
