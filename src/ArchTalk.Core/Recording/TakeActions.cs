using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>Turns the journalled events of all segments into actions in take time.</summary>
internal static class TakeActions
{
    public static IReadOnlyList<TakeAction> Resolve(TakeId take, IEnumerable<SegmentReader> segments)
    {
        var actions = new List<TakeAction>();
        foreach (var segment in segments)
        {
            var points = PointsByStroke(segment);
            foreach (var happened in segment.Events)
            {
                actions.AddRange(Resolve(happened, take, segment, points));
            }
        }

        // Stable: events with the same time stay in the order they were journalled.
        return [.. actions.OrderBy(a => a.At)];
    }

    private static Dictionary<int, List<TakePoint>> PointsByStroke(SegmentReader segment)
    {
        var points = new Dictionary<int, List<TakePoint>>();
        foreach (var happened in segment.Events)
        {
            if (happened is StrokePoints { Data: { } data, Stroke: var stroke })
            {
                var list = points.TryGetValue(stroke, out var known) ? known : points[stroke] = [];
                for (var i = 0; i + 3 < data.Length; i += 4)
                {
                    var at = segment.At(data[i + 3] / 10.0);

                    // Stamps of one pen never run backwards; if a browser's do, the later point waits for the earlier.
                    at = list.Count > 0 && at < list[^1].At ? list[^1].At : at;
                    list.Add(new((int)data[i], (int)data[i + 1], (byte)Math.Clamp(data[i + 2], 0, 255), at));
                }
            }
            else if (happened is StrokeCancelled cancelled)
            {
                points.Remove(cancelled.Stroke);
            }
        }

        return points;
    }

    private static IEnumerable<TakeAction> Resolve(
        TakeEvent happened, TakeId take, SegmentReader segment, Dictionary<int, List<TakePoint>> points)
    {
        switch (happened)
        {
            case StrokeBegun s when points.TryGetValue(s.Stroke, out var drawn) && drawn.Count > 0:
                yield return new StrokeDrawn(drawn[0].At, new(take, s.Stroke), s.Board, s.Tool, s.Ink, s.Width, drawn);
                break;
            case Erased e:
                var erased = e.Strokes.Select(s => Take.ParseStroke(s, take)).OfType<StrokeKey>().ToArray();
                yield return new StrokesErased(segment.At(e.Time), e.Action, erased);
                break;
            case Undone u:
                yield return new ActionUndone(segment.At(u.Time), u.Action);
                break;
            case Redone r:
                yield return new ActionRedone(segment.At(r.Time), r.Action);
                break;
            case BoardShown b:
                yield return new BoardChanged(segment.At(b.Time), b.Board);
                break;
            case ViewMoved { View: [var x, var y, var width] } v:
                yield return new ViewChanged(segment.At(v.Time), v.Board, x, y, width);
                break;
            case PointerMoved p:
                for (var i = 0; i + 2 < p.Data.Length; i += 3)
                {
                    yield return new PointerChanged(segment.At(p.Data[i + 2] / 10.0), p.Board, ((int)p.Data[i], (int)p.Data[i + 1]));
                }

                break;
            case PointerAway a:
                yield return new PointerChanged(segment.At(a.Time), Guid.Empty, Place: null);
                break;
            case BoardGrown g:
                yield return new BoardLengthened(segment.At(g.Time), g.Board, g.Height);
                break;
            case CoverLifted c:
                yield return new CoverChanged(segment.At(c.Time), c.Board, c.Item, c.IsUncovered);
                break;
        }
    }
}
