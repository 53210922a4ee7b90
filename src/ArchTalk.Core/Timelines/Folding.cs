using System.Collections.Immutable;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>
/// The second pass of compiling: goes through the actions in order, keeps the state of the lesson, and writes down when strokes
/// live and from when values hold. What is done to a stroke is done to every copy that the lesson has of it so far; what is done to
/// one that it doesn't have, or on a board it doesn't have, changes nothing.
/// </summary>
/// <param name="indexes">Of the lesson's boards.</param>
/// <param name="placements">The numbers of the placements of each take.</param>
internal sealed class Folding(IReadOnlyDictionary<Guid, int> indexes, ILookup<TakeId, int> placements)
{
    private readonly MarkHistory marks = new();
    private readonly Dictionary<MarkKey, (Typed First, List<Step<Writing>> Steps)> texts = [];
    private readonly List<Step<ShownBoards>> shown = [];
    private readonly Dictionary<(int Board, int Pane), List<Step<View>>> views = [];
    private readonly Dictionary<int, List<Step<Light?>>> lights = [];
    private readonly Dictionary<int, List<Step<int>>> heights = [];
    private readonly Dictionary<(int Board, Guid Item), List<Step<bool>>> shows = [];
    private readonly Dictionary<(int Board, Guid Item, string Name), List<Step<int?>>> parameters = [];

    private LessonState state = LessonState.Empty;

    /// <summary>The lesson opens with its first board, also when that is shown a while later.</summary>
    public IReadOnlyList<Step<ShownBoards>> Shown => shown.Count == 0 ? [] : [shown[0] with { At = LessonTime.Zero }, .. shown.Skip(1)];

    public IReadOnlyList<Life> LivesOf(MarkKey mark) => marks.LivesOf(mark);

    /// <summary>Whether a stroke is undone, or isn't in the lesson any more.</summary>
    public bool IsUndone(MarkKey mark) => marks[mark] is not { IsDrawn: true };

    /// <summary>How high a board is now, in units.</summary>
    public int HeightOf(int board) => state.Heights[board];

    /// <summary>The lesson as it is so far, to go back to.</summary>
    public LessonState Keep() => state with { Marks = marks.Keep() };

    /// <summary>What was typed on a board and was to be seen, ordered by birth.</summary>
    public IEnumerable<TimelineText> TextsOf(int board) => texts.Where(t => Index(t.Value.First.Board) == board && LivesOf(t.Key).Count > 0)
        .Select(t => new TimelineText(t.Key, t.Value.First.X, t.Value.First.Y, t.Value.First.Size, t.Value.First.Ink, LivesOf(t.Key), t.Value.Steps))
        .OrderBy(t => t.Birth).ThenBy(t => t.Key.Placement).ThenBy(t => t.Key.Stroke.Number);

    public IReadOnlyList<Step<int>> HeightsOf(int board) => heights[board];

    public IReadOnlyList<Step<View>> ViewsOf(int board, int pane) => views.TryGetValue((board, pane), out var found) ? found : [];

    public IReadOnlyList<Step<Light?>> LightsOf(int board) => lights.TryGetValue(board, out var found) ? found : [];

    public IEnumerable<ItemSpans> ItemsOf(int board) =>
        shows.Where(s => s.Key.Board == board && s.Value is not [{ Value: true }]).OrderBy(s => s.Key.Item)
            .Select(s => new ItemSpans(s.Key.Item, s.Value));

    public IEnumerable<ParameterSteps> ParametersOf(int board) => parameters.Where(p => p.Key.Board == board)
        .OrderBy(p => p.Key.Item).ThenBy(p => p.Key.Name, StringComparer.Ordinal).Select(p => new ParameterSteps(p.Key.Item, p.Key.Name, p.Value));

    /// <summary>A board is as high as it is from the beginning on.</summary>
    public void Begin(int board, int height) => SetHeight(board, height, LessonTime.Zero);

    /// <param name="placement">The number of the placement that the action lies in.</param>
    /// <param name="take">Its take.</param>
    /// <returns>The stroke, when one was drawn.</returns>
    public MarkKey? Apply(TakeAction action, int placement, TakeId take, LessonTime at)
    {
        switch (action)
        {
            case StrokeDrawn s:
                return Draw(new(placement, s.Stroke), s.Board, at);
            case StandstillDrawn s:
                return Draw(new(placement, s.Stroke), s.Board, at);
            case Typed t when Index(t.Board) is not null:
                Type(t, placement, at);
                break;
            case StrokesErased e:
                Erase(new(placement, new(take, e.Action)), e.Strokes, at);
                break;
            case ActionUndone u:
                SetDone(new(take, u.Action), isDone: false, at);
                break;
            case ActionRedone r:
                SetDone(new(take, r.Action), isDone: true, at);
                break;
            case MarkEnded m:
                Change(Copies(m.Stroke), s => s with { IsEnded = true }, at);
                break;
            case BoardChanged b when Index(b.Board) is { } board:
                SetShown(new ShownBoards(board, Index(b.Beside)), at);
                break;
            case ViewChanged v when Index(v.Board) is { } board:
                SetView((board, v.Pane), new View(v.X, v.Y, v.Width).Within(state.Heights[board]), at);
                break;
            case BoardLengthened g when Index(g.Board) is { } board && g.Height > state.Heights[board]:
                SetHeight(board, Math.Min(g.Height, Board.MaxHeight), at);
                break;
            case CoverChanged c when Index(c.Board) is { } board:
                SetShows((board, c.Item), !c.IsUncovered, at);
                break;
            case LightChanged l when Index(l.Board) is { } board:
                SetLight(board, l.Light, at);
                break;
            case ParameterSet p when Index(p.Board) is { } board:
                SetParameter((board, p.Item, p.Name), p.Value, at);
                break;
        }

        return null;
    }

