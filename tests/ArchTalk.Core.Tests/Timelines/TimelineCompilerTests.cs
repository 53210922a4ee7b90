using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using CsCheck;

namespace ArchTalk.Core.Tests.Timelines;

public class TimelineCompilerTests
{
    private static readonly Board First = new(Guid.Parse("00000000-0000-0000-0000-000000000001"), "First", 900);
    private static readonly Board Tall = new(Guid.Parse("00000000-0000-0000-0000-000000000002"), "Tall", 2260);
    private static readonly Board[] Boards = [First, Tall];

    /// <summary>A take of the given length whose browser clock shows the take's own milliseconds.</summary>
    internal static TakeLog Record(Guid id, int lengthMs, params TakeEvent[] events)
    {
        var builder = new JournalBuilder().Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false));
        for (var ms = 0; ms < lengthMs; ms += 500)
        {
            builder.Audio(0, ms * 48L, new short[Math.Min(500, lengthMs - ms) * 48]);
        }

        builder.Anchors(0, new ClockAnchor(0, 0), new ClockAnchor(lengthMs * 48L, lengthMs)).Events(0, events);
        return Takes.Log(builder.ToBytes(id));
    }

    private static StrokeBegun Begin(int stroke, Board board) => new(stroke, board.Id, "pen", "blue", "medium");

    private static StrokePoints Line(int stroke, int fromMs, int toMs) =>
        new(stroke, [100, 100, 128, fromMs * 10, 300, 800, 128, (fromMs + toMs) * 5, 900, 100, 128, toMs * 10]);

    private static LessonTimeline Compile(params TakeLog[] takes) => TimelineCompiler.Compile(Boards, Arrangement.Resolve(takes, EditList.Empty));

    private static Pane At(LessonTimeline timeline, double ms) => timeline.At(LessonTime.FromMilliseconds(ms)).Panes[0];

    private static int[] Alive(LessonTimeline timeline, double ms)
    {
        var scene = At(timeline, ms);
        return [.. scene.Strokes.Select(s => timeline.Boards[scene.Board].Strokes[s.Index].Key.Stroke.Number).Order()];
    }

    [Fact]
    public void Ink_appears_point_by_point_as_it_was_drawn()
    {
        var timeline = Compile(Record(Guid.NewGuid(), 5000, new BoardShown(0, First.Id), Begin(1, First), Line(1, 1000, 2000)));

        At(timeline, 999).Strokes.ShouldBeEmpty();
        At(timeline, 1000).Strokes.ShouldHaveSingleItem().Points.ShouldBe(1);
        At(timeline, 1600).Strokes.ShouldHaveSingleItem().Points.ShouldBe(2);
        At(timeline, 2000).Strokes.ShouldHaveSingleItem().Points.ShouldBe(3);
        At(timeline, 9999).Strokes.ShouldHaveSingleItem().Points.ShouldBe(3);
    }

    [Fact]
    public void Ink_stays_on_its_board_while_another_is_shown()
    {
        var timeline = Compile(Record(
            Guid.NewGuid(), 9000, new BoardShown(100, First.Id), Begin(1, First), Line(1, 1000, 2000),
            new BoardShown(3000, Tall.Id), Begin(2, Tall), Line(2, 4000, 5000), new BoardShown(6000, First.Id)));

        At(timeline, 0).Board.ShouldBe(0);
        Alive(timeline, 2500).ShouldBe([1]);
        At(timeline, 3500).Board.ShouldBe(1);
        Alive(timeline, 3500).ShouldBeEmpty();
        Alive(timeline, 5500).ShouldBe([2]);
        Alive(timeline, 7000).ShouldBe([1]);
    }

    [Fact]
    public void A_cover_is_lifted_put_back_and_stays_as_it_was_in_the_next_take()
    {
        var (cover, other) = (Guid.NewGuid(), Guid.NewGuid());
        var timeline = Compile(
            Record(
                Guid.NewGuid(),
                6000,
                new BoardShown(0, First.Id),
                new CoverLifted(1000, First.Id, cover, true),
                new CoverLifted(2000, First.Id, cover, false),
                new CoverLifted(3000, First.Id, cover, true)),
            Record(Guid.NewGuid(), 4000, new BoardShown(0, First.Id), new CoverLifted(1000, Tall.Id, other, true), new BoardShown(2000, Tall.Id)));

        At(timeline, 500).Hidden.ShouldBeEmpty();
        At(timeline, 1000).Hidden.ShouldBe([cover]);
        At(timeline, 2500).Hidden.ShouldBeEmpty();
        At(timeline, 6500).Hidden.ShouldBe([cover]);
        At(timeline, 8500).Hidden.ShouldBe([other]);
    }

    [Fact]
    public void Undo_and_redo_take_a_stroke_away_and_bring_it_back_whole()
    {
        var timeline = Compile(Record(
            Guid.NewGuid(), 9000, Begin(1, First), Line(1, 1000, 2000), new Undone(3000, 1), new Redone(4000, 1), new Undone(5000, 1)));

        Alive(timeline, 2999).ShouldBe([1]);
        Alive(timeline, 3000).ShouldBeEmpty();
        Alive(timeline, 4500).ShouldBe([1]);
        At(timeline, 4000).Strokes[0].Points.ShouldBe(3);
        Alive(timeline, 5000).ShouldBeEmpty();
    }

    [Fact]
    public void An_erasure_can_be_undone_but_not_bring_back_what_was_undone_before()
    {
        var timeline = Compile(Record(
            Guid.NewGuid(), 9000, Begin(1, First), Line(1, 0, 100), Begin(2, First), Line(2, 200, 300), new Undone(500, 2),
            new Erased(1000, 3, ["1", "2", "1"]), new Undone(2000, 3), new Redone(3000, 3), new Redone(3500, 2)));

        Alive(timeline, 400).ShouldBe([1, 2]);
        Alive(timeline, 600).ShouldBe([1]);
        Alive(timeline, 1000).ShouldBeEmpty();
        Alive(timeline, 2000).ShouldBe([1]);
        Alive(timeline, 3000).ShouldBeEmpty();

        // Stroke 2 was not there when the eraser came by, so putting it back brings it back.
        Alive(timeline, 3500).ShouldBe([2]);
    }

    [Fact]
    public void A_second_take_goes_on_from_the_state_of_the_first()
    {
        var one = Record(
            Guid.NewGuid(),
            3000,
            new BoardShown(0, Tall.Id),
            new ViewMoved(500, Tall.Id, [0, 9000, 16_000]),
            Begin(1, Tall),
            Line(1, 1000, 2000));
        var two = Record(Guid.NewGuid(), 3000, Begin(1, Tall), Line(1, 500, 900), new Erased(2000, 2, [$"{one.Id}:1"]), new Undone(2500, 1));
        var timeline = Compile(one, two);

        timeline.Length.ShouldBe(Duration.FromSeconds(6));
        At(timeline, 3100).Board.ShouldBe(1);
        At(timeline, 3100).View.Y.ShouldBe(9000);
        At(timeline, 4500).Strokes.Count.ShouldBe(2);
        At(timeline, 5100).Strokes.Count.ShouldBe(1);

        // Undo takes back an action of its own take: the stroke that take drew.
        At(timeline, 5600).Strokes.ShouldBeEmpty();
    }

    [Fact]
    public void Without_the_take_that_drew_it_erasing_a_stroke_does_nothing()
    {
        var gone = Guid.NewGuid();
        var timeline = Compile(
            Record(Guid.NewGuid(), 3000, Begin(1, First), Line(1, 100, 200), new Erased(1000, 2, [$"{gone:N}:1"]), new Undone(1500, 99)));

        Alive(timeline, 2000).ShouldBe([1]);
    }

    [Fact]
    public void The_view_never_shows_more_than_the_board()
    {
        var timeline = Compile(Record(
            Guid.NewGuid(), 5000, new BoardShown(0, Tall.Id), new ViewMoved(1000, Tall
                .Id, [-500, 99_999, 16_000]), new ViewMoved(2000, Tall.Id, [15_000, 0, 100])));

        At(timeline, 500).View.ShouldBe(View.Top);
        At(timeline, 1500).View.ShouldBe(new View(0, 22_600 - 9000, 16_000));
        At(timeline, 2500).View.ShouldBe(new View(12_000, 0, 4000));
    }

    [Fact]
    public void A_board_grows_downwards_only()
    {
        var timeline = Compile(Record(
            Guid.NewGuid(),
            5000,
            new BoardGrown(1000, First.Id, 1300),
            new BoardGrown(2000, First.Id, 1000),
            new BoardGrown(3000, First.Id, 1_000_000)));

        At(timeline, 500).Height.ShouldBe(900);
        At(timeline, 2500).Height.ShouldBe(1300);
        At(timeline, 4000).Height.ShouldBe(Board.MaxHeight);
        timeline.Boards[0].Board.Height.ShouldBe(Board.MaxHeight);
    }

    [Fact]
    public void The_pointer_is_on_its_board_until_it_leaves()
    {
        var timeline = Compile(Record(
            Guid.NewGuid(), 5000, new BoardShown(0, First.Id), new PointerMoved(First
                .Id, [10, 20, 10_000, 3000, 4000, 11_000]), new PointerAway(2000)));

        At(timeline, 900).Pointer.ShouldBeNull();
        At(timeline, 1050).Pointer.ShouldBe(new PointerPlace(0, 10, 20));
        At(timeline, 1500).Pointer.ShouldBe(new PointerPlace(0, 3000, 4000));
        At(timeline, 2000).Pointer.ShouldBeNull();
    }

    // Histories of one board: draw, erase, undo and redo at rising times.
    private static readonly Gen<TakeEvent[]> Histories = Gen.Select(Gen.Int[0, 5], Gen.Int[1, 8], Gen.Int[0, 400]).Array[1, 40]
        .Select<(int, int, int)[], TakeEvent[]>(steps =>
            {
                var events = new List<TakeEvent> { new BoardShown(0, First.Id) };
                var (time, next) = (0, 1);
                foreach (var (kind, target, wait) in steps)
                {
                    time += wait;
                    switch (kind)
                    {
                        case 0 or 1 or 2:
                            events.Add(Begin(next, First));
                            events.Add(Line(next++, time, time + 50));
                            time += 50;
                            break;
                        case 3:
                            events.Add(new Erased(time, next++, [$"{target}"]));
                            break;
                        case 4:
                            events.Add(new Undone(time, target));
                            break;
                        default:
                            events.Add(new Redone(time, target));
                            break;
                    }
                }

                return [.. events];
            });

    [Fact]
    public void Alive_is_drawn_and_not_undone_and_not_erased() => Histories.Sample(events =>
    {
        var timeline = Compile(Record(Guid.NewGuid(), 20_000, events));
        for (var ms = 0; ms < 20_000; ms += 97)
        {
            Alive(timeline, ms).ShouldBe(ReplayByHand(events, ms));
        }
    }, iter: 60);

    [Fact]
    public void Lives_are_in_order_and_never_touch() => Histories.Sample(events =>
        Compile(Record(Guid.NewGuid(), 20_000, events)).Boards[0].Strokes.All(s => s.Lives.Zip(s.Lives.Skip(1))
            .All(p => p.First.Death is { } death && death > p.First.Birth && p.Second.Birth > death)));

    [Fact]
    public void What_is_sent_to_players_shows_the_same_scenes() => Histories.Sample(events =>
    {
        var take = Record(Guid.NewGuid(), 20_000, [.. events, new PointerMoved(First
            .Id, [5, 6, 10_000, 7, 8, 20_000]), new PointerAway(3000), new BoardGrown(4000, First.Id, 1500),
            new CoverLifted(5000, First.Id, First.Id, true), new CoverLifted(9000, First.Id, First.Id, false)]);
        var timeline = Compile(take);
        var read = PlayerFiles.Read(name => name == "timeline.json"
            ? TimelineFiles.ToBytes(TimelineFiles.Timeline(timeline, [[], [new BoardPicture("boards/1.jpg", 10, 20)]], []))
            : name.StartsWith("pointer", StringComparison.Ordinal) ? TimelineFiles.ToBytes(TimelineFiles.Pointer(timeline, int.Parse(name[8..^5])))
            : TimelineFiles.ToBytes(TimelineFiles.Board(timeline.Boards[int.Parse(name[4..^5])], [])));

        read.Length.ShouldBe(timeline.Length);
        read.MomentAt(LessonTime.FromMilliseconds(777)).ShouldBe(timeline.MomentAt(LessonTime.FromMilliseconds(777)));
        for (var ms = 0; ms < 20_000; ms += 211)
        {
            var (expected, actual) = (At(timeline, ms), At(read, ms));
            actual.Strokes.ShouldBe(expected.Strokes);
            actual.Hidden.ShouldBe(expected.Hidden);
            (actual.Board, actual.Height, actual.View, actual.Pointer).ShouldBe((expected.Board, expected.Height, expected.View, expected.Pointer));
        }
    }, iter: 30);

    [Fact]
    public void Drawn_lines_stay_within_half_a_unit_of_the_hand() =>
        Gen.Select(Gen.Int[-60, 60], Gen.Int[-60, 60], Gen.Int[1, 20]).Array[2, 80].Sample(steps =>
        {
            int x = 4000, y = 4000, t = 0;
            var data = steps.SelectMany(s => (long[])[x += s.Item1, y += s.Item2, 128, (t += s.Item3) * 10]).ToArray();
            var stroke = Compile(Record(Guid.NewGuid(), 3000, Begin(1, First), new StrokePoints(1, data))).Boards[0].Strokes.Single();
            for (var i = 0; i < data.Length; i += 4)
            {
                var point = new TakePoint((int)data[i], (int)data[i + 1], 128, TakeTime.Zero);
                var distance = stroke.Points.Count == 1
                    ? Simplification.Distance(point, Place(stroke.Points[0]), Place(stroke.Points[0]))
                    : stroke.Points.Zip(stroke.Points.Skip(1)).Min(l => Simplification.Distance(point, Place(l.First), Place(l.Second)));
                distance.ShouldBeLessThanOrEqualTo(Simplification.InkTolerance);
            }
        });

    private static TakePoint Place(InkPoint point) => new(point.X, point.Y, point.Pressure, TakeTime.Zero);

    private static byte[] Bytes(LessonTimeline timeline) => TimelineFiles.ToBytes(TimelineFiles.Board(timeline.Boards[0], []));

    [Fact]
    public void Compiling_twice_gives_the_same_bytes() => Histories.Sample(events =>
    {
        var take = Record(Guid.NewGuid(), 20_000, events);
        return Bytes(Compile(take)).AsSpan().SequenceEqual(Bytes(Compile(take)));
    }, iter: 30);

    [Fact]
    public void A_lesson_without_recording_shows_its_first_board()
    {
        var timeline = Compile();

        timeline.Length.ShouldBe(Duration.Zero);
        At(timeline, 0).Board.ShouldBe(0);
        timeline.MomentAt(LessonTime.Zero).ShouldBeNull();
        Should.Throw<InvalidOperationException>(() => TimelineCompiler.Compile([], Arrangement.Resolve([], EditList.Empty)).At(LessonTime.Zero));
    }

    // The rule said the long way: the events up to a time, done one by one on sets.
    private static int[] ReplayByHand(TakeEvent[] events, int ms)
    {
        var drawn = new HashSet<int>();
        var erasers = new Dictionary<int, HashSet<int>>();
        var hit = new Dictionary<int, List<int>>();
        bool IsAlive(int s) => drawn.Contains(s) && erasers[s].Count == 0;
        for (var i = 0; i < events.Length; i++)
        {
            switch (events[i])
            {
                case StrokePoints p when p.Data[3] <= ms * 10:
                    drawn.Add(p.Stroke);
                    erasers[p.Stroke] = [];
                    break;
                case Erased e when e.Time <= ms:
                    hit[e.Action] = [.. e.Strokes.Select(int.Parse).Where(IsAlive)];
                    hit[e.Action].ForEach(s => erasers[s].Add(e.Action));
                    break;
                case Undone u when u.Time <= ms:
                    drawn.Remove(u.Action);
                    hit.GetValueOrDefault(u.Action)?.ForEach(s => erasers[s].Remove(u.Action));
                    break;
                case Redone r when r.Time <= ms:
                    if (erasers.ContainsKey(r.Action))
                    {
                        drawn.Add(r.Action);
                    }

                    hit.GetValueOrDefault(r.Action)?.ForEach(s => erasers[s].Add(r.Action));
                    break;
            }
        }

        return [.. erasers.Keys.Where(IsAlive).Order()];
    }
}
