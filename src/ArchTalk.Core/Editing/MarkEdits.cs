using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>A stroke is changed. What is null stays as it was drawn; of two changes of one stroke the later in the list counts.</summary>
/// <param name="Stroke">The stroke's number in its take.</param>
public sealed record MarkChange(TakeId Take, int Stroke)
{
    /// <summary>It was never drawn.</summary>
    public bool IsGone { get; init; }

    /// <summary>When it begins; it is drawn as fast as it was.</summary>
    public TakeTime? Begins { get; init; }

    /// <summary>When it goes, for good.</summary>
    public TakeTime? Ends { get; init; }

    /// <summary>The ink's name, of its own tool.</summary>
    public string? Ink { get; init; }

    /// <summary>"fine", "medium" or "broad".</summary>
    public string? Width { get; init; }

    /// <summary>How far it is moved to the right, in tenths of a board unit.</summary>
    public int MoveX { get; init; }

    /// <summary>How far it is moved down, in tenths of a board unit.</summary>
    public int MoveY { get; init; }

    /// <summary>Where it lies straight on words, drawn from its beginning to its end in the time it took.</summary>
    public SettledStroke? Settled { get; init; }

    /// <summary>The key line that those words are; null for none. Only with <see cref="Settled"/>.</summary>
    public KeyLineKind? Becomes { get; init; }

    /// <summary>The key under which takes and timelines know the stroke.</summary>
    internal StrokeKey Key => new(Take, Stroke);
}

/// <summary>
/// Ink that was added to a voice already recorded. It is drawn in the lesson wherever its moments are. Drawn while the lesson
/// played, each point holds the moment that was heard; drawn at a standstill, all hold one moment and run on from it.
/// </summary>
/// <param name="Id">Its identity; it stands where a recorded stroke has its take.</param>
/// <param name="Points">At least one, in the order they were drawn.</param>
public sealed record AddedStroke(Guid Id, Guid Board, string Tool, string Ink, string Width, IReadOnlyList<AddedPoint> Points)
{
    /// <summary>Whether the lesson stood still while it was drawn.</summary>
    public bool IsAtStandstill { get; init; }
}

/// <summary>A point of added ink: tenths of a board unit, pressure 0 to 255.</summary>
/// <param name="Take">Of the moment that was heard.</param>
/// <param name="At">Of the moment that was heard.</param>
/// <param name="After">How long after the first point it was drawn; counts only at a standstill.</param>
public readonly record struct AddedPoint(int X, int Y, byte Pressure, TakeId Take, TakeTime At, Duration After = default);
