using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>Lays the points of pens and pointers into the lesson.</summary>
internal static class PointMapping
{
    /// <summary>
    /// All points of a stroke that begins within the map's source. Where it crosses from one piece to the next it gets a point, so
    /// that each part is drawn at its own pace; what reaches past the end is finished there.
    /// </summary>
    public static InkPoint[] Stroke(IReadOnlyList<TakePoint> points, TimeMap map) => Map(points, map, keepsCut: true);

    /// <summary>The pointer's path within the map's source: where it was meanwhile during a cut isn't seen.</summary>
    public static InkPoint[] Pointer(PointerRun run, TimeMap map)
    {
        var (source, points) = (map.Source, run.Points);
        var end = run.End < source.End ? run.End : source.End;
        if (points[^1].At < end && map.IndexOf(points[^1].At) < map.IndexOf(end))
        {
            // It rests beyond the end of a piece, which may be a cut that it came to rest in.
            points = [.. points, points[^1] with { At = end }];
        }

        var within = PenPath.Before(points, source.End);
        var first = points.Count;
        while (first > 0 && points[first - 1].At > source.Start)
        {
            first--;
        }

        // Where it was when the placement begins.
        var before = first == 0 ? null
            : first == points.Count ? points[^1] with { At = source.Start }
            : (TakePoint?)PenPath.Between(points[first - 1], points[first], source.Start);
        return Map(before is { } start ? [start, .. within.Skip(first)] : within, map, keepsCut: false);
    }

    /// <summary>Ink drawn at a standstill: it runs on from its moment, up to the next join or board change.</summary>
    public static InkPoint[] Standstill(IReadOnlyList<AddedPoint> points, LessonTime at, LessonTime limit) =>
        [.. points.Select(p => new InkPoint(p.X, p.Y, p.Pressure, (at + p.After < limit ? at + p.After : limit).WholeMilliseconds))];

    private static InkPoint[] Map(IReadOnlyList<TakePoint> points, TimeMap map, bool keepsCut)
    {
        var piece = map.IndexOf(points[0].At);
        if (points[^1].At < map.Pieces[piece].Source.End && map.Pieces[piece].Kind != PieceKind.TakenBack)
        {
            var whole = new InkPoint[points.Count];
            for (var i = 0; i < whole.Length; i++)
            {
                whole[i] = Point(points[i], map.Pieces[piece].ToLesson(points[i].At));
            }

            return whole;
        }

        var mapped = new List<InkPoint>();
        for (var i = 0; i < points.Count; i++)
        {
            for (; i > 0 && piece + 1 < map.Pieces.Count && map.Pieces[piece + 1].Source.Start <= points[i].At; piece++)
            {
                Add(mapped, PenPath.Between(points[i - 1], points[i], map.Pieces[piece].Source.End), map.Pieces[piece].Target.End);
            }

            if (keepsCut || !map.Pieces[piece].IsCut || i == 0)
            {
                Add(mapped, points[i], map.ToLesson(points[i].At));
            }
        }

        return [.. mapped];
    }

    private static void Add(List<InkPoint> mapped, TakePoint point, LessonTime at)
    {
        if (Point(point, at) is var next && (mapped.Count == 0 || mapped[^1] != next))
        {
            mapped.Add(next);
        }
    }

    private static InkPoint Point(TakePoint point, LessonTime at) => new(point.X, point.Y, point.Pressure, at.WholeMilliseconds);
}
