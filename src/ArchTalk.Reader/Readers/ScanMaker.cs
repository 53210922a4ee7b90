using ArchTalk.Core.Boards.Scans;
using SkiaSharp;

namespace ArchTalk.Reader.Readers;

/// <summary>Makes boards of scanned or photographed pages; the picture as it came is always kept.</summary>
internal static class ScanMaker
{
    private const int AnalysedWidth = 800;

    // A little within the corners, so that nothing of what the page lies on is left at its edges.
    private const double Inset = 0.004;

    /// <summary>
    /// What would put the page right: its corners, its angle, and contrast where the paper isn't white. Nothing is cropped that
    /// may be page.
    /// </summary>
    public static ScanSettings Propose(string original, MediaLimits limits)
    {
        using var bitmap = PictureReader.Open(original, limits);
        var proposed = ScanSettings.AsItIs with { Corners = PaperFinder.Find(PicturePixels.Of(bitmap, PaperFinder.Width)) };
        using var page = Make(bitmap, proposed);

        // Shadows are evened out before anything is measured: their edges are stronger than those of writing.
        using var even = Small(page);
        PaperWhite.Apply(even.GetPixelSpan(), even.Width, even.Height);
        var degrees = ScanAnalysis.Skew(PicturePixels.Of(even, AnalysedWidth));
        return proposed with { Degrees = degrees, RaisesContrast = IsShaded(page) };
    }

    /// <summary>Whether it is a page on paper that isn't white all over: it is mostly bright, and parts of the brightest are not white.</summary>
    public static bool IsShaded(SKBitmap page)
    {
        var light = PicturePixels.Of(page, AnalysedWidth / 4).Luminances(0, 0, Core.Boards.Board.Width, Core.Boards.Board.MaxHeight).Order()
            .ToArray();
        return light.Length > 0 && light[light.Length / 2] > 0.12 && (light[light.Length * 8 / 10] < 0.85 || light[light.Length / 4] < 0.6);
    }

    /// <summary>Where the page as the settings make it would be divided into two, as a share of its width.</summary>
    public static double Gutter(string original, ScanSettings settings, MediaLimits limits)
    {
        using var bitmap = PictureReader.Open(original, limits);
        using var page = Make(bitmap, settings);
        return ScanAnalysis.Gutter(PicturePixels.Of(page, AnalysedWidth));
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

    private static SKBitmap Small(SKBitmap page)
    {
        var width = Math.Min(2 * AnalysedWidth, page.Width);
        using var surface = PictureReader.Draw(
            page,
            new SKImageInfo(width, Math.Max(1, (int)((long)page.Height * width / page.Width)), SKColorType.Rgba8888, SKAlphaType.Premul));
        using var image = surface.Snapshot();
        return SKBitmap.FromImage(image);
    }

    private static SKBitmap Make(SKBitmap original, ScanSettings settings)
    {
        using var turned = settings.Turn == 0 ? null : Turned(original, settings.Turn);
        using var flat = settings.Corners is { } corners ? Flat(turned ?? original, corners) : null;
        return Straight(flat ?? turned ?? original, settings);
    }

    private static SKBitmap Turned(SKBitmap original, int quarters)
    {
        var (width, height) = quarters % 2 == 1 ? (original.Height, original.Width) : (original.Width, original.Height);
        return Drawn(original, width, height, canvas =>
        {
            canvas.Translate(width / 2f, height / 2f);
            canvas.RotateDegrees(quarters * 90);
            canvas.Translate(-original.Width / 2f, -original.Height / 2f);
        }, new SKSamplingOptions(SKFilterMode.Nearest));
    }

    private static SKBitmap Flat(SKBitmap picture, Corners corners)
    {
        var (width, height) = corners.Size(picture.Width, picture.Height);
        (width, height) = (Math.Max(1, width), Math.Max(1, height));
        var m = corners.ToRectangle(picture.Width, picture.Height, width, height).Select(n => (float)n).ToArray();
        return Drawn(picture, width, height, canvas =>
        {
            canvas.Translate(width / 2f, height / 2f);
            canvas.Scale((float)(1 / (1 - Inset)));
            canvas.Translate(-width / 2f, -height / 2f);
            canvas.Concat(new SKMatrix(m[0], m[1], m[2], m[3], m[4], m[5], m[6], m[7], m[8]));
        }, new SKSamplingOptions(SKCubicResampler.Mitchell));
    }

    private static SKBitmap Straight(SKBitmap picture, ScanSettings settings)
    {
        var (width, height) = (picture.Width, picture.Height);
        var (left, top) = ((int)(settings.Left * width), (int)(settings.Top * height));
        var (cropWidth, cropHeight) = (Math.Max(1, (int)((1 - settings.Left - settings.Right) * width)), Math.Max(
            1,
            (int)((1 - settings.Top - settings.Bottom) * height)));
        return Drawn(picture, cropWidth, cropHeight, canvas =>
        {
            canvas.Translate(-left, -top);
            canvas.RotateDegrees((float)settings.Degrees, width / 2f, height / 2f);
        }, settings.Degrees == 0 ? new SKSamplingOptions(SKFilterMode.Nearest) : new SKSamplingOptions(SKCubicResampler.Mitchell));
    }

    // What comes into sight at the corners looks like what was there: the table, or the paper's edge.
    private static SKBitmap Drawn(SKBitmap picture, int width, int height, Action<SKCanvas> place, SKSamplingOptions sampling)
    {
        var page = new SKBitmap(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Premul));
        using var canvas = new SKCanvas(page);
        canvas.Clear(Corner(picture));
        place(canvas);
        using var image = SKImage.FromBitmap(picture);
        canvas.DrawImage(image, 0, 0, sampling);
        return page;
    }

    private static SKColor Corner(SKBitmap bitmap)
    {
        SKColor[] corners =
        [
            bitmap.GetPixel(0, 0), bitmap.GetPixel(bitmap.Width - 1, 0), bitmap.GetPixel(0, bitmap.Height - 1), bitmap.GetPixel(
                bitmap.Width - 1,
                bitmap.Height - 1),
        ];
        return corners.OrderBy(c => c.Red + c.Green + c.Blue).ElementAt(1);
    }
}
