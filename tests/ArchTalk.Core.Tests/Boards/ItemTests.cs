// Files of others stand here as they come, in long lines.
#pragma warning disable RCS0056

using System.Text.Json;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Figures;
using ArchTalk.Core.Boards.Items;

namespace ArchTalk.Core.Tests.Boards;

public class ItemTests
{
    private const string Formula = """
        <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 -800 1500 1000"><g stroke="currentColor" transform="scale(1,-1)">
        <g transform="translate(500,100)"><path d="M10 0L20 30Z"/></g><rect width="400" height="60" x="120" y="220"/></g></svg>
        """;

    private readonly ItemDrawings drawings = new(new HalfEm());

    private static LabelItem Label(string text, double x, double y, double tipX, double tipY) =>
        new() { Id = Guid.NewGuid(), Text = text, X = x, Y = y, Width = 100, Height = 60, TipX = tipX, TipY = tipY };

    private static string? Fault(Item item) => ItemRules.Fault(ItemRules.Check([item]).Value![0]);

    // Found in the running application: a formula 40,000 levels deep took 39 s, a table of 60 × 20 × 400 characters 13 s.
    [Fact]
    public void What_is_too_much_for_a_board_is_named_before_anything_is_made_of_it()
    {
        static string Deep(string name, int levels) =>
            string.Concat(Enumerable.Repeat($"<{name}>", levels)) + string.Concat(Enumerable.Repeat($"</{name}>", levels));
        var deep = $"""<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">{Deep("g", 40_000)}</svg>""";
        Fault(new FormulaItem { Id = Guid.NewGuid(), Tex = "x", Svg = deep })!.ShouldContain("could not be typeset");
        ItemRules.Check([new FormulaItem { Id = Guid.NewGuid(), Tex = "x", Svg = Formula, MathMl = $"<math>{Deep("mrow", 9_000)}</math>" }]).Value!
            .OfType<FormulaItem>()
            .Single()
            .MathMl
            .ShouldBe("");
        var cell = new TableCell(new string('x', 400), IsBlank: false, []);
        Fault(new TableItem
        {
            Id = Guid.NewGuid(),
            Width = 400,
            Rows = [.. Enumerable.Repeat<IReadOnlyList<TableCell>>([.. Enumerable.Repeat(cell, 20)], 60)]
        })!.ShouldContain("480000 characters; at "
                + "most 12000");
        Fault(new FigureItem { Id = Guid.NewGuid(), Figure = new NumberLine { Marked = [.. Enumerable.Repeat(1.0, 300)] } })!.ShouldContain(
            "at most 200 marked");
        Fault(new FigureItem { Id = Guid.NewGuid(), Figure = new Axes { Points = [.. Enumerable.Repeat(new AxesPoint(0, 0, ""), 300)] } })!
            .ShouldContain("at most 200 points");
        Fault(new FigureItem { Id = Guid.NewGuid(), Figure = new Axes { Points = [new AxesPoint(double.PositiveInfinity, 0, "")] } })!.ShouldContain(
            "needs a number");
    }

    [Fact]
    public void What_lies_under_a_cover_is_hidden_and_what_lies_over_it_is_not()
    {
        Item[] items =
        [
            Label("under", 10, 10, 0, 0), Label("beside", 500, 10, 0, 0), new CoverItem {
                Id = Guid.NewGuid(),
                X = 0,
                Y = 0,
                Width = 200,
                Height = 200 }, Label("over", 20, 20, 0, 0),
        ];
        Covers.Hidden(items).ShouldBe([items[0].Id]);
        Covers.Boxes(items).ShouldBe([new CoveredBox(0, 0, 200, 200)]);
        ItemWords.Describe(items).ShouldBe("Label: beside. Something covered. Label: over.");
    }

