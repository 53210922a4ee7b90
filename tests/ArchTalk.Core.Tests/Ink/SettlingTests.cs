using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Ink;

namespace ArchTalk.Core.Tests.Ink;

/// <summary>On which words a stroke settles; real pages are in the Media tests.</summary>
public class SettlingTests
{
    private static readonly Settling Settling = new(new EvenLetters());

    // Letters 20 units broad and lines 40 high, 50 apart; words begin at a multiple of the letters.
    private sealed class EvenLetters : ITextMeasure
    {
        public double Width(string text, double size, bool isBold) => text.Length * size / 2;
    }

    private static TextLayer Page(double slope, params string[] lines) => new([.. lines.SelectMany((line, row) =>
    {
        var words = new List<TextWord>();
        for (var at = 0; at < line.Length;)
        {
            var end = line.IndexOf(' ', at) is >= 0 and var space ? space : line.Length;
            if (end > at)
            {
                words.Add(new(line[at..end], X(at), 100 + (row * 50) + (slope * X((at + end) / 2.0)), 20 * (end - at), 40));
            }

            at = end + 1;
        }

        return words;
    })]);

    // Written from the right: the first word stands at the right end.
    private static TextLayer FromRight(string line)
    {
        var right = 1000.0;
        var words = new List<TextWord>();
        foreach (var word in line.Split(' '))
        {
            right -= 20 * word.Length;
            words.Add(new(word, right, 100, 20 * word.Length, 40));
            right -= 20;
        }

        return new(words);
    }

    private static double X(double letter) => 200 + (20 * letter);

    private static InkPlace[] Stroke(double x0, double y0, double x1, double y1) =>
        [.. Enumerable.Range(0, 21).Select(i => new InkPlace((int)((x0 + ((x1 - x0) * i / 20)) * 10), (int)((y0 + ((y1 - y0) * i / 20)) * 10)))];

    private static SettledStroke? Over(TextLayer page, double from, double to, double y) =>
        Settling.Settle(Stroke(from, y, to, y), isHighlighter: true, page.Lines());

    private static SettledStroke? Under(TextLayer page, double from, double to, double y) =>
        Settling.Settle(Stroke(from, y, to, y), isHighlighter: false, page.Lines());

    [Fact]
    public void A_highlighter_becomes_straight_as_high_as_the_line_and_covers_whole_words()
    {
        var page = Page(0, "the keystone locks the arch", "and nothing falls");
        var settled = Over(page, X(4) + 15, X(18) - 12, 128)!;
        settled.Text.ShouldBe("keystone locks");
        (settled.From, settled.To).ShouldBe((new InkPlace((int)X(4) * 10, 1200), new InkPlace((int)X(18) * 10, 1200)));
        settled.Height.ShouldBe(448, "a little more than the line");
        Over(page, X(18) - 12, X(4) + 15, 128).ShouldBe(settled, "the other way");
    }

    [Fact]
    public void An_underline_lies_at_the_foot_of_its_words()
    {
        var settled = Under(Page(0, "the keystone locks the arch", "and nothing falls"), X(4), X(12), 148)!;
        (settled.Text, settled.From.Y, settled.To.Y).ShouldBe(("keystone", 1400, 1400));
    }

    [Theory]
    [InlineData(4, "keystone", 0.25, 0.75, "ysto")]
    [InlineData(0, "the", 0, 0.4, "t")]
    public void Across_a_few_letters_it_stays_on_those(int first, string word, double from, double to, string letters)
    {
        var page = Page(0, "the keystone locks the arch");
        double At(double share) => X(first) + (20 * word.Length * share);
        Over(page, At(from), At(to), 120)!.Text.ShouldBe(letters);
    }

    [Theory]
    [InlineData(0.07)]
    [InlineData(-0.07)]
    public void On_a_page_that_lies_aslant_it_lies_as_its_line_does(double slope)
    {
        var page = Page(
            slope, "the keystone locks the arch and nothing", "falls for a thousand years or more and", "that is all there is to say about it");
        var stroke = Stroke(X(4), 170 + (slope * X(4)), X(27), 170 + (slope * X(27)));
        var settled = Settling.Settle(stroke, isHighlighter: true, page.Lines())!;
        settled.Text.ShouldBe("for a thousand years");
        ((settled.To.Y - settled.From.Y) / (double)(settled.To.X - settled.From.X)).ShouldBe(slope, 0.01);
    }

    [Fact]
    public void Words_written_from_the_right_come_in_the_order_in_which_they_are_read()
    {
        var page = FromRight("القوس يحمل الجدار");
        var settled = Over(page, 1000 - 20, 1000 - (20 * 9), 120)!;
        settled.Text.ShouldBe("القوس يحمل");
        Over(page, 1000 - 38, 1000, 120)!.Text.ShouldBe("ال", "the first letters stand at the right");
    }

    [Theory]
    [InlineData(200, 120, 760, 121, false, "a pen through the middle crosses out")]
    [InlineData(100, 146, 1500, 146, false, "a line across the whole board divides it")]
    [InlineData(200, 300, 760, 300, true, "there are no words")]
    [InlineData(400, 60, 420, 260, true, "it goes down the page")]
    [InlineData(200, 100, 760, 190, false, "it goes aslant over two lines")]
    public void What_was_not_drawn_along_words_stays_as_it_is(double x0, double y0, double x1, double y1, bool isHighlighter, string why) =>
        Settling.Settle(Stroke(x0, y0, x1, y1), isHighlighter, Page(0, "the keystone locks the arch", "and nothing falls").Lines())
            .ShouldBeNull(why);

    [Fact]
    public void A_circle_around_a_word_stays_a_circle() => Settling.Settle(
        [.. Enumerable.Range(0, 40).Select(i => new InkPlace(
            (int)(4000 + (900 * Math.Cos(i / 6.0))), (int)(1200 + (350 * Math.Sin(i / 6.0)))))],
        isHighlighter: false, Page(0, "the keystone locks the arch").Lines()).ShouldBeNull();

    [Fact]
    public void What_was_typed_is_settled_on_where_it_stands()
    {
        TextItem item = new()
        {
            Id = Guid.NewGuid(), X = 300, Y = 400, Width = 900, Size = TextSizes.Reading, Paragraphs = [[new("A beam bends, an arch leans")]],
        };
        var measure = new EvenLetters();
        var drawing = new PlacedDrawing(item.Id, item.X, item.Y, new ItemDrawings(measure).Draw(item));
        var words = DrawnWords.Of(drawing, measure).ToArray();
        words.Select(w => w.Text).ShouldBe(["A", "beam", "bends,", "an", "arch", "leans"]);
        var size = TextSizes.Units(TextSizes.Reading);
        (words[0].X, words[1].X, words[1].Width).ShouldBe((300, 300 + size, 2 * size));
        Over(new(words), words[3].X, words[4].X + words[4].Width, words[3].Y + (size / 2))!.Text.ShouldBe("an arch");
    }
}
