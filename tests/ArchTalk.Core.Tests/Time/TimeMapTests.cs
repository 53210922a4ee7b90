using ArchTalk.Core.Time;
using CsCheck;

namespace ArchTalk.Core.Tests.Time;

public class TimeMapTests
{
    // Random maps of up to eight pieces of every kind.
    private static readonly Gen<TimeMap> Maps =
        Gen.Select(Gen.Long[1, 1_000_000], Gen.Int[0, 5], Gen.Double[0.05, 1]).Array[1, 8].Select(pieces =>
        {
            var take = TakeTime.Zero;
            var lesson = LessonTime.Zero;
            return new TimeMap([.. pieces.Select(p =>
            {
                var kind = (PieceKind)p.Item2;
                var length = kind switch { PieceKind.Straight or PieceKind.Pause => p.Item1, PieceKind.Shortened => Math.Max(
                    1,
                    (long)(p.Item1 * p.Item3)), _ => 0 };
                var piece = new TimeMapPiece(
                    kind, new(take, take + new Duration(kind == PieceKind.Pause ? 0 : p.Item1)), new(lesson, lesson + new Duration(length)));
                (take, lesson) = (piece.Source.End, piece.Target.End);
                return piece;
            })]);
        });

    [Fact]
    public void Is_monotone_and_stays_in_its_target() => Gen.Select(Maps, Gen.Double[0, 1], Gen.Double[0, 1]).Sample((map, a, b) =>
    {
        var length = map.Source.End.Samples;
        var first = new TakeTime((long)(Math.Min(a, b) * length));
        var second = new TakeTime((long)(Math.Max(a, b) * length));
        var from = map.ToLesson(first);
        var to = map.ToLesson(second);
        return from <= to && from >= map.Target.Start && to <= map.Target.End;
    });

    [Fact]
    public void Is_exact_at_every_join() => Maps.Sample(map =>
        map.Pieces.All(p => p.Source.IsEmpty ? map.ToLesson(p.Source.Start) >= p.Target.End : map.ToLesson(p.Source.Start) == p.Target.Start));

    [Fact]
    public void Going_to_the_take_and_back_returns_to_the_same_time() => Gen.Select(Maps, Gen.Double[0, 1]).Sample((map, share) =>
    {
        var time = new LessonTime((long)(share * map.Target.End.Samples * 0.999));
        if (map.ToTake(time) is not { } take)
        {
            return map.Target.IsEmpty;
        }

        // While the lesson waits it comes back to after the pause. A shortened piece has fewer lesson samples than take samples, so
        // elsewhere the way back is exact to a sample.
        var back = map.ToLesson(take);
        return Math.Abs((back - time).Samples) <= 1
            || map.Pieces.Any(p => p.Kind == PieceKind.Pause && p.Target.Contains(time) && back >= p.Target.End);
    });

    [Fact]
    public void Times_outside_the_source_are_held_at_its_edges()
    {
        var map = TimeMap.Straight(new(new TakeTime(100), new TakeTime(200)), new LessonTime(50));

        map.ToLesson(new TakeTime(99)).ShouldBe(new LessonTime(50));
        map.PieceAt(new TakeTime(99)).ShouldBeNull();
        map.PieceAt(new TakeTime(200)).ShouldBeNull();
        map.ToLesson(new TakeTime(100)).ShouldBe(new LessonTime(50));
        map.ToLesson(new TakeTime(200)).ShouldBe(new LessonTime(150));
        map.ToLesson(new TakeTime(201)).ShouldBe(new LessonTime(150));
        map.ToTake(new LessonTime(49)).ShouldBeNull();
    }

    [Fact]
    public void A_cut_comes_out_at_the_join_and_its_edges_stay()
    {
        var map = new TimeMap(
        [
            new(PieceKind.Straight, new(new(0), new(100)), new(new(0), new(100))),
            new(PieceKind.Cut, new(new(100), new(300)), new(new(100), new(100))),
            new(PieceKind.Straight, new(new(300), new(400)), new(new(100), new(200))),
        ]);

        map.ToLesson(new TakeTime(200)).ShouldBe(new LessonTime(100));
        map.PieceAt(new TakeTime(200))!.Value.IsCut.ShouldBeTrue();
        map.PieceAt(new TakeTime(100))!.Value.IsCut.ShouldBeTrue();
        map.PieceAt(new TakeTime(300))!.Value.IsCut.ShouldBeFalse();
        map.ToTake(new LessonTime(100)).ShouldBe(new TakeTime(300));
    }

    [Fact]
    public void Pieces_that_are_not_what_their_name_says_are_refused()
    {
        TimeMap Map(PieceKind kind, int source, int target) => new([new(kind, new(new(0), new(source)), new(new(0), new(target)))]);
        foreach (var (kind, source, target) in new[]
                 {
                     (PieceKind.Straight, 10, 9), (PieceKind.Straight, 0, 0), (PieceKind.Cut, 10, 1), (PieceKind.CutKeepingMarks, 0, 0),
                     (PieceKind.Shortened, 10, 11),
                     (PieceKind.Shortened, 10, 0), (PieceKind.Pause, 1, 10), (PieceKind.Pause, 0, 0), (PieceKind.TakenBack, 10, 10),
                 })
        {
            Should.Throw<ArgumentException>(() => Map(kind, source, target), $"{kind} {source} {target}");
        }
    }

    [Fact]
    public void Pieces_that_do_not_touch_are_refused()
    {
        Should.Throw<ArgumentException>(() => new TimeMap([]));
        Should.Throw<ArgumentException>(() => new TimeMap(
        [
            new(PieceKind.Straight, new(new(0), new(100)), new(new(0), new(100))),
            new(PieceKind.Straight, new(new(101), new(200)), new(new(100), new(199))),
        ]));
    }

    [Fact]
    public void Times_are_never_negative_and_ranges_never_backwards()
    {
        Should.Throw<ArgumentOutOfRangeException>(() => new TakeTime(-1));
        Should.Throw<ArgumentOutOfRangeException>(() => new LessonTime(-1));
        Should.Throw<ArgumentException>(() => new TimeRange<TakeTime>(new(2), new(1)));
        Should.Throw<ArgumentOutOfRangeException>(() => LessonTime.Zero + new Duration(-1));
    }

    [Theory]
    [InlineData(0, 0)]
    [InlineData(23, 0)]
    [InlineData(24, 1)]
    [InlineData(48, 1)]
    [InlineData(48 * 1000, 1000)]
    public void Whole_milliseconds_are_the_nearest(long samples, int milliseconds) =>
        new LessonTime(samples).WholeMilliseconds.ShouldBe(milliseconds);
}
