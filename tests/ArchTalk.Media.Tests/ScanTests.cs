using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Scans;
using SkiaSharp;

namespace ArchTalk.Media.Tests;

/// <summary>Pages that we set and photographed ourselves, so that every word on them is known.</summary>
public sealed class ScanTests : IDisposable
{
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
            foreach (var line in Photograph.Lines(font, width * 0.76f))
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

    [Theory]
    [InlineData(150)]
    [InlineData(300)]
    public async Task Nearly_all_words_of_a_page_are_read_right(int dpi)
    {
        var read = await kit.Reader.ReadAsync(Page("page.png", dpi), ["en"], None);
        Photograph.ShareOf(read).ShouldBeGreaterThanOrEqualTo(0.98);
        read.Words.ShouldAllBe(w => w.Confidence >= PageReader.LeastConfidence && w.Confidence <= 100);

        // The first word stands 12 % from the left; its baseline is 0.75 inch from the top of a page 4.13 inches high.
        var first = read.Words[0];
        first.X.ShouldBe(0.12 * 1600, 8);
        const double Em = 11 / 72.0 / 5.83 * 1600;
        first.Y.ShouldBe((0.75 / 5.83 * 1600) - (0.714 * Em), 8, "the top of its capital: Noto Sans, sCapHeight 714 of 1000");
        first.Height.ShouldBe(Em, 8, "as large as its writing, with room for tails");
    }

    // Photographs by a seed: the plane of the page tilted by up to 15 degrees both ways, turned by up to 2, half of it in shadow, on
    // tables of different colours. More of them are in bench/ (scans).
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public async Task Nearly_all_words_of_a_page_photographed_aslant_and_half_in_shadow_are_read_right(int seed)
    {
        var photograph = new Photograph(seed);
        photograph.Write(samples.Path("photo.jpg"));
        var settings = await kit.Scans.ProposeAsync(samples.Path("photo.jpg"), None);
        settings.Corners.ShouldNotBeNull();
        foreach (var (found, corner) in settings.Corners.All.Zip(photograph.Corners.All))
        {
            Math.Sqrt(Math.Pow(found.X - corner.X, 2) + Math.Pow(found.Y - corner.Y, 2)).ShouldBeLessThan(0.025);
        }

        var copies = await kit.Pictures.ImportScanAsync(samples.Path("photo.jpg"), settings, samples.Path("made"), None);
        photograph.ShareRight(await kit.Reader.ReadAsync(samples.Path($"made/{copies[^1].Name}"), ["en"], None)).ShouldBeGreaterThanOrEqualTo(0.98);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public async Task A_page_that_lies_on_its_side_or_head_is_turned_up(int quarters)
    {
        var photograph = new Photograph(7);
        photograph.Write(samples.Path("photo.jpg"), quarters);
        var settings = await kit.Scans.ProposeAsync(samples.Path("photo.jpg"), None);
        settings.Turn.ShouldBe((4 - quarters) % 4);
        var copies = await kit.Pictures.ImportScanAsync(samples.Path("photo.jpg"), settings, samples.Path("made"), None);
        photograph.ShareRight(await kit.Reader.ReadAsync(samples.Path($"made/{copies[^1].Name}"), ["en"], None)).ShouldBeGreaterThanOrEqualTo(0.98);
    }

    [Fact]
    public async Task A_photographed_page_is_straightened_cropped_and_made_white_and_can_then_be_read()
    {
        var photograph = Page("photo.png", 200, degrees: 4, onTable: true);
        var settings = await kit.Scans.ProposeAsync(photograph, None);
        settings.Degrees.ShouldBe(0, 0.3, "its corners put it straight");
        settings.RaisesContrast.ShouldBeTrue();
        settings.Corners!.Area.ShouldBe(0.84 * 0.84, 0.03);

        var copies = await kit.Pictures.ImportScanAsync(photograph, settings, samples.Path("made"), None);
        var largest = samples.Path($"made/{copies[^1].Name}");
        using (var page = SKBitmap.Decode(largest))
        {
            page.GetPixel(page.Width / 2, page.Height - 30).Red.ShouldBeGreaterThan((byte)245);
        }

        Photograph.ShareOf(await kit.Reader.ReadAsync(largest, ["en"], None)).ShouldBeGreaterThanOrEqualTo(0.95);
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
        (await kit.Pictures.ImportScanAsync(original, ScanSettings.AsItIs with { Left = 0.5, Bottom = 0.25 }, samples.Path("cropped"), None))[^1]
            .ShouldSatisfyAllConditions(
                c => c.Width.ShouldBe(200), c => c.Height.ShouldBe(150));
    }

    [Fact]
    public async Task A_reading_that_hangs_is_stopped_and_a_missing_reader_is_named()
    {
        var script = samples.Program("slow", "[ \"$1\" = --list-langs ] && { printf 'List\\neng\\n'; exit; }\nsleep 600");
        var page = samples.Picture("p.png", 200, 100, SKEncodedImageFormat.Png);
        (await Should.ThrowAsync<MediaException>(
            () => new Kit(new() { SecondsPerReading = 1 }, new() { Tesseract = script }).Reader.ReadAsync(page, ["en"], None)))
            .Message.ShouldContain("did not finish within 1 seconds");
        (await Should.ThrowAsync<ProgramMissingException>(
            () => new Kit(programs: new() { Tesseract = "no-such-reader" }).Reader.ReadAsync(page, ["en"], None)))
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
