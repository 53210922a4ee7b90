using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>A lesson made up for a check: its takes and what was decided about them.</summary>
public sealed record MadeLesson(IReadOnlyList<TakeLog> Logs, EditList Edits);

/// <summary>
/// Makes up lessons by a seed: one to three takes of 2 to 12 s in which everything happens that can be done on boards, retakes among
/// it, and edits of every kind. Times fall on few places, so that much happens at the same instant and at the edges.
/// </summary>
public sealed class RandomLessons
{
    public static readonly Board[] Boards = [new(Id(1), "First", 900), new(Id(2), "Second", 900), new(Id(3), "Tall", 2260)];
    private static readonly Guid[] Items = [Id(11), Id(12)];

    private readonly Random random;
    private int next = 100;

    private RandomLessons(int seed) => random = new Random(seed);

    public static MadeLesson Make(int seed) => new RandomLessons(seed).Make();

    private static Guid Id(int number) => new(number, 0, 0, new byte[8]);

    private MadeLesson Make()
    {
        var logs = Enumerable.Range(0, random.Next(1, 4)).Select(i => Log(new TakeId(Id(1000 + i)))).ToArray();
        for (var i = 1; i < logs.Length; i++)
        {
            if (random.Next(3) == 0)
            {
                var place = new TakePlace(At(Pick(logs[..i])), At(Pick(logs[..i])));
                logs[i] = new TakeLog(logs[i].Id, logs[i].Length, logs[i].Actions, place: place);
            }
        }

        Moment At(TakeLog log) => new(log.Id, Time(log));
        T[] Some<T>(int most, Func<TakeLog, T> make) =>
            [.. Enumerable.Range(0, random.Next(3) == 0 ? random.Next(most + 1) : 0).Select(_ => make(logs[random.Next(logs.Length)]))];
        var edits = new EditList
        {
            Sequence = Some(5, l => new SequenceRange(l.Id, Range(l), random.Next(4) == 0 ? Time(l) : null)),
            Cuts = Some(4, l => new Cut(l.Id, Range(l), random.Next(3) == 0)),
            Silences = Some(4, l => new ShortenedSilence(l.Id, Range(l), new Duration(random.Next(-1, 60_000)))),
            Pauses = Some(3, l => new InsertedPause(l.Id, Time(l), new Duration(random.Next(0, 60_000)))),
            Temporary = Some(2, l => new TemporaryStretch(l.Id, Range(l))),
            Marks = Some(6, Change),
            AddedInk = Some(3, l => Added(l, logs)),
            Stops = Some(3, l => new ThinkingStop(Id(next++), l.Id, Time(l), (StopKind)random.Next(3), "Why?")
            {
                Answer = random.Next(2) == 0 ? Pick(Items) : null
            }),
            Corrections = Some(
                2,
                l => new Correction(l.Id, Time(l), Pick(Boards).Id, new TextItem { Id = Id(next++) }, random.Next(2) == 0 ? Time(l) : null)),
        };
        return new(logs, edits with { LeavesOutTemporary = random.Next(2) == 0 });
    }

    private TakeLog Log(TakeId id)
    {
        var length = random.Next(20, 120) * 4800L;
        var log = new TakeLog(id, new Duration(length), []);
        var (actions, strokes) = (new List<TakeAction>(), 0);
        for (var i = random.Next(2, 30); i > 0; i--)
        {
            var (at, board) = (Time(log), random.Next(12) == 0 ? Id(9) : Pick(Boards).Id);
            switch (random.Next(13))
            {
                case < 4:
                    actions.Add(Stroke(new(id, ++strokes), at, board, log));
                    break;
                case 4:
                    actions.Add(new StrokesErased(at, ++strokes, [.. Enumerable.Range(0, random.Next(4)).Select(_ => Key(id))]));
                    break;
                case 5:
                    actions.Add(random.Next(2) == 0 ? new ActionUndone(at, random.Next(12)) : new ActionRedone(at, random.Next(12)));
                    break;
                case 6:
                    actions.Add(new BoardChanged(at, board, random.Next(4) == 0 ? Pick(Boards).Id : null));
                    break;
                case 7:
                    actions.Add(
                        new ViewChanged(at, board, random.Next(-100, 16_000), random.Next(25_000), random.Next(3000, 17_000), random.Next(2)));
                    break;
                case 8:
                    actions.Add(random.Next(2) == 0
                        ? new BoardLengthened(at, board, random.Next(800, 3000))
                        : new CoverChanged(at, board, Pick(Items), random.Next(2) == 0));
                    break;
                case 9:
                    actions.Add(new ParameterSet(at, board, Pick(Items), random.Next(2) == 0 ? "hour" : "minute", random.Next(4)));
                    break;
                case 10 when random.Next(2) == 0:
                    actions.Add(random.Next(2) == 0
                        ? new LightChanged(at, board, random.Next(3) == 0 ? null : new Light([random.Next(16_000), 0, 500, 900, 0, 900]))
                        : new KeyLineChanged(
                            at, [.. Enumerable.Range(0, random.Next(1, 3)).Select(_ => new StrokeKey(id, random.Next(1, 8)))],
                            random.Next(4) == 0 ? null : (KeyLineKind)random.Next(3), $"line {next++}", random.Next(2) == 0));
                    break;
                case 10 when random.Next(3) == 0:
                    var number = random.Next(4) == 0 ? random.Next(1, 6) : ++strokes;
                    actions.Add(random.Next(4) == 0
                        ? new NoteRemoved(at, number)
                        : new Noted(at, number, NoteKind.TermSaid, "voussoir", Duration.Zero, Pick(Items)));
                    break;
                case 10:
                    actions.AddRange(Pointer(at, board, log));
                    break;
                case 11:
                    actions.AddRange(Typing(new(id, random.Next(3) == 0 ? random.Next(1, 6) : ++strokes), board, log));
                    break;
                default:
                    actions.Add(new Retaken(at, Time(log)));
                    break;
            }
        }

        return new TakeLog(id, new Duration(length), [.. actions.Where(a => a is not Retaken r || r.To < r.At).OrderBy(a => a.At)]);
    }

