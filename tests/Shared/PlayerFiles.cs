using System.Text.Json;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Tests;

/// <summary>Reads what players are sent, as docs/formats/timeline.md says; times come back to the millisecond.</summary>
internal static class PlayerFiles
{
    /// <param name="read">Gives the bytes of a file by its address relative to the timeline.</param>
    public static async Task<LessonTimeline> ReadAsync(Func<string, Task<byte[]>> read)
    {
        var known = new Dictionary<string, byte[]>();
        async Task AddAsync(string name) => known[name] = await read(name);
        await AddAsync("timeline.json");
        var file = Json(known["timeline.json"]);
        foreach (var board in file.GetProperty("boards").EnumerateArray())
        {
            await AddAsync(board.GetProperty("ink").GetString()!);
        }

        foreach (var minute in file.GetProperty("pointerMinutes").EnumerateArray())
        {
            await AddAsync(TimelineFiles.PointerName(minute.GetInt32()));
        }

        return Read(name => known[name]);
    }

    /// <param name="read">Gives the bytes of a file by its address relative to the timeline.</param>
    public static LessonTimeline Read(Func<string, byte[]> read)
    {
        var root = Json(read("timeline.json"));
        root.GetProperty("format").GetString().ShouldBe(TimelineFiles.Format);
        root.GetProperty("version").GetInt32().ShouldBe(TimelineFiles.Version);
        var pointer = root.GetProperty("pointerMinutes").EnumerateArray()
            .SelectMany(m => ReadPointer(Json(read(TimelineFiles.PointerName(m.GetInt32())))));
        return new LessonTimeline(
            Duration.FromMilliseconds(root.GetProperty("length").GetInt32()),
            [.. root.GetProperty("boards").EnumerateArray().Select(b => ReadBoard(b, Json(read(b.GetProperty("ink").GetString()!))))],
            [.. Rows(root.GetProperty("shown"), 3).Select(r => new Step<ShownBoards>(At(r[0]), new(r[1], r[2] < 0 ? null : r[2])))],
            [.. pointer],
            [.. root.GetProperty("stops").EnumerateArray().Select(s => new TimedStop(
                At(s.GetProperty("at").GetInt32()),
                new ThinkingStop(
                    Guid.Empty,
                    default,
                    TakeTime.Zero,
                    Enum.Parse<StopKind>(s.GetProperty("kind").GetString()!, ignoreCase: true),
                    s.GetProperty("question").GetString()!),
                s.TryGetProperty("answerAt", out var at) ? At(at.GetInt32()) : null))],
            [.. root.GetProperty("placements").EnumerateArray().Select(ReadPlacement)])
        {
            KeyLines = [.. root.GetProperty("keyLines").EnumerateArray().Select(ReadKeyLine)],
            TermsSaid = [.. root.GetProperty("terms").EnumerateArray().Select(
                t => new TermSaid(t.GetProperty("term").GetGuid(), At(t.GetProperty("at").GetInt32())))],
        };
    }

    /// <summary>The moment heard at a time; null where nothing is.</summary>
    public static Moment? MomentAt(this LessonTimeline timeline, LessonTime time) =>
        timeline.Placements.Where(p => p.Map.ToTake(time) is not null).Select(p => (Moment?)new Moment(p.Take, p.Map.ToTake(time)!.Value))
            .FirstOrDefault();

    public static IEnumerable<int[]> Rows(JsonElement flat, int columns)
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

