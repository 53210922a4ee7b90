using SkiaSharp;

namespace ArchTalk.Media.Tests;

public sealed class PicturesTests : IDisposable
{
    private readonly Samples samples = new();
    private readonly MediaLimits limits = new();
    private readonly Kit kit;

    public PicturesTests() => kit = new Kit(limits);

    public void Dispose() => samples.Dispose();

    [Theory]
    [InlineData(SKEncodedImageFormat.Png)]
    [InlineData(SKEncodedImageFormat.Jpeg)]
    [InlineData(SKEncodedImageFormat.Webp)]
    public async Task A_picture_gets_copies_up_to_its_own_size(SKEncodedImageFormat format)
    {
        var copies = await kit.Pictures.ImportAsync(samples.Picture("p", 2000, 1000, format), samples.Path("out"), CancellationToken.None);

        copies.Select(c => (c.Width, c.Height)).ShouldBe([(400, 200), (1600, 800), (2000, 1000)]);
        foreach (var copy in copies)
        {
            using var bitmap = SKBitmap.Decode(Path.Combine(samples.Path("out"), copy.Name));
            (bitmap.Width, bitmap.Height).ShouldBe((copy.Width, copy.Height));
            bitmap.GetPixel(copy.Width / 4, copy.Height / 4).Blue.ShouldBeLessThan((byte)60);
            bitmap.GetPixel(copy.Width * 3 / 4, copy.Height / 4).Blue.ShouldBeGreaterThan((byte)200);
        }
    }

    // Where the top left quarter of the stored picture is seen, for each EXIF orientation.
    [Theory]
    [InlineData(1, false, 0.25, 0.25)]
    [InlineData(2, false, 0.75, 0.25)]
    [InlineData(3, false, 0.75, 0.75)]
    [InlineData(4, false, 0.25, 0.75)]
    [InlineData(5, true, 0.25, 0.25)]
    [InlineData(6, true, 0.75, 0.25)]
    [InlineData(7, true, 0.75, 0.75)]
    [InlineData(8, true, 0.25, 0.75)]
    public async Task A_photograph_is_turned_as_its_camera_was_held(int orientation, bool turned, double x, double y)
    {
        var copies = await kit.Pictures
            .ImportAsync(samples.Picture("p.jpg", 300, 200, SKEncodedImageFormat.Jpeg, orientation), samples.Path("out"), CancellationToken.None);

        var copy = copies[^1];
        (copy.Width, copy.Height).ShouldBe(turned ? (200, 300) : (300, 200));
        using var bitmap = SKBitmap.Decode(Path.Combine(samples.Path("out"), copy.Name));
        bitmap.GetPixel((int)(copy.Width * x), (int)(copy.Height * y)).Blue.ShouldBeLessThan((byte)60);
        bitmap.GetPixel((int)(copy.Width * (1 - x)), (int)(copy.Height * (1 - y))).Blue.ShouldBeGreaterThan((byte)200);
    }

    // Found in the running application: pictures of telephones were called broken films. ffmpeg and libheif write them; the reader is libheif too.
    [Theory]
    [InlineData("avif", "libaom-av1")]
    [InlineData("heic", "libx265")]
    public async Task A_picture_of_a_telephone_is_converted(string ending, string encoder)
    {
        samples.Picture("p.png", 320, 200, SKEncodedImageFormat.Png);
        var file = samples.Path($"p.{ending}");
        await samples.RunAsync("heif-enc", ending == "avif" ? ["-A", "-o", file, "p.png"] : ["-o", file, "p.png"]);
        if (!File.Exists(file))
        {
            // Debian leaves out some encoders; then a few bytes of its head must do.
            encoder.ShouldNotBeEmpty();
            await File.WriteAllBytesAsync(file, [0, 0, 0, 24, .. "ftypheic"u8, 0, 0, 0, 0, .. "mif1heic"u8]);
            (await Should.ThrowAsync<MediaException>(() => kit.Pictures.PlainAsync(file, samples.Path("plain"), CancellationToken.None))).Message
                .ShouldContain("HEIC or AVIF picture is broken");
            return;
        }

        (await FileKinds.OfAsync(file, CancellationToken.None)).ShouldBe(FileKind.Heif);
        using var plain = SKBitmap.Decode(await kit.Pictures.PlainAsync(file, samples.Path("plain"), CancellationToken.None));
        (plain.Width, plain.Height).ShouldBe((320, 200));
        plain.GetPixel(40, 40).Blue.ShouldBeLessThan((byte)60);
        plain.GetPixel(250, 150).Blue.ShouldBeGreaterThan((byte)230);
    }

    [Fact]
    public async Task A_picture_for_a_board_keeps_what_shows_through_and_its_shape()
    {
        using (var bitmap = new SKBitmap(3000, 1000))
        {
            bitmap.Erase(SKColors.Transparent);
            using var canvas = new SKCanvas(bitmap);
            using var red = new SKPaint { Color = SKColors.Red };
            canvas.DrawRect(0, 0, 1500, 1000, red);
            using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
            await File.WriteAllBytesAsync(samples.Path("half.png"), data.ToArray());
        }

        var made = await kit.Pictures.MakeItemAsync(samples.Path("half.png"), samples.Path("board/item.webp"), CancellationToken.None);
        (made.Width, made.Height).ShouldBe((2400, 800));
        using var item = SKBitmap.Decode(samples.Path("board/item.webp"));
        (item.GetPixel(2000, 400).Alpha, item.GetPixel(400, 400).Red).ShouldBe(((byte)0, item.GetPixel(400, 400).Red));
        item.GetPixel(400, 400).Alpha.ShouldBe((byte)255);
        Directory.GetFileSystemEntries(samples.Path("board")).Length.ShouldBe(1, "nothing else is left");
    }

