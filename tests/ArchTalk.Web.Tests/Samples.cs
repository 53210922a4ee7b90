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

    /// <summary>A program that stands in for a real one: a shell script in a folder.</summary>
    public static string Program(string folder, string name, string lines)
    {
        var path = Path.Combine(folder, name);
        File.WriteAllText(path, $"#!/bin/sh\n{lines}\n");
        if (!OperatingSystem.IsWindows())
        {
            File.SetUnixFileMode(path, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        }

        return path;
    }
}
