using ArchTalk.Core.Boards.Seen;
using SkiaSharp;

namespace ArchTalk.Reader.Readers;

/// <summary>A picture's colours, for measuring.</summary>
internal static class PicturePixels
{
    /// <summary>Writes a picture's colours, three bytes for each pixel, and gives its width.</summary>
    /// <exception cref="MediaException">The file isn't a picture, or has too many pixels.</exception>
    public static int Write(string file, string target, MediaLimits limits)
    {
        using var bitmap = PictureReader.Open(file, limits);
        File.WriteAllBytes(target, Rgb(bitmap, bitmap.Width, out _));
        return bitmap.Width;
    }

    public static Pixels Of(SKBitmap bitmap, int mostWidth)
    {
        var width = Math.Min(mostWidth, bitmap.Width);
        var rgb = Rgb(bitmap, width, out var height);
        return new Pixels(width, height, rgb);
    }

    private static byte[] Rgb(SKBitmap bitmap, int width, out int height)
    {
        height = Math.Max(1, (int)((long)bitmap.Height * width / bitmap.Width));
        using var surface = PictureReader.Draw(bitmap, new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Premul));
        using var pixels = surface.PeekPixels();
        var rgba = pixels.GetPixelSpan();
        var rgb = new byte[width * height * 3];
        for (int from = 0, to = 0; to < rgb.Length; from += 4, to += 3)
        {
            (rgb[to], rgb[to + 1], rgb[to + 2]) = (rgba[from], rgba[from + 1], rgba[from + 2]);
        }

        return rgb;
    }
}