    private static TimelineBoard ReadBoard(JsonElement board, JsonElement file) => new(
        new Board(board.GetProperty("id").GetGuid(), board.GetProperty("title").GetString()!, board.GetProperty("height").GetInt32()),
        [.. Rows(board.GetProperty("heights"), 2).Select(r => new Step<int>(At(r[0]), r[1]))],
        [.. board.GetProperty("views").EnumerateArray()
            .Select(v => Rows(v, 4).Select(r => new Step<View>(At(r[0]), new View(r[1], r[2], r[3]))).ToArray())],
        [.. file.GetProperty("strokes").EnumerateArray().Select(ReadStroke)])
    {
        Texts = [.. file.GetProperty("texts").EnumerateArray().Select(t => new TimelineText(
            new MarkKey(0, StrokeKey.Parse(t.GetProperty("key").GetString()!, default)!.Value),
            t.GetProperty("x").GetInt32(), t.GetProperty("y").GetInt32(), t.GetProperty("size").GetInt32(),
            InkStyle.All.First(s => s.Color == t.GetProperty("color").GetString()).Ink,
            [.. t.GetProperty("lives").EnumerateArray().Select(l => l.GetInt32()).Chunk(2)
                .Select(l => new Life(At(l[0]), l[1] < 0 ? null : At(l[1])))],
            [.. t.GetProperty("steps").EnumerateArray().Select(
                s => new Step<Writing>(
                    At(s.GetProperty("at").GetInt32()),
                    new(s.GetProperty("text").GetString()!, s.TryGetProperty("looks", out var looks) ? looks.GetString()! : "")))]))],
        Lights = [.. board.GetProperty("lights").EnumerateArray().Select(l => new Step<Light?>(
            At(l.GetProperty("at").GetInt32()),
            Rows(l.GetProperty("outline"), 2).SelectMany(r => r).ToArray() is { Length: > 0 } outline ? new Light(outline) : null))],
        Items = [.. board.GetProperty("items").EnumerateArray().Select(i => new ItemSpans(
            i.GetProperty("item").GetGuid(), [.. Rows(i.GetProperty("shows"), 2).Select(r => new Step<bool>(At(r[0]), r[1] == 1))]))],
        Parameters = [.. board.GetProperty("parameters").EnumerateArray().Select(p => new ParameterSteps(
            p.GetProperty("item").GetGuid(), p.GetProperty("name").GetString()!,
            [.. Rows(p.GetProperty("values"), 3).Select(r => new Step<int?>(At(r[0]), r[1] == 1 ? r[2] : null))]))],
    };

    private static TimelineStroke ReadStroke(JsonElement stroke) => new(
        new MarkKey(0, StrokeKey.Parse(stroke.GetProperty("key").GetString()!, default)!.Value),
        stroke.GetProperty("style").GetInt32(),
        [.. stroke.GetProperty("lives").EnumerateArray().Select(l => l.GetInt32()).Chunk(2)
            .Select(l => new Life(At(l[0]), l[1] < 0 ? null : At(l[1])))],
        [.. Rows(stroke.GetProperty("points"), 4).Select(r => new InkPoint(r[0], r[1], (byte)r[2], r[3]))])
    {
        LineHeight = stroke.TryGetProperty("lineHeight", out var height) ? height.GetInt32() : 0,
    };

    private static KeyLine ReadKeyLine(JsonElement line)
    {
        int[] box = [.. line.GetProperty("box").EnumerateArray().Select(n => n.GetInt32())];
        return new(
            new MarkKey(0, StrokeKey.Parse(line.GetProperty("stroke").GetString()!, default)!.Value), At(line.GetProperty("at").GetInt32()),
            At(line.GetProperty("wholeAt").GetInt32()), line.GetProperty("board").GetInt32(), new(box[0], box[1], box[2], box[3]),
            KeyLineKinds.Parse(line.GetProperty("kind").GetString()!)!.Value,
            line.GetProperty("text").GetString()!, line.GetProperty("must").GetBoolean());
    }

    private static IEnumerable<TimelinePointer> ReadPointer(
        JsonElement file) => file.GetProperty("runs").EnumerateArray().Select(r => new TimelinePointer(
        r.GetProperty("board").GetInt32(), At(r.GetProperty("from").GetInt32()), r.GetProperty("to").GetInt32() is >= 0 and var to ? At(to) : null,
        [.. Rows(r.GetProperty("path"), 3).Select(p => new InkPoint(p[1], p[2], 0, p[0]))]));

    private static TimelinePlacement ReadPlacement(JsonElement placement) => new(
        new TakeId(placement.GetProperty("take").GetGuid()),
        new TimeMap(placement.GetProperty("pieces").EnumerateArray().Select(p => new TimeMapPiece(
            Enum.Parse<PieceKind>(p.GetProperty("kind").GetString()!, ignoreCase: true),
            new(new TakeTime(p.GetProperty("source")[0].GetInt64()), new TakeTime(p.GetProperty("source")[1].GetInt64())),
            new(new LessonTime(p.GetProperty("target")[0].GetInt64()), new LessonTime(p.GetProperty("target")[1].GetInt64()))))),
        !placement.TryGetProperty("insteadOf", out var others) ? [] : [.. others.EnumerateArray().Select(s => new TakeStretch(
            new TakeId(s.GetProperty("take").GetGuid()),
            new(new TakeTime(s.GetProperty("source")[0].GetInt64()), new TakeTime(s.GetProperty("source")[1].GetInt64()))))]);

    private static LessonTime At(int milliseconds) => LessonTime.FromMilliseconds(milliseconds);

    private static JsonElement Json(byte[] bytes)
    {
        using var document = JsonDocument.Parse(bytes);
        return document.RootElement.Clone();
    }
}
