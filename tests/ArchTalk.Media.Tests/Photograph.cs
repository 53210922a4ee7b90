using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Scans;
using SkiaSharp;

namespace ArchTalk.Media.Tests;

/// <summary>
/// A page set and photographed by us, so that every word and corner of it is known: a sheet of A5 tilted by up to 15 degrees about both
/// axes and turned by up to 2, half of it in a shadow, on a table with grain, seen from 1.2 page heights away. All follow from a seed.
/// </summary>
public sealed class Photograph
{
    private const string Text =
        "An arch is a curved structure that carries a load over an opening by squeezing its stones together. "
        + "Each wedge shaped stone pushes on its neighbours and is held in its place by them. "
        + "The stone at the top is set last and locks all the others. At its feet the arch pushes outward, "
        + "and something heavy must stand there to take up the thrust. As long as the path of that push stays "
        + "inside the stones the arch will stand for a thousand years without any mortar between them.";

    private const int PageWidth = 1400;
    private const int PageHeight = 990;
    private const int Width = 1800;
    private const int Height = 1400;
    private readonly Random random;
    private readonly SKMatrix matrix;
    private readonly byte paper;
    private readonly byte table;

    public Photograph(int seed)
    {
        random = new Random(seed);
        double Between(double from, double to) => from + (random.NextDouble() * (to - from));
        var (about, across, turn) = (Between(-15, 15), Between(-15, 15), Between(-2, 2));
        (paper, table) = ((byte)Between(205, 245), (byte)Between(30, 120));
        SKPoint[] corners = [.. new[] { (-1, -1), (1, -1), (1, 1), (-1, 1) }.Select(
            c => Project(c.Item1 * PageWidth / 2.0, c.Item2 * PageHeight / 2.0, about, across, turn))];
        Corners = new(At(corners[0]), At(corners[1]), At(corners[2]), At(corners[3]));
        var m = Corners.ToRectangle(Width, Height, PageWidth, PageHeight).Select(n => (float)n).ToArray();
        matrix = new SKMatrix(m[0], m[1], m[2], m[3], m[4], m[5], m[6], m[7], m[8]).Invert();
    }

    /// <summary>Where the corners of the sheet are in the picture as it is written without turning it.</summary>
    public Corners Corners { get; }

    /// <summary>The lines of the text, broken to a width.</summary>
    public static List<string> Lines(SKFont font, float width)
    {
        var lines = new List<string> { "" };
        foreach (var word in Text.Split(' '))
        {
            var longer = (lines[^1] + " " + word).Trim();
            if (font.MeasureText(longer) > width)
            {
                lines.Add(word);
            }
            else
            {
                lines[^1] = longer;
            }
        }

        return lines;
    }

    /// <summary>The share of the words that were read right, in their order: a wrong, lost or added word counts as wrong.</summary>
    public static double ShareOf(TextLayer read)
    {
        string[] expected = Text.Split(' ');
        string[] found = [.. read.Words.Select(w => w.Text)];
        var best = new int[expected.Length + 1, found.Length + 1];
        for (var i = 1; i <= expected.Length; i++)
        {
            for (var j = 1; j <= found.Length; j++)
            {
                best[i, j] = expected[i - 1] == found[j - 1] ? best[i - 1, j - 1] + 1 : Math.Max(best[i - 1, j], best[i, j - 1]);
            }
        }

        return (double)best[expected.Length, found.Length] / Math.Max(expected.Length, found.Length);
    }

    /// <inheritdoc cref="ShareOf"/>
    public double ShareRight(TextLayer read) => ShareOf(read);

    /// <summary>Writes it as JPEG.</summary>
    /// <param name="quarters">Turned so often clockwise.</param>
    public void Write(string file, int quarters = 0)
    {
        using var sheet = Sheet();
        using var picture = new SKBitmap(Width, Height);
        using (var canvas = new SKCanvas(picture))
        {
            DrawTable(canvas);
            canvas.SetMatrix(matrix);
            using var image = SKImage.FromBitmap(sheet);
            canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKCubicResampler.Mitchell));
            canvas.ResetMatrix();
            DrawShadow(canvas);
        }

        var (width, height) = quarters % 2 == 1 ? (Height, Width) : (Width, Height);
        using var turned = new SKBitmap(width, height);
        using (var canvas = new SKCanvas(turned))
        {
            canvas.Translate(width / 2f, height / 2f);
            canvas.RotateDegrees(quarters * 90);
            canvas.Translate(-Width / 2f, -Height / 2f);
            using var image = SKImage.FromBitmap(picture);
            canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Nearest));
        }

        using var data = turned.Encode(SKEncodedImageFormat.Jpeg, 88);
        File.WriteAllBytes(file, data.ToArray());
    }

    private SKBitmap Sheet()
    {
        using var face = SKTypeface.FromFile("/usr/share/fonts/truetype/noto/NotoSans-Regular.ttf");
        using var font = new SKFont(face, 37);
        var sheet = new SKBitmap(PageWidth, PageHeight);
        using var canvas = new SKCanvas(sheet);
        using var ink = new SKPaint { Color = new SKColor(30, 30, 36), IsAntialias = true };
        canvas.Clear(new SKColor(paper, paper, (byte)(paper - 6)));
        var y = 120f;
        foreach (var line in Lines(font, PageWidth * 0.8f))
        {
            canvas.DrawText(line, PageWidth * 0.1f, y, SKTextAlign.Left, font, ink);
            y += font.Size * 1.6f;
        }

        return sheet;
    }

    private void DrawTable(SKCanvas canvas)
    {
        canvas.Clear(new SKColor(table, (byte)(table * 0.85), (byte)(table * 0.7)));
        using var grain = new SKPaint { StrokeWidth = 3 };
        for (var i = 0; i < 400; i++)
        {
            grain.Color = new SKColor((byte)(table + random.Next(-8, 9)), (byte)(table * 0.85), (byte)(table * 0.7));
            var y = random.Next(Height);
            canvas.DrawLine(random.Next(Width), y, random.Next(Width), y + random.Next(-10, 10), grain);
        }
    }

    // Over about half of the picture, with an edge some 60 pixels wide.
    private void DrawShadow(SKCanvas canvas)
    {
        var x = Width * (0.4f + ((float)random.NextDouble() * 0.2f));
        using var shader = SKShader.CreateLinearGradient(
            new SKPoint(x - 30, 0), new SKPoint(x + 30, random
                .Next(-20, 20)), [new SKColor(0, 0, 0, 115), new SKColor(0, 0, 0, 0)], SKShaderTileMode.Clamp);
        using var paint = new SKPaint { Shader = shader };
        canvas.DrawRect(0, 0, Width, Height, paint);
    }

    // A pinhole camera over the middle of the sheet.
    private static SKPoint Project(double x, double y, double about, double across, double turn)
    {
        var (st, ct) = Math.SinCos(turn * Math.PI / 180);
        (x, y) = ((x * ct) - (y * st), (x * st) + (y * ct));
        var (sa, ca) = Math.SinCos(about * Math.PI / 180);
        var (sc, cc) = Math.SinCos(across * Math.PI / 180);
        var (y1, z1) = (y * ca, y * sa);
        var (x2, z2) = ((x * cc) + (z1 * sc), (-x * sc) + (z1 * cc));
        const double Away = 1.2 * PageWidth;
        var scale = Away / (Away + z2);
        return new SKPoint((float)((Width / 2.0) + (x2 * scale)), (float)((Height / 2.0) + (y1 * scale)));
    }

    private static Place At(SKPoint p) => new(p.X / Width, p.Y / Height);
}
