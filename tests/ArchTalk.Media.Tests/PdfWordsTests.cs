// Files of others stand here as they come, in long lines.
#pragma warning disable RCS0056

using System.Globalization;
using System.Text.RegularExpressions;

namespace ArchTalk.Media.Tests;

/// <summary>
/// Words of pages against <c>pdftotext -bbox</c> (poppler) as the independent reader: PDF 32000-1, MediaBox, CropBox, Rotate. PdfPig
/// reads what is tested here.
/// </summary>
public sealed partial class PdfWordsTests : IDisposable
{
    private static readonly CancellationToken None = CancellationToken.None;
    private readonly Samples samples = new();
    private readonly Kit kit = new();

    public void Dispose() => samples.Dispose();

    // Three words and a fourth near the edge that every smaller crop box cuts off.
    private static string Page(int left, int bottom, string? crop, int rotation) => RawPdf.Page(
        $"/MediaBox [{left} {bottom} {left + 600} {bottom + 800}] {(crop is null ? "" : $"/CropBox [{crop}]")} /Rotate {rotation}",
        string.Concat(new[] { ("Alpha", 150, 200), ("Beta", 260, 420), ("Gamma", 90, 640), ("Edge", 6, 6) }
            .Select(
                w => string.Create(CultureInfo.InvariantCulture,
                $"BT /F1 24 Tf 1 0 0 1 {left + w.Item2} {bottom + w.Item3} Tm ({w.Item1}) Tj ET\n"))));

    [Fact]
    public async Task On_a_grid_of_boxes_offsets_and_rotations_words_lie_where_poppler_has_them()
    {
        var pages = new List<string>();
        foreach (var (left, bottom) in new[] { (0, 0), (-50, 30), (100, 200) })
        {
            foreach (var crop in new[] { null, (40, 30, 560, 760), ((int, int, int, int)?)(-100, -100, 700, 900) })
            {
                foreach (var rotation in new[] { 0, 90, 180, 270 })
                {
                    pages.Add(Page(left, bottom, crop is var (a, b, c, d) ? $"{left + a} {bottom + b} {left + c} {bottom + d}" : null, rotation));
                }
            }
        }

        var file = samples.Path("grid.pdf");
        await File.WriteAllBytesAsync(file, RawPdf.Pages(pages));
        var reference = (await samples.RunAsync("pdftotext", "-bbox", "-cropbox", file, "-")).Split("<page ").Skip(1).ToArray();
        reference.Length.ShouldBe(36);
        await using var read = await kit.OpenPdfAsync(file);
        for (var page = 1; page <= read.Count; page++)
        {
            var made = await read.ImportAsync(page, samples.Path($"made-{page}"), None);
            var picture = made.Copies[^1];
            var isCropped = (page - 1) / 4 % 3 == 1;
            made.Words.Words.Select(w => w.Text)
                .ShouldBe(isCropped ? ["Alpha", "Beta", "Gamma"] : ["Alpha", "Beta", "Gamma", "Edge"], ignoreOrder: true, $"page {page}");

            // poppler says how large the whole page is, and places words within what is seen: 520 by 730 of it here, or all.
            var isSideways = (page - 1) % 2 == 1;
            var width = isCropped ? (isSideways ? 730 : 520) : isSideways ? 800 : 600;
            ((double)picture.Height / picture.Width).ShouldBe(
                (isCropped ? 520.0 * 730 : 600 * 800) / width / width,
                0.01,
                "the picture shows the same part");
            foreach (Match expected in Word().Matches(reference[page - 1]))
            {
                if (made.Words.Words.SingleOrDefault(w => w.Text == expected.Groups["word"].Value) is { } word)
                {
                    double At(string name) => double.Parse(expected.Groups[name].Value, CultureInfo.InvariantCulture) * 1600 / width;
                    (word.X + (word.Width / 2)).ShouldBe((At("x0") + At("x1")) / 2, 16, $"{word.Text} of page {page}");
                    (word.Y + (word.Height / 2)).ShouldBe((At("y0") + At("y1")) / 2, 20, $"{word.Text} of page {page}");
                }
            }
        }
    }

    [Fact]
    public async Task Pages_are_named_by_the_outline_and_their_links_are_offered()
    {
        var file = samples.Path("outline.pdf");
        await File.WriteAllBytesAsync(file, RawPdf.Of(
        [
            "<< /Type /Catalog /Pages 2 0 R /Outlines 7 0 R >>",
            "<< /Type /Pages /Kids [3 0 R 4 0 R] /Count 2 >>",
            "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 800] /Contents 5 0 R /Resources << /Font << /F1 6 0 R >> >> /Annots [9 0 R 10 0 R] >>",
            "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 800] /Contents 5 0 R /Resources << /Font << /F1 6 0 R >> >> >>",
            RawPdf.Stream("", "BT /F1 30 Tf 60 700 Td (Lesson 12: The arch) Tj ET BT /F1 12 Tf 60 600 Td (Read more here) Tj ET"),
            "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
            "<< /Type /Outlines /First 8 0 R /Last 8 0 R /Count 1 >>",
            "<< /Title (1. Why it stands) /Parent 7 0 R /Dest [3 0 R /Fit] >>",
            "<< /Type /Annot /Subtype /Link /Rect [60 595 200 612] /A << /S /URI /URI (https://example.org/arches) >> >>",
            "<< /Type /Annot /Subtype /Link /Rect [60 100 200 112] /A << /S /URI /URI (javascript:alert) >> >>",
        ]));
        await using var pages = await kit.OpenPdfAsync(file);
        var (one, two) = (await pages.ImportAsync(1, samples.Path("one"), None), await pages.ImportAsync(2, samples.Path("two"), None));
        one.Name.ShouldBe("1. Why it stands");
        one.Links.ShouldHaveSingleItem().Address.ShouldBe("https://example.org/arches");
        two.Name.ShouldBeNull();
        two.Words.LargestLines().ShouldBe("Lesson 12: The arch");
        two.Links.ShouldBeEmpty();
    }

