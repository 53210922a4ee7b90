using System.Text;
using SkiaSharp;

namespace ArchTalk.Media.Tests;

public sealed class PdfPagesTests : IDisposable
{
    private readonly Samples samples = new();
    private readonly MediaLimits limits = new();
    private readonly Kit kit;

    public PdfPagesTests() => kit = new Kit(limits);

    public void Dispose() => samples.Dispose();

    private async Task<string> RefusalAsync(string file) => (await Should.ThrowAsync<MediaException>(() => kit.OpenPdfAsync(file))).Message;

    [Theory]
    [InlineData(960, 540, 0)]
    [InlineData(595, 842, 0)]
    [InlineData(595, 842, 90)]
    [InlineData(595, 842, 180)]
    [InlineData(595, 842, 270)]
    public async Task Words_lie_where_the_picture_shows_them(double width, double height, int rotation)
    {
        await using var pages = await kit.OpenPdfAsync(samples.Pdf("a.pdf", (width, height, rotation)));
        var page = await pages.ImportAsync(1, samples.Path("made"), CancellationToken.None);
        var picture = samples.Path("made/medium.jpg");
        var word = page.Words.Words.ShouldHaveSingleItem();
        word.Text.ShouldBe("Vault1");
        using var bitmap = SKBitmap.Decode(picture);
        bitmap.Width.ShouldBe(1600);

        // The reference is the picture itself: the box of its dark pixels is the box of the word.
        var (left, top, right, bottom) = InkBox(bitmap);
        var slack = 6;
        left.ShouldBeInRange((int)word.X - slack, (int)(word.X + word.Width) + slack);
        right.ShouldBeInRange((int)word.X - slack, (int)(word.X + word.Width) + slack);
        top.ShouldBeInRange((int)word.Y - slack, (int)(word.Y + word.Height) + slack);
        bottom.ShouldBeInRange((int)word.Y - slack, (int)(word.Y + word.Height) + slack);
    }

    [Fact]
    public async Task Words_match_what_pdftotext_reads()
    {
        var file = samples.Pdf("a.pdf", (960, 540, 0), (595, 842, 0), (960, 540, 0));
        await using var pages = await kit.OpenPdfAsync(file);
        var reference = await samples.RunAsync("pdftotext", file, "-");
        var read = await Task.WhenAll(
            Enumerable.Range(1, pages.Count).Select(p => pages.ImportAsync(p, samples.Path($"made-{p}"), CancellationToken.None)));
        read.SelectMany(p => p.Words.Words).Select(w => w.Text)
            .ShouldBe(reference.Split((char[])['\n', '\f', ' '], StringSplitOptions.RemoveEmptyEntries));
    }

    [Fact]
    public async Task A_broken_or_disguised_pdf_is_refused_with_what_to_do()
    {
        File.WriteAllText(samples.Path("cut.pdf"), "%PDF-1.7\n1 0 obj <<");
        (await RefusalAsync(samples.Path("cut.pdf"))).ShouldContain("broken");

        var whole = File.ReadAllBytes(samples.Pdf("whole.pdf", (960, 540, 0)));
        File.WriteAllBytes(samples.Path("noise.pdf"), [.. "%PDF-1.7"u8, .. Encoding.UTF8.GetBytes(new string('x', 5000))]);
        (await RefusalAsync(samples.Path("noise.pdf"))).ShouldContain("new PDF");
        whole.Length.ShouldBeGreaterThan(500);
    }

    [Fact]
    public async Task A_pdf_with_a_password_is_refused_and_says_so()
    {
        File.WriteAllBytes(samples.Path("locked.pdf"), LockedPdf.Bytes());

        (await RefusalAsync(samples.Path("locked.pdf"))).ShouldContain("password");
    }

    [Fact]
    public async Task Too_many_pages_are_refused_with_their_number()
    {
        limits.Pages = 2;

        (await RefusalAsync(samples.Pdf("long.pdf", (100, 100, 0), (100, 100, 0), (100, 100, 0)))).ShouldContain("3 pages");
    }

    [Fact]
    public async Task Work_that_takes_too_long_is_stopped()
    {
        // More than a thousand million dashes.
        var pages = string.Concat(Enumerable.Range(0, 200_000).Select(i => $"0 {i % 500} m 500 {i % 480} l S "));
        await File.WriteAllBytesAsync(samples.Path("slow.pdf"), RawPdf.Of($"[0.001 0.001] 0 d 0.001 w {pages}"));
        limits.SecondsPerPage = 2;

        // On a busy machine even opening it may take too long.
        var fault = await Should.ThrowAsync<MediaException>(async () =>
        {
            await using var slow = await kit.OpenPdfAsync(samples.Path("slow.pdf"));
            await slow.ImportAsync(1, samples.Path("made"), CancellationToken.None);
        });
        fault.Message.ShouldContain("was stopped");
    }

    private static (int Left, int Top, int Right, int Bottom) InkBox(SKBitmap bitmap)
    {
        var (left, top, right, bottom) = (int.MaxValue, int.MaxValue, 0, 0);
        for (var y = 0; y < bitmap.Height; y++)
        {
            for (var x = 0; x < bitmap.Width; x++)
            {
                if (bitmap.GetPixel(x, y).Red < 100)
                {
                    (left, top, right, bottom) = (Math.Min(left, x), Math.Min(top, y), Math.Max(right, x), Math.Max(bottom, y));
                }
            }
        }

        return (left, top, right, bottom);
    }
}
