namespace ArchTalk.Core.Boards.Items;

/// <summary>A picture on a board; its file lies with the board's.</summary>
public sealed record PictureItem : Item
{
    /// <summary>The name of its copy among the board's files: <see cref="PictureFiles"/> says what it may be.</summary>
    public string File { get; init; } = "";

    /// <summary>Width by height of the whole picture, before it is turned.</summary>
    public double Shape { get; init; } = 1;

    /// <summary>What of it is shown, as shares of its width and height from its top left corner.</summary>
    public Crop Crop { get; init; } = Crop.Whole;

    /// <summary>Quarter turns clockwise, 0 to 3.</summary>
    public int Turn { get; init; }

    /// <summary>What there is to see, for those who hear it.</summary>
    public string AlternativeText { get; init; } = "";
}

/// <summary>A part of a picture, as shares of its width and height.</summary>
public readonly record struct Crop(double X, double Y, double Width, double Height)
{
    public static readonly Crop Whole = new(0, 0, 1, 1);
}
