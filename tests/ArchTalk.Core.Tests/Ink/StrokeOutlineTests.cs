using ArchTalk.Core.Ink;

namespace ArchTalk.Core.Tests.Ink;

public sealed class StrokeOutlineTests
{
    private static readonly InkStyle Pen = InkStyle.All[InkStyle.IndexOf(InkStyle.Pen, "blue", "medium")];
    private static readonly InkStyle Highlighter = InkStyle.All[InkStyle.IndexOf(InkStyle.Highlighter, "yellow", "medium")];

    [Fact]
    public void A_straight_stroke_is_one_strip_between_two_discs_as_broad_as_the_pressure_says()
    {
        var parts = StrokeOutline.Of(Pen, [new(0, 100, 255, 0), new(500, 100, 255, 10), new(1000, 100, 0, 20)], 3);
        parts.Select(p => p.IsDisc).ShouldBe([true, false, true]);
        parts[0].Disc.ShouldBe(new InkDisc(0, 100, 25));
        parts[2].Disc.ShouldBe(new InkDisc(1000, 100, 10), "a pen that hardly touches has 0.4 of its width");
        parts[1].Corners.ShouldBe([(0, 75), (500, 75), (1000, 90), (1000, 110), (500, 125), (0, 125)]);
    }

    [Fact]
    public void A_sharp_turn_gets_a_disc_and_points_on_each_other_count_once()
    {
        var parts = StrokeOutline.Of(Pen, [new(0, 0, 100, 0), new(0, 0, 255, 5), new(500, 0, 255, 10), new(500, 500, 255, 20)], 4);
        parts.Select(p => p.IsDisc).ShouldBe([true, false, true, false, true]);
        parts[0].Disc.Radius.ShouldBe(25, "the heavier of two points on each other");
    }

    [Fact]
    public void Only_what_is_drawn_by_then_is_there_and_the_tip_on_its_way()
    {
        InkPoint[] points = [new(0, 0, 255, 0), new(500, 0, 255, 10), new(1000, 0, 255, 20)];
        StrokeOutline.Of(Pen, points, 1).ShouldHaveSingleItem().IsDisc.ShouldBeTrue();
        StrokeOutline.Of(Pen, points, 2, (750, 0, 255))[^1].Disc.X.ShouldBe(750);
    }

    [Fact]
    public void A_highlighter_that_settled_is_a_band_of_its_lines_height_with_square_ends()
    {
        var part = StrokeOutline.Of(Highlighter, [new(100, 300, 10, 0), new(900, 300, 200, 10)], 2, band: 400).ShouldHaveSingleItem();
        part.Corners.ShouldBe([(100, 100), (900, 100), (900, 500), (100, 500)]);
        StrokeOutline.HalfWidth(Highlighter, 10).ShouldBe(StrokeOutline.HalfWidth(Highlighter, 255));
    }
}
