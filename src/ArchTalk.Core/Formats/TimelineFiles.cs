using ArchTalk.Core.Boards.Items;
using System.Globalization;
using System.Text.Json;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Formats;

/// <summary>
/// What players read of a compiled lesson: timeline.json, a file for each board, and one for each minute of the pointer
/// (docs/formats/timeline.md and the JSON Schema beside it).
/// </summary>
public static class TimelineFiles
{
    public const string Format = "archtalk-timeline";

    public const int Version = 2;

    // The pointer is cut by the minute, so that a long lesson is fetched as it is watched.
    private const int Minute = 60_000;

    /// <summary>The address of a board's file, relative to the timeline.</summary>
    public static string InkName(int board) => string.Create(CultureInfo.InvariantCulture, $"ink/{board}.json");

    /// <summary>The address of what lies under the covers of a board, relative to the timeline.</summary>
    public static string UnderName(int board) => string.Create(CultureInfo.InvariantCulture, $"ink/{board}-under.json");

    /// <summary>The address of the pointer within a minute, relative to the timeline.</summary>
    public static string PointerName(int minute) => string.Create(CultureInfo.InvariantCulture, $"pointer/{minute}.json");

    public static byte[] ToBytes<T>(T file) => JsonSerializer.SerializeToUtf8Bytes(file, JsonSerializerOptions.Web);

    /// <param name="pictures">For each board, its copies from small to large; empty for a board without a picture.</param>
    /// <param name="chapters">Placed on the timeline.</param>
    /// <param name="covered">The boards of which what lies under covers is in a file of its own.</param>
    public static TimelineFile Timeline(
        LessonTimeline timeline, IReadOnlyList<IReadOnlyList<BoardPicture>> pictures, IReadOnlyList<TimedChapter> chapters,
            IReadOnlySet<int>? covered = null) => new(
        (LessonTime.Zero + timeline.Length).WholeMilliseconds,
        InkStyle.All,
        [.. timeline.Boards.Select((b, i) => Entry(b, i, pictures[i], covered?.Contains(i) == true))],
        Rows.Of(3, timeline.Shown, (s, row) => row.AddRange([s.At.WholeMilliseconds, s.Value.Board, s.Value.Beside ?? -1])),
        [.. PointerMinutes(timeline)],
        [.. timeline.Placements.Select(Entry)],
        [.. chapters.Select(c => new ChapterEntry(c.At.WholeMilliseconds, c.Title, c.Id))],
        [.. timeline.Stops.Select(Entry)],
        [.. timeline.KeyLines.Select(Entry)],
        [.. timeline.TermsSaid.Select(t => new TermEntry(t.At.WholeMilliseconds, t.Term))]);

    /// <param name="description">What there is to see on the board, in words; may be empty.</param>
    /// <param name="blanks">What is to be filled in on it.</param>
    public static BoardFile Board(
        TimelineBoard board, IReadOnlyList<PlacedDrawing> items, string description = "", IReadOnlyList<BlankPlace>? blanks = null) => new(
        board.Board.Id, description, items, [.. board.Strokes.Select(Entry)], [.. board.Texts.Select(Entry)],
        [.. (blanks ?? []).OrderBy(b => Math.Round(b.Y)).ThenBy(b => b.X).Select(b => Entry(b, board))]);

    /// <summary>The same with only those strokes that are there at the end: what a take goes on from.</summary>
    public static BoardFile BoardAtEnd(TimelineBoard board, IReadOnlyList<PlacedDrawing> items, string description = "") =>
        new(board.Board.Id, description, items, [.. board.Strokes.Where(s => s.Lives[^1].Death is null).Select(Entry)],
            [.. board.Texts.Where(t => t.Lives[^1].Death is null).Select(Entry)], []);

    /// <summary>The pointer from the beginning of a minute, counted from 0, to its end.</summary>
    public static PointerFile Pointer(LessonTimeline timeline, int minute)
    {
        var (start, end) = (minute * Minute, (minute + 1) * Minute);
        return new PointerFile([.. timeline.Pointer.Where(r => From(r) < end && start < To(r)).Select(r => Part(r, start, end))]);
    }

    private static IEnumerable<int> PointerMinutes(LessonTimeline timeline)
    {
        var last = (LessonTime.Zero + timeline.Length).WholeMilliseconds;
        return timeline.Pointer.SelectMany(r => Enumerable.Range(From(r) / Minute, ((Math.Min(To(r) - 1, last) / Minute) - (From(r) / Minute)) + 1))
            .Distinct()
            .Order();
    }

    private static PointerEntry Part(TimelinePointer run, int start, int end)
    {
        // The place at which it comes into the minute, and what follows within.
        var rows = run.Points.Where(p => p.Milliseconds > start && p.Milliseconds < end).Select(p => (p.Milliseconds, p.X, p.Y)).ToList();
        AddAt(Math.Max(start, From(run)), 0);
        if (To(run) > end)
        {
            AddAt(end, rows.Count);
        }

        void AddAt(int at, int index)
        {
            var place = run.At(LessonTime.FromMilliseconds(at));
            if (rows.Count == 0 || rows[Math.Min(index, rows.Count - 1)].Milliseconds != at)
            {
                rows.Insert(index, (at, place.X, place.Y));
            }
        }

        return new PointerEntry(
            run.Board, Math.Max(start, From(run)), To(run) > end ? end : run.Death is null ? -1 : To(run),
            Rows.Of(3, rows, (p, row) => row.AddRange([p.Milliseconds, p.X, p.Y])));
    }

