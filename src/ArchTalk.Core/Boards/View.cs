namespace ArchTalk.Core.Boards;

/// <summary>
/// The window through which a board is seen, in tenths of a board unit. Its shape is 16:9, so its height follows from its
/// width.
/// </summary>
public readonly record struct View(int X, int Y, int Width)
{
    /// <summary>Closest close-up: a quarter of the board's width fills the view.</summary>
    public const int MinWidth = Board.Width * 10 / 4;

    public const int MaxWidth = Board.Width * 10;

    /// <summary>The whole width of a board, from its top.</summary>
    public static readonly View Top = new(0, 0, MaxWidth);

    public int Height => Width * 9 / 16;

    /// <summary>The nearest view that shows no more than the board, whose height is in units.</summary>
    public View Within(int boardHeight)
    {
        var width = Math.Clamp(Width, MinWidth, MaxWidth);
        var lowest = Math.Max(0, (boardHeight * 10) - (width * 9 / 16));
        return new View(Math.Clamp(X, 0, MaxWidth - width), Math.Clamp(Y, 0, lowest), width);
    }
}
