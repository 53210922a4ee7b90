using ArchTalk.Core.Ink;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>Turns the journalled events of all segments into actions in take time.</summary>
internal static class TakeActions
{
    // What a recorder says of the boards when it begins comes a moment after the first sound; it holds from the start.
    private static readonly TakeTime LatestOpening = TakeTime.FromSeconds(1);

    /// <summary>The place of the lesson that the take was recorded for, as it was said first; null for its end.</summary>
    public static TakePlace? PlaceOf(IReadOnlyList<SegmentReader> segments) => segments.SelectMany(s => s.Events).OfType<PlaceTaken>()
        .Select(p => new TakePlace(new(new(p.FromTake), new(p.From)), new(new(p.UntilTake), new(p.Until)))).FirstOrDefault();

    public static IReadOnlyList<TakeAction> Resolve(TakeId take, IReadOnlyList<SegmentReader> segments)
    {
        var actions = new List<TakeAction>();
        var drawn = new Dictionary<int, StrokeDrawn>();
        var texts = new HashSet<int>();
        foreach (var segment in segments)
        {
            var strokes = Strokes(take, segment);
            for (var i = 0; i < segment.Events.Count; i++)
            {
                if (strokes[i] is { } stroke)
                {
                    actions.Add(drawn[stroke.Stroke.Number] = stroke);
                }
                else
                {
                    actions.AddRange(Resolve(segment.Events[i], take, segment));
                }

                if (segment.Events[i] is StrokeSettled settled && drawn.TryGetValue(settled.Stroke, out var before))
                {
                    actions.AddRange(Settle(settled, before, segment.At(settled.Time)));
                }

                if (segment.Events[i] is TextTyped t)
                {
                    var letters = Writing.Of(t.Text, t.Looks);
                    actions.Add(new Typed(
                        segment.At(t.Time), new(take, t.Number), texts.Add(t.Number), t.Board, t.Place[0], t.Place[1], t.Size, t.Ink, letters));
                }

                if (segment.Events[i] is WentBack w && segments.LastOrDefault(s => s.Start.Segment == w.Segment)?.AtSample(w.Sample) is { } to
                    && segment.At(w.Time) is var at && to < at)
                {
                    actions.Add(new Retaken(at, to));
                }
            }
        }

        for (var i = 0; i < actions.Count && actions[i] is BoardChanged or ViewChanged && actions[i].At < LatestOpening; i++)
        {
            actions[i] = actions[i] with { At = TakeTime.Zero };
        }

        // Stable: events with the same time stay in the order they were journalled.
        return [.. actions.OrderBy(a => a.At)];
    }

    // The drawn stroke goes and the settled one comes, by one action.
    private static TakeAction[] Settle(StrokeSettled settled, StrokeDrawn drawn, TakeTime at)
    {
        TakePoint Point(int end) => new((int)settled.Line[2 * end], (int)settled.Line[(2 * end) + 1], TakePoint.Even, at);
        return
        [
            new StrokesErased(at, settled.Action, [drawn.Stroke]),
            drawn with
            {
                At = at, Stroke = drawn.Stroke with { Number = settled.Action }, Points = [Point(0), Point(1)], LineHeight = settled.Height,
            },
        ];
    }

    // The strokes that have points and weren't cancelled, at the index of the event that began them.
    private static StrokeDrawn?[] Strokes(TakeId take, SegmentReader segment)
    {
        var data = new Dictionary<int, List<long[]>>();
        foreach (var happened in segment.Events)
        {
            if (happened is StrokePoints p)
            {
                (data.TryGetValue(p.Stroke, out var known) ? known : data[p.Stroke] = []).Add(p.Data);
            }
            else if (happened is StrokeCancelled cancelled)
            {
                data.Remove(cancelled.Stroke);
            }
        }

        var strokes = new StrokeDrawn?[segment.Events.Count];
        Parallel.For(0, strokes.Length, i =>
        {
            if (segment.Events[i] is StrokeBegun s && data.TryGetValue(s.Stroke, out var rows))
            {
                var points = Plain(Points(rows, segment));
                strokes[i] = new StrokeDrawn(points[0].At, new(take, s.Stroke), s.Board, InkStyle.IndexOf(s.Tool, s.Ink, s.Width), points);
            }
        });
        return strokes;
    }

    private static TakePoint[] Points(List<long[]> rows, SegmentReader segment)
    {
        var points = new List<TakePoint>();
        foreach (var data in rows)
        {
            for (var i = 0; i + 3 < data.Length; i += 4)
            {
                var at = segment.At(data[i + 3] / 10.0);

                // Stamps of one pen never run backwards; if a browser's do, the later point waits for the earlier.
                at = points.Count > 0 && at < points[^1].At ? points[^1].At : at;
                points.Add(new((int)data[i], (int)data[i + 1], (byte)Math.Clamp(data[i + 2], 0, 255), at));
            }
        }

        return [.. points];
    }

    private static TakePoint[] Plain(TakePoint[] points) =>
        Simplification.Simplify(Smoothing.Smooth(points), Simplification.InkTolerance - Smoothing.MaxShift);

    private static IEnumerable<TakeAction> Resolve(TakeEvent happened, TakeId take, SegmentReader segment)
    {
        switch (happened)
        {
            case Erased e:
                var erased = e.Strokes.Select(s => StrokeKey.Parse(s, take)).OfType<StrokeKey>().ToArray();
                yield return new StrokesErased(segment.At(e.Time), e.Action, erased);
                break;
            case KeyLineMade k:
                yield return new KeyLineChanged(
                    segment.At(k.Time), [.. k.Strokes.Select(s => new StrokeKey(take, s))], KeyLineKinds.Parse(k.Kind), k.Text, k.IsMust);
                break;
            case SettlingUnanswered s:
                yield return new LeftUnsettled(segment.At(s.Time), new(take, s.Stroke), KeyLineKinds.Parse(s.Kind));
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
            case LitUp l:
                yield return new LightChanged(segment.At(l.Time), l.Board, l.Outline.Length > 0 ? new Light(l.Outline) : null);
                break;
            case NoteMade n when NoteKinds.Parse(n.Kind) is { } kind:
                yield return new Noted(segment.At(n.Time), n.Number, kind, n.Text, Duration.FromMilliseconds(n.WaitMs));
                break;
            case TermNoted n:
                yield return new Noted(segment.At(n.Time), n.Number, NoteKind.TermSaid, n.Word, Duration.Zero, n.Term);
                break;
            case NoteTakenOff n:
                yield return new NoteRemoved(segment.At(n.Time), n.Number);
                break;
            case NoteOver n:
                yield return new NoteEnded(segment.At(n.Time), n.Number);
                break;
            case CoverLifted c:
                yield return new CoverChanged(segment.At(c.Time), c.Board, c.Item, c.IsUncovered);
                break;
        }
    }
}
