using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Tests.Timelines;

/// <summary>What painters are told between the points of strokes and of the pointer's path.</summary>
public sealed class TimelineMarksTests
{
    private static LessonTime Ms(double milliseconds) => LessonTime.FromMilliseconds(milliseconds);

    [Fact]
    public void The_pen_is_on_its_way_to_the_next_point_until_the_stroke_is_complete()
    {
        var stroke = new TimelineStroke(
            new MarkKey(0, new StrokeKey(default, 1)), 0, [new Life(Ms(1000), null)], [new(0, 0, 100, 1000), new(100, 40, 200, 1100)]);
        stroke.TipAt(Ms(1025)).ShouldBe((25, 10, 125));
        stroke.TipAt(Ms(1099.5))!.Value.X.ShouldBe(99.5, 0.01);
        stroke.TipAt(Ms(1100)).ShouldBeNull();
    }

    [Fact]
    public void A_trail_goes_back_as_far_as_it_stays_and_never_before_the_pointer_came()
    {
        var pointer = new TimelinePointer(2, Ms(1000), null, [new(0, 0, 0, 1000), new(1000, 0, 0, 2000), new(1000, 500, 0, 2500)]);
        pointer.TrailAt(Ms(2200)).ShouldBe([(new(2, 750, 0), 450), (new(2, 1000, 0), 200), (new(2, 1000, 200), 0)]);
        pointer.TrailAt(Ms(1100)).ShouldBe([(new(2, 0, 0), 100), (new(2, 100, 0), 0)]);
        pointer.TrailAt(Ms(9000)).ShouldBeEmpty("it rests");
    }
}