    [Fact]
    public void Items_of_all_kinds_survive_being_stored()
    {
        Item[] items =
        [
            new TextItem { Id = Guid.NewGuid(), Width = 300, Paragraphs = [[new TextRun("arch", IsBold: true)]] },
            new FormulaItem { Id = Guid.NewGuid(), Tex = "F=ma", Svg = Formula },
            new TableItem {
                Id = Guid.NewGuid(),
                Width = 400,
                Rows = [[new TableCell("a", IsBlank: false, []), new TableCell("b", IsBlank: true, ["B"])]] },
            Label("keystone", 10, 10, 400, 400),
            new CoverItem { Id = Guid.NewGuid(), Width = 100, Height = 50, Text = "?" },
            new BlankItem { Id = Guid.NewGuid(), Width = 100, Height = 50, Answers = ["thrust"], IsBox = true },
            new FigureItem { Id = Guid.NewGuid(), Width = 300, Height = 300, Figure = new ClockFace() },
        ];
        var json = JsonSerializer.Serialize<IReadOnlyList<Item>>(items, JsonSerializerOptions.Web);
        var again = JsonSerializer.Deserialize<IReadOnlyList<Item>>(json, JsonSerializerOptions.Web)!;
        again.Select(i => i.GetType()).ShouldBe(items.Select(i => i.GetType()));
        JsonSerializer.Serialize(again, JsonSerializerOptions.Web).ShouldBe(json);
        var (tidy, fault) = ItemRules.Check(again);
        fault.ShouldBeNull();
        tidy!.Count.ShouldBe(7);
        again.ShouldAllBe(i => drawings.Draw(i).Shapes.Count > 0);
    }

    [Fact]
    public void What_cannot_stand_on_a_board_is_named()
    {
        Fault(Label(" ", 0, 0, 1, 1))!.ShouldContain("no words");
        ItemRules.Check([new CoverItem { Id = Guid.NewGuid(), X = double.NaN }]).Fault!.ShouldContain("no place");
        Fault(new FigureItem { Id = Guid.NewGuid(), Figure = new ClockFace { Hour = 30 } })!.ShouldContain("0 to 23");
        Fault(new FormulaItem { Id = Guid.NewGuid(), Tex = "\\frac{1", Svg = "" })!.ShouldContain("could not be typeset");
        Fault(new TextItem { Id = Guid.NewGuid(), Paragraphs = [[new TextRun(new string('x', 4001))]] })!.ShouldContain("longer than 4000");
        Fault(new TextItem { Id = Guid.NewGuid(), Paragraphs = [[new TextRun("x", Language: "no such")]] })!.ShouldContain("language tag");
        Fault(new TableItem { Id = Guid.NewGuid() })!.ShouldContain("1 to 60 rows");
        var twice = new CoverItem { Id = Guid.NewGuid() };
        ItemRules.Check([twice, twice]).Fault!.ShouldContain("same identity");
        ItemRules.Check([.. Enumerable.Range(0, 301).Select(_ => new CoverItem { Id = Guid.NewGuid() })]).Fault!.ShouldContain("at most 300");
    }

    [Fact]
    public void Unknown_inks_and_sizes_become_plain_ones_and_blanks_keep_each_answer_once()
    {
        var text = (TextItem)ItemRules.Check(
            [new TextItem { Id = Guid.NewGuid(), Size = "huge",
            Paragraphs = [[new TextRun("a", Color: "pink", Highlight: "sky"), new TextRun("")]] }]).Value![0];
        text.Size.ShouldBe("reading");
        text.Paragraphs[0].ShouldHaveSingleItem().ShouldBe(new TextRun("a", Highlight: "sky"));
        ((BlankItem)ItemRules.Check([new BlankItem { Id = Guid.NewGuid(), Answers = [" thrust ", "thrust", ""] }]).Value![0]).Answers
            .ShouldBe(["thrust"]);
    }

    [Fact]
    public void A_formula_is_kept_as_outlines_alone()
    {
        var drawing = MathSvg.Draw(Formula, 50, "#00568A");
        (drawing.Width, drawing.Height).ShouldBe((75, 50));
        var outlines = drawing.Shapes.Cast<PathShape>().ToArray();
        outlines.Select(o => o.Fill).ShouldAllBe(f => f == "#00568A");

        // scale(1,-1) and translate(500,100) with an em of 50 for 1000 units, the top of the view box at -800.
        outlines[0].Transform.ShouldBe([0.05, 0, 0, -0.05, 25, 35]);
        SvgDrawing.Write(drawing).ToString().ShouldContain("matrix(0.05 0 0 -0.05 25 35)");
    }

