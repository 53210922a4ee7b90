using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>The rules at the joins, each as an example that reads like its sentence in the design. Each leaves pictures of its lesson.</summary>
public class JoinTests
{
    private static Seen Seen(string name, EditList edits, params Script[] takes)
    {
        var seen = Editing.Seen.Of(edits, takes);
        ScenePictures.Save(name, seen);
        return seen;
    }

    private static EditList Edits(params Cut[] cuts) => new() { Cuts = cuts };

    [Fact]
    public void Splitting_a_range_and_removing_nothing_changes_nothing()
    {
        var take = new Script(1, 10).Show(0, 0).Stroke(1, 4, 6).Point(4.5, 3000).Point(5.5, 9000);
        var whole = Seen("split", EditList.Empty, take);
        var split = Editing.Seen.Of(new EditList { Sequence = [take.Range(0, 5), take.Range(5, 10)] }, take);
        split.Arrangement.Placements.ShouldHaveSingleItem();
        split.Share(5).ShouldBe(whole.Share(5));
        split.At(5).Pointer.ShouldBe(whole.At(5).Pointer);
    }

    [Fact]
    public void A_range_placed_after_something_else_enters_with_its_own_board_view_and_covers_and_the_pointer_away()
    {
        var first = new Script(1, 10).Show(0, 1).View(0.5, 0).Uncover(1, 1).Stroke(1, 2, 3, board: 1).Lengthen(3, 1500, board: 1)
            .View(4, 4000, board: 1)
            .Show(8, 0)
            .Point(9, 500);
        var other = new Script(2, 4).Show(0, 0).Stroke(1, 1, 2).Point(3, 9000);
        var seen = Seen("own-boards", new EditList { Sequence = [other.Range(0, 4), first.Range(5, 8)] }, first, other);
        seen.At(4).Board.ShouldBe(1);
        seen.At(4).View.ShouldBe(new View(0, 4000, 8000));
        seen.At(4).Height.ShouldBe(1500);
        seen.At(4).Hidden.ShouldBe([Script.Cover]);
        seen.At(4).Pointer.ShouldBeNull();
        seen.Strokes(4).ShouldBeEmpty("its ink is what the lesson has drawn so far, and stroke 1 of this take isn't in it");
    }

    [Fact]
    public void At_a_join_of_takes_the_pointer_of_the_first_is_gone()
    {
        var seen = Seen("pointer-at-a-join", EditList.Empty, new Script(1, 4).Show(0, 0).Point(2, 3000), new Script(2, 4).Show(0, 1));
        seen.At(3.9).Pointer.ShouldNotBeNull();
        seen.At(4).Pointer.ShouldBeNull();
        seen.At(4).Board.ShouldBe(1, "the old board doesn't flash");
    }

    [Fact]
    public void Marks_wholly_inside_a_cut_go_and_one_that_crosses_an_edge_is_kept_whole()
    {
        var take = new Script(1, 10).Show(0, 0).Stroke(1, 2, 3.5).Stroke(2, 4, 5).Stroke(3, 5.5, 7).Stroke(4, 8, 9);
        var seen = Seen("cut", Edits(take.Cut(3, 6)), take);
        seen.Seconds.ShouldBe(7);
        seen.Strokes(2.9).ShouldBe([1]);
        seen.Strokes(3).ShouldBe([1, 3], "2 was drawn wholly inside");
        seen.Timeline.Boards[0].Strokes.Single(s => s.Key.Stroke.Number == 1).Points[^1].Milliseconds
            .ShouldBe(3000, "its inside points are at the join");
        seen.Strokes(6.5).ShouldBe([1, 3, 4]);
    }

    [Fact]
    public void Kept_marks_are_born_at_the_join_and_undoing_one_removes_it()
    {
        var take = new Script(1, 10).Show(0, 0).Stroke(1, 4, 5).Stroke(2, 4.2, 5.2).Undo(8, 2);
        var seen = Seen("cut-keeping-marks", Edits(take.Cut(3, 6, keepsMarks: true)), take);
        seen.Strokes(2.99).ShouldBeEmpty();
        seen.Strokes(3).ShouldBe([1, 2]);
        seen.Strokes(5).ShouldBe([1]);
    }

