using SkiaSharp;

namespace ArchTalk.Reader.Readers;

/// <summary>Puts two pictures beside each other for comparing.</summary>
internal static class SideBySide
{
    private const int WidestBoard = 7680;

    // The gap between the two, as a share of the whole width.
    private const double Gap = 0.02;

    /// <summary>Writes the copies of a board that shows both, alike in height, on white.</summary>
    public static PictureFile[] Join(string left, string right, string folder, MediaLimits limits)
    {
        using var one = PictureReader.Open(left, limits);
        using var other = PictureReader.Open(right, limits);
        var (oneShape, otherShape) = ((double)one.Width / one.Height, (double)other.Width / other.Height);

        // As wide as both can be without enlarging either beyond its pixels.
        var height = Math.Min(Math.Max(one.Height, other.Height), WidestBoard * (1 - Gap) / (oneShape + otherShape));
        var width = (int)((oneShape + otherShape) * height / (1 - Gap));
        using var joined = new SKBitmap(new SKImageInfo(width, (int)height, SKColorType.Rgba8888, SKAlphaType.Premul));
        using (var canvas = new SKCanvas(joined))
        {
            canvas.Clear(SKColors.White);
            Draw(canvas, one, new SKRect(0, 0, (float)(oneShape * height), (float)height));
            Draw(canvas, other, new SKRect((float)(width - (otherShape * height)), 0, width, (float)height));
        }

        return PictureReader.WriteCopies(joined, folder);
    }

    private static void Draw(SKCanvas canvas, SKBitmap bitmap, SKRect place)
    {
        using var image = SKImage.FromBitmap(bitmap);
        canvas.DrawImage(image, place, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
    }
}
