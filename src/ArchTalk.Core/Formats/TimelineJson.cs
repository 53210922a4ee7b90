using System.Text.Json;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Formats;

/// <summary>A copy of a board's picture at one size.</summary>
/// <param name="Source">Its address, relative to the timeline.</param>
/// <param name="Width">In pixels.</param>
/// <param name="Height">In pixels.</param>
public sealed record BoardPicture(string Source, int Width, int Height);

/// <summary>
/// timeline.json and the ink files beside it: what players read (docs/formats/timeline.md). Integers throughout: whole
/// milliseconds, tenths of a board unit, each column of a list as differences to the row before.
/// </summary>
public static class TimelineJson
{
    public const string Format = "archtalk-timeline";

    public const int Version = 1;

    /// <summary>The address of a board's ink, relative to the timeline.</summary>
    public static string InkName(int board) => $"ink/{board}.json";

    /// <summary>The address of what lies under the covers of a board, relative to the timeline.</summary>
    public static string UnderName(int board) => $"ink/{board}-under.json";

    /// <param name="timeline">The compiled lesson.</param>
    /// <param name="pictures">For each board, its copies from small to large; empty for a board without a picture.</param>
    /// <param name="chapters">Placed on the timeline.</param>
    /// <param name="covered">The boards of which what lies under covers is in a file of its own (<see cref="WriteUnder"/>).</param>
    public static byte[] Write(
        LessonTimeline timeline, IReadOnlyList<IReadOnlyList<BoardPicture>> pictures, IReadOnlyList<TimedChapter> chapters, IReadOnlySet<int>? covered = null) => ToBytes(json =>
        {
            json.WriteStartObject();
            json.WriteString("format", Format);
            json.WriteNumber("version", Version);
            json.WriteNumber("length", (LessonTime.Zero + timeline.Length).WholeMilliseconds);
            json.WriteStartArray("styles");
            foreach (var style in InkStyle.All)
            {
                json.WriteStartObject();
                json.WriteString("tool", style.Tool);
                json.WriteString("ink", style.Ink);
                json.WriteString("width", style.Width);
                json.WriteString("color", style.Color);
                json.WriteNumber("units", style.Units);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            WriteBoards(json, timeline, pictures, covered);
            json.WritePropertyName("shown");
            WriteDifferences(json, timeline.Shown.Select(s => (int[])[s.At.WholeMilliseconds, s.Value]));
            WritePointer(json, timeline.Pointer);
            WriteRanges(json, timeline.Ranges);
            json.WriteStartArray("chapters");
            foreach (var chapter in chapters)
            {
                json.WriteStartObject();
                json.WriteNumber("at", chapter.At.WholeMilliseconds);
                json.WriteString("title", chapter.Title);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteEndObject();
        });

    /// <summary>The ink file of one board: its items, from back to front, and its strokes.</summary>
    /// <param name="description">What there is to see on the board, in words; may be empty.</param>
    public static byte[] WriteInk(IReadOnlyList<TimelineStroke> strokes, IReadOnlyList<PlacedDrawing> items, string description = "") => ToBytes(json =>
    {
        json.WriteStartObject();
        json.WriteString("description", description);
        json.WritePropertyName("items");
        JsonSerializer.Serialize(json, items, JsonSerializerOptions.Web);
        json.WriteStartArray("strokes");
        foreach (var stroke in strokes)
        {
            json.WriteStartObject();
            json.WriteString("key", $"{stroke.Key.Take}:{stroke.Key.Number}");
            json.WriteNumber("style", stroke.Style);
            json.WriteStartArray("lives");
            foreach (var life in stroke.Lives)
            {
                json.WriteNumberValue(life.Birth.WholeMilliseconds);
                json.WriteNumberValue(life.Death?.WholeMilliseconds ?? -1);
            }

            json.WriteEndArray();
            json.WritePropertyName("points");
            WriteDifferences(json, stroke.Points.Select(p => (int[])[p.X, p.Y, p.Pressure, p.Milliseconds]));
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    });

    /// <summary>What lies under the covers of a board: its items as they are, and its pictures without anything over them.</summary>
    /// <param name="description">What there is to see on the board without its covers, in words.</param>
    public static byte[] WriteUnder(IReadOnlyList<PlacedDrawing> items, IReadOnlyList<BoardPicture> pictures, string description) => ToBytes(json =>
    {
        json.WriteStartObject();
        json.WriteString("description", description);
        json.WritePropertyName("items");
        JsonSerializer.Serialize(json, items, JsonSerializerOptions.Web);
        WritePictures(json, pictures);
        json.WriteEndObject();
    });

    /// <summary>Reads back what <see cref="Write"/> and <see cref="WriteInk"/> wrote; times come back to the millisecond.</summary>
    /// <param name="timeline">The bytes of timeline.json.</param>
    /// <param name="ink">The bytes of each board's ink file, in order of the boards.</param>
    /// <exception cref="JsonException">It isn't a timeline of this version.</exception>
    public static LessonTimeline Read(ReadOnlyMemory<byte> timeline, IReadOnlyList<ReadOnlyMemory<byte>> ink)
    {
        using var document = JsonDocument.Parse(timeline);
        var root = document.RootElement;
        if (root.GetProperty("format").GetString() != Format || root.GetProperty("version").GetInt32() != Version)
        {
            throw new JsonException($"This isn't a {Format} of version {Version}.");
        }

        var boards = root.GetProperty("boards").EnumerateArray().Select((b, i) => ReadBoard(b, ReadInk(ink[i]))).ToArray();
        var shown = Rows(root.GetProperty("shown"), 2).Select(r => new Step<int>(At(r[0]), r[1])).ToArray();
        var ranges = root.GetProperty("ranges").EnumerateArray().Select(ReadRange).ToArray();
        return new LessonTimeline(
            Duration.FromMilliseconds(root.GetProperty("length").GetInt32()), boards, shown, ReadPointer(root.GetProperty("pointer")), ranges);
    }

    private static void WritePictures(Utf8JsonWriter json, IReadOnlyList<BoardPicture> pictures)
    {
        json.WriteStartArray("pictures");
        foreach (var picture in pictures)
        {
            json.WriteStartObject();
            json.WriteString("src", picture.Source);
            json.WriteNumber("width", picture.Width);
            json.WriteNumber("height", picture.Height);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void WriteBoards(Utf8JsonWriter json, LessonTimeline timeline, IReadOnlyList<IReadOnlyList<BoardPicture>> pictures, IReadOnlySet<int>? covered)
    {
        json.WriteStartArray("boards");
        for (var i = 0; i < timeline.Boards.Count; i++)
        {
            var board = timeline.Boards[i];
            json.WriteStartObject();
            json.WriteString("id", board.Board.Id);
            json.WriteString("title", board.Board.Title);
            json.WriteNumber("height", board.Board.Height);
            json.WritePropertyName("heights");
            WriteDifferences(json, board.Heights.Select(h => (int[])[h.At.WholeMilliseconds, h.Value]));
            json.WritePropertyName("views");
            WriteDifferences(json, board.Views.Select(v => (int[])[v.At.WholeMilliseconds, v.Value.X, v.Value.Y, v.Value.Width]));
            WritePictures(json, pictures[i]);
            json.WriteStartArray("covers");
            foreach (var cover in board.Covers)
            {
                json.WriteStartObject();
                json.WriteString("item", cover.Item);
                json.WritePropertyName("uncovered");
                WriteDifferences(json, cover.IsUncovered.Select(s => (int[])[s.At.WholeMilliseconds, s.Value ? 1 : 0]));
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteString("ink", InkName(i));
            if (covered?.Contains(i) == true)
            {
                json.WriteString("under", UnderName(i));
            }

            json.WriteNumber("strokes", board.Strokes.Count);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    // A run for each unbroken presence on one board, with the time it ends.
    private static void WritePointer(Utf8JsonWriter json, IReadOnlyList<Step<PointerPlace?>> pointer)
    {
        json.WriteStartArray("pointer");
        for (var i = 0; i < pointer.Count;)
        {
            if (pointer[i].Value is not { } first)
            {
                i++;
                continue;
            }

            var end = i;
            while (end < pointer.Count && pointer[end].Value?.Board == first.Board)
            {
                end++;
            }

            json.WriteStartObject();
            json.WriteNumber("board", first.Board);
            json.WriteNumber("end", end < pointer.Count ? pointer[end].At.WholeMilliseconds : -1);
            json.WritePropertyName("path");
            WriteDifferences(json, pointer.Skip(i).Take(end - i).Select(p => (int[])[p.At.WholeMilliseconds, p.Value!.Value.X, p.Value.Value.Y]));
            json.WriteEndObject();
            i = end;
        }

        json.WriteEndArray();
    }

    private static void WriteRanges(Utf8JsonWriter json, IReadOnlyList<TimelineRange> ranges)
    {
        json.WriteStartArray("ranges");
        foreach (var range in ranges)
        {
            json.WriteStartObject();
            json.WriteString("take", range.Take.Value);
            json.WriteStartArray("pieces");
            foreach (var piece in range.Map.Pieces)
            {
                json.WriteStartArray();
                json.WriteNumberValue(piece.Source.Start.Samples);
                json.WriteNumberValue(piece.Source.End.Samples);
                json.WriteNumberValue(piece.Target.Start.Samples);
                json.WriteNumberValue(piece.Target.End.Samples);
                json.WriteEndArray();
            }

            json.WriteEndArray();
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static TimelineBoard ReadBoard(JsonElement board, IReadOnlyList<TimelineStroke> strokes) => new(
        new Board(board.GetProperty("id").GetGuid(), board.GetProperty("title").GetString()!, board.GetProperty("height").GetInt32()),
        [.. Rows(board.GetProperty("heights"), 2).Select(r => new Step<int>(At(r[0]), r[1]))],
        [.. Rows(board.GetProperty("views"), 4).Select(r => new Step<View>(At(r[0]), new View(r[1], r[2], r[3])))],
        strokes)
    {
        // Publications made before covers could be lifted have none.
        Covers = board.TryGetProperty("covers", out var covers)
            ? [.. covers.EnumerateArray().Select(c => new CoverSteps(
                c.GetProperty("item").GetGuid(), [.. Rows(c.GetProperty("uncovered"), 2).Select(r => new Step<bool>(At(r[0]), r[1] == 1))]))]
            : [],
    };

    private static List<TimelineStroke> ReadInk(ReadOnlyMemory<byte> bytes)
    {
        using var document = JsonDocument.Parse(bytes);
        var strokes = new List<TimelineStroke>();
        foreach (var stroke in document.RootElement.GetProperty("strokes").EnumerateArray())
        {
            var key = stroke.GetProperty("key").GetString()!;
            var lives = stroke.GetProperty("lives").EnumerateArray().Select(l => l.GetInt32()).Chunk(2)
                .Select(l => new Life(At(l[0]), l[1] < 0 ? null : At(l[1])));
            var points = Rows(stroke.GetProperty("points"), 4).Select(r => new InkPoint(r[0], r[1], (byte)r[2], r[3]));
            strokes.Add(new(
                Take.ParseStroke(key, default) ?? throw new JsonException($"“{key}” isn't the name of a stroke."),
                stroke.GetProperty("style").GetInt32(),
                [.. lives],
                [.. points]));
        }

        return strokes;
    }

    private static List<Step<PointerPlace?>> ReadPointer(JsonElement runs)
    {
        var steps = new List<Step<PointerPlace?>>();
        foreach (var run in runs.EnumerateArray())
        {
            var board = run.GetProperty("board").GetInt32();
            steps.AddRange(Rows(run.GetProperty("path"), 3).Select(r => new Step<PointerPlace?>(At(r[0]), new PointerPlace(board, r[1], r[2]))));
            if (run.GetProperty("end").GetInt32() is >= 0 and var end)
            {
                steps.Add(new(At(end), null));
            }
        }

        return steps;
    }

    private static TimelineRange ReadRange(JsonElement range) => new(
        new TakeId(range.GetProperty("take").GetGuid()),
        new TimeMap(range.GetProperty("pieces").EnumerateArray().Select(p => new TimeMapPiece(
            new(new TakeTime(p[0].GetInt64()), new TakeTime(p[1].GetInt64())),
            new(new LessonTime(p[2].GetInt64()), new LessonTime(p[3].GetInt64()))))));

    private static LessonTime At(int milliseconds) => LessonTime.FromMilliseconds(milliseconds);

    private static void WriteDifferences(Utf8JsonWriter json, IEnumerable<int[]> rows)
    {
        json.WriteStartArray();
        int[]? before = null;
        foreach (var row in rows)
        {
            for (var c = 0; c < row.Length; c++)
            {
                json.WriteNumberValue(row[c] - (before?[c] ?? 0));
            }

            before = row;
        }

        json.WriteEndArray();
    }

    private static IEnumerable<int[]> Rows(JsonElement flat, int columns)
    {
        var sum = new int[columns];
        foreach (var row in flat.EnumerateArray().Select(v => v.GetInt32()).Chunk(columns))
        {
            for (var c = 0; c < columns; c++)
            {
                sum[c] += row[c];
            }

            yield return [.. sum];
        }
    }

    private static byte[] ToBytes(Action<Utf8JsonWriter> write)
    {
        using var bytes = new MemoryStream();
        using (var json = new Utf8JsonWriter(bytes))
        {
            write(json);
        }

        return bytes.ToArray();
    }
}
