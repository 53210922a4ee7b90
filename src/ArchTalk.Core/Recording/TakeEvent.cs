using System.Text.Json.Serialization;

namespace ArchTalk.Core.Recording;

/// <summary>
/// Something done on the boards, as the recorder journals it: with the browser's own time stamp, not yet in take time.
/// Property names are short since a lesson holds many; docs/formats/journal.md lists them.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "e")]
[JsonDerivedType(typeof(StrokeBegun), "stroke")]
[JsonDerivedType(typeof(StrokePoints), "points")]
[JsonDerivedType(typeof(StrokeEnded), "lift")]
[JsonDerivedType(typeof(StrokeCancelled), "cancel")]
[JsonDerivedType(typeof(Erased), "erase")]
[JsonDerivedType(typeof(Undone), "undo")]
[JsonDerivedType(typeof(Redone), "redo")]
[JsonDerivedType(typeof(BoardShown), "board")]
[JsonDerivedType(typeof(ViewMoved), "view")]
[JsonDerivedType(typeof(PointerMoved), "pointer")]
[JsonDerivedType(typeof(PointerAway), "away")]
[JsonDerivedType(typeof(BoardGrown), "grow")]
[JsonDerivedType(typeof(CoverLifted), "cover")]
public abstract record TakeEvent;

/// <summary>A stroke begins; its number is also the number of the action that undo takes back.</summary>
public sealed record StrokeBegun(
    [property: JsonPropertyName("s")] int Stroke,
    [property: JsonPropertyName("b")] Guid Board,
    [property: JsonPropertyName("tool")] string Tool,
    [property: JsonPropertyName("ink")] string Ink,
    [property: JsonPropertyName("w")] string Width) : TakeEvent;

/// <summary>Points of a stroke, flat: x and y in tenths of a board unit, pressure 0 to 255, time in tenths of a millisecond.</summary>
public sealed record StrokePoints(
    [property: JsonPropertyName("s")] int Stroke,
    [property: JsonPropertyName("d")] long[] Data) : TakeEvent;

/// <summary>The pen was lifted: the stroke is finished.</summary>
public sealed record StrokeEnded([property: JsonPropertyName("s")] int Stroke, [property: JsonPropertyName("t")] double Time) : TakeEvent;

/// <summary>The stroke was not meant (a resting palm, a gesture taken over by the system); it never existed.</summary>
public sealed record StrokeCancelled([property: JsonPropertyName("s")] int Stroke) : TakeEvent;

/// <summary>Whole strokes were erased in one sweep. A stroke is named by its number, with "take:" before it when it is of an earlier take.</summary>
public sealed record Erased(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("a")] int Action,
    [property: JsonPropertyName("s")] string[] Strokes) : TakeEvent;

/// <summary>An action (a stroke or an erasure of this take) was taken back.</summary>
public sealed record Undone([property: JsonPropertyName("t")] double Time, [property: JsonPropertyName("a")] int Action) : TakeEvent;

/// <summary>An undone action was put back.</summary>
public sealed record Redone([property: JsonPropertyName("t")] double Time, [property: JsonPropertyName("a")] int Action) : TakeEvent;

/// <summary>Another board was shown.</summary>
public sealed record BoardShown([property: JsonPropertyName("t")] double Time, [property: JsonPropertyName("b")] Guid Board) : TakeEvent;

/// <summary>The view of a board moved: left, top and width in tenths of a board unit.</summary>
public sealed record ViewMoved(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("b")] Guid Board,
    [property: JsonPropertyName("v")] int[] View) : TakeEvent;

/// <summary>The pointer was shown or moved, flat: x, y in tenths of a board unit, time in tenths of a millisecond.</summary>
public sealed record PointerMoved(
    [property: JsonPropertyName("b")] Guid Board,
    [property: JsonPropertyName("d")] long[] Data) : TakeEvent;

/// <summary>The pointer left the board.</summary>
public sealed record PointerAway([property: JsonPropertyName("t")] double Time) : TakeEvent;

/// <summary>An empty board was lengthened downwards to a height in board units.</summary>
public sealed record BoardGrown(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("b")] Guid Board,
    [property: JsonPropertyName("h")] int Height) : TakeEvent;

/// <summary>A cover was taken away, or put back.</summary>
public sealed record CoverLifted(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("b")] Guid Board,
    [property: JsonPropertyName("i")] Guid Item,
    [property: JsonPropertyName("u")] bool IsUncovered) : TakeEvent;
