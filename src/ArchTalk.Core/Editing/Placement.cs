using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>How the boards are when a placement begins. The pointer is away, unless it was there in the take.</summary>
public abstract record Entry
{
    /// <summary>As the lesson left them.</summary>
    public sealed record CarriedOn : Entry;

    /// <summary>
    /// With the board, views, covers, parameters and at least the heights that the take had there; what was drawn is what the lesson
    /// has drawn so far.
    /// </summary>
    public sealed record WithOwnBoards : Entry;

    /// <summary>Set back, with everything that was drawn, to how they were in an earlier placement.</summary>
    /// <param name="Placement">The earlier placement's number.</param>
    /// <param name="To">The moment of the take: what was done before it is there.</param>
    public sealed record SetBack(int Placement, TakeTime To) : Entry;
}

/// <summary>One stretch of one take as it lies in the lesson.</summary>
/// <param name="Number">Its place among the placements, from 0: with it the strokes of a range that is used twice are told apart.</param>
/// <param name="Path">The take as it stood at the moment the placement looks at it.</param>
/// <param name="Map">Where its moments are in the lesson.</param>
/// <param name="InsteadOf">The stretches in whose stead the take was recorded.</param>
public sealed record Placement(int Number, TakeLog Log, TakePath Path, TimeMap Map, Entry Entry, IReadOnlyList<TakeStretch> InsteadOf)
{
    public TakeId Take => Log.Id;

    /// <summary>
    /// Whether the lesson comes by a moment here, with everything before it: not if that was taken out. True at the end too, since
    /// what was done before it is there.
    /// </summary>
    internal bool Reaches(TakeTime moment) => moment == TakeTime.Zero
        ? Map.Source.Start == TakeTime.Zero
        : Map.PieceAt(new TakeTime(moment.Samples - 1)) is { IsCut: false, Kind: not PieceKind.TakenBack };
}