    [Fact]
    public void Board_state_takes_its_net_value_at_the_join()
    {
        var take = new Script(1, 10).Show(0, 0).Show(4, 1).Uncover(4.5, 1).View(5, 1000, board: 1).View(5.5, 2000, board: 1);
        var seen = Seen("net-value", Edits(take.Cut(3, 6)), take);
        seen.At(2.99).Board.ShouldBe(0);
        (seen.At(3).Board, seen.At(3).View.Y).ShouldBe((1, 2000));
        seen.At(3).Hidden.ShouldBe([Script.Cover]);
    }

    [Fact]
    public void An_erasure_inside_a_cut_still_erases_and_its_undo_revives_at_the_moment_of_the_undo()
    {
        var take = new Script(1, 10).Show(0, 0).Stroke(1, 1, 2).Erase(7, 4, 1).Undo(8, 7);
        var seen = Seen("erasure-in-a-cut", Edits(take.Cut(3, 6)), take);
        seen.Strokes(2.9).ShouldBe([1]);
        seen.Strokes(3).ShouldBeEmpty();
        seen.Strokes(5).ShouldBe([1]);
    }

    [Fact]
    public void An_undo_after_the_cut_of_something_drawn_inside_does_nothing()
    {
        var take = new Script(1, 10).Show(0, 0).Stroke(1, 1, 2).Stroke(2, 4, 5).Undo(8, 2);
        Seen("undo-after-a-cut", Edits(take.Cut(3, 6)), take).Strokes(6).ShouldBe([1]);
    }

    [Fact]
    public void A_moment_inside_a_cut_snaps_to_the_join_or_vanishes_as_its_type_says()
    {
        var take = new Script(1, 10);
        var seen = Editing.Seen.Of(Edits(take.Cut(3, 6)), take);
        seen.Places(take.Moment(4), WhenCut.Snap).ShouldBe([3]);
        seen.Places(take.Moment(4), WhenCut.Drop).ShouldBeEmpty();
        seen.Places(take.Moment(3), WhenCut.Drop).ShouldBeEmpty("ranges are half-open: the first moment is inside");
        seen.Places(take.Moment(6), WhenCut.Drop).ShouldBe([3], "and the end is not");
    }

    [Fact]
    public void A_retake_is_as_if_the_slip_had_not_been_recorded()
    {
        var take = new Script(1, 10).Show(0, 0).Stroke(1, 1, 2).Stroke(2, 4, 5).Show(5, 1).Uncover(5.5, 1).Lengthen(5.6, 1500).Erase(8, 5.8, 1)
            .Retake(6, 3)
            .Stroke(9, 7, 8)
            .Undo(9, 2);
        var seen = Seen("retake", EditList.Empty, take);
        seen.Seconds.ShouldBe(7);
        (seen.At(3).Board, seen.At(3).Height).ShouldBe((0, 900));
        seen.Strokes(3).ShouldBe([1]);
        seen.Strokes(6.5).ShouldBe([1, 9]);
        seen.Places(take.Moment(4), WhenCut.Snap).ShouldBeEmpty("every moment in a branch vanishes, of whatever type");
    }

    [Fact]
    public void A_stroke_under_the_pen_at_the_return_point_ends_there()
    {
        var take = new Script(1, 10).Show(0, 0).Stroke(1, 2, 4).Retake(6, 3);
        Seen("retake-in-a-stroke", EditList.Empty, take).Share(6.5).ShouldBe(0.5, tolerance: 0.01);
    }

