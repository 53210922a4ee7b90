using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Scans;
using SkiaSharp;

namespace ArchTalk.Media.Tests;

/// <summary>Pages that we set and photographed ourselves, so that every word on them is known.</summary>
public sealed class ScanTests : IDisposable
{
    private const string Words =
        "An arch is a curved structure that carries a load over an opening by squeezing its stones together. "
        + "Each wedge shaped stone pushes on its neighbours and is held in its place by them. "
        + "The stone at the top is set last and locks all the others. At its feet the arch pushes outward, "
        + "and something heavy must stand there to take up the thrust. As long as the path of that push stays "
        + "inside the stones the arch will stand for a thousand years without any mortar between them.";

    private static readonly CancellationToken None = CancellationToken.None;
    private readonly Samples samples = new();
    private readonly Kit kit = new();

    public void Dispose() => samples.Dispose();

    // A page of A5 at a resolution, its lines set in a known face.
    private string Page(string name, int dpi, double degrees = 0, bool onTable = false)
    {
        var (width, height) = ((int)(5.83 * dpi), (int)(4.13 * dpi));
        using var face = SKTypeface.FromFile("/usr/share/fonts/truetype/noto/NotoSans-Regular.ttf");
        using var font = new SKFont(face, dpi * 11 / 72f);
        using var paper = new SKBitmap(width, height);
        using (var canvas = new SKCanvas(paper))
        using (var ink = new SKPaint { Color = new SKColor(25, 25, 30), IsAntialias = true })
        {
            canvas.Clear(onTable ? new SKColor(70, 60, 55) : SKColors.White);
            canvas.RotateDegrees((float)degrees, width / 2f, height / 2f);
            using var sheet = new SKPaint { Color = new SKColor(225, 222, 214) };
            if (onTable)
            {
                canvas.DrawRect(width * 0.08f, height * 0.08f, width * 0.84f, height * 0.84f, sheet);
            }

            var y = dpi * 0.75f;
            foreach (var line in Lines(font, width * 0.76f))
            {
                canvas.DrawText(line, width * 0.12f, y, SKTextAlign.Left, font, ink);
                y += font.Size * 1.5f;
            }
        }

        using var image = SKImage.FromBitmap(paper);
        using var data = image.Encode(SKEncodedImageFormat.Png, 100);
        File.WriteAllBytes(samples.Path(name), data.ToArray());
        return samples.Path(name);
    }

    private static List<string> Lines(SKFont font, float width)
    {
        var lines = new List<string> { "" };
        foreach (var word in Words.Split(' '))
        {
            var longer = (lines[^1] + " " + word).Trim();
            if (font.MeasureText(longer) > width)
            {
                lines.Add(word);
            }
            else
            {
                lines[^1] = longer;
            }
        }

        return lines;
    }

    private static double ShareRight(TextLayer read)
    {
        // Words in order, by the longest common run of them: a wrong, lost or added word counts as wrong.
        string[] expected = Words.Split(' ');
        string[] found = [.. read.Words.Select(w => w.Text)];
        var best = new int[expected.Length + 1, found.Length + 1];
        for (var i = 1; i <= expected.Length; i++)
        {
            for (var j = 1; j <= found.Length; j++)
            {
                best[i, j] = expected[i - 1] == found[j - 1] ? best[i - 1, j - 1] + 1 : Math.Max(best[i - 1, j], best[i, j - 1]);
            }
        }

        return (double)best[expected.Length, found.Length] / Math.Max(expected.Length, found.Length);
    }

    [Theory]
    [InlineData(150)]
    [InlineData(300)]
    public async Task Nearly_all_words_of_a_page_are_read_right(int dpi)
    {
        var read = await kit.Reader.ReadAsync(Page("page.png", dpi), ["en"], None);
        ShareRight(read).ShouldBeGreaterThanOrEqualTo(0.98);
        read.Words.ShouldAllBe(w => w.Confidence >= PageReader.LeastConfidence && w.Confidence <= 100);

        // The first word stands 12 % from the left; its baseline is 0.75 inch from the top of a page 4.13 inches high.
        var first = read.Words[0];
        first.X.ShouldBe(0.12 * 1600, 8);
        (first.Y + first.Height).ShouldBe(0.75 / 5.83 * 1600, 12);
    }

