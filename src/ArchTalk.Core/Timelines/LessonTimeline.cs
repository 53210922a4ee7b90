using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>Which boards are shown.</summary>
/// <param name="Board">Index of the board.</param>
/// <param name="Beside">Index of the board in the second pane, when two are compared.</param>
public readonly record struct ShownBoards(int Board, int? Beside = null);

/// <summary>A thinking stop in the lesson.</summary>
/// <param name="At">Where playback halts.</param>
/// <param name="AnswerAt">Where the answer is uncovered; null when there is none to show.</param>
public sealed record TimedStop(LessonTime At, ThinkingStop Stop, LessonTime? AnswerAt);

/// <summary>A stretch of a take in the lesson.</summary>
/// <param name="InsteadOf">The stretches in whose stead the take was recorded.</param>
public sealed record TimelinePlacement(TakeId Take, TimeMap Map, IReadOnlyList<TakeStretch> InsteadOf);

/// <summary>
/// The compiled lesson. Every rule is already applied: what is left is spans and steps, and <see cref="At"/> says what is
/// there at a time. Players and painters hold no rules of their own and must agree with it.
/// </summary>
/// <param name="Shown">Which boards are shown from each time on; the first at 0 when there is any board.</param>
/// <param name="Pointer">Where the pointer is, in order of time.</param>
/// <param name="Stops">In order of time.</param>
/// <param name="Placements">Where stretches of takes lie.</param>
public sealed record LessonTimeline(
    Duration Length,
    IReadOnlyList<TimelineBoard> Boards,
    IReadOnlyList<Step<ShownBoards>> Shown,
    IReadOnlyList<TimelinePointer> Pointer,
    IReadOnlyList<TimedStop> Stops,
    IReadOnlyList<TimelinePlacement> Placements)
{
    /// <summary>In order of time.</summary>
    public IReadOnlyList<KeyLine> KeyLines { get; init; } = [];

    public IReadOnlyList<TermSaid> TermsSaid { get; init; } = [];

    /// <summary>The scene at a time. Times after the end show the end.</summary>
    /// <exception cref="InvalidOperationException">The lesson has no boards.</exception>
    public Scene At(LessonTime time)
    {
        if (Boards.Count == 0)
        {
            throw new InvalidOperationException("A lesson without boards has no scene.");
        }

        var shown = Shown.ValueAt(time, new ShownBoards(0));
        var place = PointerAt(time)?.At(time);
        return new Scene(shown.Beside is { } beside
            ? [PaneAt(shown.Board, 0, time, place), PaneAt(beside, 1, time, place)]
            : [PaneAt(shown.Board, 0, time, place)]);
    }

    /// <summary>The presence of the pointer at a time; null when it is away.</summary>
    public TimelinePointer? PointerAt(LessonTime time) =>
        Pointer.LastOrDefault(p => p.Birth <= time) is { } run && (run.Death is not { } death || time < death) ? run : null;

    private Pane PaneAt(int index, int pane, LessonTime time, PointerPlace? pointer)
    {
        var board = Boards[index];
        var strokes = new List<VisibleStroke>();
        for (var i = 0; i < board.Strokes.Count && board.Strokes[i].Birth <= time; i++)
        {
            if (board.Strokes[i].IsAliveAt(time))
            {
                strokes.Add(new(i, board.Strokes[i].DrawnBy(time)));
            }
        }

        var height = board.Heights.ValueAt(time, board.Board.Height);
        return new Pane(
            index,
            height,
            board.Views[pane].ValueAt(time, View.Top).Within(height),
            strokes,
            pointer is { } p && p.Board == index ? p : null,
            [.. board.Items.Where(i => !i.Shows.ValueAt(time, before: true)).Select(i => i.Item)],
            [.. board.Parameters.Where(p => p.Values.ValueAt(time, null) is not null)
                .Select(p => new ParameterValue(p.Item, p.Name, p.Values.ValueAt(time, null)!.Value))],
            [.. board.Texts.Select((t, i) => (Text: t, Index: i)).Where(t => t.Text.IsAliveAt(time))
                .Select(t => new VisibleText(t.Index, t.Text.Steps.ValueAt(time, Writing.Empty)))],
            board.Lights.ValueAt(time, null));
    }
}
