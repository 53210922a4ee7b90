using ArchTalk.Core.Audio;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>Lines that were drawn along words while nobody could say on which they settle.</summary>
public sealed class UnsettledTests
{
    private static readonly SettledStroke OnWords = new(new(1900, 2500), new(9000, 2500), 440, "the keystone");

    private static Arrangement Lesson(Script take, EditList? edits = null) => Arrangement.Resolve([take.Log], edits ?? EditList.Empty);

    private static IReadOnlyList<Proposal> Proposed(Arrangement lesson, SettledStroke? settled) =>
        [.. Proposals.Of(lesson, Measures(lesson), _ => settled).Where(p => p.Kind == ProposalKind.Unsettled)];

    // Somebody speaks all the time.
    private static Func<TakeId, TakeMeasures> Measures(Arrangement lesson) => take =>
    {
        var log = lesson.Logs.Single(l => l.Id == take);
        return new(log.Length, [new(TakeTime.Zero, log.End)], [], 0, -70, null, new Waveform());
    };

    private static EditsAfter Do(Arrangement lesson, EditStep step)
    {
        var (after, fault) = new EditSteps(lesson, Measures(lesson), Proposed(lesson, OnWords)).Do(step);
        fault.ShouldBeNull();
        return after!;
    }

    private static Script Drawn() => new Script(1, 60).Show(0, 0).Stroke(1, 10, 12).Unsettled(20, 1, KeyLineKind.WriteDown);

    [Fact]
    public void It_is_offered_with_its_words_where_it_lies_along_some()
    {
        var proposal = Proposed(Lesson(Drawn()), OnWords).ShouldHaveSingleItem();
        (proposal.Kind, proposal.Source, proposal.Text).ShouldBe((ProposalKind.Unsettled, Script.From(10, 12), "the keystone"));
        Proposed(Lesson(Drawn()), null).ShouldBeEmpty("along no words");
        Proposed(Lesson(new Script(1, 60).Show(0, 0).Stroke(1, 10, 12)), OnWords).ShouldBeEmpty("the server answered");
    }

    [Fact]
    public void What_was_undone_rubbed_out_taken_back_or_taken_out_is_not()
    {
        Proposed(Lesson(Drawn().Undo(25, 1)), OnWords).ShouldBeEmpty();
        Proposed(Lesson(Drawn().Erase(2, 25, 1)), OnWords).ShouldBeEmpty();
        Proposed(Lesson(Drawn().Retake(30, 5)), OnWords).ShouldBeEmpty();
        Proposed(Lesson(Drawn(), EditList.Empty with { Cuts = [Drawn().Cut(8, 14)] }), OnWords).ShouldBeEmpty();
    }

    [Fact]
    public void Accepted_it_is_drawn_straight_on_its_words_in_the_time_it_took_and_they_are_the_key_line_that_was_meant()
    {
        var recorded = Lesson(Drawn());
        var after = Do(recorded, new Accept([new Accepted(Proposed(recorded, OnWords)[0].Key)]));
        after.Said.ShouldBe("Laid a line on its words at 0:10");
        var lesson = Lesson(Drawn(), after.Edits);
        Proposed(lesson, OnWords).ShouldBeEmpty();

        var timeline = TimelineCompiler.Compile(Script.Boards, lesson);
        var stroke = timeline.Boards[0].Strokes.ShouldHaveSingleItem();
        stroke.LineHeight.ShouldBe(440);
        stroke.Points.Select(p => (p.X, p.Y, p.Milliseconds)).ShouldBe([(1900, 2500, 10_000), (9000, 2500, 12_000)]);
        var line = timeline.KeyLines.ShouldHaveSingleItem();
        (line.Kind, line.Text, line.At.WholeMilliseconds).ShouldBe((KeyLineKind.WriteDown, "the keystone", 10_000));

        var back = Do(lesson, new PutBack(EditKind.Settled, Drawn().Id, Script.From(10, 12)));
        (back.Said, back.Edits.Count).ShouldBe(("Left a line as it was drawn", 0));
        new EditSteps(recorded, Measures(recorded)).Do(new PutBack(EditKind.Settled, Drawn().Id, Script.From(10, 12))).Fault!
            .ShouldContain("changed meanwhile");
    }

    [Fact]
    public void It_is_offered_though_a_silence_around_it_is_made_short_and_left_it_is_not_offered_again()
    {
        var take = Drawn();
        var shortened = EditList.Empty with { Silences = [new(take.Id, Script.From(8, 14), Duration.FromSeconds(1))] };
        var lesson = Lesson(take, shortened);
        var proposal = Proposed(lesson, OnWords).ShouldHaveSingleItem();
        Proposed(Lesson(take, Do(lesson, new Leave([proposal.Key])).Edits), OnWords).ShouldBeEmpty();
    }

    [Fact]
    public void A_line_beyond_every_board_is_refused()
    {
        var far = new MarkChange(Drawn().Id, 1) { Settled = OnWords with { To = new(int.MaxValue, 0) } };
        EditRules.Check(EditList.Empty with { Marks = [far] }).Fault!.ShouldContain("could not be read");
    }
}