    [Fact]
    public void A_branch_that_is_put_back_enters_set_back_to_its_return_point()
    {
        var take = new Script(1, 12).Show(0, 0).Stroke(1, 1, 2).Stroke(2, 4, 5).Retake(6, 3).Stroke(3, 7, 8).Show(9, 1);
        var seen = Seen("branch-put-back", new EditList { Sequence = [take.Range(0, 12), take.Range(3, 6, asOf: 6)] }, take);
        seen.Seconds.ShouldBe(12);
        seen.Strokes(5.5).ShouldBe([1, 3]);
        seen.At(8.9).Board.ShouldBe(1);
        seen.At(9).Board.ShouldBe(0, "the boards are as they were at the return point");
        seen.Strokes(9).ShouldBe([1]);
        seen.Strokes(11.5).ShouldBe([1, 2]);
    }

    [Fact]
    public void A_stretch_retaken_later_replaces_the_old()
    {
        var old = new Script(1, 12).Show(0, 0).Stroke(1, 1, 2).Stroke(2, 5, 6).Show(7, 1).Stroke(3, 9, 10, board: 1).Undo(11, 2);
        var again = new Script(2, 3).Stroke(1, 1, 2);
        var seen = Seen("retaken-later", new EditList { Sequence = [old.Range(0, 4), again.Range(0, 3), old.Range(8, 12)] }, old, again);
        seen.At(4).Board.ShouldBe(0, "it starts from the boards as they are there");
        seen.Strokes(6.9).ShouldBe([1, 1]);
        seen.At(7).Board.ShouldBe(1, "the old take goes on with its own board");
        seen.Strokes(10.5).ShouldBe([3]);
        seen.Timeline.Boards[0].Strokes.Count.ShouldBe(2, "nothing of the old stretch acts");
    }

    [Fact]
    public void A_take_for_a_place_comes_in_there_and_what_it_replaced_can_be_put_back()
    {
        var old = new Script(1, 12).Show(0, 0).Stroke(1, 1, 2).Stroke(2, 5, 6).Show(7, 1).Stroke(3, 9, 10, board: 1);
        var again = new Script(2, 3).Stroke(1, 1, 2).For(old.Moment(4), old.Moment(8));
        var logs = new[] { old.Log, again.Log };
        Arrangement.Resolve(logs, EditList.Empty).Length.Seconds.ShouldBe(12, "until it is taken in it is nowhere");
        var edits = new EditList { Sequence = Sequences.With(again.Log, [old.Log], EditList.Empty) };
        edits.Sequence.ShouldBe([old.Range(0, 4), again.Range(0, 3), old.Range(8, 12)]);
        var seen = Seen("taken-in", edits, old, again);
        seen.At(4).Board.ShouldBe(0, "it starts from the boards as they are there");
        seen.Strokes(10.5).ShouldBe([3]);
        seen.Places(old.Moment(5), WhenCut.Snap).ShouldBe([4], "a chapter that was there is where it begins");
        seen.Places(old.Moment(5), WhenCut.SnapBehind).ShouldBe([7], "and a question behind it");
        seen.Places(old.Moment(5), WhenCut.Drop).ShouldBeEmpty();

        var back = Sequences.Without(again.Log, logs, edits);
        Arrangement.Resolve(logs, new EditList { Sequence = back }).Placements.ShouldHaveSingleItem().Map.Source.End.ShouldBe(old.Log.End);
    }

    [Fact]
    public void What_a_retake_took_back_is_put_back_before_what_was_said_instead_and_out_again()
    {
        var take = new Script(1, 12).Show(0, 0).Stroke(1, 1, 2).Stroke(2, 5, 6).Retake(8, 4).Stroke(3, 9, 10);
        var steps = new EditSteps(Arrangement.Resolve([take.Log], EditList.Empty), _ => throw new InvalidOperationException("nothing is measured"));
        var back = new PutBack(EditKind.TakenBack, take.Id, Script.From(4, 8));
        var (edits, said) = steps.Do(back).Value!;
        said.ShouldBe("Put back 4.0 s that a retake had taken back");
        var seen = Seen("branch-back", edits, take);
        seen.Seconds.ShouldBe(12);
        seen.Strokes(6.5).ShouldBe([1, 2]);
        seen.Strokes(11).ShouldBe([1, 2, 3], "what it drew stays");
        var again = new EditSteps(Arrangement.Resolve([take.Log], edits), _ => throw new InvalidOperationException("nothing is measured")).Do(back);
        Arrangement.Resolve([take.Log], again.Value!.Edits).Length.Seconds.ShouldBe(8);
        steps.Do(back with { Source = Script.From(3, 8) }).Fault.ShouldNotBeNull("no retake took that back");
    }