    // Found in the running application: a box was a black bar, lines of arrays, writing and inks were lost.
    [Fact]
    public void Boxes_lines_writing_and_inks_of_a_formula_are_drawn()
    {
        const string Svg = """
            <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 -800 1500 1000"><g stroke="currentColor" fill="currentColor" transform="scale(1,-1)">
            <rect x="30" y="-240" width="1000" height="900" fill="none" stroke-width="67"/><line data-line="v" class="mjx-dashed" x1="1064" y1="-985" x2="1064" y2="1485"/>
            <line x1="0" y1="0" x2="9" y2="9" stroke-width="67"/><text transform="translate(892,100) scale(1,-1)" font-size="884px">größe</text>
            <g fill="red" stroke="red"><path d="M10 0L20 30Z"/><g fill="blue" stroke="blue"><path d="M10 0L20 30Z"/></g></g></g></svg>
            """;
        var shapes = MathSvg.Draw(Svg, 50, "#1E2A2B").Shapes;
        MathSvg.Fault(Svg).ShouldBeNull();
        var box = (PathShape)shapes[0];
        (box.Fill, box.Stroke, box.StrokeWidth).ShouldBe((null, "#1E2A2B", 67));
        ((PathShape)shapes[1]).Dash.ShouldBeGreaterThan(0);
        ((PathShape)shapes[2]).Dash.ShouldBe(0);
        var text = (TextShape)shapes[3];
        (text.Text, text.X, text.Y, text.Size).ShouldBe(("größe", 44.6, 35, 44.2));
        shapes.Skip(4).Cast<PathShape>().Select(p => p.Fill).ShouldBe(["#AD4C00", "#00568A"]);
        MathSvg.Fault(Svg.Replace("\"blue\"", "\"pink\"", StringComparison.Ordinal))!.ShouldContain(
            "“pink” in the formula is none of our inks. Write one of blue-black, vermilion");
    }

    [Theory]
    [InlineData("""<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><script>alert(1)</script></svg>""")]
    [InlineData("""<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0" onload="x"/><path d="url(evil)"/></svg>""")]
    [InlineData("""<!DOCTYPE svg [<!ENTITY a "b">]><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0"/></svg>""")]
    [InlineData("not xml")]
    [InlineData("""<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><g transform="spin(9)"><path d="M0 0"/></g></svg>""")]
    public void Hostile_markup_in_a_formula_leaves_nothing_behind(string svg)
    {
        var kept = SvgDrawing.Write(MathSvg.Draw(svg, 10, "#000000")).ToString();
        kept.ShouldNotContain("script");
        kept.ShouldNotContain("onload");
        kept.ShouldNotContain("url");
        kept.ShouldNotContain("ENTITY");
    }

    [Fact]
    public void MathML_is_kept_without_what_is_not_presentation()
    {
        var formula = new FormulaItem
        {
            Id = Guid.NewGuid(),
            Tex = "x",
            Svg = Formula,
            MathMl = """<math xmlns="http://www.w3.org/1998/Math/MathML" onclick="x"><mi href="javascript:x">x</mi><script>1</script><annotation-xml><p>h</p></annotation-xml></math>""",
        };
        ((FormulaItem)ItemRules.Check([formula]).Value![0]).MathMl.ShouldBe("""<math xmlns="http://www.w3.org/1998/Math/MathML"><mi>x</mi></math>""");
    }

    [Fact]
    public void A_table_grows_with_its_words_and_hides_its_blanks()
    {
        var table = new TableItem
        {
            Id = Guid.NewGuid(),
            Width = 500,
            HasHeaderColumn = true,
            Rows = [[new("form", false, []), new("load", false, [])], [new("beam", false, []), new("secret", true, [])], [new("a", false, [])]],
        };
        var drawing = drawings.Draw(table);
        drawing.Width.ShouldBe(500);
        var words = drawing.Shapes.OfType<TextShape>().ToArray();
        words.Select(w => w.Text).ShouldNotContain("secret");
        words.Where(w => w.IsBold).Select(w => w.Text).ShouldBe(["form", "load", "beam", "a"]);
        drawing.Shapes.OfType<PathShape>().Count(p => p.Dash > 0).ShouldBe(1);
        drawings.Draw(table with { Width = 240 }).Height.ShouldBeGreaterThan(drawing.Height);
        drawings.Sized(table).Height.ShouldBe(drawing.Height, 0.1);
    }

