using ArchTalk.Core.Boards.Seen;

namespace ArchTalk.Core.Boards.Scans;

/// <summary>Finds how a scanned page lies: how far it is turned, and where the paper ends.</summary>
public static class ScanAnalysis
{
    private const double LargestSkew = 10;
    private const int ProfileWidth = 700;

    /// <summary>The widest border that is looked for, as a share of a side.</summary>
    private const double WidestBorder = 0.3;

    /// <summary>
    /// The degrees by which the page must be turned clockwise for its lines to lie level. Lines of writing give the strongest
    /// changes from row to row when they are level (projection profile; W. Postl, 1986, from memory).
    /// </summary>
    public static double Skew(Pixels page)
    {
        var dark = DarkPoints(page);
        if (dark.Count < 200)
        {
            return 0;
        }

        var best = Best(dark, -LargestSkew, LargestSkew, 0.5);
        best = Best(dark, best - 0.5, best + 0.5, 0.1);
        return Math.Round(Strength(dark, best) > 1.05 * Strength(dark, 0) ? best : 0, 1);
    }

    /// <summary>What lies outside the paper on each side, as shares of width and height, when the page lies on something darker.</summary>
    public static (double Left, double Top, double Right, double Bottom) Borders(Pixels page)
    {
        var columns = Enumerable.Range(0, page.Width).Select(x => Bright(Enumerable.Range(0, 120).Select(i => page[x, i * (page.Height - 1) / 119]))).ToArray();
        var rows = Enumerable.Range(0, page.Height).Select(y => Bright(Enumerable.Range(0, 120).Select(i => page[i * (page.Width - 1) / 119, y]))).ToArray();
        return (Border(columns), Border(rows), Border([.. columns.Reverse()]), Border([.. rows.Reverse()]));
    }

    // The luminance that most of a line reaches: paper with writing on it is still mostly paper.
    private static double Bright(IEnumerable<Rgb> line)
    {
        var sorted = line.Select(Contrast.Luminance).Order().ToArray();
        return sorted[sorted.Length * 6 / 10];
    }

    private static double Border(double[] lines)
    {
        var paper = lines.Order().ElementAt(lines.Length * 3 / 4);
        var most = (int)(lines.Length * WidestBorder);
        var end = Array.FindIndex(lines, l => l > paper * 0.75);

        // A border ends at an edge: if paper is never met within it, there is none.
        return end <= 0 || end > most ? 0 : Math.Round((double)end / lines.Length, 4);
    }

    private static List<(double X, double Y)> DarkPoints(Pixels page)
    {
        var step = Math.Max(1, page.Width / ProfileWidth);
        var luminances = new List<(int X, int Y, double L)>();

        // The margins are left out: shadows and the table a page lies on are darker than any writing.
        for (var y = page.Height / 10; y < page.Height * 9 / 10; y += step)
        {
            for (var x = page.Width / 10; x < page.Width * 9 / 10; x += step)
            {
                luminances.Add((x, y, Contrast.Luminance(page[x, y])));
            }
        }

        var paper = luminances.Count == 0 ? 1 : luminances.Select(l => l.L).Order().ElementAt(luminances.Count * 3 / 4);
        return [.. luminances.Where(l => l.L < paper * 0.5).Select(l => ((double)l.X / step, (double)l.Y / step))];
    }

    private static double Best(List<(double X, double Y)> dark, double from, double to, double step)
    {
        var (best, strength) = (0.0, -1.0);
        for (var degrees = from; degrees <= to + 1e-9; degrees += step)
        {
            if (Strength(dark, degrees) is var s && s > strength)
            {
                (best, strength) = (degrees, s);
            }
        }

        return best;
    }

    private static double Strength(List<(double X, double Y)> dark, double degrees)
    {
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        var rows = new Dictionary<int, int>();
        foreach (var (x, y) in dark)
        {
            var row = (int)Math.Floor((x * sin) + (y * cos));
            rows[row] = rows.GetValueOrDefault(row) + 1;
        }

        return rows.Sum(r => Math.Pow(r.Value - rows.GetValueOrDefault(r.Key - 1), 2));
    }
}