    private StrokeDrawn Stroke(StrokeKey key, TakeTime at, Guid board, TakeLog log)
    {
        var points = new List<TakePoint> { Point(at) };
        while (random.Next(3) > 0)
        {
            points.Add(Point(random.Next(8) == 0 ? points[^1].At : points[^1].At + new Duration(random.Next(1, 40_000))));
        }

        return new StrokeDrawn(at, key, board, random.Next(30), [.. points.Where(p => p.At <= log.End)])
        {
            LineHeight = random.Next(4) == 0 ? random.Next(1, 900) : 0,
        };
    }

    private IEnumerable<TakeAction> Typing(StrokeKey key, Guid board, TakeLog log)
    {
        TakeTime[] times = [.. Enumerable.Range(0, random.Next(1, 6)).Select(_ => Time(log)).Order()];
        return times.Select((at, i) => new Typed(at, key, i == 0, board, 1000, 2000, 400, "blue", Letters(i)));

        // What stays the same text may look different from a key on.
        Writing Letters(int i)
        {
            var text = new string('a', random.Next(5)) + i;
            return Writing.Of(text, random.Next(3) == 0 ? new string(random.Next(2) == 0 ? '0' : '7', text.Length) : "");
        }
    }

    private IEnumerable<TakeAction> Pointer(TakeTime at, Guid board, TakeLog log)
    {
        var (x, y) = (random.Next(16_000), random.Next(9000));
        for (var i = random.Next(1, 20); i > 0 && at < log.End; i--)
        {
            (x, y) = (x + random.Next(-150, 150), y + random.Next(-150, 150));
            yield return new PointerChanged(at, board, (x, y));
            at += new Duration(random.Next(10) == 0 ? random.Next(10_000) : 960);
        }

        if (random.Next(2) == 0 && at < log.End)
        {
            yield return new PointerChanged(at, Guid.Empty, null);
        }
    }

    private MarkChange Change(TakeLog log) => new(log.Id, random.Next(8))
    {
        IsGone = random.Next(6) == 0,
        Begins = random.Next(3) == 0 ? Time(log) : null,
        Ends = random.Next(3) == 0 ? Time(log) : null,
        Ink = random.Next(3) == 0 ? "green" : null,
        Width = random.Next(3) == 0 ? "broad" : null,
        MoveX = random.Next(-50, 50),
        Settled = random.Next(3) == 0 ? new(Place(), Place(), random.Next(2) * 400, "words") : null,
        Becomes = random.Next(2) == 0 ? (KeyLineKind)random.Next(3) : null,
    };

    private InkPlace Place() => new(random.Next(16_000), random.Next(9000));

    private AddedStroke Added(TakeLog log, TakeLog[] logs)
    {
        var isStill = random.Next(2) == 0;
        var points = new List<AddedPoint> { new(random.Next(16_000), random.Next(9000), 128, log.Id, Time(log)) };
        while (random.Next(3) > 0)
        {
            var last = points[^1];
            points.Add(new(
                random.Next(16_000), random.Next(9000), 128, random.Next(8) == 0 ? Pick(logs).Id : log.Id,
                isStill ? last.At : last.At + new Duration(random.Next(0, 30_000)), last.After + new Duration(random.Next(0, 30_000))));
        }

        return new AddedStroke(Id(next++), Pick(Boards).Id, "pen", "blue", "fine", points) { IsAtStandstill = isStill };
    }

    private TakePoint Point(TakeTime at) => new(random.Next(16_000), random.Next(9000), 128, at);

    private StrokeKey Key(TakeId own) => new(random.Next(3) > 0 ? own : new TakeId(Id(1000 + random.Next(3))), random.Next(12));

    private T Pick<T>(T[] from) => from[random.Next(from.Length)];

    private TakeTime Time(
        TakeLog log) => new(Math.Clamp(
            (random.NextInt64(log.Length.Samples) / 4800 * 4800) + (random.Next(3) == 0 ? random.Next(-1, 2) : 0),
            0,
            log.Length.Samples - 1));

    private TimeRange<TakeTime> Range(TakeLog log)
    {
        var (a, b) = (Time(log), Time(log));
        return a <= b ? new(a, b) : new(b, a);
    }
}
