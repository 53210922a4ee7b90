using System.Collections;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>
/// A stroke's points as they lie in the lesson, worked out when they are first asked for: after an edit of an hour's lesson one board
/// is looked at, not all twenty thousand strokes.
/// </summary>
internal sealed class LaidPoints(IReadOnlyList<TakePoint> points, TimeMap map) : IReadOnlyList<InkPoint>
{
    // Whoever asks at the same time works out the same.
    private InkPoint[]? laid;

    public int Count => Laid.Length;

    private InkPoint[] Laid => laid ??= PointMapping.Stroke(points, map);

    public InkPoint this[int index] => Laid[index];

    public IEnumerator<InkPoint> GetEnumerator() => ((IEnumerable<InkPoint>)Laid).GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();
}
