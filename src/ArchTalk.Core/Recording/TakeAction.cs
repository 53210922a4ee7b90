using ArchTalk.Core.Ink;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>What a take did at a moment, in take time; what a timeline is compiled from.</summary>
public abstract record TakeAction(TakeTime At);

/// <summary>A point of ink in take time: tenths of a board unit, pressure 0 to 255.</summary>
public readonly record struct TakePoint(int X, int Y, byte Pressure, TakeTime At)
{
    /// <summary>The pressure of a pen that is held evenly.</summary>
    public const byte Even = 128;
}

/// <summary>A stroke was drawn; <see cref="TakeAction.At"/> is when it began.</summary>
/// <param name="Style">Index in <see cref="Ink.InkStyle.All"/>.</param>
/// <param name="Points">At least one, in order of time, smoothed and simplified.</param>
public sealed record StrokeDrawn(TakeTime At, StrokeKey Stroke, Guid Board, int Style, IReadOnlyList<TakePoint> Points) : TakeAction(At)
{
    /// <summary>When it was finished: the time of its last point.</summary>
    public TakeTime End => Points[^1].At;

    /// <summary>The height of the line of words it settled on, in tenths of a board unit; 0 for a stroke as it was drawn.</summary>
    public int LineHeight { get; init; }
}

public sealed record StrokesErased(TakeTime At, int Action, IReadOnlyList<StrokeKey> Strokes) : TakeAction(At);

/// <summary>Something was typed: the whole text as it is from then on.</summary>
/// <param name="Text">Named, undone and erased like a stroke.</param>
/// <param name="IsFirst">Whether the text begins with it.</param>
/// <param name="X">Of its beginning, in tenths of a board unit.</param>
/// <param name="Y">Of its upper edge, in tenths of a board unit.</param>
/// <param name="Size">Of the letters (the em) in tenths of a board unit.</param>
/// <param name="Ink">The name of a writing ink.</param>
public sealed record Typed(
    TakeTime At, StrokeKey Text, bool IsFirst, Guid Board, int X, int Y, int Size, string Ink, Writing Letters) : TakeAction(At);

/// <summary>Strokes were made a key line, or it became another; null for the kind when it is none any more.</summary>
/// <param name="Strokes">At least one; the first names it.</param>
public sealed record KeyLineChanged(TakeTime At, IReadOnlyList<StrokeKey> Strokes, KeyLineKind? Kind, string Text, bool IsMust) : TakeAction(At);

/// <summary>Nobody answered on which words a stroke settles.</summary>
/// <param name="Becomes">The key line that its words were to become.</param>
public sealed record LeftUnsettled(TakeTime At, StrokeKey Stroke, KeyLineKind? Becomes) : TakeAction(At);

public sealed record ActionUndone(TakeTime At, int Action) : TakeAction(At);

public sealed record ActionRedone(TakeTime At, int Action) : TakeAction(At);

/// <summary>The teacher went back: what was done since a moment is taken back, and the take goes on from there.</summary>
/// <param name="To">The first moment that is taken back; not after <see cref="TakeAction.At"/>.</param>
public sealed record Retaken(TakeTime At, TakeTime To) : TakeAction(At);
