using ArchTalk.Core.Boards.Seen;

namespace ArchTalk.Core.Boards.Scans;

/// <summary>Finds how a scanned page lies: how far it is turned, and where an open book is divided.</summary>
public static class ScanAnalysis
{
    private const double LargestSkew = 10;
    private const int ProfileWidth = 700;

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

    /// <summary>
    /// Where the two pages of an open book meet, as a share of the width: the darkest line near the middle; a half when there
    /// is none.
    /// </summary>
    public static double Gutter(Pixels page)
    {
        var columns = Enumerable.Range(0, page.Width).Select(x => Bright(Enumerable.Range(0, 120).Select(i => page[x, i * (page.Height - 1) / 119])))
            .ToArray();
        var (from, to) = ((int)(page.Width * 0.4), (int)(page.Width * 0.6));
        var darkest = Enumerable.Range(from, Math.Max(1, to - from)).MinBy(x => columns[x]);
        var around = columns[from..to].Order().ElementAt((to - from) / 2);
        return columns[darkest] < 0.85 * around ? Math.Round((darkest + 0.5) / page.Width, 3) : 0.5;
    }

    // The luminance that most of a line reaches: paper with writing on it is still mostly paper.
    private static double Bright(IEnumerable<Rgb> line)
    {
        var sorted = line.Select(Contrast.Luminance).Order().ToArray();
        return sorted[sorted.Length * 6 / 10];
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
