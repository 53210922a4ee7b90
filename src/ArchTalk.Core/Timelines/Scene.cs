using ArchTalk.Core.Boards;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;

namespace ArchTalk.Core.Timelines;

/// <summary>Where the pointer is.</summary>
/// <param name="Board">Index of the board.</param>
/// <param name="X">In tenths of a board unit.</param>
/// <param name="Y">In tenths of a board unit.</param>
public readonly record struct PointerPlace(int Board, int X, int Y);

/// <summary>A stroke that is there at a time, and how many of its points have been drawn by then.</summary>
/// <param name="Index">Among the strokes of the board.</param>
public readonly record struct VisibleStroke(int Index, int Points);

/// <summary>A text that is there at a time, and what it says then.</summary>
/// <param name="Index">Among the texts of the board.</param>
public readonly record struct VisibleText(int Index, Writing Letters);

/// <summary>The value of an item's parameter at a time.</summary>
public readonly record struct ParameterValue(Guid Item, string Name, int Value);

/// <summary>A board as it is seen at one time.</summary>
/// <param name="Board">Its index.</param>
/// <param name="Height">Its height then, in units.</param>
/// <param name="View">The view on it.</param>
/// <param name="Strokes">Its living strokes, oldest first.</param>
/// <param name="Pointer">The pointer, when it is on that board.</param>
/// <param name="Hidden">The items of it that don't show, a lifted cover, say.</param>
/// <param name="Parameters">Those of its items that were set.</param>
/// <param name="Texts">What was typed and is there, oldest first.</param>
/// <param name="Light">What is lit up; null when the light is out.</param>
public sealed record Pane(
    int Board, int Height, View View, IReadOnlyList<VisibleStroke> Strokes, PointerPlace? Pointer, IReadOnlyList<Guid> Hidden,
    IReadOnlyList<ParameterValue> Parameters, IReadOnlyList<VisibleText> Texts, Light? Light = null);

/// <summary>What there is to see at one time: one pane, or two when boards are compared.</summary>
public sealed record Scene(IReadOnlyList<Pane> Panes);
