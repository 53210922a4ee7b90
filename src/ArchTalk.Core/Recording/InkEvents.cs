using System.Text.Json.Serialization;

namespace ArchTalk.Core.Recording;

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

/// <summary>
/// A stroke has settled on a line of words: another stands in its place, under the number of the action, which undo takes back.
/// </summary>
/// <param name="Stroke">The stroke as it was drawn.</param>
/// <param name="Line">From and to: x, y, x, y in tenths of a board unit.</param>
/// <param name="Height">Of the line of words, in tenths of a board unit.</param>
/// <param name="Text">The words it lies on.</param>
public sealed record StrokeSettled(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("a")] int Action,
    [property: JsonPropertyName("s")] int Stroke,
    [property: JsonPropertyName("d")] long[] Line,
    [property: JsonPropertyName("h")] int Height,
    [property: JsonPropertyName("x")] string Text) : TakeEvent;

/// <summary>Nobody answered on which words a stroke settles, so it stayed as it was drawn.</summary>
/// <param name="Kind">The key line that its words were to become, as <see cref="KeyLineKinds"/> names it; empty for none.</param>
public sealed record SettlingUnanswered(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("s")] int Stroke,
    [property: JsonPropertyName("k")] string Kind) : TakeEvent;

/// <summary>
/// Strokes of this take are a key line: what they underline, or what was written with them. Made again with the same first stroke, it
/// says something else about the same line.
/// </summary>
/// <param name="Kind">As <see cref="KeyLineKinds"/> names it; empty when it is none any more.</param>
/// <param name="Text">Its words; empty when it is only to be seen.</param>
/// <param name="IsMust">Whether students must know it.</param>
public sealed record KeyLineMade(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("n")] int[] Strokes,
    [property: JsonPropertyName("k")] string Kind,
    [property: JsonPropertyName("x")] string Text,
    [property: JsonPropertyName("m")] bool IsMust) : TakeEvent;

/// <summary>
/// Something was typed on a board: the whole text as it is after a key, under a number that counts with the strokes'. Typed again under
/// the same number, it is the same text at the same place.
/// </summary>
/// <param name="Place">X, y of its beginning in tenths of a board unit: the upper left corner, or the upper right of writing from the right.</param>
/// <param name="Size">Of the letters (the em) in tenths of a board unit.</param>
/// <param name="Ink">The name of a writing ink.</param>
/// <param name="Text">Lines end where the teacher pressed Enter.</param>
/// <param name="Looks">As <see cref="Ink.Writing"/> has them; takes of earlier releases have none.</param>
public sealed record TextTyped(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("n")] int Number,
    [property: JsonPropertyName("b")] Guid Board,
    [property: JsonPropertyName("p")] int[] Place,
    [property: JsonPropertyName("z")] int Size,
    [property: JsonPropertyName("ink")] string Ink,
    [property: JsonPropertyName("x")] string Text,
    [property: JsonPropertyName("l")] string? Looks = null) : TakeEvent;

/// <summary>An action (a stroke or an erasure of this take) was taken back.</summary>
public sealed record Undone([property: JsonPropertyName("t")] double Time, [property: JsonPropertyName("a")] int Action) : TakeEvent;

/// <summary>An undone action was put back.</summary>
public sealed record Redone([property: JsonPropertyName("t")] double Time, [property: JsonPropertyName("a")] int Action) : TakeEvent;
