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
        var copies = await kit.Pictures.ImportAsync(samples.Picture("p.jpg", 300, 200, SKEncodedImageFormat.Jpeg, orientation), samples.Path("out"), CancellationToken.None);

        var copy = copies[^1];
        (copy.Width, copy.Height).ShouldBe(turned ? (200, 300) : (300, 200));
        using var bitmap = SKBitmap.Decode(Path.Combine(samples.Path("out"), copy.Name));
        bitmap.GetPixel((int)(copy.Width * x), (int)(copy.Height * y)).Blue.ShouldBeLessThan((byte)60);
        bitmap.GetPixel((int)(copy.Width * (1 - x)), (int)(copy.Height * (1 - y))).Blue.ShouldBeGreaterThan((byte)200);
    }

    [Fact]
    public async Task Size_is_judged_before_decoding()
    {
        limits.Pixels = 10_000;

        (await Should.ThrowAsync<MediaException>(() => kit.Pictures.ImportAsync(samples.Picture("p.png", 200, 100, SKEncodedImageFormat.Png), samples.Path("out"), CancellationToken.None))).Message.ShouldContain("200 × 100 pixels");
        Directory.GetFileSystemEntries(samples.Path("out")).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_picture_60000_pixels_wide_is_refused() =>
        (await Should.ThrowAsync<MediaException>(() => kit.Pictures.ImportAsync(samples.Picture("p.png", 60_000, 2, SKEncodedImageFormat.Png), samples.Path("out"), CancellationToken.None))).Message.ShouldContain("60000 × 2 pixels");

    [Fact]
    public async Task A_picture_of_40_megapixels_keeps_a_copy_for_the_closest_view()
    {
        var copies = await kit.Pictures.ImportAsync(samples.Picture("p.jpg", 8000, 5000, SKEncodedImageFormat.Jpeg), samples.Path("out"), CancellationToken.None);
        copies.Select(c => c.Width).ShouldBe([400, 1600, 3840, 7680]);
    }

    [Fact]
    public async Task A_picture_cut_short_is_refused()
    {
        var file = samples.Picture("p.png", 2000, 1000, SKEncodedImageFormat.Png);
        File.WriteAllBytes(file, File.ReadAllBytes(file)[..60]);

        (await Should.ThrowAsync<MediaException>(() => kit.Pictures.ImportAsync(file, samples.Path("out"), CancellationToken.None))).Message.ShouldContain("broken");
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
