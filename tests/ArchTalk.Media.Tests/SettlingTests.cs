using System.Globalization;
using System.Xml.Linq;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Ink;
using SkiaSharp;

namespace ArchTalk.Media.Tests;

/// <summary>
/// Ink that settles, on pages as teachers bring them: what a page's lines are is said by poppler (<c>pdftotext -bbox-layout</c>) or known
/// because we set the page; a generated hand draws along some of their words. The share that must be right is the product's own figure.
/// </summary>
public sealed class SettlingTests : IDisposable
{
    private const double LeastRight = 0.98;
    private const int Strokes = 1200;
    private const double Letters = 0.8;
    private static readonly CancellationToken None = CancellationToken.None;
    private readonly Samples samples = new();
    private readonly Kit kit = new();
    private readonly List<string> wrong = [];
    private readonly SkiaTextMeasure measure = new(Path.Combine(Repository.Web, "wwwroot", "app", "fonts"));

    public void Dispose()
    {
        samples.Dispose();
        measure.Dispose();
    }

    private sealed record TrueWord(string Text, double Left, double Right);

    /// <param name="Top">At a place across the page.</param>
    private sealed record TrueLine(IReadOnlyList<TrueWord> Words, Func<double, double> Top, double Height);

    [Fact]
    public async Task Lines_drawn_along_words_of_documents_settle_on_exactly_those_words()
    {
        var (right, drawn) = (0, 0);
        foreach (var name in new[] { "arch-worksheet.pdf", "domes.pdf", "arch-slides.pdf" })
        {
            var file = samples.Path(name);
            File.Copy(Repository.DemoFile(name), file);
            await using var pages = await kit.OpenPdfAsync(file);
            var poppler = Layout(await samples.RunAsync("pdftotext", "-bbox-layout", file, "-"));
            for (var page = 1; page <= pages.Count; page++)
            {
                var made = await pages.ImportAsync(page, samples.Path($"{name}-{page}"), None);
                Count(poppler[page - 1], made.Words.Lines(), page, Strokes / 10, ref right, ref drawn);
            }
        }

        drawn.ShouldBeGreaterThan(500);
        ((double)right / drawn).ShouldBeGreaterThanOrEqualTo(LeastRight, $"{right} of {drawn}\n{string.Join('\n', wrong.Take(20))}");
    }

    [Theory]
    [InlineData(0)]
    [InlineData(3)]
    [InlineData(-4)]
    public async Task Lines_drawn_along_words_of_a_recognised_page_settle_on_exactly_those_words(double degrees)
    {
        const int Width = 1749;
        const int Height = 1240;
        using var face = SKTypeface.FromFile("/usr/share/fonts/truetype/noto/NotoSans-Regular.ttf");
        using var font = new SKFont(face, 46);
        using var paper = new SKBitmap(Width, Height);
        var turn = SKMatrix.CreateRotationDegrees((float)degrees, Width / 2f, Height / 2f);
        var set = new List<(string Line, float Y)>();
        using (var canvas = new SKCanvas(paper))
        using (var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true })
        {
            canvas.Clear(SKColors.White);
            canvas.SetMatrix(turn);
            foreach (var line in Photograph.Lines(font, Width * 0.76f))
            {
                set.Add((line, 225 + (set.Count * font.Size * 1.5f)));
                canvas.DrawText(line, Width * 0.12f, set[^1].Y, SKTextAlign.Left, font, ink);
            }
        }

        using (var image = SKImage.FromBitmap(paper))
        using (var data = image.Encode(SKEncodedImageFormat.Png, 100))
        {
            await File.WriteAllBytesAsync(samples.Path("page.png"), data.ToArray(), None);
        }