    [Fact]
    public void A_chapter_is_moved_before_another_and_its_moments_go_with_it()
    {
        var take = new Script(1, 12).Show(0, 0).Stroke(1, 1, 2).Show(4, 1).Stroke(2, 5, 6, board: 1).Show(8, 0).Stroke(3, 9, 10);
        var steps = new EditSteps(Arrangement.Resolve([take.Log], EditList.Empty), _ => throw new InvalidOperationException("nothing is measured"));
        var (edits, said) = steps.Do(new MoveStretch(8000, 12_000, 4000)).Value!;
        said.ShouldBe("Moved 0:04 from 0:08 to before 0:04");
        edits.Sequence.ShouldBe([take.Range(0, 4), take.Range(8, 12), take.Range(4, 8)]);
        var seen = Seen("chapter-moved", edits, take);
        seen.Seconds.ShouldBe(12);
        seen.Places(take.Moment(8), WhenCut.Snap).ShouldBe([4]);
        seen.At(5.5).Board.ShouldBe(0);
        seen.Strokes(7).ShouldBe([1, 3]);
        seen.At(8.5).Board.ShouldBe(1, "the other one enters with its own board");

        steps.Do(new MoveStretch(0, 4000, 12_000)).Value!.Edits.Sequence.ShouldBe([take.Range(4, 12), take.Range(0, 4)]);
        foreach (var before in new[] { 0.0, 2000, 4000 })
        {
            steps.Do(new MoveStretch(0, 4000, before)).Fault.ShouldNotBeNull("within itself");
        }

        // With a stretch taken out across the edge, the moment heard there is the edge.
        var cut = new EditSteps(
            Arrangement.Resolve([take.Log], new EditList { Cuts = [new(take.Id, Script.From(3, 5))] }), _ => throw new InvalidOperationException());
        Arrangement.Resolve([take.Log], cut.Do(new MoveStretch(3000, 6000, 0)).Value!.Edits).Length.Seconds.ShouldBe(10);
    }

    [Fact]
    public void A_take_between_two_phrases_moves_what_follows_and_one_for_a_place_that_is_gone_comes_last()
    {
        var old = new Script(1, 10).Show(0, 0);
        var between = new Script(2, 2).For(old.Moment(4), old.Moment(4));
        var open = new TakeLog(between.Id, between.Log.Length, [], isEnded: false, place: between.Log.Place);
        Sequences.Of([old.Log, open], EditList.Empty).Select(r => r.Take).ShouldBe([old.Id, between.Id, old.Id], "there while it is recorded");
        Sequences.Of([old.Log, open], EditList.Empty)[1].Source.End.ShouldBeGreaterThan(open.End, "and with what comes yet");
        Sequences.With(between.Log, [old.Log], EditList.Empty).ShouldBe([old.Range(0, 4), between.Range(0, 2), old.Range(4, 10)]);
        var first = new Script(3, 2).For(old.Moment(0), old.Moment(1));
        var twice = new EditList { Sequence = Sequences.With(between.Log, [old.Log], EditList.Empty) };
        Sequences.With(first.Log, [old.Log, between.Log], twice)
            .ShouldBe([first.Range(0, 2), old.Range(1, 4), between.Range(0, 2), old.Range(4, 10)]);
        var across = new Script(4, 1).For(old.Moment(3), old.Moment(5));
        Sequences.With(across.Log, [old.Log, between.Log], twice).ShouldBe([old.Range(0, 3), across.Range(0, 1), old.Range(5, 10)]);
        var gone = new EditList { Sequence = [old.Range(0, 3), old.Range(6, 10)] };
        Sequences.With(between.Log, [old.Log], gone).ShouldBe([old.Range(0, 3), old.Range(6, 10), between.Range(0, 2)]);
    }

