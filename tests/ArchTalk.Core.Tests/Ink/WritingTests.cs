using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Ink;

namespace ArchTalk.Core.Tests.Ink;

/// <summary>How single letters of what was typed look; Client/tests/letter-looks.test.ts checks the same figures in the pages.</summary>
public sealed class WritingTests
{
    private static readonly TextSetter Setter = new(new HalfAnEm());

    [Fact]
    public void A_look_stands_for_an_ink_and_a_highlight()
    {
        Writing.LookOf("", "").ShouldBe(Writing.Plain);
        Writing.LookOf("", "orange").ShouldBe('2');
        Writing.LookOf("vermilion", "yellow").ShouldBe('d');
        foreach (var ink in InkStyle.All.Where(s => s.Tool == InkStyle.Pen))
        {
            foreach (var mark in InkStyle.All.Where(s => s.Tool == InkStyle.Highlighter))
            {
                Writing.InkOf(Writing.LookOf(ink.Ink, mark.Ink)).ShouldBe((ink.Ink, mark.Ink));
            }
        }
    }

    [Theory]
    [InlineData("arch", "0110", true)]
    [InlineData("arch", "", true)]
    [InlineData("arch", null, true)]
    [InlineData("arch", "011", false)]
    [InlineData("arch", "01Z0", false)]
    public void Looks_are_one_for_each_letter_or_none(string text, string? looks, bool isSound) => Writing.AreLooks(looks, text).ShouldBe(isSound);

    [Fact]
    public void Looks_that_say_nothing_are_none_and_lines_have_their_own()
    {
        Writing.Of("arch", "0000").ShouldBe(new Writing("arch"));
        Writing.Of("an\narch", "1100000").Lines().ShouldBe([new("an", "11"), new("arch")]);
    }

    [Fact]
    public void Letters_that_look_alike_stand_together_with_their_highlight_under_them()
    {
        var shapes = Setter.Typed(new("keystone\nplain", "000ddddd000000"), 40, "blue");
        var mark = shapes[0].ShouldBeOfType<PathShape>();
        mark.Ground!.Value.X.ShouldBe(60);
        mark.Ground!.Value.Width.ShouldBe(100);
        shapes.OfType<TextShape>().Select(t => (t.Text, t.X, t.Fill))
            .ShouldBe([("key", 0, "#00568A"), ("stone", 60, "#AD4C00"), ("plain", 0, "#00568A")]);
    }

    [Fact]
    public void Writing_from_the_right_begins_at_its_right_end()
    {
        var shapes = Setter.Typed(new("אבן ראש", "0000ccc"), 40, "blue").OfType<TextShape>().ToArray();
        shapes.Select(t => (t.Text, t.X, t.IsRightToLeft)).ShouldBe([("ראש", -80, true), ("אבן ", 0, true)]);
    }

    private sealed class HalfAnEm : ITextMeasure
    {
        public double Width(string text, double size, bool isBold) => text.Length * size / 2;
    }
}