    // Reference: what pdftotext reads of the same pages, drawn by LibreOffice from writing in many scripts and with ligatures.
    [Fact]
    public async Task Words_of_many_scripts_are_those_that_poppler_reads()
    {
        string[] lines =
        [
            "The final flow of an efficient office 12:30 (see p. 45–46)", "Größe über Straße, ça déjà naïve œuvre", "Почему арка стоит: 12 камней",
            "Η αψίδα στέκεται", "לקשת יש אבן ראשה 12", "لماذا يقف القوس على حجر", "Bogenöffnung 3,5 m × 2,25 m = 7,875 m²",
        ];
        var frames = lines.Select((l, i) =>
            $"""<draw:frame svg:x="2cm" svg:y="{1 + (2 * i)}cm" svg:width="24cm" svg:height="1.5cm"><draw:text-box><text:p>{l}</text:p></draw:text-box></draw:frame>""");
        await File.WriteAllTextAsync(samples.Path("words.fodp"), $"""
            <?xml version="1.0" encoding="UTF-8"?>
            <office:document xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0"
            xmlns:svg="urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0" office:mimetype="application/vnd.oasis.opendocument.presentation" office:version="1.3">
            <office:body><office:presentation><draw:page draw:name="one">{string.Concat(frames)}</draw:page></office:presentation></office:body></office:document>
            """);
        await samples.RunAsync(
            "soffice",
            $"-env:UserInstallation=file://{samples.Path("profile")}",
            "--headless",
            "--convert-to",
            "pdf",
            "words.fodp");
        var reference = Sorted(
            (await samples.RunAsync("pdftotext", "words.pdf", "-"))
            .Split((char[])['\n', '\f', ' ', '\u00A0'], StringSplitOptions.RemoveEmptyEntries));
        reference.Length.ShouldBeGreaterThan(40);
        await using var pages = await kit.OpenPdfAsync(samples.Path("words.pdf"));
        var read = Sorted((await pages.ImportAsync(1, samples.Path("made"), None)).Words.Words.Select(w => w.Text));
        read.ShouldBe(reference);

        // Marks of direction are no writing.
        static string[] Sorted(IEnumerable<string> words) =>
            [.. words.Select(w => w.Trim('\u202A', '\u202B', '\u202C', '\u200E', '\u200F')).Where(w => w.Length > 0).Order(StringComparer.Ordinal)];
    }

    [Theory]
    [InlineData(100, 900)]
    [InlineData(100, 1250)]
    [InlineData(60, 1800)]
    public async Task A_page_many_times_as_high_as_wide_is_drawn_whole_and_in_its_shape(int width, int height)
    {
        var file = samples.Path("tall.pdf");
        await File.WriteAllBytesAsync(file, RawPdf.Pages(
            [RawPdf.Page($"/MediaBox [0 0 {width} {height}]", $"BT /F1 20 Tf 10 {height / 2} Td (Half) Tj ET 0 0 {width} 20 re f")]));
        await using var pages = await kit.OpenPdfAsync(file);
        var page = await pages.ImportAsync(1, samples.Path("made"), None);
        var largest = page.Copies[^1];
        var shape = Math.Min(12.5, (double)height / width);
        ((double)largest.Height / largest.Width).ShouldBe(shape, 0.02 * shape);
        largest.Height.ShouldBeGreaterThan(8000);
        var word = page.Words.Words.ShouldHaveSingleItem();
        (word.Y + word.Height).ShouldBe(1600 * shape / 2, 1600.0 * 8 / width);

        // The bar at the foot of the page is there, as wide as the page.
        using var picture = SkiaSharp.SKBitmap.Decode(samples.Path($"made/{largest.Name}"));
        picture.GetPixel(picture.Width / 2 * Math.Min(1, (int)(12.5 * width / height)) + 2, picture.Height - 8).Red.ShouldBeLessThan((byte)60);
    }

    [GeneratedRegex(
        """<word xMin="(?<x0>[-\d.]+)" yMin="(?<y0>[-\d.]+)" xMax="(?<x1>[-\d.]+)" yMax="(?<y1>[-\d.]+)">(?<word>[^<]+)<""",
        RegexOptions.None,
        1000)]
    private static partial Regex Word();
}
