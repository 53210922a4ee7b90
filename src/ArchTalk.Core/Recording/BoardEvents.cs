using System.Text.Json.Serialization;

namespace ArchTalk.Core.Recording;

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

/// <summary>A region of a board was lit up: the rest is dimmed. An empty outline puts the light out.</summary>
/// <param name="Outline">Flat: x, y in tenths of a board unit; the last point joins the first.</param>
public sealed record LitUp(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("b")] Guid Board,
    [property: JsonPropertyName("d")] int[] Outline) : TakeEvent;
