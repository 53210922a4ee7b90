using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>Another board is shown.</summary>
/// <param name="Beside">The board in the second pane, when two are compared.</param>
public sealed record BoardChanged(TakeTime At, Guid Board, Guid? Beside = null) : TakeAction(At);

/// <summary>A view moved. Left, top and width in tenths of a board unit.</summary>
/// <param name="Pane">0, or 1 for the second when two are compared.</param>
public sealed record ViewChanged(TakeTime At, Guid Board, int X, int Y, int Width, int Pane = 0) : TakeAction(At);

/// <summary>The pointer is at a place of a board, in tenths of a board unit; null when it left.</summary>
public sealed record PointerChanged(TakeTime At, Guid Board, (int X, int Y)? Place) : TakeAction(At);

/// <summary>Height in board units.</summary>
public sealed record BoardLengthened(TakeTime At, Guid Board, int Height) : TakeAction(At);

/// <summary>What lies under a cover is shown, or hidden again.</summary>
public sealed record CoverChanged(TakeTime At, Guid Board, Guid Item, bool IsUncovered) : TakeAction(At);

/// <summary>A parameter of an item was set: a clock's hour, say.</summary>
/// <param name="Name">As the item's drawing names its movable part.</param>
public sealed record ParameterSet(TakeTime At, Guid Board, Guid Item, string Name, int Value) : TakeAction(At);

/// <summary>A region is lit up and the rest of the board dimmed; null when the light is put out.</summary>
public sealed record LightChanged(TakeTime At, Guid Board, Light? Light) : TakeAction(At);

/// <summary>What is lit up. Two lights are the same only when they are one.</summary>
/// <param name="outline">At least three places, x and y in tenths of a board unit by turns; the last joins the first.</param>
public sealed class Light(IReadOnlyList<int> outline)
{
    public IReadOnlyList<int> Outline { get; } = outline;
}