    [Fact]
    public void Shortening_draws_ink_faster_and_loses_none()
    {
        var take = new Script(1, 10).Show(0, 0).Stroke(1, 3, 7);
        var seen = Seen("shortened", new EditList { Silences = [new(take.Id, Script.From(2, 8), Duration.FromSeconds(1))] }, take);
        seen.Seconds.ShouldBe(5);
        seen.At(2).Strokes.ShouldBeEmpty();
        seen.Share(2.5).ShouldBe(0.5, tolerance: 0.02);
        seen.Share(3).ShouldBe(1);
    }

    [Fact]
    public void A_stroke_across_the_edge_of_a_silence_keeps_its_pace_outside()
    {
        var take = new Script(1, 10).Show(0, 0).Stroke(1, 2, 6);
        var seen = Seen("across-a-silence", new EditList { Silences = [new(take.Id, Script.From(4, 8), Duration.FromSeconds(0.5))] }, take);
        seen.Share(4).ShouldBe(0.5, tolerance: 0.01);
        seen.Share(4.25).ShouldBe(1);
    }

    [Fact]
    public void A_pause_holds_everything_before_its_moment()
    {
        var take = new Script(1, 6).Show(0, 0).Stroke(1, 2, 4).Show(4, 1);
        var seen = Seen("pause", new EditList { Pauses = [new(take.Id, Script.At(4), Duration.FromSeconds(3))] }, take);
        seen.Seconds.ShouldBe(9);
        seen.At(6.9).Board.ShouldBe(0);
        seen.At(7).Board.ShouldBe(1);
    }

    [Fact]
    public void A_range_used_twice_is_two_sets_of_strokes()
    {
        var take = new Script(1, 6).Show(0, 0).Stroke(1, 1, 2).Stroke(2, 3, 4).Erase(3, 5, 1);
        var seen = Seen("used-twice", new EditList { Sequence = [take.Range(0, 4.5), take.Range(0, 4.5), take.Range(4.8, 6)] }, take);
        seen.Strokes(4).ShouldBe([1, 2]);
        seen.Strokes(8).ShouldBe([1, 1, 2, 2]);
        seen.Strokes(9.5).ShouldBe([2, 2], "what is done to a stroke is done to every copy");
        seen.Places(take.Moment(1), WhenCut.Drop).ShouldBe([1, 5.5]);
    }

    [Fact]
    public void A_thinking_stop_takes_no_time_and_its_answer_is_the_next_uncovering()
    {
        var take = new Script(1, 10).Show(0, 0).Uncover(6).Show(8, 1);
        ThinkingStop Stop(double at, Guid? answer = null) =>
            new(Guid.NewGuid(), take.Id, Script.At(at), StopKind.UntilAnswerShown, "Which way does it push?") { Answer = answer };
        var seen = Seen("thinking-stop", new EditList { Stops = [Stop(4), Stop(9, Script.Cover)] }, take);
        seen.Seconds.ShouldBe(10);
        seen.Timeline.Stops.Select(s => (s.At.Milliseconds, s.AnswerAt?.Milliseconds)).ShouldBe([(4000, 6000), (9000, 9001)]);
        seen.At(9).Hidden.ShouldBeEmpty("the answer is still covered where it halts");
        seen.At(9.001).Hidden.ShouldBe([Script.Cover], "the compiler added its uncovering, since the teacher made none");
    }

