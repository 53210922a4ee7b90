using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Items;
using CsCheck;

namespace ArchTalk.Core.Tests.Boards;

/// <summary>Every letter is half an em wide, so widths can be counted.</summary>
internal sealed class HalfEm : ITextMeasure
{
    public double Width(string text, double size, bool isBold) => text.Length * size / 2;
}

public class TextSetterTests
{
    private static readonly double Em = TextSizes.Units(TextSizes.Reading);
    private readonly TextSetter setter = new(new HalfEm());

    private static TextItem Text(double letters, params TextRun[][] paragraphs) =>
        new() { Id = Guid.NewGuid(), Width = letters * Em / 2, Height = 10, Paragraphs = paragraphs };

    private TextShape[] Set(TextItem item) => [.. setter.Set(item).Shapes.OfType<TextShape>()];

    [Fact]
    public void Lines_break_at_spaces_and_height_follows()
    {
        var item = Text(11, [new TextRun("the arch turns a load")]);
        var drawing = setter.Set(item);
        drawing.Shapes.OfType<TextShape>().Select(t => t.Text).ShouldBe(["the arch", "turns a", "load"]);
        drawing.Height.ShouldBe(3 * TextSetter.LineHeight * Em, 0.01);
        drawing.Width.ShouldBe(item.Width);
    }

    [Fact]
    public void Resizing_breaks_lines_anew_and_never_changes_the_letters()
    {
        var run = new TextRun("the arch turns a load");
        Set(Text(8, [run])).Concat(Set(Text(40, [run]))).Select(t => t.Size).Distinct().ShouldHaveSingleItem().ShouldBe(Em);
        Set(Text(40, [run])).ShouldHaveSingleItem();
    }

    [Fact]
    public void A_word_wider_than_the_line_is_broken_and_nothing_is_lost()
    {
        var words = Gen.String[Gen.Char["abc  "], 1, 40];
        words.Sample(text =>
        {
            var lines = Set(Text(5, [new TextRun(text)]));
            string.Concat(lines.Select(l => l.Text)).Replace(" ", "", StringComparison.Ordinal)
                .ShouldBe(text.Replace(" ", "", StringComparison.Ordinal));
            lines.ShouldAllBe(l => l.Text.TrimEnd().Length <= 5);
        });
    }

    [Fact]
    public void Single_letters_can_be_coloured_and_highlighted()
    {
        var drawing = setter.Set(Text(30, [new TextRun("vou"), new TextRun("ss", Color: "vermilion", Highlight: "yellow"), new TextRun("oir")]));
        var letters = drawing.Shapes.OfType<TextShape>().ToArray();
        letters.Select(t => (t.Text, t.Fill)).ShouldBe([("vou", "#1E2A2B"), ("ss", "#AD4C00"), ("oir", "#1E2A2B")]);
        letters.Select(t => t.X).ShouldBe([0, 1.5 * Em, 2.5 * Em], 0.1);
        drawing.Shapes[0].ShouldBeOfType<PathShape>().Fill.ShouldBe("#F0E442");
    }

    [Fact]
    public void Right_to_left_writing_begins_at_the_right_and_keeps_the_order_of_its_runs()
    {
        var letters = Set(Text(20, [new TextRun("قوس "), new TextRun("حجر", Color: "green")]));
        letters.ShouldAllBe(t => t.IsRightToLeft && t.Anchor == TextShape.Start);
        letters.Single(t => t.Text == "قوس ").X.ShouldBe(10 * Em, 0.1);
        letters.Single(t => t.Text == "حجر").X.ShouldBe(8 * Em, 0.1);
    }

    [Fact]
    public void A_coloured_letter_inside_a_cursive_word_stays_joined() =>
        Set(Text(20, [new TextRun("قو"), new TextRun("س", Color: "green")])).Select(t => t.Text).ShouldBe(["‍س", "قو‍"], ignoreOrder: true);

    [Fact]
    public void A_right_to_left_phrase_in_a_left_to_right_line_keeps_its_own_order()
    {
        var letters = Set(Text(40, [new TextRun("arch is "), new TextRun("אבן "), new TextRun("קשת", IsBold: true), new TextRun(" there")]));
        letters.OrderBy(t => t.IsRightToLeft ? t.X - (t.Text.Length * Em / 2) : t.X).Select(t => t.Text)
            .ShouldBe(["arch is ", "קשת", "אבן ", " there"]);
    }

    [Fact]
    public void Scripts_without_spaces_break_between_characters_but_not_before_a_full_stop()
    {
        Set(Text(4, [new TextRun("石橋は力。")])).Select(t => t.Text).ShouldBe(["石橋は", "力。"], "the full stop goes down with its word");
    }

    [Fact]
    public void A_reading_stands_small_above_its_letters_and_makes_room()
    {
        var plain = setter.Set(Text(20, [new TextRun("橋")]));
        var read = setter.Set(Text(20, [new TextRun("橋", Ruby: "はし")]));
        read.Height.ShouldBeGreaterThan(plain.Height);
        var (letters, ruby) = (read.Shapes.OfType<TextShape>().First(), read.Shapes.OfType<TextShape>().Last());
        ruby.Text.ShouldBe("はし");
        ruby.X.ShouldBe(letters.X);
        ruby.Y.ShouldBeLessThan(letters.Y - (0.7 * Em));
        ruby.Size.ShouldBe(Em / 2, 0.1);
    }

    [Theory]
    [InlineData("start", 0)]
    [InlineData("middle", 4)]
    [InlineData("end", 8)]
    public void Lines_are_aligned(string align, double indent) =>
        Set(Text(12, [new TextRun("arch")]) with { Align = align }).ShouldHaveSingleItem().X.ShouldBe(indent * Em / 2, 0.1);

    [Fact]
    public void Lists_are_marked_and_indented()
    {
        var letters = Set(Text(30, [new TextRun("load")], [new TextRun("thrust")]) with { List = TextSettings.ListNumbers });
        letters.Select(t => t.Text).ShouldBe(["1.", "load", "2.", "thrust"]);
        letters[1].X.ShouldBeGreaterThan(letters[0].X);
    }

    // ISO 9241-303 (from memory): at least 16 minutes of arc, 20 to 22 preferred, for capitals; a phone 65 mm wide at 300 mm.
    [Fact]
    public void The_three_sizes_can_be_read_on_a_phone()
    {
        double Minutes(string size) => 2 * Math.Atan(TextSizes.Units(size) * 0.668 * 65 / 1600 / 600) * 180 * 60 / Math.PI;
        Minutes(TextSizes.Small).ShouldBeInRange(16, 16.5);
        Minutes(TextSizes.Reading).ShouldBeInRange(20, 22);
        Minutes(TextSizes.Heading).ShouldBeGreaterThan(28);
    }
}
