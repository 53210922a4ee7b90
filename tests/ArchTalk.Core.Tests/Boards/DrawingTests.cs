using System.Text.Json;
using System.Xml.Linq;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Figures;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Tests.Boards;

/// <summary>Drawings as SVG and as JSON, and what a few items look like.</summary>
public class DrawingTests
{
    private static readonly XNamespace Svg = "http://www.w3.org/2000/svg";
    private readonly ItemDrawings drawings = new(new HalfEm());

    private static readonly Drawing Sample = new(300, 200,
    [
        PathShape.Rectangle(10, 20, 30, 40, "#FFFFFF", "#8A8170", 2),
        new PathShape("M0 0L5 5", null, "#1E2A2B", 3, 8),
        new PathShape("M0 0Z", "#00568A", Transform: [0.5, 0, 0, -0.5, 12, 34]),
        new TextShape(" قوس & <arch>", 7, 9, 50, "#AD4C00", TextShape.End, IsBold: true, IsRightToLeft: true, Language: "ar"),
    ]);

    [Fact]
    public void A_drawing_becomes_SVG_with_all_that_it_says()
    {
        var svg = SvgDrawing.Write(Sample);
        svg.Attribute("viewBox")!.Value.ShouldBe("0 0 300 200");
        var paths = svg.Elements(Svg + "path").ToArray();
        paths[0].Attribute("d")!.Value.ShouldBe("M10 20h30v40h-30Z");
        paths[0].Attribute("stroke")!.Value.ShouldBe("#8A8170");
        paths[1].Attribute("fill")!.Value.ShouldBe("none");
        paths[1].Attribute("stroke-dasharray")!.Value.ShouldBe("8");
        paths[2].Attribute("transform")!.Value.ShouldBe("matrix(0.5 0 0 -0.5 12 34)");
        var text = svg.Element(Svg + "text")!;
        text.Value.ShouldBe(" قوس & <arch>");
        text.Attribute("direction")!.Value.ShouldBe("rtl");
        text.Attribute("font-weight")!.Value.ShouldBe("bold");
        text.Attribute("text-anchor")!.Value.ShouldBe("end");
        text.Attribute(XNamespace.Xml + "lang")!.Value.ShouldBe("ar");
        text.Attribute(XNamespace.Xml + "space")!.Value.ShouldBe("preserve", "the space before a run is part of the writing");

        // What is in it can't become markup.
        XElement.Parse(svg.ToString()).Elements().Count().ShouldBe(4);
    }

    [Fact]
    public void Painters_are_sent_shapes_and_not_what_only_the_checks_need()
    {
        var json = JsonSerializer.Serialize(new PlacedDrawing(Guid.Empty, 1, 2, Sample, IsCover: true), JsonSerializerOptions.Web);
        json.ShouldNotContain("ground", Case.Insensitive);
        using var read = JsonDocument.Parse(json);
        read.RootElement.GetProperty("isCover").GetBoolean().ShouldBeTrue();
        read.RootElement.GetProperty("drawing").GetProperty("shapes").EnumerateArray().Select(s => s.GetProperty("is").GetString())
            .ShouldBe(["path", "path", "path", "text"]);
        var again = JsonSerializer.Deserialize<PlacedDrawing>(json, JsonSerializerOptions.Web)!;
        SvgDrawing.Write(again.Drawing).ToString().ShouldBe(SvgDrawing.Write(Sample).ToString());
    }

    [Fact]
    public void The_ink_file_of_a_board_carries_its_items_and_what_it_shows()
    {
        var placed = new PlacedDrawing(Guid.NewGuid(), 10, 20, Sample);
        using var file = JsonDocument.Parse(TimelineFiles.ToBytes(new BoardFile(Guid.Empty, "A dome cut in half.", [placed], [], [], [])));
        file.RootElement.GetProperty("description").GetString().ShouldBe("A dome cut in half.");
        var item = file.RootElement.GetProperty("items")[0];
        item.GetProperty("id").GetGuid().ShouldBe(placed.Id);
        item.GetProperty("y").GetDouble().ShouldBe(20);
        file.RootElement.GetProperty("strokes").GetArrayLength().ShouldBe(0);
    }

    [Fact]
    public void A_filled_shape_knows_where_writing_can_stand_on_it()
    {
        var rectangle = PathShape.Rectangle(10, 20, 30, 40, "#FFFFFF").Ground!.Value;
        rectangle.Contains(10, 20).ShouldBeTrue();
        rectangle.Contains(40, 60).ShouldBeTrue();
        rectangle.Contains(41, 30).ShouldBeFalse();
        var circle = PathShape.Circle(100, 100, 20, "#FFFFFF").Ground!.Value;
        circle.Contains(85, 110).ShouldBeTrue();
        circle.Contains(100, 79).ShouldBeFalse();
        new PathShape("M0 0h9v9Z", "#FFFFFF").Ground.ShouldBeNull("an outline like any other is no ground");
    }

