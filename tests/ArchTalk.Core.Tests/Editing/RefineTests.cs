using ArchTalk.Core.Audio;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using Shouldly;
using Xunit;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>What is proposed for small takes whose words are known, and what becomes of steps.</summary>
public sealed class RefineTests
{
    private static readonly Guid Stop = Guid.Parse("00000000-0000-0000-0000-0000000000f0");

    [Fact]
    public void Before_the_first_word_and_after_the_last_is_proposed_to_be_taken_out()
    {
        var lesson = new Spoken(new Script(1, 60), (4, 20), (21, 50));
        lesson.Proposed().ShouldBe(["Beginning 0-3.7 out", "Ending 50.5-60 out"]);
    }

    [Fact]
    public void What_was_drawn_before_the_first_word_stays()
    {
        var lesson = new Spoken(new Script(1, 60).Show(0, 0).Stroke(1, 1, 2), (4, 20), (21, 59.8));
        lesson.Proposed().ShouldBe(["Beginning 0-3.7 out, ink stays"]);
        lesson.Accept(0).Timeline().At(LessonTime.Zero).Panes[0].Strokes.Count.ShouldBe(1);
    }

    [Fact]
    public void A_few_words_and_a_long_silence_are_a_false_start_unless_something_was_drawn_meanwhile()
    {
        new Spoken(new Script(1, 60), (1, 4), (8, 30), (31, 59.8)).Proposed().ShouldBe(["FalseStart 0-7.7 out"]);
        new Spoken(new Script(1, 60).Show(0, 0).Stroke(1, 5, 7), (0.2, 4), (8, 30), (31, 59.8)).Proposed()
            .ShouldBe(["WritingSilence 4-8 to 0.5"], "four seconds of writing take half a second at least");
    }

    [Fact]
    public void A_few_words_behind_the_end_are_proposed_with_the_silence_before_them() =>
        new Spoken(new Script(1, 60), (0.2, 40), (52, 55)).Proposed().ShouldBe(["Afterword 40.5-60 out"]);

    [Fact]
    public void A_silence_becomes_short_and_keeps_what_its_ink_needs()
    {
        var take = new Script(1, 60).Show(0, 0).Stroke(1, 22, 39);
        new Spoken(take, (0.2, 10), (12, 20), (40, 50), (51.4, 59.8)).Proposed()
            .ShouldBe(["Silence 10-12 to 0.4", "WritingSilence 20-40 to 2.5"], "at most eight times as fast; 1.4 s is a breath");
    }

    [Fact]
    public void Before_another_board_a_second_is_left_and_a_gliding_view_or_what_was_uncovered_is_left_alone()
    {
        var take = new Script(1, 60).Show(0, 0).Show(11, 1).View(21, 1000, board: 1).Uncover(31, 1);
        new Spoken(take, (0.2, 10), (14, 20), (24, 30), (36, 40), (42, 59.8)).Proposed()
            .ShouldBe(["Silence 10-14 to 1", "Silence 33-36 to 0.4", "Silence 40-42 to 0.4"]);
    }

    [Fact]
    public void The_wait_after_a_thinking_stop_is_short_for_students_wait_there_by_themselves()
    {
        var take = new Script(1, 60);
        var edits = EditList.Empty with { Stops = [new ThinkingStop(Stop, take.Id, Script.At(10), StopKind.UntilStudentGoesOn, "Why?")] };
        new Spoken(take, edits, (0.2, 10), (15, 59.8)).Proposed().ShouldBe(["Waiting 10-15 to 0.4"]);
    }

    [Fact]
    public void Where_the_teacher_waited_and_then_uncovered_a_thinking_stop_is_offered_and_behind_it_the_wait_is_short()
    {
        // Rowe, Wait-time and rewards (1974): at least 3 s (from memory).
        var take = new Script(1, 60).Show(0, 0).Uncover(14, 0).Uncover(33, 0);
        var lesson = new Spoken(take, (0.2, 10), (16, 30.1), (35, 59.8));
        lesson.Proposed().ShouldBe(["Question 10-14 out"], "2.9 s are no wait, and what was uncovered is looked at");
        var asked = lesson.Do(new Accept([new Accepted(lesson.Proposals[0].Key, Stop: Stop)]));
        asked.Edits.Stops.ShouldBe([new ThinkingStop(Stop, take.Id, Script.At(10), StopKind.UntilAnswerShown, "")]);
        asked.Said.ShouldBe("Put a thinking stop at 0:10");
        asked.Proposed().ShouldBe(["Waiting 10-14 to 0.4"], "students wait by themselves; what was uncovered is looked at for two seconds");
        lesson.Do(new Leave([lesson.Proposals[0].Key])).Proposed().ShouldBeEmpty();
        lesson.Fault(new Accept([new Accepted(lesson.Proposals[0].Key)]))!.ShouldContain("changed meanwhile", Case.Insensitive, "it needs a name");
    }

