using ArchTalk.Core.Editing;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Tests.Recording;

/// <summary>What is noted while recording, read from a journal, and what becomes of it.</summary>
public class TakeNotesTests
{
    private static readonly Guid Take = Guid.Parse("0f8fad5b-d9cb-469f-a165-70867728950e");

    // Twenty seconds; the page's clock runs a second ahead.
    private static TakeLog Log(params TakeEvent[] events)
    {
        var journal = new JournalBuilder().Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false));
        for (var second = 0; second < 20; second++)
        {
            journal.Audio(0, second * 48_000, new short[48_000]).Anchors(0, new ClockAnchor(second * 48_000, 1000 + (second * 1000)));
        }

        return Takes.Log(journal.Events(0, events).End().ToBytes(Take));
    }

    private static NoteMade Note(double second, int number, string kind, string text = "", int waitMs = 0) =>
        new(1000 + (second * 1000), number, kind, text, waitMs);

    private static TimeRange<TakeTime> Phrase(double from, double to) => new(TakeTime.FromSeconds(from), TakeTime.FromSeconds(to));

    private static double Ms(TakeTime time) => (time - TakeTime.Zero).Milliseconds;

    [Fact]
    public void A_note_keeps_its_moment_when_it_is_worded_and_is_gone_when_it_is_taken_off()
    {
        var notes = TakeNotes.Of(Log(
            Note(2, 1, "ask"), Note(4, 2, "later", "said steel"), Note(6, 1, "repeat", "Which stone?", 5000), Note(7, 3, "chapter", "Forces"),
            new NoteTakenOff(9000, 3), Note(8, 4, "of a later release")));

        notes.Select(n => (Ms(n.At), n.Kind, n.Text, n.Wait.Seconds)).ShouldBe(
            [(2000, NoteKind.SayAfterMe, "Which stone?", 5), (4000, NoteKind.FixLater, "said steel", 0)]);
    }

    [Fact]
    public void What_a_retake_took_back_was_never_noted_and_what_was_taken_off_in_it_is_still_there()
    {
        var log = Log(
            Note(2, 1, "later"), Note(5, 2, "chapter", "Slip"), new NoteTakenOff(6500, 1), new WentBack(9000, 0, 3 * 48_000), Note(10, 3, "ask"));
        TakeNotes.Of(log).Select(n => (Ms(n.At), n.Kind)).ShouldBe([(2000, NoteKind.FixLater), (10_000, NoteKind.Ask)]);
    }

    [Theory]
    [InlineData(2.5, 3, "within a phrase")]
    [InlineData(3.8, 3, "after it")]
    [InlineData(0.5, 0.5, "before anybody spoke")]
    [InlineData(10.5, 12, "in the phrase after a retake")]
    public void A_stop_sits_at_the_end_of_the_phrase_it_was_pressed_in_or_after(double pressed, double sits, string where)
    {
        // Between 4 and 8 seconds lies what a retake took back.
        var log = Log(new WentBack(9000, 0, 4 * 48_000), Note(pressed, 1, "answer", "Why?"));
        var stop = TakeNotes.AddTo(EditList.Empty, log, [Phrase(1, 3), Phrase(5, 7.5), Phrase(8.5, 12)]).Stops.ShouldHaveSingleItem(where);
        (Ms(stop.At) / 1000).ShouldBe(sits, tolerance: 0.001);
        (stop.Take, stop.Kind, stop.Question).ShouldBe((log.Id, StopKind.UntilAnswerShown, "Why?"));
    }

    [Fact]
    public void A_stop_after_a_phrase_that_was_taken_back_sits_where_it_was_pressed()
    {
        var log = Log(new WentBack(9000, 0, 4 * 48_000), Note(8.2, 1, "ask"));
        var stop = TakeNotes.AddTo(EditList.Empty, log, [Phrase(1, 3), Phrase(5, 7.5)]).Stops.ShouldHaveSingleItem();
        Ms(stop.At).ShouldBe(8200);
    }

    [Fact]
    public void What_holds_only_this_time_ends_when_it_is_pressed_again_or_with_the_take()
    {
        var log = Log(Note(2, 1, "once"), new NoteOver(6000, 1), Note(12, 2, "once"));
        TakeNotes.AddTo(EditList.Empty, log, []).Temporary.ShouldBe(
            [new(log.Id, Phrase(2, 5)), new(log.Id, new(TakeTime.FromSeconds(12), log.End))]);
    }

    [Fact]
    public void Adding_them_twice_adds_them_once_and_what_was_there_stays()
    {
        var log = Log(Note(0, 1, "chapter", " Forces "), Note(2, 2, "ask"), Note(3, 3, "once"), Note(9, 4, "chapter"), Note(11, 5, "later"));
        Chapter own = new(Guid.NewGuid(), "Mine", null, 0);
        var chapters = TakeNotes.AddTo([own], log);
        chapters.Select(c => (c.Title, c.TakeSample)).ShouldBe([("Mine", 0), ("Forces", 0), ("Chapter", 9 * 48_000)]);
        TakeNotes.AddTo(chapters, log).ShouldBe(chapters);
        LessonRules.Chapters(chapters).Fault.ShouldBeNull();

        var edits = TakeNotes.AddTo(EditList.Empty, log, []);
        (edits.Stops.Count, edits.Temporary.Count).ShouldBe((1, 1));
        var again = TakeNotes.AddTo(edits, log, []);
        again.Stops.ShouldBe(edits.Stops);
        again.Temporary.ShouldBe(edits.Temporary);
    }
}
