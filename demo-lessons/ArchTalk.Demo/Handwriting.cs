using System.Globalization;

namespace ArchTalk.Demo;

/// <summary>A point of a drawn line: board units, pressure 0 to 1, milliseconds since the first point of the drawing.</summary>
internal readonly record struct HandPoint(double X, double Y, double Pressure, double Milliseconds);

/// <summary>
/// Draws as a hand does: strokes with natural speed (slow at the ends and in bends), pressure that rises and falls, and a
/// little tremble. Letters are those of a single-stroke Hershey font.
/// </summary>
internal sealed class Handwriting
{
    // Units a second that a hand moves over a board 1600 units wide, and the pause between strokes of one word.
    private const double LetterSpeed = 430;
    private const double LineSpeed = 620;
    private const double LiftMs = 70;
    private const double SampleMs = 8;

    private readonly Dictionary<char, Glyph> glyphs = [];
    private readonly Random random = new(7);

    /// <param name="fontFile">A .jhf file: one glyph for each ASCII character from the space on.</param>
    public Handwriting(string fontFile)
    {
        var code = ' ';
        foreach (var glyph in ReadFont(File.ReadAllText(fontFile)))
        {
            glyphs[code++] = glyph;
        }
    }

    /// <summary>Writes a line of text; <paramref name="height"/> is the height of a capital in board units.</summary>
    public IReadOnlyList<HandPoint[]> Write(string text, double x, double baseline, double height)
    {
        var strokes = new List<HandPoint[]>();
        var time = 0.0;
        var scale = height / 21;
        foreach (var letter in text)
        {
            var glyph = glyphs.GetValueOrDefault(letter) ?? glyphs[' '];
            var lift = (random.NextDouble() - 0.5) * height * 0.05;
            foreach (var line in glyph.Lines)
            {
                // A hand leans its letters a little to the right.
                var path = line.Select(p => (X: x + ((p.X - glyph.Left - (p.Y * 0.12)) * scale), Y: baseline + lift + (p.Y * scale))).ToArray();
                var stroke = Move(path, LetterSpeed * Math.Max(0.6, height / 60), time, tremble: height * 0.012);
                strokes.Add(stroke);
                time = stroke[^1].Milliseconds + LiftMs;
            }

            x += (glyph.Right - glyph.Left) * scale;
            time += letter == ' ' ? 90 : 10;
        }

        return strokes;
    }

    /// <summary>Draws one line through the given places.</summary>
    public HandPoint[] Line(params (double X, double Y)[] path) => Move(path, LineSpeed, 0, tremble: 0.9);

    /// <summary>A loop around a place, a little open at the end as hands leave it.</summary>
    public HandPoint[] Loop(double x, double y, double width, double height) =>
        Move(
            [.. Enumerable.Range(0, 34).Select(i =>
            {
                var angle = -2.0 + (i / 33.0 * (Math.PI * 2.06));
                var grow = 1 + (i * 0.0016);
                return (x + (Math.Cos(angle) * width / 2 * grow), y + (Math.Sin(angle) * height / 2 * grow));
            })],
            LineSpeed, 0, tremble: 0.7);

    private HandPoint[] Move((double X, double Y)[] path, double speed, double start, double tremble)
    {
        var dense = Densify(path);
        var points = new List<HandPoint>();
        var time = start;
        var next = start;
        double dx = 0, dy = 0;
        for (var i = 0; i < dense.Count; i++)
        {
            var share = dense.Count == 1 ? 0.5 : (double)i / (dense.Count - 1);
            var ends = Math.Min(1, 0.3 + (4 * Math.Min(share, 1 - share)));
            if (i > 0)
            {
                var step = Math.Sqrt(Math.Pow(dense[i].X - dense[i - 1].X, 2) + Math.Pow(dense[i].Y - dense[i - 1].Y, 2));
                time += step / (speed * ends * (1 - (0.55 * Bend(dense, i)))) * 1000;
            }

            dx = (dx * 0.92) + ((random.NextDouble() - 0.5) * tremble * 0.5);
            dy = (dy * 0.92) + ((random.NextDouble() - 0.5) * tremble * 0.5);
            if (i == 0 || i == dense.Count - 1 || time >= next)
            {
                var pressure = Math.Clamp(0.35 + (0.35 * ends) + (0.05 * Math.Sin(i * 0.05)), 0.1, 1);
                points.Add(new HandPoint(dense[i].X + dx, dense[i].Y + dy, pressure, time));
                next = time + SampleMs;
            }
        }

        return [.. points];
    }