    [Fact]
    public void A_blank_is_a_line_or_a_box_and_never_shows_its_answers()
    {
        var blank = new BlankItem { Id = Guid.NewGuid(), Width = 300, Height = 80, Answers = ["thrust"] };
        var line = drawings.Draw(blank).Shapes.ShouldHaveSingleItem().ShouldBeOfType<PathShape>();
        line.Fill.ShouldBeNull();
        line.D.ShouldBe("M0 77L300 77");
        var box = drawings.Draw(blank with { IsBox = true }).Shapes.ShouldHaveSingleItem().ShouldBeOfType<PathShape>();
        box.Ground.ShouldBe(new Box(0, 0, 300, 80));
    }

    [Fact]
    public void A_cover_hides_what_is_under_it()
    {
        var shapes = drawings.Draw(new CoverItem { Id = Guid.NewGuid(), Width = 200, Height = 90, Text = "?" }).Shapes;
        shapes[0].ShouldBeOfType<PathShape>().Ground.ShouldBe(new Box(0, 0, 200, 90));
        var mark = shapes[1].ShouldBeOfType<TextShape>();
        (mark.X, mark.Anchor).ShouldBe((100, TextShape.Middle));
    }

    [Theory]
    [InlineData(900, 300, "right")]
    [InlineData(-900, 300, "left")]
    [InlineData(60, 900, "down")]
    [InlineData(60, -900, "up")]
    public void The_line_of_a_label_leaves_from_the_side_that_faces_its_tip(double tipX, double tipY, string side)
    {
        var drawing = drawings.Draw(new LabelItem { Id = Guid.NewGuid(), Text = "rib", X = 0, Y = 0, TipX = tipX, TipY = tipY });
        var start = drawing.Shapes[0].ShouldBeOfType<PathShape>().D[1..].Split(['L', ' '])[..2]
            .Select(n => double.Parse(n, System.Globalization.CultureInfo.InvariantCulture))
            .ToArray();
        var (x, y) = side switch
        {
            "right" => (drawing.Width, drawing.Height / 2),
            "left" => (0, drawing.Height / 2),
            "down" => (drawing.Width / 2, drawing.Height),
            _ => (drawing.Width / 2, 0),
        };
        start[0].ShouldBe(x, 0.01);
        start[1].ShouldBe(y, 0.01);
    }

    [Fact]
    public void Columns_are_as_wide_as_their_words_ask_for_and_fill_the_table()
    {
        var table = new TableItem { Id = Guid.NewGuid(), Width = 900, Rows = [[new("a", false, []), new("a far longer heading", false, [])]] };
        var cells = drawings.Draw(table).Shapes.OfType<PathShape>().Select(p => p.Ground!.Value).ToArray();
        cells[1].Width.ShouldBeGreaterThan(3 * cells[0].Width);
        (cells[0].Width + cells[1].Width).ShouldBe(900, 0.01);
        cells[1].X.ShouldBe(cells[0].Width, 0.01);
    }

    [Fact]
    public void Axes_far_from_zero_stand_at_the_edge_and_grids_can_be_left_out()
    {
        var axes = new Axes { XFrom = 10, XTo = 20, XStep = 5, YFrom = 100, YTo = 200, YStep = 50 };
        var drawing = axes.Draw(600, 400);
        drawing.Shapes.OfType<TextShape>().Select(t => t.Text).ShouldBe(["10", "15", "20", "100", "150", "200", "x", "y"], ignoreOrder: true);
        drawing.Shapes.Count(s => s is PathShape { Stroke: "#D9D2C3" }).ShouldBe(6);
        (axes with { ShowsGrid = false }).Draw(600, 400).Shapes.Count(s => s is PathShape { Stroke: "#D9D2C3" }).ShouldBe(0);
    }

    // BCP 47; the names are those of the culture data.
    [Theory]
    [InlineData("", true)]
    [InlineData(" de ", true)]
    [InlineData("hi-IN", true)]
    [InlineData("1x", false)]
    [InlineData("tongue", false)]
    [InlineData("la", true)]
    [InlineData("english please", false)]
    public void Language_tags_are_known_or_not(string tag, bool isKnown)
    {
        LanguageTag.IsKnown(tag).ShouldBe(isKnown);
        LanguageTag.Culture(tag).Name.ShouldBe(isKnown ? tag.Trim() : "");
    }

    [Fact]
    public void A_languages_name_and_order_come_from_the_culture_data()
    {
        LanguageTag.Name("pt-BR").ShouldBe("Portuguese (Brazil)");
        LanguageTag.Name("nothing known").ShouldBe("nothing known");
        LanguageTag.Collation("sv").Compare("zon", "ände").ShouldBeLessThan(0);
        LanguageTag.Collation("de").Compare("zon", "ände").ShouldBeGreaterThan(0);
        LanguageTag.Fault(new string('x', 60)).ShouldContain($"{new string('x', 40)}…");
    }
}
