using SkiaSharp;

namespace ArchTalk.Web.Tests;

/// <summary>Files made for tests.</summary>
internal static class Samples
{
    public static byte[] Picture(int width = 320, int height = 180, SKColor? color = null)
    {
        using var bitmap = new SKBitmap(width, height);
        bitmap.Erase(color ?? SKColors.Beige);
        using var image = SKImage.FromBitmap(bitmap);
        return image.Encode(SKEncodedImageFormat.Png, 100).ToArray();
    }

    public static byte[] Pdf(int pages)
    {
        using var stream = new MemoryStream();
        using (var document = SKDocument.CreatePdf(stream))
        {
            for (var i = 0; i < pages; i++)
            {
                using var canvas = document.BeginPage(320, 180);
                canvas.DrawRect(10, 10, 50, 50, new SKPaint { Color = SKColors.Brown });
                document.EndPage();
            }

            document.Close();
        }

        return stream.ToArray();
    }
}
