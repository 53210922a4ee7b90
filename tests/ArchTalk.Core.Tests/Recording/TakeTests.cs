using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Tests.Recording;

public class TakeTests
{
    private static readonly Guid TakeGuid = Guid.Parse("0f8fad5b-d9cb-469f-a165-70867728950e");
    private static readonly Guid BoardGuid = Guid.Parse("7c9e6679-7425-40de-944b-e07fc1f90ae7");
    private static readonly SegmentStart Microphone = new(0, 48_000, 0, "Test", false, false, false);

    private static TakeLog Read(JournalBuilder builder) => Takes.Log(builder.ToBytes(TakeGuid));

    private static short[] Samples(JournalBuilder builder) => [.. Takes.Blocks(builder.ToBytes(TakeGuid)).SelectMany(b => b)];

    private static short[] Ramp(int from, int length) => [.. Enumerable.Range(from, length).Select(i => (short)i)];

    // The clock of the browser shows 1000 ms at sample 0 and runs exactly.
    private static ClockAnchor Anchor(long sample) => new(sample, 1000 + (sample / 48.0));

    [Fact]
    public void Chunks_lie_end_to_end()
    {
        var builder = new JournalBuilder().Segment(Microphone).Audio(0, 0, Ramp(0, 480)).Audio(0, 480, Ramp(480, 480)).End();
        var take = Read(builder);

        take.Length.ShouldBe(new Duration(960));
        Samples(builder).ShouldBe(Ramp(0, 960));
        take.IsEnded.ShouldBeTrue();
    }

    [Fact]
    public void A_pause_is_left_out_and_ink_after_it_stays_with_the_voice()
    {
        var take = Read(new JournalBuilder().Segment(Microphone)
            .Audio(0, 0, Ramp(0, 4800)).Anchors(0, Anchor(4800))
            .Pause(0, 4800).Events(0, new Undone(1500, 1)).Resume(0, 48_000)
            .Audio(0, 48_000, Ramp(4800, 4800)).Anchors(0, Anchor(52_800))
            .Events(0, new Undone(1000 + 1050, 1)));

        take.Length.ShouldBe(new Duration(9600));
        take.Sound.ShouldNotContain(s => s.IsMissing);

        // During the pause (at 500 ms): what is done there is there when recording goes on.
        take.Actions[0].At.ShouldBe(new TakeTime(4800));

        // 50 ms after the pause ended at 1000 ms, so 100 + 50 ms into the take.
        take.Actions[1].At.ShouldBe(new TakeTime(150 * 48));
        take.IsEnded.ShouldBeFalse();
    }

    [Fact]
    public void Missing_sound_is_kept_as_silence_so_that_the_rest_stays_in_place()
    {
        var builder = new JournalBuilder().Segment(Microphone)
            .Audio(0, 0, Ramp(1, 480)).Audio(0, 960, Ramp(961, 480)).Anchors(0, Anchor(1440)).Events(0, new Undone(1025, 1));
        var take = Read(builder);

        take.Length.ShouldBe(new Duration(1440));
        take.Sound.Single(s => s.IsMissing).ShouldBe(new TakeSound(new TakeTime(480), new Duration(480), -1));
        Samples(builder)[480..960].ShouldAllBe(s => s == 0);
        Samples(builder)[960].ShouldBe((short)961);
        take.Actions[0].At.ShouldBe(new TakeTime(25 * 48));
    }

    [Fact]
    public void A_computer_that_slept_adds_no_hours_of_silence()
    {
        var hour = 3600L * Clock.SampleRate;
        var take = Read(new JournalBuilder().Segment(Microphone).Audio(0, 0, Ramp(1, 480)).Audio(0, hour, Ramp(481, 480)));
        take.Length.ShouldBe(new Duration(960));
        take.Sound.ShouldNotContain(p => p.IsMissing);
    }

    // Found in the running application: a gap of 200 million samples took 3.4 GB. A recorder that invents gap after gap gets an hour in all.
    [Fact]
    public void However_many_gaps_a_take_claims_it_grows_by_an_hour_at_most()
    {
        var builder = new JournalBuilder().Segment(Microphone);
        const long Gap = 599L * Clock.SampleRate;
        for (var i = 0L; i < 100; i++)
        {
            builder.Audio(0, i * Gap, Ramp(0, 480));
        }

        var take = Read(builder);
        take.Length.ShouldBeLessThan(Duration.FromSeconds(3700));
        take.Length.ShouldBeGreaterThan(Duration.FromSeconds(2900));
    }

    [Fact]
    public void Sound_sent_twice_by_a_reloaded_tab_counts_once()
    {
        var builder = new JournalBuilder().Segment(Microphone)
            .Audio(0, 0, Ramp(0, 480)).Audio(0, 240, Ramp(240, 480)).Audio(0, 0, Ramp(0, 100));

        Samples(builder).ShouldBe(Ramp(0, 720));
    }

    [Fact]
    public void A_new_microphone_begins_a_new_segment_with_its_own_clock()
    {
        var take = Read(new JournalBuilder()
            .Segment(Microphone).Audio(0, 0, Ramp(0, 4800)).Anchors(0, Anchor(4800)).Events(0, new Undone(1020, 1))
            .Segment(Microphone with { Segment = 1, InputOffsetMs = 10 }).Audio(1, 0, Ramp(4800, 4800))
            .Anchors(1, new ClockAnchor(4800, 90_100)).Events(1, new Undone(90_020, 1)));

        take.Length.ShouldBe(new Duration(9600));
        take.Actions[0].At.ShouldBe(new TakeTime(20 * 48));

        // The second microphone delivers 10 ms late, so what was heard at the stamp is found 10 ms later.
        take.Actions[1].At.ShouldBe(new TakeTime((100 + 20 + 10) * 48));
    }