    [Fact]
    public void Added_ink_keeps_the_moments_heard_and_what_reaches_past_the_end_is_finished_there()
    {
        var take = new Script(1, 8).Show(0, 0);
        AddedPoint Point(int i, double at) => new(2000 + (i * 3000), 4000, 128, take.Id, Script.At(at));
        var ink = new AddedStroke(
            Guid.NewGuid(),
            Script.Boards[0].Id,
            "pen",
            "blue",
            "broad",
            [Point(0, 2), Point(1, 3), Point(2, 4), Point(3, 5), Point(4, 6)]);
        Seen("added-ink", new EditList { AddedInk = [ink] }, take).Share(4).ShouldBe(0.5);
        Seen("added-ink-cut", new EditList { AddedInk = [ink], Cuts = [take.Cut(3, 5)] }, take).Share(3).ShouldBe(0.75);
        Seen("added-ink-at-the-end", new EditList { AddedInk = [ink], Sequence = [take.Range(0, 4.5)] }, take).Share(4.5).ShouldBe(1);
    }

    [Fact]
    public void Ink_added_at_a_standstill_ends_at_the_next_join_or_board_change_and_never_lengthens_the_lesson()
    {
        var take = new Script(1, 8).Show(0, 0).Show(5, 1).Show(7, 0);
        AddedPoint Point(int i) => new(2000 + (i * 3000), 4000, 128, take.Id, Script.At(4), Duration.FromSeconds(i));
        var ink = new AddedStroke(Guid.NewGuid(), Script.Boards[0].Id, "pen", "blue", "broad", [Point(0), Point(1), Point(2)])
        {
            IsAtStandstill = true
        };
        var seen = Seen("standstill", new EditList { AddedInk = [ink] }, take);
        seen.Seconds.ShouldBe(8);
        seen.Timeline.Boards[0].Strokes.Single().Points.Select(p => p.Milliseconds).ShouldBe([4000, 5000, 5000]);
    }

    [Fact]
    public void A_changed_mark_is_another_and_one_that_ended_cannot_be_brought_back()
    {
        var take = new Script(1, 8).Show(0, 0).Stroke(1, 1, 2).Stroke(2, 2, 3).Stroke(3, 3, 4).Undo(6, 1);
        var seen = Seen("changed-marks", new EditList
        {
            Marks =
            [
                new(take.Id, 1) { Ends = Script.At(5) }, new(take.Id, 2) {
                    Begins = Script.At(4),
                    Ink = "green",
                    Width = "broad",
                    MoveY = 500 }, new(take.Id, 3) { IsGone = true },
            ],
        }, take);
        seen.Strokes(3.5).ShouldBe([1]);
        seen.Strokes(4.5).ShouldBe([1, 2]);
        seen.Strokes(5.5).ShouldBe([2]);
        var moved = seen.Timeline.Boards[0].Strokes.Single(s => s.Key.Stroke.Number == 2);
        (moved.Birth.Milliseconds, moved.Points[^1].Milliseconds, moved.Points[0].Y, Core.Ink.InkStyle.All[moved.Style].Ink).ShouldBe(
            (4000, 5000, 3000, "green"));
    }

    [Fact]
    public void What_holds_only_this_time_is_in_or_out()
    {
        var take = new Script(1, 8).Show(0, 0).Stroke(1, 3, 4);
        var edits = new EditList { Temporary = [new(take.Id, Script.From(2, 5))] };
        Arrangement.Resolve([take.Log], edits).Length.Seconds.ShouldBe(8);
        Arrangement.Resolve([take.Log], edits with { LeavesOutTemporary = true }).Length.Seconds.ShouldBe(5);
    }

    [Fact]
    public void A_correction_shows_from_its_moment_and_goes_with_it()
    {
        var take = new Script(1, 8).Show(0, 0);
        var note = new Core.Boards.Items.TextItem { Id = Guid.NewGuid() };
        var edits = new EditList { Corrections = [new(take.Id, Script.At(2), Script.Boards[0].Id, note, Script.At(5))] };
        var seen = Seen("correction", edits, take);
        (seen.At(1.9).Hidden.Count, seen.At(2).Hidden.Count, seen.At(5).Hidden.Count).ShouldBe((1, 0, 1));
        Editing.Seen.Of(edits with { Cuts = [take.Cut(1, 3)] }, take).At(2).Hidden.ShouldBe([note.Id], "what it corrects was taken out");
    }
}
