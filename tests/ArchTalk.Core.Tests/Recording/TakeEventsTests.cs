// Files of others stand here as they come, in long lines.
#pragma warning disable RCS0056

using System.Text;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Tests.Recording;

public class TakeEventsTests
{
    private const string Board = "7c9e6679-7425-40de-944b-e07fc1f90ae7";
    private static readonly string Good = $$"""{"e":"board","t":5,"b":"{{Board}}"}""";

    private static (IReadOnlyList<TakeEvent>? Events, int Bad) Read(string json)
    {
        var events = TakeEvents.Read(Encoding.UTF8.GetBytes(json), out var bad);
        return (events, bad);
    }

    [Theory]
    [InlineData("""{"e":"points","s":1}""")]
    [InlineData("""{"e":"points","s":1,"d":null}""")]
    [InlineData("""{"e":"points","s":1,"d":[1,2,3]}""")]
    [InlineData("""{"e":"points","s":1,"d":[1,2,3,-40]}""")]
    [InlineData("""{"e":"points","s":1,"d":[99999999999,2,3,40]}""")]
    [InlineData("""{"e":"pointer","b":"7c9e6679-7425-40de-944b-e07fc1f90ae7","d":[1,2]}""")]
    [InlineData("""{"e":"pointer","b":"none","d":[1,2,3]}""")]
    [InlineData("""{"e":"view","t":1,"b":"7c9e6679-7425-40de-944b-e07fc1f90ae7","v":[null,null,16000]}""")]
    [InlineData("""{"e":"view","t":1,"b":"7c9e6679-7425-40de-944b-e07fc1f90ae7","v":[0,0]}""")]
    [InlineData("""{"e":"erase","t":1,"a":2}""")]
    [InlineData("""{"e":"erase","t":1,"a":2,"s":[null]}""")]
    [InlineData("""{"e":"stroke","s":1,"b":"7c9e6679-7425-40de-944b-e07fc1f90ae7"}""")]
    [InlineData("""{"e":"grow","t":1,"b":"7c9e6679-7425-40de-944b-e07fc1f90ae7","h":-4}""")]
    [InlineData("""{"e":"undo","t":1e300,"a":1}""")]
    [InlineData("""{"t":1}""")]
    [InlineData("17")]
    [InlineData("null")]
    public void A_bad_event_is_passed_over_and_its_neighbours_hold(string bad)
    {
        var (events, count) = Read($"[{Good},{bad},{Good}]");
        events.ShouldNotBeNull().Count.ShouldBe(2);
        count.ShouldBe(1);
    }

    [Fact]
    public void An_unknown_kind_is_passed_over_and_is_not_bad()
    {
        var (events, bad) = Read($$"""[{"e":"hum","t":4,"shape":[1,2]},{{Good}}]""");
        events.ShouldNotBeNull().ShouldHaveSingleItem().ShouldBeOfType<BoardShown>();
        bad.ShouldBe(0);
    }

    [Theory]
    [InlineData("{}")]
    [InlineData("")]
    [InlineData("[{")]
    public void What_is_no_list_is_no_list(string json) => Read(json).Events.ShouldBeNull();

    [Fact]
    public void A_take_with_a_bad_event_keeps_its_ink_and_its_voice()
    {
        var json = $$"""[{"e":"stroke","s":1,"b":"{{Board}}","tool":"pen","ink":"blue","w":"fine"},{"e":"view","t":1,"b":"{{Board}}","v":[null,1,2]},{"e":"points","s":1,"d":[1,2,128,1000,5,6,128,1500]},{"e":"lift","s":1,"t":150},{"e":"comet"}]""";
        byte[] payload = [0, 0, 0, 0, .. Encoding.UTF8.GetBytes(json)];
        var builder = new JournalBuilder().Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false)).Audio(0, 0, new short[48_000])
            .Anchors(0, new ClockAnchor(0, 0), new ClockAnchor(48_000, 1000));
        List<JournalRecord> records = [.. builder.Records];
        var odd = new JournalRecord(JournalRecordKind.Events, records[^1].Epoch, (uint)records.Count, payload);
        JournalPayloads.IsValid(odd, out var bad).ShouldBeTrue("one bad event doesn't refuse the batch");
        bad.ShouldBe(1);

        var id = Guid.NewGuid();
        byte[] bytes = [.. builder.ToBytes(id), .. odd.ToBytes()];
        var take = Takes.Log(bytes);
        take.Length.Seconds.ShouldBe(1);
        take.Actions.OfType<StrokeDrawn>().ShouldHaveSingleItem().Points.Count.ShouldBe(2);
        take.Actions.OfType<ViewChanged>().ShouldBeEmpty();
    }

    // Longer than anything a test records in a browser: half an hour of sound with a stroke every ten seconds.
    [Fact]
    public void Half_an_hour_keeps_voice_and_ink_together()
    {
        const int Seconds = 1800;
        var builder = new JournalBuilder().Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false));
        var second = new short[48_000];
        second[0] = 20_000;
        for (var s = 0; s < Seconds; s++)
        {
            builder.Audio(0, s * 48_000L, second);

            // The browser's clock runs 100 ppm fast.
            builder.Anchors(0, new ClockAnchor((s + 1) * 48_000L, (s + 1) * 1000.1));
            if (s % 10 == 5)
            {
                builder.Events(
                    0,
                    new StrokeBegun(s, Guid.Parse(Board), "pen", "blue", "fine"),
                    new StrokePoints(s, [100, 100, 128, (long)(s * 10_001.0), 200, 200, 128, (long)((s + 0.2) * 10_001)]));
            }
        }

        var take = Takes.Log(builder.ToBytes(Guid.NewGuid()));
        take.Length.ShouldBe(new Duration(Seconds * 48_000L));
        var strokes = take.Actions.OfType<StrokeDrawn>().ToArray();
        strokes.Length.ShouldBe(Seconds / 10);
        foreach (var stroke in strokes)
        {
            // ITU-R BT.1359-1 names 45 ms as the least that is noticed; we hold 20.
            (stroke.At - TakeTime.Zero).Milliseconds.ShouldBe(stroke.Stroke.Number * 1000.0, 20);
        }
    }
}
