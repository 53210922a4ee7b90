using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Tests.Editing;

public class EditRulesTests
{
    private static readonly TakeId Take = new(Guid.Parse("00000001-0000-0000-0000-000000000000"));
    private static readonly TakeTime Far = new(long.MaxValue / 4);

    private static TimeRange<TakeTime> Range(long from, long to) => new(new TakeTime(from), new TakeTime(to));

    private static ThinkingStop Stop(StopKind kind, string question = "", double seconds = 0) =>
        new(Guid.NewGuid(), Take, new(0), kind, question) { Wait = Duration.FromSeconds(seconds) };

    private static Correction Note(double width) =>
        new(Take, new(0), Guid.NewGuid(), new TextItem { Id = Guid.NewGuid(), Width = width });

    private static AddedStroke Stroke(params AddedPoint[] points) => new(Guid.NewGuid(), Guid.NewGuid(), "pen", "blue", "fine", points);

    public static TheoryData<string, EditList, string> Wrong => new()
    {
        { "too many", new EditList { Cuts = [.. Enumerable.Repeat(new Cut(Take, Range(0, 1)), EditRules.Most + 1)] }, "can hold" },
        { "a silence of nothing", new EditList { Silences = [new(Take, Range(0, 9), Duration.Zero)] }, "keep some length" },
        { "a pause backwards", new EditList { Pauses = [new(Take, new(0), new(-1))] }, "a pause lasts at most" },
        { "a pause of an hour", new EditList { Pauses = [new(Take, new(0), Duration.FromSeconds(3600))] }, "a pause lasts at most" },
        { "a stroke without points", new EditList { AddedInk = [Stroke()] }, "could not be read" },
        { "ink at the moon", new EditList { AddedInk = [Stroke(new AddedPoint(int.MaxValue, 0, 1, Take, new(0)))] }, "could not be read" },
        { "a move to the moon", new EditList { Marks = [new(Take, 1) { MoveX = int.MinValue }] }, "could not be read" },
        { "a moment in ten thousand years", new EditList { Marks = [new(Take, 1) { Begins = Far }] }, "no recording has" },
        { "a cut to the end of days", new EditList { Cuts = [new(Take, new(new(0), Far))] }, "no recording has" },
        { "a stop of a day", new EditList { Stops = [Stop(StopKind.SetTime, seconds: 86_400)] }, "at most" },
        { "a stop of no kind", new EditList { Stops = [Stop((StopKind)9)] }, "at most" },
        { "a question as a book", new EditList { Stops = [Stop(StopKind.SetTime, new string('?', 3000))] }, "Shorten it" },
        { "a note of no size", new EditList { Corrections = [Note(double.NaN)] }, "" },
    };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void What_is_wrong_is_said_and_nothing_is_changed(string what, EditList edits, string says)
    {
        var found = EditRules.Check(edits);
        found.Value.ShouldBeNull(what);
        found.Fault!.ShouldContain(says);
    }

    [Fact]
    public void Made_up_edits_pass_and_a_range_may_end_behind_everything()
    {
        EditRules.Check(new EditList { Sequence = [new(Take, new(new(0), Far))] }).Fault.ShouldBeNull();
        for (var seed = 0; seed < 200; seed++)
        {
            var edits = RandomLessons.Make(seed).Edits;
            var sound = edits with { Silences = [.. edits.Silences.Where(s => s.Length > Duration.Zero)], Pauses = [] };
            EditRules.Check(sound).Fault.ShouldBeNull($"seed {seed}");
        }
    }

    [Fact]
    public void A_lesson_is_at_most_twelve_hours_long_however_often_a_take_is_used()
    {
        var log = new TakeLog(Take, Duration.FromSeconds(3600), []);
        var edits = new EditList { Sequence = [.. Enumerable.Repeat(new SequenceRange(Take, new(new(0), log.End)), 5000)] };
        var arrangement = Arrangement.Resolve([log], edits);
        arrangement.Length.ShouldBe(Arrangement.Longest);
        TimelineCompiler.Compile([], arrangement).Placements.Count.ShouldBe(12);
    }
}