        var read = await kit.Reader.ReadAsync(samples.Path("page.png"), ["en"], None);
        const float Unit = 1600f / Width;
        var lines = set.Select(l =>
        {
            double Place(string text) => turn.MapPoint((Width * 0.12f) + font.MeasureText(text), l.Y).X * Unit;
            var words = l.Line.Split(' ');
            string Before(int word) => string.Concat(words.Take(word).Select(w => w + " "));
            var begin = turn.MapPoint(Width * 0.12f, l.Y - (0.74f * font.Size));
            return new TrueLine(
                [.. words.Select((w, i) => new TrueWord(w, Place(Before(i)), Place(Before(i) + w)))],
                x => (begin.Y * Unit) + ((x - (begin.X * Unit)) * Math.Tan(degrees * Math.PI / 180)), font.Size * Unit);
        }).ToArray();
        var (right, drawn) = (0, 0);
        Count(lines, read.Lines(), 1, Strokes, ref right, ref drawn);
        ((double)right / drawn).ShouldBeGreaterThanOrEqualTo(LeastRight, $"{right} of {drawn}\n{string.Join('\n', wrong.Take(20))}");
    }

    // Readers of pages divide words at marks in their own ways.
    private static bool Same(string? one, string other) => one?.Replace(" ", "", StringComparison.Ordinal)
        .Equals(other.Replace(" ", "", StringComparison.Ordinal), StringComparison.OrdinalIgnoreCase) == true;

    // Highlights and underlines by turns, along one to six words of a line.
    private void Count(IReadOnlyList<TrueLine> truth, IReadOnlyList<TextLine> found, int seed, int count, ref int right, ref int drawn)
    {
        var settling = new Settling(measure);
        var hand = new GeneratedHand(seed);
        for (var i = 0; i < count && truth.Count > 0; i++)
        {
            var line = truth[hand.Next(truth.Count)];
            var first = hand.Next(line.Words.Count);
            TrueWord[] words = [.. line.Words.Skip(first).Take(1 + hand.Next(6))];
            double Beside(TrueWord word) => hand.Beside(word.Right - word.Left, line.Height);
            var (left, end) = (words[0].Left + Beside(words[0]), words[^1].Right - Beside(words[^1]));
            var isHighlighter = i % 2 == 0;
            if (!isHighlighter && end - left < line.Height)
            {
                continue;
            }

            var stroke = hand.Along(left, end, x => line.Top(x) + (line.Height * (isHighlighter ? 0.5 : 1)), line.Height);
            var settled = settling.Settle(stroke, isHighlighter, found);
            var expected = string.Join(' ', words.Select(w => w.Text));
            drawn++;
            right += Same(settled?.Text, expected) ? 1 : 0;
            if (!Same(settled?.Text, expected))
            {
                wrong.Add($"{(isHighlighter ? "over" : "under")} “{expected}”: “{settled?.Text}”");
            }
        }
    }

    // Of each page its lines, in board units.
    private static List<IReadOnlyList<TrueLine>> Layout(string html)
    {
        var pages = new List<IReadOnlyList<TrueLine>>();
        XNamespace xhtml = "http://www.w3.org/1999/xhtml";
        foreach (var page in XDocument.Parse(html[html.IndexOf("<html", StringComparison.Ordinal)..]).Descendants(xhtml + "page"))
        {
            double Number(XElement of, string name) => double.Parse(of.Attribute(name)!.Value, CultureInfo.InvariantCulture);
            var unit = 1600 / Number(page, "width");
            // A font's box has room above the letters; writing from stem to tail takes about four fifths of it, at its foot.
            pages.Add([.. page.Descendants(xhtml + "line").Select(l => new TrueLine(
                [.. l.Elements(xhtml + "word").Select(w => new TrueWord(w.Value, Number(w, "xMin") * unit, Number(w, "xMax") * unit))],
                _ => (Number(l, "yMax") * unit) - (Letters * (Number(l, "yMax") - Number(l, "yMin")) * unit),
                Letters * (Number(l, "yMax") - Number(l, "yMin")) * unit))]);
        }

        return pages;
    }
}