    /// <summary>Everything is as it was: strokes drawn since are gone, those that went since are back.</summary>
    public void SetBack(LessonState to, LessonTime at)
    {
        marks.GoBack(to.Marks, at);

        foreach (var text in state.Texts.Keys)
        {
            SetText(text, to.Texts.GetValueOrDefault(text, Writing.Empty), at);
        }

        state = state with { Erasures = to.Erasures };
        if (to.Shown is { } boards)
        {
            SetShown(boards, at);
        }

        // What was never moved, lifted or set by then is as it was at the beginning.
        foreach (var key in state.Views.Keys)
        {
            SetView(key, to.Views.GetValueOrDefault(key, View.Top), at);
        }

        foreach (var (board, height) in to.Heights)
        {
            SetHeight(board, height, at);
        }

        foreach (var board in state.Lights.Keys)
        {
            SetLight(board, to.Lights.GetValueOrDefault(board), at);
        }

        foreach (var key in state.Shows.Keys)
        {
            SetShows(key, to.Shows.GetValueOrDefault(key, defaultValue: true), at);
        }

        foreach (var key in state.Parameters.Keys)
        {
            SetParameter(key, to.Parameters.GetValueOrDefault(key), at);
        }
    }

    private MarkKey? Draw(MarkKey mark, Guid board, LessonTime at)
    {
        if (Index(board) is null || marks.Has(mark))
        {
            return null;
        }

        marks.Set(mark, MarkState.New, at);
        return mark;
    }

    // What goes on is the same text; where its beginning isn't in the lesson it begins here.
    private void Type(Typed typed, int placement, LessonTime at)
    {
        var copies = typed.IsFirst ? [] : Copies(typed.Text);
        if (copies.Length == 0)
        {
            var key = new MarkKey(placement, typed.Text);
            if (marks.Has(key))
            {
                return;
            }

            texts.TryAdd(key, (typed, []));
            marks.Set(key, MarkState.New, at);
            copies = [key];
        }

        foreach (var copy in copies.Where(texts.ContainsKey))
        {
            SetText(copy, typed.Letters, at);
        }
    }

    private void SetText(MarkKey text, Writing letters, LessonTime at)
    {
        state = state with { Texts = state.Texts.SetItem(text, letters) };
        texts[text].Steps.Add(at, letters);
    }

    private void Erase(MarkKey erasure, IEnumerable<StrokeKey> strokes, LessonTime at)
    {
        var hit = strokes.Distinct().SelectMany(Copies).Where(m => marks[m]!.IsAlive).ToImmutableArray();
        Change(hit, s => s with { ErasedBy = s.ErasedBy.Add(erasure) }, at);
        state = state with { Erasures = state.Erasures.SetItem(erasure, hit) };
    }

    private void SetDone(StrokeKey action, bool isDone, LessonTime at)
    {
        Change(Copies(action), s => s with { IsDrawn = isDone }, at);
        foreach (var erasure in placements[action.Take].Select(p => new MarkKey(p, action)).Where(state.Erasures.ContainsKey))
        {
            Change(state.Erasures[erasure], s => s with { ErasedBy = isDone ? s.ErasedBy.Add(erasure) : s.ErasedBy.Remove(erasure) }, at);
        }
    }

    private MarkKey[] Copies(StrokeKey stroke) => [.. placements[stroke.Take].Select(p => new MarkKey(p, stroke)).Where(marks.Has)];

    private void Change(IEnumerable<MarkKey> changed, Func<MarkState, MarkState> change, LessonTime at)
    {
        foreach (var mark in changed)
        {
            marks.Set(mark, change(marks[mark]!), at);
        }
    }

    private void SetShown(ShownBoards boards, LessonTime at)
    {
        state = state with { Shown = boards };
        shown.Add(at, boards);
    }

    private void SetView((int Board, int Pane) key, View view, LessonTime at)
    {
        state = state with { Views = state.Views.SetItem(key, view) };
        Of(views, key).Add(at, view);
    }

    private void SetHeight(int board, int height, LessonTime at)
    {
        state = state with { Heights = state.Heights.SetItem(board, height) };
        Of(heights, board).Add(at, height);
    }

    private void SetLight(int board, Light? light, LessonTime at)
    {
        state = state with { Lights = state.Lights.SetItem(board, light) };
        Of(lights, board).Add(at, light);
    }

    private void SetShows((int Board, Guid Item) key, bool doesShow, LessonTime at)
    {
        state = state with { Shows = state.Shows.SetItem(key, doesShow) };
        var steps = Of(shows, key);
        if (steps.Count == 0)
        {
            // Every cover lies in its place until it is first lifted.
            steps.Add(LessonTime.Zero, value: true);
        }

        steps.Add(at, doesShow);
    }

    private void SetParameter((int Board, Guid Item, string Name) key, int? value, LessonTime at)
    {
        state = state with { Parameters = state.Parameters.SetItem(key, value) };
        Of(parameters, key).Add(at, value);
    }

    private int? Index(Guid? board) => board is { } id && indexes.TryGetValue(id, out var index) ? index : null;

    private static List<Step<T>> Of<TKey, T>(Dictionary<TKey, List<Step<T>>> lists, TKey key)
        where TKey : notnull => lists.TryGetValue(key, out var steps) ? steps : lists[key] = [];
}
