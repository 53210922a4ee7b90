using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Boards.Scans;
using ArchTalk.Core.Boards.Seen;
using ArchTalk.Core.Ink;

namespace ArchTalk.Core.Tests.Boards;

public class SeenTests
{
    private readonly ItemDrawings drawings = new(new HalfEm());

    private static Pixels Picture(int width, int height, Func<int, int, byte> gray)
    {
        var data = new byte[width * height * 3];
        for (var i = 0; i < width * height; i++)
        {
            data[i * 3] = data[(i * 3) + 1] = data[(i * 3) + 2] = gray(i % width, i / width);
        }

        return new Pixels(width, height, data);
    }

    private (Item, Drawing)[] Drawn(params Item[] items) => [.. items.Select(i => (i, drawings.Draw(i)))];

    // WCAG 2.2, relative luminance and contrast; the grey values are the well-known ones either side of 4.5:1.
    [Theory]
    [InlineData("#000000", "#FFFFFF", 21)]
    [InlineData("#767676", "#FFFFFF", 4.54)]
    [InlineData("#777777", "#FFFFFF", 4.48)]
    [InlineData("#FFFFFF", "#FFFFFF", 1)]
    public void Contrast_is_that_of_WCAG(string one, string other, double ratio) =>
        Math.Round(Contrast.Ratio(Rgb.Parse(one), Rgb.Parse(other)), 2).ShouldBe(ratio);

    [Fact]
    public void All_writing_inks_reach_the_contrast_of_text_on_white() => InkStyle.All.Where(s => s.Tool == InkStyle.Pen)
        .ShouldAllBe(s => Contrast.Ratio(Rgb.Parse(s.Color), new Rgb(255, 255, 255)) >= Contrast.ForText);

    // ISO 9241-303: 2·atan(h / 2d). At 600 mm, 2.8 mm are about 16 minutes and 3.5 mm about 20 (computed by the formula).
    [Theory]
    [InlineData(2.793, 600, 16)]
    [InlineData(3.491, 600, 20)]
    [InlineData(3.840, 600, 22)]
    public void Visual_angle_is_that_of_the_standard(double height, double distance, double minutes) =>
        VisualAngle.Minutes(height, distance).ShouldBe(minutes, 0.01);

    [Fact]
    public void A_height_and_its_angle_are_each_others_inverse()
    {
        VisualAngle.Minutes(VisualAngle.HeightFor(16, SeenOn.Phone), SeenOn.Phone).ShouldBe(16, 1e-9);

        // A whole board 65 mm wide at 300 mm and 310 mm wide at 550 mm.
        VisualAngle.Minutes(1600.0, SeenOn.Phone).ShouldBe(2 * Math.Atan(65.0 / 600) * 180 * 60 / Math.PI, 1e-9);
        VisualAngle.Minutes(1600.0, SeenOn.Laptop).ShouldBe(2 * Math.Atan(310.0 / 1100) * 180 * 60 / Math.PI, 1e-9);
    }

    [Fact]
    public void Small_writing_is_found_on_the_phone_and_not_on_the_laptop()
    {
        var words = new TextLayer([new("caption", 100, 200, 90, 24), new("Title", 100, 80, 300, 90)]);
        var phone = BoardCheck.Check(SeenOn.Phone, 900, words, [], null);
        var found = phone.Findings.ShouldHaveSingleItem();
        found.Kind.ShouldBe(FindingKind.SmallWriting);
        found.Subject.ShouldBe("caption");
        (found.X, found.Y, found.Width, found.Height).ShouldBe((100, 200, 90, 24));
        phone.SmallestMinutes!.Value.ShouldBe(found.Value, 0.01);
        BoardCheck.Check(SeenOn.Laptop, 900, words, [], null).Findings.ShouldBeEmpty();
        BoardCheck.Check(SeenOn.Phone, 900, TextLayer.Empty, [], null).SmallestMinutes.ShouldBeNull();
    }

