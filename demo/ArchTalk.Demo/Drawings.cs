using SkiaSharp;
using Svg.Skia;
using Svg.Skia.TypefaceProviders;

namespace ArchTalk.Demo;

/// <summary>Turns the SVG drawings under demo/boards into the files a teacher would have: a PDF and pictures.</summary>
internal sealed class Drawings(string folder, string fonts)
{
    /// <summary>A PDF with one drawing on each page.</summary>
    public void WritePdf(string target, params string[] names)
    {
        using var stream = File.Create(target);
        using var document = SKDocument.CreatePdf(stream);
        foreach (var name in names)
        {
            using var svg = Load(name);
            var size = svg.Picture!.CullRect;

            // 1600 units become 960 points: the size of a slide.
            const float Scale = 0.6f;
            using var canvas = document.BeginPage(size.Width * Scale, size.Height * Scale);
            canvas.Scale(Scale);
            canvas.DrawPicture(svg.Picture);
            document.EndPage();
        }

        document.Close();
    }

    public void WritePng(string target, string name, float scale)
    {
        using var svg = Load(name);
        using var stream = File.Create(target);
        svg.Picture!.ToImage(stream, SKColors.White, SKEncodedImageFormat.Png, 100, scale, scale, SKColorType.Rgba8888, SKAlphaType.Premul, SKColorSpace.CreateSrgb());
    }

    private SKSvg Load(string name)
    {
        var svg = new SKSvg();
        svg.Settings.TypefaceProviders!.Insert(0, new ShippedFonts(fonts));
        svg.Load(Path.Combine(folder, $"{name}.svg"));
        return svg;
    }

    // Without fontconfig Skia finds no system fonts, and it doesn't read woff2; the font packages also hold woff.
    private sealed class ShippedFonts(string folder) : ITypefaceProvider
    {
        private readonly Dictionary<int, SKTypeface> faces = [];

        public SKTypeface? FromFamilyName(string fontFamily, SKFontStyleWeight fontWeight, SKFontStyleWidth fontWidth, SKFontStyleSlant fontStyle)
        {
            var weight = (int)fontWeight >= 650 ? 700 : (int)fontWeight >= 550 ? 600 : 400;
            if (!faces.TryGetValue(weight, out var face))
            {
                face = faces[weight] = SKTypeface.FromFile(Path.Combine(folder, $"atkinson-hyperlegible-next-latin-{weight}-normal.woff"));
            }

            return face;
        }
    }
}