    [Fact]
    public void The_line_of_a_label_leads_from_its_edge_to_its_tip()
    {
        var label = Label("keystone", 100, 100, 900, 130);
        var drawing = drawings.Draw(label);
        var line = drawing.Shapes.OfType<PathShape>().First().D;
        line.ShouldStartWith(FormattableString.Invariant($"M{drawing.Width:0.##} "));
        line.ShouldEndWith("L800 30");
        drawings.Draw(label with { TipX = 110, TipY = 110 }).Shapes.OfType<PathShape>().Count().ShouldBe(1, "a tip under the words needs no line");
    }

    [Fact]
    public void Labels_are_numbered_clockwise_from_the_upper_left()
    {
        var labels = new[] {
            Label("right", 900, 400, 700, 430),
            Label("upper left", 100, 100, 300, 250),
            Label("top", 500, 20, 550, 200),
            Label("lower left", 100, 700, 300, 600) };
        var numbered = LabelSet.Number(labels);
        numbered.Select(n => n.Label.Text).ShouldBe(["upper left", "top", "right", "lower left"]);
        numbered.Select(n => n.Number).ShouldBe([1, 2, 3, 4]);
        LabelSet.Number([Label("b", 10, 500, 600, 500), Label("a", 10, 100, 600, 100)]).Select(n => n.Label.Text)
            .ShouldBe(["a", "b"], "a column is read downwards");
    }

    // Unicode collation through .NET's culture data: Swedish sorts ä after z, German with a.
    [Theory]
    [InlineData("sv", new[] { "abutment", "zon", "ände" })]
    [InlineData("de", new[] { "abutment", "ände", "zon" })]
    public void The_alphabetical_list_follows_the_language(string language, string[] expected) =>
        LabelSet.Alphabetical(LabelSet.Number([Label("zon", 0, 0, 1, 1), Label("ände", 0, 9, 1, 1), Label("abutment", 0, 5, 1, 1)]), language)
            .Select(n => n.Label.Text).ShouldBe(expected);

    [Fact]
    public void An_unlabelled_copy_shows_numbers_for_words_and_copies_the_rest()
    {
        var cover = new CoverItem { Id = Guid.NewGuid(), Width = 50, Height = 50 };
        Item[] items = [Label("b", 10, 500, 600, 500), cover, Label("a", 10, 100, 600, 100)];
        var copy = LabelSet.Unlabelled(items, Guid.NewGuid);
        copy.Select(i => i.Id).ShouldNotContain(id => items.Any(i => i.Id == id));
        copy.OfType<LabelItem>().Select(l => (l.Number, l.Text)).ShouldBe([(2, "b"), (1, "a")]);
        copy[1].ShouldBeOfType<CoverItem>().Width.ShouldBe(50);
        var words = copy.SelectMany(i => drawings.Draw(i).Shapes).OfType<TextShape>().Select(t => t.Text);
        words.ShouldBe(["2", "1"]);
    }

    [Fact]
    public void A_board_is_described_without_giving_answers_away() => ItemWords.Describe(
    [
        new TextItem { Id = Guid.NewGuid(), Paragraphs = [[new TextRun("What pushes "), new TextRun("back?", IsBold: true)]] },
        new TableItem { Id = Guid.NewGuid(), Rows = [[new("load", false, []), new("thrust", true, ["push"])]] },
        Label("keystone", 0, 0, 1, 1), Label("rib", 0, 0, 1, 1) with { Number = 3 },
        new CoverItem { Id = Guid.NewGuid(), Text = "7" }, new BlankItem { Id = Guid.NewGuid(), Answers = ["chain"] },
        new FigureItem { Id = Guid.NewGuid(), Figure = new ClockFace { Hour = 3, Minute = 5 } },
    ]).ShouldBe("What pushes back? Table: load, blank. Label: keystone. A part with the number 3. Something covered. A blank to fill. A clock face "
        + "showing 3:05.");

    [Fact]
    public void A_term_can_have_places_on_several_boards()
    {
        var term = Guid.NewGuid();
        var (one, other) = (Guid.NewGuid(), Guid.NewGuid());
        var places = LabelSet.Places(
        [
            (one, [Label("arch", 0, 0, 1, 1) with { TermId = term }, Label("untied", 0, 0, 1, 1)]),
            (other, [Label("arch", 0, 0, 1, 1) with { TermId = term }]),
        ]);
        places.Select(p => p.BoardId).ShouldBe([one, other]);
        places.ShouldAllBe(p => p.TermId == term);
    }
}