    // How sharply the line turns here: 0 straight, 1 back on itself.
    private static double Bend(List<(double X, double Y)> path, int i)
    {
        var (a, b) = (Math.Max(0, i - 4), Math.Min(path.Count - 1, i + 4));
        double ax = path[i].X - path[a].X, ay = path[i].Y - path[a].Y, bx = path[b].X - path[i].X, by = path[b].Y - path[i].Y;
        var lengths = Math.Sqrt(((ax * ax) + (ay * ay)) * ((bx * bx) + (by * by)));
        return lengths < 1e-6 ? 0 : (1 - (((ax * bx) + (ay * by)) / lengths)) / 2;
    }

    // Catmull and Rom (1974): a smooth curve through the places, a point at least every unit.
    private static List<(double X, double Y)> Densify((double X, double Y)[] path)
    {
        var dense = new List<(double X, double Y)>();
        for (var i = 0; i + 1 < path.Length; i++)
        {
            var (p0, p1, p2, p3) = (path[Math.Max(0, i - 1)], path[i], path[i + 1], path[Math.Min(path.Length - 1, i + 2)]);
            var steps = Math.Max(2, (int)Math.Sqrt(Math.Pow(p2.X - p1.X, 2) + Math.Pow(p2.Y - p1.Y, 2)));
            for (var s = 0; s < steps; s++)
            {
                var t = (double)s / steps;
                dense.Add((Spline(p0.X, p1.X, p2.X, p3.X, t), Spline(p0.Y, p1.Y, p2.Y, p3.Y, t)));
            }
        }

        dense.Add(path[^1]);
        return dense;
    }

    private static double Spline(double a, double b, double c, double d, double t) =>
        0.5 * ((2 * b) + ((c - a) * t) + (((2 * a) - (5 * b) + (4 * c) - d) * t * t) + (((3 * b) - a - (3 * c) + d) * t * t * t));

    // The .jhf format: five columns for the number, three for the count of pairs, then the pairs, each coordinate a letter
    // relative to 'R'; the first pair is the left and right edge, " R" lifts the pen. Long glyphs are broken over lines.
    private static IEnumerable<Glyph> ReadFont(string text)
    {
        var place = 0;
        while (place + 8 <= text.Length)
        {
            while (place < text.Length && text[place] is '\n' or '\r')
            {
                place++;
            }

            if (place + 8 > text.Length)
            {
                yield break;
            }

            var count = int.Parse(text.AsSpan(place + 5, 3), NumberStyles.AllowLeadingWhite, CultureInfo.InvariantCulture);
            place += 8;
            var pairs = new List<(char X, char Y)>();
            while (pairs.Count < count && place + 1 < text.Length)
            {
                if (text[place] is '\n' or '\r')
                {
                    place++;
                    continue;
                }

                pairs.Add((text[place], text[place + 1]));
                place += 2;
            }

            yield return ToGlyph(pairs);
        }
    }

    private static Glyph ToGlyph(List<(char X, char Y)> pairs)
    {
        var lines = new List<(double X, double Y)[]>();
        var line = new List<(double X, double Y)>();
        foreach (var (x, y) in pairs.Skip(1).Append((' ', 'R')))
        {
            if (x == ' ' && y == 'R')
            {
                if (line.Count > 0)
                {
                    lines.Add([.. line]);
                }

                line.Clear();
            }
            else
            {
                // Capitals reach from 12 above the middle to 9 below, where the baseline is.
                line.Add((x - 'R', y - 'R' - 9));
            }
        }

        return new Glyph(pairs[0].X - 'R', pairs[0].Y - 'R', lines);
    }

    private sealed record Glyph(double Left, double Right, IReadOnlyList<(double X, double Y)[]> Lines);
}
