namespace ArchTalk.Core.Boards;

/// <summary>Finds the lines in which words stand.</summary>
public static class TextLines
{
    // Two words of a line are as large as each other to this factor.
    private const double MostUnlike = 1.6;

    // A wider gap than so many heights divides a line.
    private const double WidestGap = 1.5;

    // Pairs of words this many heights apart say how a page lies; nearer ones say more of their letters.
    private const double FarApart = 8;
    private const int FewestPairs = 6;

    // A page that lies straighter than this (0.25°) lies straight.
    private const double Level = 0.0044;

    /// <summary>
    /// Words on one level that are about as large, divided where there is a wide gap; from top to bottom, each line in the order in
    /// which it is read. Pages may lie aslant by a few degrees.
    /// </summary>
    public static List<TextLine> Of(IReadOnlyList<TextWord> words)
    {
        var rows = new List<List<TextWord>>();
        foreach (var word in words.OrderBy(w => w.Y + (w.Height / 2)))
        {
            var row = rows.Select(r => (Row: r, Nearest: Nearest(r, word))).Where(r => Continues(r.Nearest, word))
                .OrderBy(r => Gap(r.Nearest, word)).Select(r => r.Row).FirstOrDefault();
            if (row is null)
            {
                rows.Add([word]);
            }
            else
            {
                row.Add(word);
            }
        }

        var lines = rows.SelectMany(Divided).ToArray();
        var slope = SlopeOf(lines);
        return [.. lines.Select(l => new TextLine(l, slope)).OrderBy(l => l.Top)];
    }

    /// <summary>
    /// How far lines sink on the way to the right, as a share of the way: the middle one of the slopes between words of a line that stand
    /// far apart (Theil 1950, Sen 1968). 0 for a page that is all but straight, or has too few words to tell.
    /// </summary>
    public static double SlopeOf(IEnumerable<IReadOnlyList<TextWord>> lines)
    {
        double[] slopes =
        [
            .. from line in lines
               from a in line
               from b in line
               let across = b.X + (b.Width / 2) - a.X - (a.Width / 2)
               where across > FarApart * a.Height
               select (b.Y - a.Y) / across,
        ];
        if (slopes.Length < FewestPairs)
        {
            return 0;
        }

        Array.Sort(slopes);
        var middle = slopes[slopes.Length / 2];
        return Math.Abs(middle) < Level ? 0 : middle;
    }

    private static TextWord Nearest(List<TextWord> row, TextWord word) => row.MinBy(w => Gap(w, word))!;

    private static double Gap(TextWord a, TextWord b) => Math.Max(a.X - (b.X + b.Width), b.X - (a.X + a.Width));

    private static bool Continues(TextWord beside, TextWord word)
    {
        var middle = word.Y + (word.Height / 2);
        return middle > beside.Y && middle < beside.Y + beside.Height
            && beside.Height < MostUnlike * word.Height && word.Height < MostUnlike * beside.Height;
    }

    private static List<List<TextWord>> Divided(List<TextWord> row)
    {
        var parts = new List<List<TextWord>>();
        foreach (var word in row.OrderBy(w => w.X))
        {
            if (parts.Count > 0 && word.X - parts[^1].Max(w => w.X + w.Width) < WidestGap * word.Height)
            {
                parts[^1].Add(word);
            }
            else
            {
                parts.Add([word]);
            }
        }

        return parts;
    }
}