    [Fact]
    public void Words_of_one_line_are_one_finding()
    {
        var words = new TextLayer([new("lesson", 100, 200, 60, 24), new("two", 168, 197, 40, 24), new("three", 216, 202, 50, 24), new(
            "far",
            900,
            200,
            40,
            24), new("below", 100, 260, 60, 24)]);
        var found = BoardCheck.Check(SeenOn.Phone, 900, words, [], null).Findings;
        found.Select(f => f.Subject).ShouldBe(["lesson two three", "far", "below"], ignoreOrder: true);
        found.Single(f => f.Subject == "lesson two three").ShouldSatisfyAllConditions(f => f.Width.ShouldBe(166), f => f.Height.ShouldBe(29));
    }

    [Fact]
    public void The_three_sizes_of_text_items_pass_everywhere()
    {
        var items = Drawn([.. TextSizes.All
            .Select(s => new TextItem { Id = Guid.NewGuid(), Width = 900, Height = 50, Size = s, Paragraphs = [[new TextRun("Load")]] })]);
        SeenOn.All.ShouldAllBe(s => BoardCheck.Check(s, 900, TextLayer.Empty, items, null).Findings.Count == 0);
    }

    // A printed word: strokes of one grey on another. #767676 on white passes at 4.54, #777777 doesn't.
    [Theory]
    [InlineData(0x76, true)]
    [InlineData(0x77, false)]
    [InlineData(0xC0, false)]
    public void Printed_words_are_measured_against_their_own_ground(int ink, bool passes)
    {
        var picture = Picture(1600, 200, (x, y) => y is > 60 and < 100 && x % 10 < 3 ? (byte)ink : (byte)255);
        var found = BoardCheck.Check(SeenOn.Phone, 200, new TextLayer([new("word", 100, 60, 200, 40)]), [], picture).Findings
            .Where(f => f.Kind == FindingKind.PaleWriting).ToArray();
        (found.Length == 0).ShouldBe(passes);
    }

    [Fact]
    public void Writing_over_a_dark_picture_is_found_and_a_ground_under_it_mends_it()
    {
        var dark = Picture(400, 225, (_, _) => 40);
        var text = new TextItem { Id = Guid.NewGuid(), X = 100, Y = 100, Width = 800, Height = 90, Paragraphs = [[new TextRun("Load")]] };
        var found = BoardCheck.Check(SeenOn.Laptop, 900, TextLayer.Empty, Drawn(text), dark).Findings.Where(f => f.Kind == FindingKind.PaleWriting)
            .ToArray();
        found.ShouldHaveSingleItem().Value.ShouldBe(Math.Round(Contrast.Ratio(Rgb.Parse("#1E2A2B"), new Rgb(40, 40, 40)), 2));
        found[0].X.ShouldBeInRange(95, 105);
        var cover = new CoverItem { Id = Guid.NewGuid(), X = 50, Y = 50, Width = 900, Height = 300 };
        BoardCheck.Check(SeenOn.Laptop, 900, TextLayer.Empty, Drawn(cover, text), dark).Findings.ShouldAllBe(f => f.Kind == FindingKind.PaleInk);
        var label = new LabelItem { Id = Guid.NewGuid(), X = 50, Y = 50, Width = 100, Height = 60, Text = "arch", TipX = 400, TipY = 400 };
        BoardCheck.Check(SeenOn.Laptop, 900, TextLayer.Empty, Drawn(label), dark).Findings
            .ShouldAllBe(f => f.Kind == FindingKind.PaleInk, "a label brings its own ground");
    }

    [Fact]
    public void Inks_that_would_not_show_are_found_with_the_place_where_they_would_not()
    {
        var half = Picture(320, 180, (x, _) => x < 160 ? (byte)255 : (byte)30);
        var inks = BoardCheck.Check(SeenOn.Phone, 900, TextLayer.Empty, [], half).Findings;
        inks.ShouldAllBe(f => f.Kind == FindingKind.PaleInk && f.X == 800 && f.Width == 800 && f.Height > 850);
        inks.Select(f => f.Subject).ShouldContain("blue-black");
        BoardCheck.Check(SeenOn.Phone, 900, TextLayer.Empty, [], Picture(320, 180, (_, _) => 255)).Findings.ShouldBeEmpty();
    }

