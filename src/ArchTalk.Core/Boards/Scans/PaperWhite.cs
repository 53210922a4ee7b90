namespace ArchTalk.Core.Boards.Scans;

/// <summary>Makes the paper of a photographed page white: each place is divided by the brightness of the paper round it.</summary>
public static class PaperWhite
{
    private const int Tile = 48;

    /// <summary>Darker than this nothing is taken for paper, so that a dark picture on the page stays dark.</summary>
    private const double DarkestPaper = 60;

    // Paper comes out a little beyond white, so that its grain goes; ink comes out darker by the same curve.
    private const double Gain = 1.1;
    private const double Gamma = 1.35;

    /// <summary>Changes the picture in place.</summary>
    /// <param name="rgba">Four bytes for each pixel; the fourth is left as it is.</param>
    public static void Apply(Span<byte> rgba, int width, int height)
    {
        var (columns, rows) = ((width + Tile - 1) / Tile, (height + Tile - 1) / Tile);
        var paper = new double[3][];
        for (var channel = 0; channel < 3; channel++)
        {
            paper[channel] = Smooth(Papers(rgba, width, height, columns, rows, channel), columns, rows);
        }

        var curve = new byte[1024];
        for (var i = 0; i < curve.Length; i++)
        {
            curve[i] = (byte)Math.Clamp(Math.Pow(Math.Min(1, i / 1023.0 * Gain), Gamma) * 255, 0, 255);
        }

        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                var i = ((y * width) + x) * 4;
                for (var channel = 0; channel < 3; channel++)
                {
                    var share = rgba[i + channel] / At(paper[channel], columns, rows, (double)x / Tile, (double)y / Tile);
                    rgba[i + channel] = curve[(int)Math.Min(1023, share * 1023)];
                }
            }
        }
    }

    private static double[] Papers(ReadOnlySpan<byte> rgba, int width, int height, int columns, int rows, int channel)
    {
        var papers = new double[columns * rows];
        var counts = new int[256];
        for (var tile = 0; tile < papers.Length; tile++)
        {
            Array.Clear(counts);
            var (left, top) = (tile % columns * Tile, tile / columns * Tile);
            var total = 0;
            for (var y = top; y < Math.Min(height, top + Tile); y += 2)
            {
                for (var x = left; x < Math.Min(width, left + Tile); x += 2)
                {
                    counts[rgba[(((y * width) + x) * 4) + channel]]++;
                    total++;
                }
            }

            // The brightest tenth of a tile is its paper.
            var value = 255;
            for (var seen = counts[255]; seen < total / 10 && value > 0; seen += counts[value])
            {
                value--;
            }

            papers[tile] = Math.Max(DarkestPaper, value);
        }

        return papers;
    }

    // A tile that is all picture takes its paper from its neighbours.
    private static double[] Smooth(double[] papers, int columns, int rows)
    {
        var smooth = new double[papers.Length];
        for (var r = 0; r < rows; r++)
        {
            for (var c = 0; c < columns; c++)
            {
                var around = new List<double>();
                for (var y = Math.Max(0, r - 2); y <= Math.Min(rows - 1, r + 2); y++)
                {
                    for (var x = Math.Max(0, c - 2); x <= Math.Min(columns - 1, c + 2); x++)
                    {
                        around.Add(papers[(y * columns) + x]);
                    }
                }

                around.Sort();
                smooth[(r * columns) + c] = around[around.Count / 2];
            }
        }

        return smooth;
    }

    private static double At(double[] papers, int columns, int rows, double x, double y)
    {
        var (cx, cy) = (Math.Clamp(x - 0.5, 0, columns - 1), Math.Clamp(y - 0.5, 0, rows - 1));
        var (c, r) = ((int)cx, (int)cy);
        var (c1, r1) = (Math.Min(columns - 1, c + 1), Math.Min(rows - 1, r + 1));
        var (fx, fy) = (cx - c, cy - r);
        double Value(int column, int row) => papers[(row * columns) + column];
        return (((Value(c, r) * (1 - fx)) + (Value(c1, r) * fx)) * (1 - fy)) + (((Value(c, r1) * (1 - fx)) + (Value(c1, r1) * fx)) * fy);
    }
}