    [Fact]
    public void The_answer_may_be_uncovered_with_the_next_words()
    {
        string[] Proposed(double uncoveredAt, double silentUntil) =>
            new Spoken(new Script(1, 60).Show(0, 0).Uncover(uncoveredAt, 0), (0.2, 10), (silentUntil, 59.8)).Proposed();
        Proposed(15, 14).ShouldBe(["Question 10-14 out"]);
        Proposed(13, 12).ShouldBe(["Silence 10-12 to 0.4"], "2 s are no wait");
        Proposed(20, 14).ShouldBe(["Silence 10-14 to 0.4"], "too late");
    }

    [Fact]
    public void Who_writes_while_waiting_has_not_asked() =>
        new Spoken(new Script(1, 60).Show(0, 0).Stroke(1, 11, 12).Uncover(14, 0), (0.2, 10), (16, 59.8)).Proposed().ShouldBeEmpty();

    [Fact]
    public void Sentences_that_are_far_quieter_than_the_take_are_to_be_said_again()
    {
        double Db(double second) => second is >= 20 and < 26 ? -36 : second is >= 30 and < 31 ? -40 : -24;
        var lesson = new Spoken(new Script(1, 60), Db, (0.2, 19), (20, 23), (24, 26), (26.7, 29), (30, 31), (31.8, 59.8));
        lesson.Proposed().ShouldBe(["Quiet 20-26 out"], "of the second of 40 dB an aside is made");
        lesson.Fault(new Accept([new Accepted(lesson.Proposals[0].Key)]))!.ShouldContain("Say it again");
        new Spoken(new Script(1, 60), _ => -24, (0.2, 19), (20, 59.8)).Proposed().ShouldBeEmpty();
    }

    [Fact]
    public void A_short_sound_by_itself_may_be_taken_out()
    {
        var lesson = new Spoken(new Script(1, 60), (0.2, 10), (10.8, 11.2), (12, 20), (20.3, 20.7), (21.4, 22.5), (23.2, 59.8));
        lesson.Proposed().ShouldBe(
            ["ShortSound 10.75-11.25 out, ink stays"], "one that follows a phrase closely is a part of it, one of 1.1 s a word");
    }

    [Fact]
    public void Fix_later_proposes_the_sentence_that_was_just_said()
    {
        var take = new Script(1, 60).Note(17, 1, NoteKind.FixLater, "wrong year");
        var spoken = new Spoken(take, (0.2, 10), (10.3, 12), (13, 14), (14.4, 16.5), (17.5, 59.8));
        spoken.Proposed().ShouldBe(["FixLater 13-17.5 out"]);
        spoken.Proposals[0].Text.ShouldBe("wrong year");
    }

    [Fact]
    public void What_a_retake_took_back_is_neither_proposed_nor_joined_with_what_goes_on()
    {
        var take = new Script(1, 60).Retake(20, 10);
        new Spoken(take, (0.2, 9), (10, 12), (16, 18), (22, 59.8)).Proposed().ShouldBeEmpty("the silences of the branch don't count");
    }

    [Fact]
    public void What_was_edited_or_left_is_not_proposed_again_and_comes_back_when_it_is_put_back()
    {
        var lesson = new Spoken(new Script(1, 60), (0.2, 10), (13, 20), (25, 59.8));
        lesson.Proposed().ShouldBe(["Silence 10-13 to 0.4", "Silence 20-25 to 0.4"]);
        lesson.Do(new Leave([lesson.Proposals[0].Key])).Proposed().ShouldBe(["Silence 20-25 to 0.4"]);
        var accepted = lesson.Accept(1);
        accepted.Proposed().ShouldBe(["Silence 10-13 to 0.4"]);
        accepted.Said.ShouldBe("Made a silence shorter by 4.6 s at 0:20");
        accepted.Do(new PutBack(EditKind.MadeShort, lesson.Take.Id, Script.From(20, 25))).Edits.Count.ShouldBe(0);
    }

    [Fact]
    public void All_that_are_alike_are_accepted_in_one_step_and_edges_can_be_moved_first()
    {
        var lesson = new Spoken(new Script(1, 60), (0.2, 10), (13, 20), (25, 59.8));
        var all = lesson.Do(new Accept([.. lesson.Proposals.Select(p => new Accepted(p.Key))]));
        all.Arrangement.Length.Seconds.ShouldBe(60 - 2.6 - 4.6, 0.001);
        all.Said.ShouldBe("Accepted 2 proposals, shorter by 7.2 s");
        var moved = lesson.Do(new Accept([new Accepted(lesson.Proposals[0].Key, Script.From(10.5, 12.5), RestMs: 1000)]));
        moved.Edits.Silences.ShouldBe([new(lesson.Take.Id, Script.From(10.5, 12.5), Duration.FromSeconds(1))]);
    }