    private static int From(TimelinePointer run) => run.Birth.WholeMilliseconds;

    private static int To(TimelinePointer run) => run.Death?.WholeMilliseconds ?? int.MaxValue;

    private static BoardEntry Entry(TimelineBoard board, int index, IReadOnlyList<BoardPicture> pictures, bool isCovered) => new(
        board.Board.Id,
        board.Board.Title,
        board.Board.Height,
        Rows.Of(2, board.Heights, (h, row) => row.AddRange([h.At.WholeMilliseconds, h.Value])),
        [.. board.Views.Select(v => Rows.Of(4, v, (s, row) => row.AddRange([s.At.WholeMilliseconds, s.Value.X, s.Value.Y, s.Value.Width])))],
        pictures,
        [.. board.Items.Select(i => new ItemEntry(i.Item, Rows.Of(2, i.Shows, (s, row) => row.AddRange([s.At.WholeMilliseconds, s.Value ? 1 : 0]))))],
        [.. board.Parameters.Select(p => new ParameterEntry(
            p.Item, p.Name, Rows.Of(3, p.Values, (s, row) => row.AddRange([s.At.WholeMilliseconds, s.Value is null ? 0 : 1, s.Value ?? 0]))))],
        [.. board.Lights.Select(Entry)],
        InkName(index),
        isCovered ? UnderName(index) : null,
        board.Strokes.Count);

    private static StrokeEntry Entry(TimelineStroke stroke) => new(
        stroke.Key.Stroke.ToString(),
        stroke.Style,
        Times(stroke.Lives),
        Rows.Of(4, stroke.Points, (p, row) => row.AddRange([p.X, p.Y, p.Pressure, p.Milliseconds])),
        stroke.LineHeight);

    private static TextEntry Entry(TimelineText text) => new(
        text.Key.Stroke.ToString(), text.X, text.Y, text.Size, InkStyle.All[InkStyle.IndexOf(InkStyle.Pen, text.Ink, "medium")].Color,
        Times(text.Lives),
        [.. text.Steps.Select(s => new TextStep(s.At.WholeMilliseconds, s.Value.Text, s.Value.Looks.Length > 0 ? s.Value.Looks : null))]);

    private static BlankEntry Entry(BlankPlace blank, TimelineBoard board)
    {
        var filled = FilledBlanks.Of(blank, board);
        int[] box = [.. new[] { blank.X, blank.Y, blank.Width, blank.Height }.Select(n => (int)Math.Round(n * 10))];
        return new(box, filled?.At.WholeMilliseconds, filled?.WholeAt.WholeMilliseconds);
    }

    private static int[] Times(IEnumerable<Life> lives) =>
        [.. lives.SelectMany(l => (int[])[l.Birth.WholeMilliseconds, l.Death?.WholeMilliseconds ?? -1])];

    private static LightEntry Entry(Step<Light?> step) => new(
        step.At.WholeMilliseconds, Rows.Of(2, step.Value?.Outline.Chunk(2).ToArray() ?? [], (p, row) => row.AddRange([p[0], p[1]])));

    private static KeyLineEntry Entry(KeyLine line) => new(
        line.At.WholeMilliseconds, line.WholeAt.WholeMilliseconds, line.Board, line.Stroke.Stroke.ToString(),
        KeyLineKinds.Name(line.Kind), line.Text, line.IsMust,
        [(int)line.Box.X, (int)line.Box.Y, (int)Math.Ceiling(line.Box.Width), (int)Math.Ceiling(line.Box.Height)]);

    private static PlacementEntry Entry(TimelinePlacement placement) => new(
        placement.Take.Value,
        [.. placement.Map.Pieces.Select(Entry)],
        placement.InsteadOf.Count == 0
            ? null
            : [.. placement.InsteadOf.Select(s => new StretchEntry(s.Take.Value, [s.Source.Start.Samples, s.Source.End.Samples]))]);

    private static PieceEntry Entry(TimeMapPiece piece) => new(
        piece.Kind switch
        {
            PieceKind.Straight => "straight",
            PieceKind.Shortened => "shortened",
            PieceKind.Pause => "pause",
            PieceKind.TakenBack => "takenBack",
            _ => "cut",
        },
        [piece.Source.Start.Samples, piece.Source.End.Samples],
        [piece.Target.Start.Samples, piece.Target.End.Samples]);

    private static StopEntry Entry(TimedStop stop) => new(
        stop.At.WholeMilliseconds,
        stop.Stop.Kind switch
        {
            StopKind.SetTime => "setTime",
            StopKind.UntilAnswerShown => "untilAnswerShown",
            _ => "untilStudentGoesOn",
        },
        stop.Stop.Question,
        (int)stop.Stop.Wait.Milliseconds,
        stop.AnswerAt?.WholeMilliseconds);
}