    [Fact]
    public async Task A_photographed_page_is_straightened_cropped_and_made_white_and_can_then_be_read()
    {
        var photograph = Page("photo.png", 200, degrees: 4, onTable: true);
        var settings = await kit.Pictures.ProposeScanAsync(photograph, None);
        settings.Degrees.ShouldBe(-4, 0.3);
        settings.RaisesContrast.ShouldBeTrue();
        new[] { settings.Left, settings.Top, settings.Right, settings.Bottom }.ShouldAllBe(s => s > 0.04 && s < 0.16);

        var copies = await kit.Pictures.ImportScanAsync(photograph, settings, samples.Path("made"), None);
        var largest = samples.Path($"made/{copies[^1].Name}");
        using (var page = SKBitmap.Decode(largest))
        {
            page.GetPixel(page.Width / 2, page.Height - 30).Red.ShouldBeGreaterThan((byte)245);
        }

        ShareRight(await kit.Reader.ReadAsync(largest, ["en"], None)).ShouldBeGreaterThanOrEqualTo(0.95);
    }

    [Fact]
    public async Task A_page_can_be_turned_and_the_original_stays_as_it_was()
    {
        var original = samples.Picture("page.png", 400, 200, SKEncodedImageFormat.Png);
        var before = File.ReadAllBytes(original);
        var copies = await kit.Pictures.ImportScanAsync(original, ScanSettings.AsItIs with { Turn = 1 }, samples.Path("turned"), None);
        (copies[^1].Width, copies[^1].Height).ShouldBe((200, 400));
        using var page = SKBitmap.Decode(samples.Path($"turned/{copies[^1].Name}"));

        // Red was the top left quarter; a quarter turn clockwise takes it to the top right.
        page.GetPixel(180, 20).Green.ShouldBeLessThan((byte)60);
        page.GetPixel(20, 20).Green.ShouldBeGreaterThan((byte)240);
        File.ReadAllBytes(original).ShouldBe(before);
        (await kit.Pictures.ImportScanAsync(original, ScanSettings.AsItIs with { Left = 0.5, Bottom = 0.25 }, samples.Path("cropped"), None))[^1].ShouldSatisfyAllConditions(
            c => c.Width.ShouldBe(200), c => c.Height.ShouldBe(150));
    }

    [Fact]
    public async Task A_reading_that_hangs_is_stopped_and_a_missing_reader_is_named()
    {
        var script = samples.Program("slow", "[ \"$1\" = --list-langs ] && { printf 'List\\neng\\n'; exit; }\nsleep 600");
        var page = samples.Picture("p.png", 200, 100, SKEncodedImageFormat.Png);
        (await Should.ThrowAsync<MediaException>(() => new Kit(new() { SecondsPerReading = 1 }, new() { Tesseract = script }).Reader.ReadAsync(page, ["en"], None)))
            .Message.ShouldContain("did not finish within 1 seconds");
        (await Should.ThrowAsync<ProgramMissingException>(() => new Kit(programs: new() { Tesseract = "no-such-reader" }).Reader.ReadAsync(page, ["en"], None)))
            .Message.ShouldContain("not installed");
    }

    [Theory]
    [InlineData("en", "eng")]
    [InlineData("de-AT", "deu")]
    [InlineData("zh-Hant", "chi_tra")]
    [InlineData("pt-BR", "por")]
    public void Language_tags_are_named_as_the_reader_names_them(string tag, string name) => PageReader.NameOf(tag).ShouldBe(name);

    [Fact]
    public async Task Two_pictures_stand_beside_each_other_alike_in_height()
    {
        var left = samples.Picture("l.png", 400, 200, SKEncodedImageFormat.Png);
        var right = samples.Picture("r.png", 100, 100, SKEncodedImageFormat.Png);
        var joined = (await kit.Pictures.JoinAsync(left, right, samples.Path("both"), None))[^1];
        (joined.Width, joined.Height).ShouldBe((612, 200));
        using var picture = SKBitmap.Decode(samples.Path($"both/{joined.Name}"));
        picture.GetPixel(50, 50).Green.ShouldBeLessThan((byte)80);
        picture.GetPixel(450, 50).Green.ShouldBeLessThan((byte)80);
        picture.GetPixel(406, 50).Green.ShouldBeGreaterThan((byte)230);
    }
}
