using ArchTalk.Core.Boards;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>What is to be seen at a time, in words that can be compared; the pointer apart, since its path is simplified.</summary>
internal static class SceneText
{
    public static string Of(LessonTimeline timeline, LessonTime time) => string.Join("; ", timeline.At(time).Panes.Select(pane => Pane(
        pane.Board, pane.Height, pane.View, pane.Strokes.Select(s => Stroke(timeline.Boards[pane.Board].Strokes[s.Index], s.Points))
            .Concat(pane.Texts.Select(t => Text(timeline.Boards[pane.Board].Texts[t.Index].Key, t.Letters))), pane.Hidden,
        pane.Parameters.Select(p => $"{p.Item}.{p.Name}={p.Value}"), pane.Light)));

    /// <summary>The key lines of a lesson.</summary>
    public static string KeyLines(IEnumerable<(int Placement, StrokeKey Stroke, long At, int Board, KeyLineKind Kind, string Text)> lines) =>
        Sorted(lines.Select(l => $"{l.Placement}/{l.Stroke}@{l.At} on {l.Board}: {l.Kind} {l.Text}"));

    public static string Pane(
        int board,
        int height,
        View view,
        IEnumerable<string> strokes,
        IEnumerable<Guid> hidden,
        IEnumerable<string> parameters,
        Light? light) =>
        $"board {board} {height} {view} [{Sorted(strokes)}] hidden [{Sorted(hidden.Select(h => $"{h}"))}] [{Sorted(parameters)}]"
        + (light is null ? "" : $" lit {string.Join(',', light.Outline)}");

    public static string Text(MarkKey key, Writing letters) => $"{key.Placement}/{key.Stroke} says {letters.Text} in {letters.Looks}";

    private static string Stroke(TimelineStroke stroke, int drawn) =>
        $"{stroke.Key.Placement}/{stroke.Key.Stroke}/{stroke.Style}-{stroke.LineHeight}@{stroke.Points[drawn - 1].X},{stroke.Points[drawn - 1].Y}";

    private static string Sorted(IEnumerable<string> words) => string.Join(' ', words.Order(StringComparer.Ordinal));
}