    [Fact]
    public void Pixels_need_three_bytes_each() => Should.Throw<ArgumentException>(() => new Pixels(2, 2, new byte[11]));

    // Lines of "writing" turned by a known angle.
    [Theory]
    [InlineData(0)]
    [InlineData(3.4)]
    [InlineData(-6.2)]
    public void The_skew_of_a_page_is_found(double degrees)
    {
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        var page = Picture(800, 1000, (x, y) =>
        {
            var (u, v) = ((x * cos) + (y * sin), (-x * sin) + (y * cos));
            return ((int)(v + 4000) % 40) < 14 && ((int)(u + 4000) % 9) < 6 ? (byte)20 : (byte)240;
        });

        // The page lies turned clockwise by the angle, so it is put right by turning it back.
        ScanAnalysis.Skew(page).ShouldBe(-degrees, 0.15);
    }

    [Fact]
    public void Raising_contrast_makes_shaded_paper_white_and_keeps_ink_dark()
    {
        const int Width = 1440;
        const int Height = 240;
        var rgba = new byte[Width * Height * 4];
        for (var i = 0; i < Width * Height; i++)
        {
            // Paper darkens from 230 to 120 across the page; a stroke of writing every 12 pixels is at 30 % of it.
            var paper = 230 - (110.0 * (i % Width) / Width);
            var value = (byte)(i % Width % 12 < 2 && i / Width % 20 < 10 ? paper * 0.3 : paper);
            rgba.AsSpan(i * 4, 3).Fill(value);
            rgba[(i * 4) + 3] = 255;
        }

        PaperWhite.Apply(rgba, Width, Height);
        byte At(int x, int y) => rgba[((y * Width) + x) * 4];
        foreach (var x in new[] { 18, 342, 738, 1098, 1422 })
        {
            At(x, 15).ShouldBeGreaterThan((byte)240);
        }

        At(12, 5).ShouldBeLessThan((byte)90);
        At(1428, 5).ShouldBeLessThan((byte)90);
        rgba[3].ShouldBe((byte)255);
    }

    [Fact]
    public void Settings_of_a_scan_are_checked()
    {
        (ScanSettings.AsItIs with { Turn = -1 }).Check().Value!.Turn.ShouldBe(3);
        (ScanSettings.AsItIs with { Degrees = 20 }).Check().Fault!.ShouldContain("quarter");
        (ScanSettings.AsItIs with { Left = 0.6, Right = 0.5 }).Check().Fault!.ShouldContain("Nothing would be left");
    }

    [Fact]
    public void Findings_are_counted_by_kind_with_the_worst_first()
    {
        TextWord[] words = [.. Enumerable.Range(0, 30).Select(i => new TextWord($"w{i}", 100, 40 * i, 80, 10 + (i % 3)))];
        var seen = BoardCheck.Check(SeenOn.Phone, 1300, new TextLayer(words), [], null);
        var group = seen.Groups.ShouldHaveSingleItem();
        group.Title.ShouldBe("30 writings are too small");
        group.Count.ShouldBe(30);
        group.Findings.Count.ShouldBe(BoardCheck.MostFindings);
        group.Findings.Select(f => f.Value).ShouldBeInOrder(SortDirection.Ascending);
        group.Findings[0].Text.ShouldMatch("^“w\\d+”: \\d+(\\.\\d)?′ of 16′ needed$");
        seen.Smallest.ShouldStartWith("Smallest writing: ");

        // One of a kind is said as one, and the kind that falls shortest comes first.
        var pale = Picture(1600, 900, (x, y) => x is > 90 and < 700 && y is > 90 and < 200
            ? (byte)(x % 8 < 3 ? 205 : 255)
            : y is > 400 and < 430 && x % 4 < 2 ? (byte)0 : (byte)255);
        var both = BoardCheck.Check(SeenOn.Phone, 900, new TextLayer([new("pale", 100, 100, 500, 90), new("small", 100, 400, 80, 30)]), [], pale);
        both.Groups.Select(g => g.Title).ShouldBe(["1 writing is too pale", "1 writing is too small"]);
        both.Groups.Select(g => g.Findings[0].Share).ShouldBeInOrder(SortDirection.Ascending);
    }
}
