using ArchTalk.Core.Boards.Scans;
using SkiaSharp;

namespace ArchTalk.Reader.Readers;

/// <summary>Makes boards of scanned or photographed pages; the picture as it came is always kept.</summary>
internal static class ScanMaker
{
    private const int AnalysedWidth = 800;

    /// <summary>What would put the page right: its angle, its borders, and contrast where the paper isn't white.</summary>
    public static ScanSettings Propose(string original, MediaLimits limits)
    {
        using var bitmap = PictureReader.Open(original, limits);
        var degrees = ScanAnalysis.Skew(PicturePixels.Of(bitmap, AnalysedWidth));
        using var straight = Make(bitmap, ScanSettings.AsItIs with { Degrees = degrees });
        var pixels = PicturePixels.Of(straight, AnalysedWidth);
        var (left, top, right, bottom) = ScanAnalysis.Borders(pixels);
        var paper = pixels.Luminances(0, 0, Core.Boards.Board.Width, Core.Boards.Board.MaxHeight).Order().ToArray();
        return new ScanSettings(0, degrees, left, top, right, bottom, RaisesContrast: paper.Length > 0 && paper[paper.Length * 8 / 10] < 0.85);
    }

    /// <summary>Writes the copies of the page as the settings make it.</summary>
    public static PictureFile[] Import(string original, ScanSettings settings, string folder, MediaLimits limits)
    {
        using var bitmap = PictureReader.Open(original, limits);
        using var page = Make(bitmap, settings);
        if (settings.RaisesContrast)
        {
            PaperWhite.Apply(page.GetPixelSpan(), page.Width, page.Height);
        }

        return PictureReader.WriteCopies(page, folder);
    }

    private static SKBitmap Make(SKBitmap original, ScanSettings settings)
    {
        var isSideways = settings.Turn % 2 == 1;
        var (width, height) = isSideways ? (original.Height, original.Width) : (original.Width, original.Height);
        var (left, top) = ((int)(settings.Left * width), (int)(settings.Top * height));
        var (cropWidth, cropHeight) = (Math.Max(1, (int)((1 - settings.Left - settings.Right) * width)), Math.Max(1, (int)((1 - settings.Top - settings.Bottom) * height)));
        var page = new SKBitmap(new SKImageInfo(cropWidth, cropHeight, SKColorType.Rgba8888, SKAlphaType.Premul));
        using var canvas = new SKCanvas(page);

        // What comes into sight at the corners looks like what was there: the table, or the paper's edge.
        canvas.Clear(Corner(original));
        canvas.Translate(-left, -top);
        canvas.RotateDegrees((float)settings.Degrees, width / 2f, height / 2f);
        canvas.Translate(width / 2f, height / 2f);
        canvas.RotateDegrees(settings.Turn * 90);
        canvas.Translate(-original.Width / 2f, -original.Height / 2f);
        using var image = SKImage.FromBitmap(original);
        var sampling = settings.Degrees == 0 ? new SKSamplingOptions(SKFilterMode.Nearest) : new SKSamplingOptions(SKCubicResampler.Mitchell);
        canvas.DrawImage(image, 0, 0, sampling);
        return page;
    }

    private static SKColor Corner(SKBitmap bitmap)
    {
        SKColor[] corners =
        [
            bitmap.GetPixel(0, 0), bitmap.GetPixel(bitmap.Width - 1, 0), bitmap.GetPixel(0, bitmap.Height - 1), bitmap.GetPixel(bitmap.Width - 1, bitmap.Height - 1),
        ];
        return corners.OrderBy(c => c.Red + c.Green + c.Blue).ElementAt(1);
    }
}
