using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>
/// A take written down in seconds, for small examples. Strokes are numbered and each lies on its own line, so that pictures show
/// which is there.
/// </summary>
internal sealed class Script(int take, double seconds)
{
    public static readonly Board[] Boards = [new(Guid
        .Parse("00000000-0000-0000-0000-00000000000a"), "A", 900), new(Guid.Parse("00000000-0000-0000-0000-00000000000b"), "B", 900)];
    public static readonly Guid Cover = Guid.Parse("00000000-0000-0000-0000-0000000000c0");

    private readonly List<TakeAction> actions = [];
    private TakePlace? place;

    public TakeId Id { get; } = new(new Guid(take, 0, 0, new byte[8]));

    public TakeLog Log => new(Id, Duration.FromSeconds(seconds), [.. actions.OrderBy(a => a.At)], place: place);

    public static TakeTime At(double second) => TakeTime.FromSeconds(second);

    public static TimeRange<TakeTime> From(double from, double to) => new(At(from), At(to));

    public Script Stroke(int number, double from, double to, int board = 0)
    {
        var points = Enumerable.Range(0, 5).Select(i => new TakePoint(2000 + (i * 3000), 700 + (number * 900), 128, At(from + ((to - from) * i / 4))))
            .ToArray();
        return Add(new StrokeDrawn(At(from), new(Id, number), Boards[board].Id, number % 5 * 3, points));
    }

    public Script For(Moment from, Moment until)
    {
        place = new(from, until);
        return this;
    }

    public Script Erase(int action, double at, params int[] strokes) =>
        Add(new StrokesErased(At(at), action, [.. strokes.Select(s => new StrokeKey(Id, s))]));

    public Script Undo(double at, int action) => Add(new ActionUndone(At(at), action));

    public Script Unsettled(double at, int stroke, KeyLineKind? becomes = null) => Add(new LeftUnsettled(At(at), new(Id, stroke), becomes));

    public Script Show(double at, int board) => Add(new BoardChanged(At(at), Boards[board].Id));

    public Script View(double at, int y, int width = 8000, int board = 0) => Add(new ViewChanged(At(at), Boards[board].Id, 0, y, width));

    public Script Uncover(double at, int board = 0, bool isUncovered = true) => Add(new CoverChanged(At(at), Boards[board].Id, Cover, isUncovered));

    public Script Lengthen(double at, int height, int board = 0) => Add(new BoardLengthened(At(at), Boards[board].Id, height));

    public Script Point(double at, int x, int board = 0) => Add(new PointerChanged(At(at), Boards[board].Id, (x, 8000)));

    public Script Away(double at) => Add(new PointerChanged(At(at), Guid.Empty, null));

    public Script Retake(double at, double to) => Add(new Retaken(At(at), At(to)));

    public Script Note(double at, int number, NoteKind kind, string text) => Add(new Noted(At(at), number, kind, text, Duration.Zero));

    public SequenceRange Range(double from, double to, double? asOf = null) => new(Id, From(from, to), asOf is { } of ? At(of) : null);

    public Cut Cut(double from, double to, bool keepsMarks = false) => new(Id, From(from, to), keepsMarks);

    public Moment Moment(double at) => new(Id, At(at));

    private Script Add(TakeAction action)
    {
        actions.Add(action);
        return this;
    }
}

/// <summary>What is seen of a lesson, in seconds.</summary>
internal sealed class Seen(LessonTimeline timeline, Arrangement arrangement)
{
    public LessonTimeline Timeline { get; } = timeline;

    public Arrangement Arrangement { get; } = arrangement;

    public double Seconds => Timeline.Length.Seconds;

    public static Seen Of(EditList edits, params IEnumerable<Script> takes)
    {
        var arrangement = Arrangement.Resolve([.. takes.Select(t => t.Log)], edits);
        return new Seen(TimelineCompiler.Compile(Script.Boards, arrangement), arrangement);
    }

    public Pane At(double second) => Timeline.At(LessonTime.FromSeconds(second)).Panes[0];

    /// <summary>The numbers of the strokes that are there, a number for each copy.</summary>
    public int[] Strokes(double second)
    {
        var pane = At(second);
        return [.. pane.Strokes.Select(s => Timeline.Boards[pane.Board].Strokes[s.Index].Key.Stroke.Number).Order()];
    }

    /// <summary>How many of its five points are drawn of the one stroke that is there.</summary>
    public double Share(double second)
    {
        var pane = At(second);
        var stroke = pane.Strokes.ShouldHaveSingleItem();
        return (Timeline.Boards[pane.Board].Strokes[stroke.Index].Points[stroke.Points - 1].X - 2000) / 12_000.0;
    }

    public double[] Places(Moment moment, WhenCut whenCut) => [.. Arrangement.Places(moment, whenCut).Select(p => p.Milliseconds / 1000)];
}