    [Fact]
    public void Stamps_before_the_first_and_after_the_last_sample_are_held_at_the_ends()
    {
        var take = Read(new JournalBuilder().Segment(Microphone).Audio(0, 0, Ramp(0, 4800)).Anchors(0, Anchor(4800))
            .Events(0, new Undone(900, 1), new Undone(5000, 1)));

        take.Actions[0].At.ShouldBe(TakeTime.Zero);
        take.Actions[1].At.ShouldBe(new TakeTime(4800));
    }

    [Fact]
    public void A_stroke_gathers_its_points_and_a_cancelled_one_never_was()
    {
        var take = Read(new JournalBuilder().Segment(Microphone).Audio(0, 0, Ramp(0, 4800)).Anchors(0, Anchor(4800))
            .Events(
                0,
                new StrokeBegun(1, BoardGuid, "pen", "blue", "fine"),
                new StrokePoints(1, [100, 200, 128, 10_100, 110, 210, 300, 10_200]),
                new StrokeBegun(2, BoardGuid, "pen", "blue", "fine"),
                new StrokePoints(2, [0, 0, 0, 10_300]),
                new StrokePoints(1, [120, 220, 140, 10_150]),
                new StrokeCancelled(2)));

        var stroke = take.Actions.ShouldHaveSingleItem().ShouldBeOfType<StrokeDrawn>();
        stroke.At.ShouldBe(new TakeTime(10 * 48));
        stroke.Points.Select(p => (p.X, p.Y, p.Pressure)).ShouldBe([(100, 200, (byte)128), (110, 210, (byte)255), (120, 220, (byte)140)]);

        // A stamp that runs backwards waits for the one before it.
        stroke.Points.Select(p => p.At.Milliseconds).ShouldBe([10, 20, 20]);
    }

    [Fact]
    public void Strokes_of_another_take_are_named_with_it()
    {
        var other = Guid.NewGuid();
        var take = Read(new JournalBuilder().Segment(Microphone).Audio(0, 0, Ramp(0, 480)).Anchors(0, Anchor(480))
            .Events(0, new Erased(1005, 7, ["3", $"{other:N}:4", "nonsense", ":", "x:5"])));

        take.Actions.ShouldHaveSingleItem().ShouldBeOfType<StrokesErased>().Strokes
            .ShouldBe([new StrokeKey(new(TakeGuid), 3), new StrokeKey(new(other), 4)]);
    }

    [Fact]
    public void Any_stretch_of_the_sound_is_read_by_itself_and_silence_beyond_the_end()
    {
        var bytes = new JournalBuilder().Segment(Microphone)
            .Audio(0, 0, Ramp(1, 480)).Audio(0, 480, Ramp(481, 480)).Audio(0, 1440, Ramp(1441, 480)).ToBytes(TakeGuid);
        using var journal = new MemoryStream(bytes);
        var voice = new TakeVoice(journal, Takes.Log(bytes).Sound);
        var samples = new short[200];
        voice.Read(new TakeTime(400), samples);
        samples.ShouldBe(Ramp(401, 200));
        voice.Read(new TakeTime(900), samples);
        samples.ShouldBe([.. Ramp(901, 60), .. new short[140]]);
        voice.Read(new TakeTime(1900), samples);
        samples.ShouldBe([.. Ramp(1901, 20), .. new short[180]]);
    }

    [Fact]
    public void What_a_recorder_says_of_the_boards_when_it_begins_holds_from_the_start()
    {
        var take = Read(new JournalBuilder().Segment(Microphone).Audio(0, 0, Ramp(0, 4800)).Anchors(0, Anchor(4800)).Events(
            0, new BoardShown(1015, BoardGuid), new ViewMoved(1015, BoardGuid, [0, 0, 16_000]), new Undone(1020, 1), new BoardShown(
                1030,
                BoardGuid)));

        take.Actions.Select(a => a.At.Milliseconds).ShouldBe([0, 0, 20, 30]);
    }

    [Fact]
    public void A_retake_names_its_moment_by_the_sound_of_any_segment()
    {
        var take = Read(new JournalBuilder().Segment(Microphone).Audio(0, 0, Ramp(0, 4800)).Anchors(0, Anchor(4800))
            .Segment(Microphone with { Segment = 1 }).Audio(1, 0, Ramp(0, 4800)).Anchors(1, new ClockAnchor(4800, 90_100))
            .Events(1, new WentBack(90_050, 0, 2400), new WentBack(90_060, 7, 0)));

        // Of 200 ms in all the second microphone's first 50 and the first's last 50 are taken back; a segment that isn't there is none.
        take.Actions.ShouldBe([new Retaken(TakeTime.FromMilliseconds(150), TakeTime.FromMilliseconds(50))]);
        take.Live.Stretches.Select(s => (s.Range.Start.Milliseconds, s.Range.End.Milliseconds)).ShouldBe([(0, 50), (150, 200)]);
    }
}
