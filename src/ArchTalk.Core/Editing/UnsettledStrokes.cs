using ArchTalk.Core.Recording;

namespace ArchTalk.Core.Editing;

/// <summary>Strokes that were drawn while nobody could say on which words they settle.</summary>
public static class UnsettledStrokes
{
    /// <summary>Those that still counted when the take ended, in the order they were drawn, with the key line that they were to become.</summary>
    public static IEnumerable<(StrokeDrawn Stroke, KeyLineKind? Becomes)> Of(TakeLog log)
    {
        var (left, drawn, gone) = (new List<LeftUnsettled>(), new Dictionary<StrokeKey, StrokeDrawn>(), new HashSet<StrokeKey>());
        foreach (var action in log.Live.Actions)
        {
            switch (action)
            {
                case StrokeDrawn stroke:
                    drawn[stroke.Stroke] = stroke;
                    break;
                case LeftUnsettled unsettled:
                    left.Add(unsettled);
                    break;
                case StrokesErased erased:
                    gone.UnionWith(erased.Strokes);
                    break;
                case ActionUndone undone:
                    gone.Add(new(log.Id, undone.Action));
                    break;
                case ActionRedone redone:
                    gone.Remove(new(log.Id, redone.Action));
                    break;
            }
        }

        return from unsettled in left.DistinctBy(u => u.Stroke)
               where drawn.ContainsKey(unsettled.Stroke) && !gone.Contains(unsettled.Stroke)
               select (drawn[unsettled.Stroke], unsettled.Becomes);
    }
}
