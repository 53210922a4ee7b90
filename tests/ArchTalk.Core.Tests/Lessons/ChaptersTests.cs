using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Tests.Timelines;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Tests.Lessons;

public class ChaptersTests
{
    private static readonly Board[] Boards = [new(Guid.NewGuid(), "Thrust", 900), new(Guid
        .NewGuid(), "Keystone", 900), new(Guid.NewGuid(), " ", 900)];

    private static LessonTimeline Show(int seconds, params (int Second, int Board)[] shown) => TimelineCompiler.Compile(
        Boards, Arrangement.Resolve([Record(seconds, shown)], EditList.Empty));

    private static TakeLog Record(int seconds, params (int Second, int Board)[] shown) => TimelineCompilerTests.Record(
        Guid.NewGuid(), seconds * 1000, [.. shown.Select(s => (TakeEvent)new BoardShown(s.Second * 1000, Boards[s.Board].Id))]);

    private static TimeRange<LessonTime> Silence(double from, double to) => new(LessonTime.FromSeconds(from), LessonTime.FromSeconds(to));

    private static (double, string)[] Propose(LessonTimeline timeline, params TimeRange<LessonTime>[] silences) =>
        [.. Chapters.Propose(timeline, silences).Select(c => (c.At.Milliseconds / 1000, c.Title))];

    [Fact]
    public void A_part_begins_with_each_board_that_stays() =>
        Propose(Show(120, (0, 0), (40, 1), (80, 2))).ShouldBe([(0, "Thrust"), (40, "Keystone"), (80, "Board 3")]);

    [Fact]
    public void A_glance_at_another_board_is_no_part() =>
        Propose(Show(120, (0, 0), (40, 1), (45, 0), (80, 1))).ShouldBe([(0, "Thrust"), (80, "Keystone")]);

    [Fact]
    public void The_first_part_begins_at_0_however_short() =>
        Propose(Show(60, (2, 0), (5, 1))).ShouldBe([(0, "Thrust")]);

    [Fact]
    public void A_long_silence_divides_a_long_part_and_a_short_one_does_not()
    {
        var timeline = Show(180, (0, 0), (120, 1));

        Propose(timeline, Silence(58, 62), Silence(30, 31), Silence(118, 123), Silence(150, 155))
            .ShouldBe([(0, "Thrust"), (62, "Thrust, part 2"), (120, "Keystone")]);
    }

    [Fact]
    public void Half_an_hour_full_of_silences_has_about_ten_parts_from_the_longest_of_them()
    {
        // A silence every half minute, each fifth of them longer.
        var silences = Enumerable.Range(1, 58).Select(i => Silence((i * 30) - (i % 5 == 0 ? 8 : 4), i * 30)).ToArray();

        var starts = Propose(Show(1800, (0, 0)), silences).Select(p => p.Item1).ToArray();
        starts.Length.ShouldBeInRange(5, 11);
        starts.Skip(1).ShouldAllBe(s => s % 150 == 0, "after the longest");
        starts.Zip(starts.Skip(1), (a, b) => b - a).Min().ShouldBeGreaterThanOrEqualTo(180);
    }

    [Fact]
    public void A_silence_in_which_something_is_drawn_is_in_the_middle_of_a_part()
    {
        var drawn = TimelineCompilerTests.Record(
            Guid.NewGuid(), 180_000,
            [
                new BoardShown(0, Boards[0].Id), new StrokeBegun(1, Boards[0].Id, "pen", "blue", "medium"),
                new StrokePoints(1, [100, 100, 128, 600_000]), new StrokeEnded(1, 60_000),
            ]);
        var timeline = TimelineCompiler.Compile(Boards, Arrangement.Resolve([drawn], EditList.Empty));

        Propose(timeline, Silence(55, 65), Silence(95, 99)).ShouldBe([(0, "Thrust"), (99, "Thrust, part 2")]);
    }

    [Fact]
    public void Coming_back_to_a_board_says_so() =>
        Propose(Show(120, (0, 0), (40, 1), (80, 0))).ShouldBe([(0, "Thrust"), (40, "Keystone"), (80, "Thrust, part 2")]);

    [Fact]
    public void There_is_nothing_to_propose_without_a_recording() =>
        Chapters.Propose(TimelineCompiler.Compile(Boards, Arrangement.Resolve([], EditList.Empty)), []).ShouldBeEmpty();

    [Fact]
    public void Chapters_are_placed_by_their_moment_and_those_of_a_deleted_take_are_left_out()
    {
        var log = Record(60, (0, 0));
        var take = log.Id.Value;
        Chapter At(string title, Guid? id, double seconds) => new(Guid.NewGuid(), title, id, (long)(seconds * 48_000));

        Chapters.Place(
            [At("c", take, 30), At("b", take, 10), At("gone", Guid.NewGuid(), 5), At("hidden", take, 30)],
            Arrangement.Resolve([log], EditList.Empty))
            .Select(c => (c.Title, c.At.Milliseconds)).ShouldBe([("b", 0), ("hidden", 30_000)]);
    }
}
