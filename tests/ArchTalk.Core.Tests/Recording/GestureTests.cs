using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Tests.Recording;

/// <summary>Ink that settled, key lines, light and typing, from a journal to what is seen.</summary>
public class GestureTests
{
    private static readonly Guid Take = Guid.Parse("0f8fad5b-d9cb-469f-a165-70867728950e");
    private static readonly Board Board = new(Guid.Parse("7c9e6679-7425-40de-944b-e07fc1f90ae7"), "Arch", 900);

    // Twelve seconds; the page's clock runs a second ahead.
    private static LessonTimeline Lesson(params TakeEvent[] events) => Lesson(EditList.Empty, events);

    private static LessonTimeline Lesson(EditList edits, params TakeEvent[] events) =>
        TimelineCompiler.Compile([Board], Arrangement.Resolve([Log(events)], edits));

    private static TakeLog Log(params TakeEvent[] events)
    {
        var journal = new JournalBuilder().Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false));
        for (var second = 0; second < 12; second++)
        {
            journal.Audio(0, second * 48_000, new short[48_000]).Anchors(0, new ClockAnchor(second * 48_000, 1000 + (second * 1000)));
        }

        return Takes.Log(journal.Events(0, [new BoardShown(1000, Board.Id), .. events]).End().ToBytes(Take));
    }

    private static double At(double second) => 1000 + (second * 1000);

    private static TakeEvent[] Drawn(int stroke, double second, string tool = "highlighter") =>
    [
        new StrokeBegun(stroke, Board.Id, tool, tool == "pen" ? "blue" : "yellow", "medium"),
        new StrokePoints(stroke, [2000, 3000, 128, (long)(At(second) * 10), 6000, 3040, 128, (long)(At(second + 1) * 10)]),
        new StrokeEnded(stroke, At(second + 1)),
    ];

    private static StrokeSettled Settled(int action, int stroke, double second) =>
        new(At(second), action, stroke, [1900, 2950, 6100, 2950], 440, "keystone");

    private static Pane Seen(LessonTimeline lesson, double second) => lesson.At(LessonTime.FromMilliseconds(second * 1000)).Panes[0];

    private static TimelineStroke[] Strokes(LessonTimeline lesson, double second) =>
        [.. Seen(lesson, second).Strokes.Select(s => lesson.Boards[0].Strokes[s.Index])];

    [Fact]
    public void A_stroke_that_settles_is_seen_as_it_was_drawn_and_then_on_its_line_and_one_undo_brings_it_back()
    {
        var lesson = Lesson([.. Drawn(1, 2), Settled(2, 1, 3.1), new Undone(At(6), 2), new Redone(At(8), 2)]);
        Strokes(lesson, 3.05).ShouldHaveSingleItem().Band.ShouldBe(0);
        var settled = Strokes(lesson, 4).ShouldHaveSingleItem();
        (settled.Band, settled.Points[0].Y, settled.Points[^1].X).ShouldBe((440, 2950, 6100));
        Strokes(lesson, 7).ShouldHaveSingleItem().Band.ShouldBe(0, "as it was drawn");
        Strokes(lesson, 9).ShouldHaveSingleItem().Band.ShouldBe(440);
    }

    [Fact]
    public void What_nobody_answered_for_is_known_by_its_stroke_and_the_key_line_it_was_to_become()
    {
        var lesson = Lesson([.. Drawn(1, 2), new SettlingUnanswered(At(10), 1, "write")]);
        Strokes(lesson, 11).ShouldHaveSingleItem().Band.ShouldBe(0, "as it was drawn");
        var left = Log([.. Drawn(1, 2), new SettlingUnanswered(At(10), 1, "write")]).Actions.OfType<LeftUnsettled>().ShouldHaveSingleItem();
        (left.Stroke.Number, left.Becomes).ShouldBe((1, KeyLineKind.WriteDown));
    }

    [Fact]
    public void A_term_is_said_at_its_note_unless_that_is_taken_off_or_back_or_out()
    {
        var (keystone, thrust) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        TakeEvent[] said = [new TermNoted(At(3), 1, keystone, "keystone"), new TermNoted(At(5), 2, thrust, "thrust"),
            new TermNoted(At(9), 3, keystone, "keystone")];
        (int, Guid)[] Said(EditList edits, params TakeEvent[] more) =>
            [.. Lesson(edits, [.. said, .. more]).TermsSaid.Select(t => (t.At.WholeMilliseconds, t.Term))];
        Said(EditList.Empty).ShouldBe([(3000, keystone), (5000, thrust), (9000, keystone)]);
        Said(EditList.Empty, new NoteTakenOff(At(10), 3)).ShouldBe([(3000, keystone), (5000, thrust)]);
        Said(EditList.Empty, new WentBack(At(11), 0, 4 * 48_000)).ShouldBe([(3000, keystone)]);
        var cut = EditList.Empty with { Cuts = [new(new(Take), new(new(4 * 48_000), new(6 * 48_000)))] };
        Said(cut).ShouldBe([(3000, keystone), (7000, keystone)]);
        Lesson([new TermNoted(At(3), 1, keystone, new string('x', 5000))]).TermsSaid.ShouldBeEmpty("an event beyond all bounds is passed over");
    }

    [Fact]
    public void A_pen_that_settles_keeps_its_breadth()
    {
        var lesson = Lesson([.. Drawn(1, 2, "pen"), Settled(2, 1, 3.1)]);
        var settled = Strokes(lesson, 4).ShouldHaveSingleItem();
        (settled.Band, settled.LineHeight).ShouldBe((0, 440));
    }

    [Fact]
    public void What_was_underlined_is_a_key_line_with_its_words_until_it_is_undone_and_stays_one_when_its_board_is_wiped()
    {
        TakeEvent[] underlined = [.. Drawn(1, 2, "pen"), Settled(2, 1, 3.1), new KeyLineMade(At(3.1), [2, 1], "write", "keystone", false)];
        var line = Lesson([.. underlined, new Erased(At(6), 3, ["2"])]).KeyLines.ShouldHaveSingleItem();
        (line.Kind, line.Text, line.IsMust, line.At.WholeMilliseconds).ShouldBe((KeyLineKind.WriteDown, "keystone", false, 2000));
        (line.Box.Y, line.Box.Height).ShouldBe((251, 53), "the words are within it, and what was drawn at first");

        Lesson([.. underlined, new Undone(At(6), 2)]).KeyLines.ShouldBeEmpty();
        Lesson([.. underlined, new KeyLineMade(At(6), [2, 1], "", "keystone", false)]).KeyLines.ShouldBeEmpty("taken off");
        var changed = Lesson([.. underlined, new KeyLineMade(At(6), [2, 1], "look", "the keystone", true)]).KeyLines.ShouldHaveSingleItem();
        (changed.Kind, changed.Text, changed.IsMust).ShouldBe((KeyLineKind.LookAt, "the keystone", true));
    }

    [Fact]
    public void What_a_retake_took_back_is_no_key_line() =>
        Lesson([.. Drawn(1, 2, "pen"), new KeyLineMade(At(4), [1], "write", "", false), new WentBack(At(6), 0, 48_000)]).KeyLines.ShouldBeEmpty();

    [Fact]
    public void A_region_is_lit_until_it_is_put_out_and_a_retake_lights_it_again()
    {
        int[] outline = [1000, 1000, 5000, 1000, 5000, 4000];
        var lesson = Lesson(
            new LitUp(At(2), Board.Id, outline), new LitUp(At(4), Board.Id, []), new WentBack(At(6), 0, 3 * 48_000), new LitUp(At(9), Board.Id, []));
        Seen(lesson, 1).Light.ShouldBeNull();
        Seen(lesson, 2.5).Light!.Outline.ShouldBe(outline);
        Seen(lesson, 4.5).Light!.Outline.ShouldBe(outline, "putting it out was taken back; three seconds of the take are gone");
        Seen(lesson, 8).Light.ShouldBeNull();
    }

    [Fact]
    public void A_text_is_seen_letter_by_letter_as_it_was_typed_with_its_corrections()
    {
        var lesson = Lesson([.. Typed((2, "t"), (3, "th"), (4, "t"), (5, "tr"))]);
        double[] seconds = [1, 2, 3.5, 4.5, 6];
        seconds.Select(s => string.Concat(Seen(lesson, s).Texts.Select(t => t.Letters.Text))).ShouldBe(["", "t", "th", "t", "tr"]);
        var text = lesson.Boards[0].Texts.ShouldHaveSingleItem();
        (text.X, text.Y, text.Size, text.Ink).ShouldBe((2000, 3000, 520, "green"));
    }

    [Fact]
    public void A_text_is_undone_and_erased_whole_like_a_stroke()
    {
        var lesson = Lesson([.. Typed((2, "thrust")), new Undone(At(4), 1), new Redone(At(5), 1), new Erased(At(6), 2, ["1"]), new Undone(At(8), 2)]);
        double[] seconds = [3, 4.5, 5.5, 7, 9];
        seconds.Select(s => Seen(lesson, s).Texts.Count).ShouldBe([1, 0, 1, 0, 1]);
    }

    [Fact]
    public void A_text_typed_within_a_cut_goes_and_one_that_goes_on_behind_it_is_kept_whole()
    {
        var cut = EditList.Empty with { Cuts = [new Cut(new(Take), new(TakeTime.FromSeconds(3), TakeTime.FromSeconds(6)), KeepsMarks: false)] };
        Lesson(cut, [.. Typed((4, "slip"), (5, "slips"))]).Boards[0].Texts.ShouldBeEmpty();
        var kept = Lesson(cut, [.. Typed((4, "th"), (5, "thr"), (8, "thrust"))]);
        Seen(kept, 3.5).Texts.ShouldHaveSingleItem().Letters.Text.ShouldBe("thr", "at the join it is as far as it was");
        Seen(kept, 5.5).Texts.ShouldHaveSingleItem().Letters.Text.ShouldBe("thrust");
    }

    [Fact]
    public void A_retake_takes_back_what_was_typed_since()
    {
        var lesson = Lesson([.. Typed((2, "t"), (5, "th")), new WentBack(At(6), 0, 3 * 48_000), .. Typed((8, "to"))]);
        Seen(lesson, 4).Texts.ShouldHaveSingleItem().Letters.Text.ShouldBe("t");
        Seen(lesson, 6).Texts.ShouldHaveSingleItem().Letters.Text.ShouldBe("to");
    }

    [Fact]
    public void What_was_typed_can_be_a_key_line()
    {
        var line = Lesson([.. Typed((2, "The thrust")), new KeyLineMade(At(4), [1], "mark", "The thrust", true)]).KeyLines.ShouldHaveSingleItem();
        (line.Kind, line.Box.X, line.Box.Y, line.WholeAt.WholeMilliseconds).ShouldBe((KeyLineKind.MarkInBook, 200, 300, 2000));
    }

    [Fact]
    public void Numbers_are_counted_on_behind_settled_strokes_and_texts()
    {
        var journal = new JournalBuilder().Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false))
            .Events(0, [.. Drawn(3, 2), Settled(4, 3, 3), .. Typed((5, "a")).Select(t => t with { Number = 7 })]);
        Journal.TryRead(journal.ToBytes(Take), out var read).ShouldBeTrue();
        JournalNumbers.Of(read!.Entries).NextAction.ShouldBe(8);
    }

    private static IEnumerable<TextTyped> Typed(params (double Second, string Text)[] keys) =>
        keys.Select(k => new TextTyped(At(k.Second), 1, Board.Id, [2000, 3000], 520, "green", k.Text));

    [Fact]
    public void A_blank_is_filled_by_what_is_written_or_typed_in_it_and_what_stays_counts()
    {
        // Lines from 200 to 600 units at a height of 300.
        var (hit, beside) = (new BlankPlace(150, 280, 500, 40, 30, ["keystone"]), new BlankPlace(150, 500, 500, 40, 30, []));
        double[]? Filled(BlankPlace blank, params TakeEvent[] events) => FilledBlanks.Of(blank, Lesson(events).Boards[0]) is { } filled
            ? [filled.At.Milliseconds, filled.WholeAt.Milliseconds]
            : null;

        Filled(hit, Drawn(1, 3, "pen")).ShouldBe([3000, 4000]);
        Filled(beside, Drawn(1, 3, "pen")).ShouldBeNull();
        TakeEvent[] wrong = [.. Drawn(1, 3, "pen"), new Erased(At(5), 2, ["1"])];
        Filled(hit, wrong).ShouldBe([3000, 4000], "nothing else is written there");
        Filled(hit, [.. wrong, .. Drawn(3, 6, "pen")]).ShouldBe([6000, 7000]);
    }
}