    // Found in the running application: white on transparent was a blank board.
    [Fact]
    public async Task White_drawings_without_a_ground_get_a_dark_one()
    {
        using (var bitmap = new SKBitmap(400, 200))
        {
            bitmap.Erase(SKColors.Transparent);
            using var canvas = new SKCanvas(bitmap);
            using var white = new SKPaint { Color = SKColors.White };
            canvas.DrawRect(100, 50, 200, 100, white);
            using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
            await File.WriteAllBytesAsync(samples.Path("white.png"), data.ToArray());
        }

        var copy = (await kit.Pictures.ImportAsync(samples.Path("white.png"), samples.Path("out"), CancellationToken.None))[^1];
        using var shown = SKBitmap.Decode(Path.Combine(samples.Path("out"), copy.Name));
        shown.GetPixel(10, 10).Red.ShouldBeLessThan((byte)60);
        shown.GetPixel(200, 100).Red.ShouldBeGreaterThan((byte)240);
    }

    // A profile that calls a wide red 255 is brought into the colours of screens, where it is the same red; reference: Skia's own profiles.
    [Fact]
    public async Task Colours_of_a_wide_space_look_the_same_in_the_copies()
    {
        using var wide = SKColorSpace.CreateRgb(SKColorSpaceTransferFn.Srgb, SKColorSpaceXyz.DisplayP3);
        using (var bitmap = new SKBitmap(new SKImageInfo(64, 64, SKColorType.Rgba8888, SKAlphaType.Opaque, wide)))
        {
            bitmap.GetPixelSpan().Fill(255);
            var pixels = bitmap.GetPixelSpan();
            for (var i = 0; i < pixels.Length; i += 4)
            {
                (pixels[i], pixels[i + 1], pixels[i + 2]) = (100, 200, 100);
            }

            using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
            await File.WriteAllBytesAsync(samples.Path("wide.png"), data.ToArray());
        }

        var copy = (await kit.Pictures.ImportAsync(samples.Path("wide.png"), samples.Path("out"), CancellationToken.None))[^1];
        using var shown = SKBitmap.Decode(Path.Combine(samples.Path("out"), copy.Name));

        // Display P3 (100, 200, 100) is sRGB (45, 203, 85) (computed from the two sets of primaries).
        shown.GetPixel(30, 30).Red.ShouldBeInRange((byte)40, (byte)50);
        shown.GetPixel(30, 30).Green.ShouldBeInRange((byte)196, (byte)210);
    }

    [Fact]
    public async Task Size_is_judged_before_decoding()
    {
        limits.Pixels = 10_000;

        (await Should.ThrowAsync<MediaException>(
            () => kit.Pictures.ImportAsync(samples.Picture("p.png", 200, 100, SKEncodedImageFormat.Png), samples.Path("out"),
            CancellationToken.None))).Message.ShouldContain("200 × 100 pixels");
        Directory.GetFileSystemEntries(samples.Path("out")).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_picture_60000_pixels_wide_is_refused() =>
        (await Should.ThrowAsync<MediaException>(
            () => kit.Pictures.ImportAsync(samples.Picture("p.png", 60_000, 2, SKEncodedImageFormat.Png), samples.Path("out"),
            CancellationToken.None))).Message.ShouldContain("60000 × 2 pixels");

    [Fact]
    public async Task A_picture_of_40_megapixels_keeps_a_copy_for_the_closest_view()
    {
        var copies = await kit.Pictures
            .ImportAsync(samples.Picture("p.jpg", 8000, 5000, SKEncodedImageFormat.Jpeg), samples.Path("out"), CancellationToken.None);
        copies.Select(c => c.Width).ShouldBe([400, 1600, 3840, 7680]);
    }

    [Fact]
    public async Task A_picture_cut_short_is_refused()
    {
        var file = samples.Picture("p.png", 2000, 1000, SKEncodedImageFormat.Png);
        File.WriteAllBytes(file, File.ReadAllBytes(file)[..60]);

        (await Should.ThrowAsync<MediaException>(() => kit.Pictures.ImportAsync(file, samples.Path("out"), CancellationToken.None))).Message
            .ShouldContain("broken");
    }

    [Fact]
    public void Files_are_known_by_their_content()
    {
        FileKind Of(string file) => FileKinds.Of(File.ReadAllBytes(file).AsSpan(0, Math.Min(FileKinds.Needed, (int)new FileInfo(file).Length)));

        Of(samples.Picture("png.pdf", 10, 10, SKEncodedImageFormat.Png)).ShouldBe(FileKind.Png);
        Of(samples.Picture("jpeg.png", 10, 10, SKEncodedImageFormat.Jpeg)).ShouldBe(FileKind.Jpeg);
        Of(samples.Picture("webp.jpg", 10, 10, SKEncodedImageFormat.Webp)).ShouldBe(FileKind.WebP);
        Of(samples.Pdf("pdf.webp", (10, 10, 0))).ShouldBe(FileKind.Pdf);
        FileKinds.Of("MZ and so on"u8).ShouldBe(FileKind.Unknown);
        FileKinds.Of([]).ShouldBe(FileKind.Empty);
        FileKinds.Refusal(FileKind.Empty).ShouldContain("empty");
    }
}
