using ArchTalk.Core.Boards.Scans;
using ArchTalk.Core.Boards.Seen;
using CsCheck;

namespace ArchTalk.Core.Tests.Boards;

/// <summary>Pages drawn by the tests themselves, so that their corners are known.</summary>
public class PaperFinderTests
{
    private static readonly Corners Turned = new(new(0.2, 0.1), new(0.85, 0.16), new(0.8, 0.9), new(0.12, 0.82));

    // A page with lines of writing on a table with grain, seen in perspective; darker where the shadow is.
    private static Pixels Photograph(
        Corners corners,
        byte paper,
        byte table,
        Func<double, double, double>? light = null,
        int width = 320,
        int height = 240)
    {
        var m = corners.ToRectangle(width, height, 1000, 1400);
        var data = new byte[width * height * 3];
        for (var i = 0; i < width * height; i++)
        {
            var (x, y) = (i % width, i / width);
            var w = (m[6] * x) + (m[7] * y) + m[8];
            var (u, v) = (((m[0] * x) + (m[1] * y) + m[2]) / w, ((m[3] * x) + (m[4] * y) + m[5]) / w);
            var isPage = u is >= 0 and < 1000 && v is >= 0 and < 1400;
            var isInk = isPage && u is > 100 and < 900 && v is > 120 and < 1280 && (int)v % 90 < 36 && (int)u % 60 < 36;
            var value = (isInk ? 40 : isPage ? paper : table + (((x * 7) + (y * 3)) % 5))
                * (light?.Invoke((double)x / width, (double)y / height) ?? 1);
            data[3 * i] = data[(3 * i) + 1] = data[(3 * i) + 2] = (byte)Math.Clamp(value, 0, 255);
        }

        return new Pixels(width, height, data);
    }

    private static void ShouldBeNear(Corners? found, Corners expected, double within)
    {
        found.ShouldNotBeNull();
        foreach (var (f, e) in found.All.Zip(expected.All))
        {
            f.X.ShouldBe(e.X, within);
            f.Y.ShouldBe(e.Y, within);
        }
    }

    [Theory]
    [InlineData(235, 70)]
    [InlineData(225, 150)]
    [InlineData(200, 20)]
    public void The_corners_of_a_page_on_a_table_are_found(byte paper, byte table) =>
        ShouldBeNear(PaperFinder.Find(Photograph(Turned, paper, table)), Turned, 0.015);

    // Found in the running application: a page half in shadow lost its heading and half its words.
    [Fact]
    public void A_shadow_over_half_of_it_leaves_no_part_of_a_page_out()
    {
        ShouldBeNear(
            PaperFinder.Find(Photograph(Turned, 235, 60, (x, _) => x < 0.45 ? 0.55 : x > 0.55 ? 1 : 0.55 + (4.5 * (x - 0.45)))),
            Turned,
            0.02);

        // The edge of a shadow across a page that fills the picture is no edge of the page, however sharp it is.
        var whole = new Corners(new(0, 0), new(1, 0), new(1, 1), new(0, 1));
        PaperFinder.Find(Photograph(whole, 235, 60, (x, y) => x + (y / 3) < 0.6 ? 0.5 : 1)).ShouldBeNull();
        PaperFinder.Find(Photograph(whole, 235, 60)).ShouldBeNull();
    }

    [Fact]
    public void A_page_that_runs_out_of_the_picture_is_found_to_its_edge()
    {
        var corners = new Corners(new(0.1, 0.08), new(0.9, 0.1), new(0.93, 1), new(0.06, 1));
        ShouldBeNear(PaperFinder.Find(Photograph(corners, 235, 70)), corners, 0.02);
    }

    [Fact]
    public void Corners_are_pulled_to_a_rectangle_and_turn_with_the_picture()
    {
        var m = Turned.ToRectangle(640, 480, 500, 700);
        foreach (var (from, to) in Turned.All.Zip([(0.0, 0.0), (500, 0), (500, 700), (0, 700)]))
        {
            var (x, y) = (from.X * 640, from.Y * 480);
            var w = (m[6] * x) + (m[7] * y) + m[8];
            (((m[0] * x) + (m[1] * y) + m[2]) / w).ShouldBe(to.Item1, 1e-6);
            (((m[3] * x) + (m[4] * y) + m[5]) / w).ShouldBe(to.Item2, 1e-6);
        }

        Turned.IsPage.ShouldBeTrue();
        (Turned with { TopLeft = Turned.BottomRight }).IsPage.ShouldBeFalse();
        Gen.Int[-5, 5].Sample(q => Turned.Turned(q).Turned(-q).Rounded().ShouldBe(Turned.Rounded()));
        Turned.Turned(1).TopLeft.ShouldBe(new Place(1 - Turned.BottomLeft.Y, Turned.BottomLeft.X));
        var settings = ScanSettings.AsItIs with { Left = 0.1, Top = 0.2, Corners = Turned };
        settings.Turned(4).ShouldBe(settings);
        settings.Turned(1).ShouldBe(settings with { Turn = 1, Left = 0, Top = 0.1, Right = 0.2, Corners = Turned.Turned(1) });
        (settings with { Corners = new(new(0, 0), new(1, 1), new(1, 0), new(0, 1)) }).Check().Fault!.ShouldContain("four corners");
    }

    [Fact]
    public void An_open_book_is_divided_at_its_fold()
    {
        var data = new byte[400 * 100 * 3];
        for (var i = 0; i < data.Length; i++)
        {
            data[i] = (byte)(Math.Abs((i / 3 % 400) - 190) < 4 ? 120 : 230);
        }

        ScanAnalysis.Gutter(new Pixels(400, 100, data)).ShouldBe(0.475, 0.012);
        ScanAnalysis.Gutter(new Pixels(400, 100, [.. Enumerable.Repeat((byte)230, 400 * 100 * 3)])).ShouldBe(0.5);
        var (left, right) = (ScanSettings.AsItIs with { Left = 0.2 }).Divided(0.5);
        (left.Check().Value!.Right, right.Check().Value!.Left).ShouldBe((0.4, 0.6));
    }
}
