using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>
/// An unbroken presence of the pointer on one board, from its first point up to its end. Between two points it moves
/// straight; after the last it rests. The path is simplified like ink.
/// </summary>
/// <param name="Points">At least one, in order of time; their pressure means nothing.</param>
/// <param name="End">When it left, or came to another board.</param>
public sealed record PointerRun(Guid Board, IReadOnlyList<TakePoint> Points, TakeTime End)
{
    public TakeTime At => Points[0].At;
}
