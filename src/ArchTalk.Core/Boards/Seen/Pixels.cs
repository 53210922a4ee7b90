namespace ArchTalk.Core.Boards.Seen;

/// <summary>A picture's colours, row by row: three bytes (red, green, blue) for each pixel.</summary>
public sealed class Pixels
{
    private readonly byte[] data;

    /// <exception cref="ArgumentException">The data doesn't have three bytes for each pixel.</exception>
    public Pixels(int width, int height, byte[] data)
    {
        if (width <= 0 || height <= 0 || data.Length != (long)width * height * 3)
        {
            throw new ArgumentException("There must be three bytes for each pixel.", nameof(data));
        }

        (Width, Height, this.data) = (width, height, data);
    }

    public int Width { get; }

    public int Height { get; }

    public Rgb this[int x, int y]
    {
        get
        {
            var i = ((y * Width) + x) * 3;
            return new Rgb(data[i], data[i + 1], data[i + 2]);
        }
    }

    /// <summary>The luminances within a box given in board units, in no order; empty when the box lies outside the picture.</summary>
    /// <param name="most">At most about this many, evenly spread.</param>
    public List<double> Luminances(double x, double y, double width, double height, int most = 4000)
    {
        var scale = (double)Width / Board.Width;
        var (left, top) = ((int)Math.Max(0, x * scale), (int)Math.Max(0, y * scale));
        var (right, bottom) = ((int)Math.Min(Width, Math.Ceiling((x + width) * scale)), (int)Math.Min(Height, Math.Ceiling((y + height) * scale)));
        var found = new List<double>();
        if (right <= left || bottom <= top)
        {
            return found;
        }

        var step = Math.Max(1, (int)Math.Sqrt((double)(right - left) * (bottom - top) / most));
        for (var row = top; row < bottom; row += step)
        {
            for (var column = left; column < right; column += step)
            {
                found.Add(Contrast.Luminance(this[column, row]));
            }
        }

        return found;
    }
}