    [Fact]
    public void A_stretch_of_the_lesson_is_taken_out_of_what_was_recorded_also_over_an_earlier_join()
    {
        var lesson = new Spoken(new Script(1, 60), (0.2, 59.8)).Do(new TakeOut(10_000, 20_000));
        lesson.Said.ShouldBe("Took out 10.0 s at 0:10");
        var again = lesson.Do(new TakeOut(5_000, 15_000));
        again.Edits.Cuts.ShouldBe([new(lesson.Take.Id, Script.From(5, 25))], "one stretch from 5 to 25 s of the take, with what was out already");
        again.Arrangement.Length.Seconds.ShouldBe(40);
        again.Do(new PutBack(EditKind.TakenOut, lesson.Take.Id, Script.From(5, 25))).Edits.Count.ShouldBe(0);
    }

    [Fact]
    public void The_edges_of_what_was_taken_out_move_and_meet_their_neighbours()
    {
        var lesson = new Spoken(new Script(1, 60), (0.2, 59.8)).Do(new TakeOut(10_000, 20_000)).Do(new TakeOut(20_000, 25_000));
        lesson.Edits.Cuts.Count.ShouldBe(2);
        lesson.Do(new MoveEdges(EditKind.TakenOut, lesson.Take.Id, Script.From(10, 20), Script.From(10, 30)))
            .Edits.Cuts.ShouldBe([new(lesson.Take.Id, Script.From(10, 35))]);
    }

    [Fact]
    public void Silences_within_a_stretch_become_short_once()
    {
        var lesson = new Spoken(new Script(1, 60), (0.2, 10), (11, 20), (25, 59.8));
        var after = lesson.Do(new MakeShort(8_000, 30_000, 500));
        after.Said.ShouldBe("Made 2 silences shorter by 5.0 s at 0:08");
        after.Arrangement.Length.Seconds.ShouldBe(55, 0.001);
        after.Fault(new MakeShort(8_000, 25_000, 500))!.ShouldContain("no silence longer than 0.5 s");
    }

    [Fact]
    public void A_thinking_stop_sits_behind_the_phrase_it_was_put_in_and_can_be_worded_moved_and_removed()
    {
        var lesson = new Spoken(new Script(1, 60), (0.2, 10), (13, 20), (25, 59.8)).Do(new AddStop(Stop, 15_000, "Why?"));
        lesson.Edits.Stops.Single().At.ShouldBe(Script.At(20));
        var worded = lesson.Do(new ChangeStop(Stop, StopKind.SetTime, "Say it", 5000, AtMs: 4_000));
        var stop = worded.Edits.Stops.Single();
        (stop.At, stop.Kind, stop.Question, stop.Wait).ShouldBe((Script.At(10), StopKind.SetTime, "Say it", Duration.FromSeconds(5)));
        worded.Do(new RemoveStop(Stop)).Edits.Stops.ShouldBeEmpty();
    }

    [Fact]
    public void The_voice_is_muted_and_heard_again_and_a_pause_is_put_in_and_taken_out()
    {
        var lesson = new Spoken(new Script(1, 60), (0.2, 59.8)).Do(new MuteVoice(5_000, 6_000)).Do(new PutInPause(10_000, 2_000));
        lesson.Arrangement.Length.Seconds.ShouldBe(62);
        VoicePlan.Of(lesson.Arrangement).Stretches.Count(s => s.From is null).ShouldBe(2);
        lesson.Do(new PutBack(EditKind.Muted, lesson.Take.Id, Script.From(5, 6)))
            .Do(new PutBack(EditKind.Paused, lesson.Take.Id, Script.From(10, 10))).Edits.Count.ShouldBe(0);
    }

    [Fact]
    public void A_tone_lies_over_a_stretch_and_a_pause_becomes_longer()
    {
        var lesson = new Spoken(new Script(1, 60), (0.2, 59.8)).Do(new MuteVoice(5_000, 6_000, HasTone: true)).Do(new PutInPause(10_000, 2_000));
        VoicePlan.Of(lesson.Arrangement).Stretches.Single(s => s.HasTone).Target.ShouldBe(
            new(LessonTime.FromSeconds(5), LessonTime.FromSeconds(6)));
        var longer = lesson.Do(new ChangePause(lesson.Take.Id, Script.At(10), 3_500));
        (longer.Arrangement.Length.Seconds, longer.Said).ShouldBe((63.5, "Made a pause 3.5 s long"));
        lesson.Fault(new ChangePause(lesson.Take.Id, Script.At(11), 3_500))!.ShouldContain("changed meanwhile");
        lesson.Fault(new ChangePause(lesson.Take.Id, Script.At(10), 0))!.ShouldContain("needs a length");
        lesson.Do(new PutBack(EditKind.UnderTone, lesson.Take.Id, Script.From(5, 6))).Edits.Mutes.ShouldBeEmpty();
    }

