using System.Text.Json;
using System.Text.Json.Nodes;
using ArchTalk.Core.Boards.Figures;
using ArchTalk.Core.Boards.Items;

namespace ArchTalk.Core.Tests.Boards;

public class TypedFieldsTests
{
    private static FigureItem Read(Figure figure, string language, params (string Path, string Text)[] typed)
    {
        var item = new FigureItem
        {
            Id = Guid.NewGuid(),
            Width = 300,
            Height = 300,
            Figure = figure,
            Typed = typed.ToDictionary(t => t.Path, t => t.Text)
        };
        var node = JsonSerializer.SerializeToNode<Item>(item, JsonSerializerOptions.Web)!.AsObject();
        TypedFields.Read(node, language);
        return (FigureItem)node.Deserialize<Item>(
            new JsonSerializerOptions(JsonSerializerDefaults.Web) { AllowOutOfOrderMetadataProperties = true })!;
    }

    [Fact]
    public void Fields_are_read_as_the_language_writes_numbers()
    {
        var line = (NumberLine)Read(
            new NumberLine { Locale = "de" },
            "en",
            ("figure.to", "1.000"),
            ("figure.step", "0,5"),
            ("figure.marked", "2,5; 7")).Figure;
        (line.To, line.Step).ShouldBe((1000, 0.5));
        line.Marked.ShouldBe([2.5, 7]);
        var axes = (Axes)Read(new Axes { Locale = "" }, "fr", ("figure.points", "1,5; -2; A\n3; 4")).Figure;
        axes.Points.ShouldBe([new AxesPoint(1.5, -2, "A"), new AxesPoint(3, 4, "")]);
        ((ClockFace)Read(new ClockFace(), "ar-EG", ("figure.hour", "٧")).Figure).Hour.ShouldBe(7);
        ((NumberLine)Read(new NumberLine(), "en", ("figure.marked", "3 7")).Figure).Marked.ShouldBe([3, 7]);
    }

    [Fact]
    public void What_cannot_be_read_stays_as_it_was_typed_and_is_told()
    {
        var item = Read(new ClockFace { Hour = 4 }, "en", ("figure.hour", "half past"), ("figure.minute", "30"));
        var clock = (ClockFace)item.Figure;
        (clock.Hour, clock.Minute).ShouldBe((4, 30));
        item.Typed!.ShouldHaveSingleItem().ShouldBe(new("figure.hour", "half past"));
        ItemRules.Notice(item)!.ShouldBe(
            "“half past” under “Hour” can't be read. Type a whole number such as 7. Until then the figure keeps what it had there.");
        ItemRules.Fault(item).ShouldBeNull("it is drawn with what it had");
        Read(new ClockFace(), "en", ("figure.hour", "7.5")).Typed!.Count.ShouldBe(1);
        Read(new Axes(), "en", ("figure.points", "1; 2\nnowhere")).Typed!.Count.ShouldBe(1);
    }

    [Fact]
    public void Paths_that_no_field_has_change_nothing()
    {
        var item = Read(new ClockFace { Hour = 4 }, "en", ("figure.locale", "de"), ("id", "x"), ("figure.figure", "axes"), ("x", "5"));
        item.Figure.ShouldBe(new ClockFace { Hour = 4 });
        item.Typed.ShouldBeNull();
    }

    [Fact]
    public void Wrong_items_are_kept_beside_the_others_and_have_a_mark_in_their_place()
    {
        Item[] typed =
        [
            new FigureItem { Id = Guid.NewGuid(), Width = 400, Height = 400, Figure = new ClockFace { Hour = 24 } },
            new FigureItem { Id = Guid.NewGuid(), Width = 900, Height = 130, Figure = new NumberLine { To = 100_000 } },
            new LabelItem { Id = Guid.NewGuid(), Width = 100, Height = 60, Text = " " },
            new FormulaItem { Id = Guid.NewGuid(), Width = 300, Height = 90, Tex = "\\foo", Problem = "Undefined control sequence \\foo" },
            new CoverItem { Id = Guid.NewGuid(), Width = 100, Height = 50, Text = "?" },
        ];
        var kept = ItemRules.Check(typed).Value!;
        kept.Count.ShouldBe(5);
        kept.Select(ItemRules.Notice).ShouldBe(
        [
            "The hour of a clock is from 0 to 23.", "The step of a number line has to be more than 0 and give at most 200 strokes.",
            "A label has no words. Type what the part is called, or remove the label.", "The formula can't be typeset: Undefined control sequence "
                + "\\foo", null,
        ]);
        var drawings = new ItemDrawings(new HalfEm());
        kept.Take(4).ShouldAllBe(i => drawings.Draw(i).Shapes.Count >= 2);
        drawings.Draw(kept[3]).Shapes.OfType<Core.Boards.Drawings.TextShape>().Last().Text.ShouldStartWith("\\foo");
        ((NumberLine)((FigureItem)kept[1]).Figure).To.ShouldBe(100_000);
    }
}
