using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>A stroke goes at a moment for good, because the teacher wants it so.</summary>
internal sealed record MarkEnded(TakeTime At, StrokeKey Stroke) : TakeAction(At);

/// <summary>A stroke that was added while the lesson stood still at a moment.</summary>
internal sealed record StandstillDrawn(TakeTime At, StrokeKey Stroke, Guid Board, int Style, IReadOnlyList<AddedPoint> Points) : TakeAction(At);

/// <summary>
/// The first pass of compiling: what is done within each placement, in order, with what the teacher changed about it and added.
/// </summary>
internal sealed class Gathering(EditList edits)
{
    // What lies behind every end.
    private static readonly TakeTime Never = new(long.MaxValue / 2);

    private readonly Dictionary<StrokeKey, MarkChange> changes = Changes(edits);
    private readonly ILookup<TakeId, AddedStroke> added = edits.AddedInk.Where(s => s.Points.Count > 0).ToLookup(s => s.Points[0].Take);

    /// <summary>The actions of a placement with their lesson times. What a cut takes along, and what can't be, is left out.</summary>
    public IEnumerable<(LessonTime At, TakeAction Action)> Of(Placement placement)
    {
        var (map, source) = (placement.Map, placement.Map.Source);
        var actions = ActionsOf(placement);
        var piece = 0;
        for (var i = Search.CountTo(actions.Count, i => actions[i].At < source.Start); i < actions.Count && actions[i].At < source.End; i++)
        {
            while (piece + 1 < map.Pieces.Count && map.Pieces[piece + 1].Source.Start <= actions[i].At)
            {
                piece++;
            }

            if (map.Pieces[piece].Kind != PieceKind.TakenBack && !IsTakenAlong(actions[i], placement, piece))
            {
                yield return (map.Pieces[piece].ToLesson(actions[i].At), actions[i]);
            }
        }
    }

    /// <summary>What the take itself had done about the boards before a placement begins. The last of each counts.</summary>
    public static IEnumerable<TakeAction> OwnBoards(Placement placement) => placement.Path.Actions
        .TakeWhile(a => a.At < placement.Map.Source.Start)
        .Where(a => a is BoardChanged or ViewChanged or BoardLengthened or CoverChanged or LightChanged or ParameterSet)

        // A view is kept within its board, which must have its height before.
        .OrderBy(a => a is not BoardLengthened);

    // What is drawn wholly inside a cut goes with it. What was taken back inside doesn't count.
    private static bool IsTakenAlong(TakeAction action, Placement placement, int piece)
    {
        var map = placement.Map;
        if (map.Pieces[piece].Kind != PieceKind.Cut || action is not (StrokeDrawn or StandstillDrawn or Typed))
        {
            return false;
        }

        var (begin, end) = (piece, piece);
        while (begin > 0 && map.Pieces[begin - 1].Kind is PieceKind.Cut or PieceKind.TakenBack)
        {
            begin--;
        }

        while (end + 1 < map.Pieces.Count && map.Pieces[end + 1].Kind is PieceKind.Cut or PieceKind.TakenBack)
        {
            end++;
        }

        if (action is Typed t)
        {
            var (first, last) = placement.Path.Typing[t.Text];
            return map.Pieces[begin].Source.Start <= first && last < map.Pieces[end].Source.End;
        }

        return action is not StrokeDrawn s || s.End < map.Pieces[end].Source.End;
    }

    private IReadOnlyList<TakeAction> ActionsOf(Placement placement)
    {
        var take = placement.Take;
        if (!added.Contains(take) && !changes.Keys.Any(k => k.Take == take))
        {
            return placement.Path.Actions;
        }

        var actions = new List<TakeAction>();
        foreach (var action in placement.Path.Actions)
        {
            if (action is StrokeDrawn stroke && changes.TryGetValue(stroke.Stroke, out var change))
            {
                actions.AddRange(Changed(stroke, change));
            }
            else
            {
                actions.Add(action);
            }
        }

        actions.AddRange(added[take].Select(Drawn));
        return [.. actions.OrderBy(a => a.At)];
    }

    private static IEnumerable<TakeAction> Changed(StrokeDrawn stroke, MarkChange change)
    {
        if (change.IsGone)
        {
            yield break;
        }

        var later = change.Begins is { } begins ? begins - stroke.At : Duration.Zero;
        var style = InkStyle.All[stroke.Style];
        yield return stroke with
        {
            At = stroke.At + later,
            Style = InkStyle.IndexOf(style.Tool, change.Ink ?? style.Ink, change.Width ?? style.Width),
            Points = [.. PointsOf(stroke, change).Select(p => p with { X = p.X + change.MoveX, Y = p.Y + change.MoveY, At = p.At + later })],
            LineHeight = change.Settled?.Height ?? stroke.LineHeight,
        };
        if (change.Ends is { } ends)
        {
            yield return new MarkEnded(ends, stroke.Stroke);
        }
    }

    // Straight from its beginning to its end.
    private static IReadOnlyList<TakePoint> PointsOf(StrokeDrawn stroke, MarkChange change) => change.Settled is not { } line ? stroke.Points :
    [
        new(line.From.X, line.From.Y, TakePoint.Even, stroke.At), new(line.To.X, line.To.Y, TakePoint.Even, stroke.End),
    ];

    private static TakeAction Drawn(AddedStroke stroke)
    {
        var (key, first) = (new StrokeKey(new TakeId(stroke.Id), 0), stroke.Points[0]);
        var style = InkStyle.IndexOf(stroke.Tool, stroke.Ink, stroke.Width);
        if (stroke.IsAtStandstill)
        {
            return new StandstillDrawn(first.At, key, stroke.Board, style, stroke.Points);
        }

        // Drawn on while the lesson went over to another placement: that part is finished where this one ends.
        var points = new List<TakePoint>();
        foreach (var point in stroke.Points)
        {
            var goesOn = points.Count == 0 || (point.Take == first.Take && point.At >= points[^1].At);
            points.Add(new TakePoint(point.X, point.Y, point.Pressure, goesOn ? point.At : Never));
        }

        return new StrokeDrawn(first.At, key, stroke.Board, style, points);
    }

    private static Dictionary<StrokeKey, MarkChange> Changes(EditList edits)
    {
        var byStroke = new Dictionary<StrokeKey, MarkChange>();
        foreach (var change in edits.Marks)
        {
            byStroke[change.Key] = change;
        }

        return byStroke;
    }
}
