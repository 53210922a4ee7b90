using System.Text.Json.Serialization;

namespace ArchTalk.Core.Boards.Scans;

/// <summary>A place on a picture, as shares of its width and height.</summary>
public readonly record struct Place(double X, double Y);

/// <summary>The four corners of a page in a photograph of it.</summary>
public sealed record Corners(Place TopLeft, Place TopRight, Place BottomRight, Place BottomLeft)
{
    // A page seen as a sliver can't be read.
    private const double LeastArea = 0.02;

    /// <summary>In the order of a walk round the page.</summary>
    [JsonIgnore]
    public IReadOnlyList<Place> All => [TopLeft, TopRight, BottomRight, BottomLeft];

    /// <summary>The share of the picture that lies within them.</summary>
    [JsonIgnore]
    public double Area => Math.Abs(Cross(TopLeft, TopRight, BottomRight) + Cross(TopLeft, BottomRight, BottomLeft)) / 2;

    /// <summary>Whether they make a page that can be drawn: none within the others, in their order, on the picture.</summary>
    [JsonIgnore]
    public bool IsPage => All.All(p => double.IsFinite(p.X) && double.IsFinite(p.Y) && p.X is >= -0.01 and <= 1.01 && p.Y is >= -0.01 and <= 1.01)
        && Area >= LeastArea
        && Enumerable.Range(0, 4).All(i => Cross(All[i], All[(i + 1) % 4], All[(i + 2) % 4]) > 0);

    /// <summary>The same corners after the picture was turned by quarters, clockwise.</summary>
    public Corners Turned(int quarters)
    {
        var turned = this;
        for (var i = ((quarters % 4) + 4) % 4; i > 0; i--)
        {
            static Place Turn(Place p) => new(1 - p.Y, p.X);
            turned = new Corners(Turn(turned.BottomLeft), Turn(turned.TopLeft), Turn(turned.TopRight), Turn(turned.BottomRight));
        }

        return turned;
    }

    /// <summary>The corners rounded to a ten-thousandth.</summary>
    public Corners Rounded() => new(Round(TopLeft), Round(TopRight), Round(BottomRight), Round(BottomLeft));

    /// <summary>How large the page is drawn, in pixels: as its longer sides are seen.</summary>
    /// <param name="width">Of the picture; so is the next.</param>
    public (int Width, int Height) Size(int width, int height)
    {
        double Side(Place a, Place b) => Math.Sqrt(Math.Pow((a.X - b.X) * width, 2) + Math.Pow((a.Y - b.Y) * height, 2));
        var across = Math.Max(Side(TopLeft, TopRight), Side(BottomLeft, BottomRight));
        var down = Math.Max(Side(TopLeft, BottomLeft), Side(TopRight, BottomRight));
        return ((int)Math.Round(across), (int)Math.Round(down));
    }

    /// <summary>
    /// The perspective that takes the page in the picture to a rectangle, as the nine numbers of a matrix row by row (the projective
    /// mapping of a square to a quadrilateral by Heckbert 1989, inverted; from memory).
    /// </summary>
    /// <param name="width">Of the picture in pixels; so is the next.</param>
    /// <param name="toWidth">Of the rectangle; so is the next.</param>
    public double[] ToRectangle(int width, int height, int toWidth, int toHeight)
    {
        var (x, y) = (All.Select(p => p.X * width).ToArray(), All.Select(p => p.Y * height).ToArray());
        var (dx1, dx2, dx3) = (x[1] - x[2], x[3] - x[2], x[0] - x[1] + x[2] - x[3]);
        var (dy1, dy2, dy3) = (y[1] - y[2], y[3] - y[2], y[0] - y[1] + y[2] - y[3]);
        var det = (dx1 * dy2) - (dx2 * dy1);
        var g = ((dx3 * dy2) - (dx2 * dy3)) / det;
        var h = ((dx1 * dy3) - (dx3 * dy1)) / det;
        double[] square = [x[1] - x[0] + (g * x[1]), x[3] - x[0] + (h * x[3]), x[0], y[1] - y[0] + (g * y[1]), y[3] - y[0] + (h * y[3]), y[
            0], g, h, 1];
        var inverse = Inverse(square);
        for (var i = 0; i < 3; i++)
        {
            (inverse[i], inverse[3 + i]) = (inverse[i] * toWidth, inverse[3 + i] * toHeight);
        }

        return [.. inverse.Select(n => n / inverse[8])];
    }

    private static double[] Inverse(double[] m) =>
    [
        (m[4] * m[8]) - (m[5] * m[7]), (m[2] * m[7]) - (m[1] * m[8]), (m[1] * m[5]) - (m[2] * m[4]),
        (m[5] * m[6]) - (m[3] * m[8]), (m[0] * m[8]) - (m[2] * m[6]), (m[2] * m[3]) - (m[0] * m[5]),
        (m[3] * m[7]) - (m[4] * m[6]), (m[1] * m[6]) - (m[0] * m[7]), (m[0] * m[4]) - (m[1] * m[3]),
    ];

    private static Place Round(Place p) => new(Math.Round(Math.Clamp(p.X, 0, 1), 4), Math.Round(Math.Clamp(p.Y, 0, 1), 4));

    private static double Cross(Place a, Place b, Place c) => ((b.X - a.X) * (c.Y - a.Y)) - ((b.Y - a.Y) * (c.X - a.X));
}
