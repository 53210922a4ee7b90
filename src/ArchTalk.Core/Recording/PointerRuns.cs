using ArchTalk.Core.Ink;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>Puts the places that a pointer was seen at together to runs.</summary>
internal sealed class PointerRuns
{
    /// <summary>A moving pointer is told of many times a second. One that wasn't for longer had rested.</summary>
    public static readonly Duration Rest = Duration.FromMilliseconds(50);

    // When it moves again it does so from about one picture before it is told of.
    private static readonly Duration Frame = Duration.FromMilliseconds(8);

    private readonly List<PointerRun> runs = [];
    private readonly List<TakePoint> points = [];
    private Guid board;

    public void Add(PointerChanged changed)
    {
        if (points.Count > 0 && (changed.Place is null || changed.Board != board))
        {
            Close(changed.At);
        }

        if (changed.Place is not { } place)
        {
            return;
        }

        board = changed.Board;
        if (points.Count > 0 && points[^1].At == changed.At)
        {
            points.RemoveAt(points.Count - 1);
        }
        else if (points.Count > 0 && changed.At - points[^1].At > Rest)
        {
            points.Add(points[^1] with { At = new TakeTime(changed.At.Samples - Frame.Samples) });
        }

        points.Add(new TakePoint(place.X, place.Y, 0, changed.At));
    }

    /// <summary>All runs; one that is still open ends at <paramref name="end"/>.</summary>
    public IReadOnlyList<PointerRun> End(TakeTime end)
    {
        Close(end);
        return runs;
    }

    private void Close(TakeTime end)
    {
        if (points.Count > 0 && points[0].At < end)
        {
            runs.Add(new PointerRun(board, Simplification.Simplify([.. points], Simplification.InkTolerance), end));
        }

        points.Clear();
    }
}