    [Fact]
    public void What_holds_only_this_time_is_marked_left_out_and_lets_hold_always()
    {
        var lesson = new Spoken(new Script(1, 60), (0.2, 59.8)).Do(new HoldOnlyThisTime(5_000, 8_000));
        (lesson.Arrangement.Length.Seconds, lesson.Said).ShouldBe((60, "Marked 3.0 s at 0:05 as only this time"));
        lesson.Do(new LeaveOutTemporary(IsOut: true)).Arrangement.Length.Seconds.ShouldBe(57);
        lesson.Do(new PutBack(EditKind.OnlyThisTime, lesson.Take.Id, Script.From(5, 8))).Edits.Count.ShouldBe(0);
    }

    [Fact]
    public void What_cannot_be_done_says_why_and_changes_nothing()
    {
        var lesson = new Spoken(new Script(1, 60), (0.2, 59.8));
        lesson.Fault(new TakeOut(0, 60_000))!.ShouldContain("whole lesson");
        lesson.Fault(new TakeOut(5, 5))!.ShouldContain("Nothing is chosen");
        lesson.Fault(new TakeOut(double.NaN, 5))!.ShouldContain("Nothing is chosen");
        lesson.Fault(new PutInPause(5, 0))!.ShouldContain("needs a length");
        lesson.Fault(new RemoveStop(Stop))!.ShouldContain("changed meanwhile");
        lesson.Fault(new Accept([new Accepted(new(ProposalKind.Silence, lesson.Take.Id, Script.At(3)))]))!.ShouldContain("changed meanwhile");
        lesson.Fault(new PutBack(EditKind.TakenOut, lesson.Take.Id, Script.From(1, 2)))!.ShouldContain("changed meanwhile");
    }

    /// <summary>A take with its phrases, in seconds, and what is done about it.</summary>
    private sealed class Spoken
    {
        private readonly TakeMeasures measures;

        public Spoken(Script take, params (double From, double To)[] phrases)
            : this(take, EditList.Empty, phrases)
        {
        }

        public Spoken(Script take, EditList edits, params (double From, double To)[] phrases)
            : this(take, edits, "", Measures(take, phrases))
        {
        }

        /// <param name="db">How loud it is at each second, K-weighted.</param>
        public Spoken(Script take, Func<double, double> db, params (double From, double To)[] phrases)
            : this(take, EditList.Empty, "", Measures(take, phrases) with { Steps = Steps(take, db, phrases) })
        {
        }

        private Spoken(Script take, EditList edits, string said, TakeMeasures measures)
        {
            (Take, Edits, Said, this.measures) = (take, edits, said, measures);
            Arrangement = Arrangement.Resolve([take.Log], edits);
        }

        public Script Take { get; }

        public EditList Edits { get; }

        public string Said { get; }

        public Arrangement Arrangement { get; }

        public IReadOnlyList<Proposal> Proposals => Core.Editing.Proposals.Of(Arrangement, _ => measures);

        public string[] Proposed() =>
        [
            .. Proposals.Select(p => FormattableString.Invariant(
                $"{p.Kind} {Seconds(p.Source.Start)}-{Seconds(p.Source.End)} {(p.Rest is { } rest ? $"to {rest.Seconds:0.##}" : "out")}")
                + (p is { Rest: null, KeepsMarks: true } ? ", ink stays" : "")),
        ];

        public Spoken Do(EditStep step)
        {
            var (after, fault) = new EditSteps(Arrangement, _ => measures).Do(step);
            fault.ShouldBeNull();
            return new Spoken(Take, after!.Edits, after.Said, measures);
        }

        public Spoken Accept(int proposal) => Do(new Accept([new Accepted(Proposals[proposal].Key)]));

        public string? Fault(EditStep step) => new EditSteps(Arrangement, _ => measures).Do(step).Fault;

        public LessonTimeline Timeline() => TimelineCompiler.Compile(Script.Boards, Arrangement);

        private static TakeMeasures Measures(Script take, IEnumerable<(double From, double To)> phrases) =>
            new(take.Log.Length, [.. phrases.Select(p => Script.From(p.From, p.To))], [], 0, -70, null, new Waveform());

        private static float[] Steps(Script take, Func<double, double> db, (double From, double To)[] phrases) =>
        [
            .. Enumerable.Range(0, (int)(take.Log.Length.Seconds * 10)).Select(i => (i + 0.5) / 10)
                .Select(at => phrases.Any(p => p.From <= at && at < p.To) ? (float)Math.Pow(10, db(at) / 10) : 0),
        ];

        private static double Seconds(TakeTime time) => Math.Round(time.Milliseconds) / 1000;
    }
}
