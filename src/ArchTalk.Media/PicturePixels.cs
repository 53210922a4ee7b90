using ArchTalk.Core.Boards.Seen;
using SkiaSharp;

namespace ArchTalk.Media;

/// <summary>Gives the core a picture's pixels.</summary>
public static class PicturePixels
{
    /// <exception cref="MediaException">The file isn't a picture.</exception>
    public static Pixels Read(string file)
    {
        using var bitmap = SKBitmap.Decode(file) ?? throw new MediaException("The picture could not be read.");
        return Of(bitmap, bitmap.Width);
    }

    internal static Pixels Of(SKBitmap bitmap, int mostWidth)
    {
        var width = Math.Min(mostWidth, bitmap.Width);
        var height = Math.Max(1, (int)((long)bitmap.Height * width / bitmap.Width));
        using var surface = Pictures.Draw(bitmap, new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Premul));
        using var pixels = surface.PeekPixels();
        var rgba = pixels.GetPixelSpan();
        var rgb = new byte[width * height * 3];
        for (int from = 0, to = 0; to < rgb.Length; from += 4, to += 3)
        {
            (rgb[to], rgb[to + 1], rgb[to + 2]) = (rgba[from], rgba[from + 1], rgba[from + 2]);
        }

        return new Pixels(width, height, rgb);
    }
}
