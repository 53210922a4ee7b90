using ArchTalk.Core.Boards.Seen;

namespace ArchTalk.Core.Boards.Scans;

/// <summary>
/// Finds a page that lies on something else. What is reached from the picture's edges without crossing an edge of colour is what it lies
/// on; what is left is the page, if it is a page's shape and nothing is written outside of it. When in doubt there is none: a page that
/// isn't cropped can be read, a cropped one may not.
/// </summary>
public static class PaperFinder
{
    /// <summary>Pages are looked for in pictures of about this width in pixels.</summary>
    public const int Width = 320;

    // Differences of colour, of 255, among a pixel's neighbours that are an edge; tried from the finest.
    private static readonly int[] Steps = [10, 16, 24, 36];

    // An edge is looked for so many pixels on both sides of where the page seems to end.
    private const int Reach = 7;

    // From which of the picture's edges it is looked in: from all, and, where the page runs out of the picture, from those it leaves free.
    private static readonly Edges[] Sides =
    [
        Edges.All, Edges.All & ~Edges.Bottom, Edges.All & ~Edges.Top, Edges.All & ~Edges.Left, Edges.All & ~Edges.Right, Edges.Left
            | Edges.Right, Edges.Top | Edges.Bottom,
    ];

    private const double LeastShare = 0.12;
    private const double MostShare = 0.97;
    private const double LeastFit = 0.88;
    private const double LeastEdge = 14;

    // Writing outside of the page: at most this share of the writing within, for the same area.
    private const double MostInkOutside = 0.25;

    /// <summary>The corners of the page; null when the whole picture is page, or none can be told from what it lies on.</summary>
    public static Corners? Find(Pixels picture)
    {
        var image = new Image(picture);
        foreach (var sides in Sides)
        {
            var found = Steps.Select(step => Page(image, image.Reached(step, sides))).OfType<(Corners Corners, double Score)>().ToArray();
            if (found.Length > 0)
            {
                return found.MaxBy(f => f.Score).Corners;
            }
        }

        return null;
    }

    [Flags]
    private enum Edges
    {
        Top = 1,
        Bottom = 2,
        Left = 4,
        Right = 8,
        All = 15,
    }

    private static (Corners Corners, double Score)? Page(Image image, bool[] outside)
    {
        var inside = image.Largest(outside);
        var points = image.Boundary(inside);
        if (points.Count < 20 || Quadrilateral(Hull(points)) is not { } quad)
        {
            return null;
        }

        var corners = image.OnEdges(Ordered([.. quad.Select(p => new Place((p.X + 0.5) / image.Width, (p.Y + 0.5) / image.Height))]));
        if (!corners.IsPage || corners.Area is < LeastShare or > MostShare)
        {
            return null;
        }

        var (fit, edge, ink) = (image.Fit(inside, corners), image.Edge(corners), image.InkOutside(corners));
        return fit < LeastFit || edge < LeastEdge || ink > MostInkOutside ? null : (corners, fit * Math.Min(1, edge / 40) * (1 - ink));
    }

    // From the top left corner, clockwise: the one nearest to the picture's own.
    private static Corners Ordered(Place[] quad)
    {
        var first = Array.IndexOf(quad, quad.MinBy(p => p.X + p.Y));
        Place At(int i) => quad[(first + i) % 4];
        var corners = new Corners(At(0), At(1), At(2), At(3));
        return corners.TopRight.X >= corners.BottomLeft.X ? corners : new Corners(At(0), At(3), At(2), At(1));
    }

    // Andrew's monotone chain (1979), clockwise on a picture whose y runs downwards.
    private static List<(double X, double Y)> Hull(List<(double X, double Y)> points)
    {
        var sorted = points.Distinct().OrderBy(p => p.X).ThenBy(p => p.Y).ToArray();
        var hull = new List<(double X, double Y)>();
        foreach (var half in new[] { sorted, [.. sorted.Reverse()] })
        {
            var from = hull.Count;
            foreach (var point in half)
            {
                while (hull.Count >= from + 2 && Cross(hull[^2], hull[^1], point) <= 0)
                {
                    hull.RemoveAt(hull.Count - 1);
                }

                hull.Add(point);
            }

            hull.RemoveAt(hull.Count - 1);
        }

        return hull;
    }

    // Sides are taken out one by one, each time the one whose neighbours meet with the least area added, until four are left.
    private static List<(double X, double Y)>? Quadrilateral(List<(double X, double Y)> hull)
    {
        var polygon = hull;
        while (polygon.Count > 4)
        {
            var (best, bestArea, meeting) = (-1, double.MaxValue, default((double X, double Y)));
            for (var i = 0; i < polygon.Count; i++)
            {
                var (a, b, c, d) = (polygon[(i + polygon.Count - 1) % polygon.Count], polygon[i], polygon[(i + 1)
                    % polygon.Count], polygon[(i + 2) % polygon.Count]);
                if (Meet(a, b, c, d) is { } point && Math.Abs(Cross(b, point, c)) / 2 is var area && area < bestArea)
                {
                    (best, bestArea, meeting) = (i, area, point);
                }
            }

            if (best < 0)
            {
                return null;
            }

            var next = (best + 1) % polygon.Count;
            polygon[best] = meeting;
            polygon.RemoveAt(next);
        }

        return polygon.Count == 4 ? polygon : null;
    }

    // Where the side from a to b, going on, meets the side from d to c.
    private static (double X, double Y)? Meet((double X, double Y) a, (double X, double Y) b, (double X, double Y) c, (double X, double Y) d)
    {
        var (ux, uy, vx, vy) = (b.X - a.X, b.Y - a.Y, c.X - d.X, c.Y - d.Y);
        var det = (ux * vy) - (uy * vx);
        if (Math.Abs(det) < 1e-9)
        {
            return null;
        }

        var s = (((d.X - a.X) * vy) - ((d.Y - a.Y) * vx)) / det;
        var t = (((d.X - a.X) * uy) - ((d.Y - a.Y) * ux)) / det;
        return s >= 1 && t >= 1 ? (a.X + (s * ux), a.Y + (s * uy)) : null;
    }

    private static double Cross((double X, double Y) a, (double X, double Y) b, (double X, double Y) c) =>
        ((b.X - a.X) * (c.Y - a.Y)) - ((b.Y - a.Y) * (c.X - a.X));

    // The picture, a little softened, so that the grain of wood and paper makes no edges.
    private sealed class Image
    {
        private readonly byte[][] channels;
        private readonly byte[] edges;
        private readonly byte[] light;

        public Image(Pixels picture)
        {
            (Width, Height) = (picture.Width, picture.Height);
            channels = [.. Enumerable.Range(0, 3).Select(c => Soft(Soft(Channel(picture, c))))];
            light = Channel(picture, 1);
            edges = [.. Enumerable.Range(0, Width * Height).Select(EdgeAt)];
        }

        public int Width { get; }

        public int Height { get; }

        /// <summary>What is reached from the picture's edges without meeting an edge of colour.</summary>
        public bool[] Reached(int step, Edges sides)
        {
            var reached = new bool[Width * Height];
            var queue = new Queue<int>();
            void Add(int at)
            {
                if (!reached[at])
                {
                    reached[at] = true;
                    queue.Enqueue(at);
                }
            }

            for (var at = 0; at < reached.Length; at++)
            {
                var (x, y) = (at % Width, at / Width);
                if (edges[at] >= step)
                {
                    continue;
                }

                if ((y == 0 && sides.HasFlag(Edges.Top)) || (y == Height - 1 && sides.HasFlag(Edges.Bottom)) || (x == 0 && sides.HasFlag(Edges.Left))
                    || (x == Width - 1 && sides.HasFlag(Edges.Right)))
                {
                    Add(at);
                }
            }

            Span<int> next = stackalloc int[4];
            while (queue.TryDequeue(out var at))
            {
                foreach (var neighbour in next[..Neighbours(at, next)])
                {
                    if (!reached[neighbour] && edges[neighbour] < step)
                    {
                        Add(neighbour);
                    }
                }
            }

            return reached;
        }

        /// <summary>The largest piece of what isn't reached, with its holes.</summary>
        public bool[] Largest(bool[] outside)
        {
            var seen = new bool[outside.Length];
            List<int> best = [];
            Span<int> next = stackalloc int[4];
            for (var start = 0; start < outside.Length; start++)
            {
                if (!outside[start] && !seen[start])
                {
                    List<int> piece = [start];
                    seen[start] = true;
                    for (var i = 0; i < piece.Count; i++)
                    {
                        foreach (var neighbour in next[..Neighbours(piece[i], next)])
                        {
                            if (!outside[neighbour] && !seen[neighbour])
                            {
                                seen[neighbour] = true;
                                piece.Add(neighbour);
                            }
                        }
                    }

                    best = piece.Count > best.Count ? piece : best;
                }
            }

            var inside = new bool[outside.Length];
            best.ForEach(i => inside[i] = true);
            return inside;
        }

        public List<(double X, double Y)> Boundary(bool[] inside)
        {
            var points = new List<(double X, double Y)>();
            for (var y = 0; y < Height; y++)
            {
                var (first, last) = (-1, -1);
                for (var x = 0; x < Width; x++)
                {
                    if (inside[(y * Width) + x])
                    {
                        (first, last) = (first < 0 ? x : first, x);
                    }
                }

                if (first >= 0)
                {
                    points.Add((first, y));
                    points.Add((last, y));
                }
            }

            return points;
        }

        /// <summary>How much of the corners' page is in the piece, and of the piece in the page.</summary>
        public double Fit(bool[] inside, Corners corners)
        {
            var (both, either) = (0, 0);
            for (var y = 0; y < Height; y++)
            {
                var (first, last) = (Array.IndexOf(inside, true, y * Width, Width), Array.LastIndexOf(inside, true, (y * Width) + Width - 1, Width));
                for (var x = 0; x < Width; x++)
                {
                    // Holes within a row, which are ink, count as page.
                    var (isIn, isPage) = (first >= 0 && (y * Width) + x >= first && (y * Width) + x <= last, Within(corners, x, y));
                    both += isIn && isPage ? 1 : 0;
                    either += isIn || isPage ? 1 : 0;
                }
            }

            return either == 0 ? 0 : (double)both / either;
        }

        /// <summary>
        /// The corners where the sides meet that lie on the strongest edges near those given: for each side the line through them, without
        /// what lies off it.
        /// </summary>
        public Corners OnEdges(Corners corners)
        {
            var lines = Enumerable.Range(0, 4).Select(i => Line(corners.All[i], corners.All[(i + 1) % 4])).ToArray();
            var met = Enumerable.Range(0, 4).Select(i => Crossing(lines[(i + 3) % 4], lines[i])).ToArray();
            var found = met.All(m => m is not null)
                ? new Corners(At(met[0]!.Value), At(met[1]!.Value), At(met[2]!.Value), At(met[3]!.Value))
                : corners;
            return found.IsPage ? found : corners;

            Place At((double X, double Y) p) => new(Math.Clamp(p.X / Width, 0, 1), Math.Clamp(p.Y / Height, 0, 1));
        }

        // A side as a place on it and its direction, in pixels.
        private (double X, double Y, double Dx, double Dy) Line(Place from, Place to)
        {
            var (ax, ay, dx, dy) = (from.X * Width, from.Y * Height, (to.X - from.X) * Width, (to.Y - from.Y) * Height);
            var length = Math.Sqrt((dx * dx) + (dy * dy));
            var (nx, ny) = (dy / length, -dx / length);
            var found = new List<(double Along, double Off)>();
            for (var i = 3; i < 58; i++)
            {
                var along = i / 60.0;
                var (best, off) = (0, 0.0);
                for (var o = -Reach; o <= Reach; o++)
                {
                    var (x, y) = (ax + (dx * along), ay + (dy * along));
                    var (inX, inY, outX, outY) = ((int)(x + (nx * (o - 1))), (int)(y + (ny * (o - 1))), (int)(x + (nx * (o + 1))), (int)(y
                        + (ny * (o + 1))));
                    if (IsOn(inX, inY) && IsOn(outX, outY) && Step((inY * Width) + inX, (outY * Width) + outX) is var step && step > best)
                    {
                        (best, off) = (step, o);
                    }
                }

                if (best >= LeastEdge / 2)
                {
                    found.Add((along, off));
                }
            }

            for (var round = 0; round < 4 && found.Count >= 12; round++)
            {
                var (meanAlong, meanOff) = (found.Average(f => f.Along), found.Average(f => f.Off));
                var slope = found.Sum(f => (f.Along - meanAlong) * (f.Off - meanOff))
                    / Math.Max(1e-9, found.Sum(f => Math.Pow(f.Along - meanAlong, 2)));
                double Fitted(double along) => meanOff + (slope * (along - meanAlong));
                var limit = Math.Max(1, 1.5 * found.Select(f => Math.Abs(f.Off - Fitted(f.Along))).Order().ElementAt(found.Count / 2));
                if (round == 3)
                {
                    var (start, end) = (Fitted(0), Fitted(1));
                    return (ax + (nx * start), ay + (ny * start), dx + (nx * (end - start)), dy + (ny * (end - start)));
                }

                found.RemoveAll(f => Math.Abs(f.Off - Fitted(f.Along)) > limit);
            }

            return (ax, ay, dx, dy);
        }

        private static (double X, double Y)? Crossing((double X, double Y, double Dx, double Dy) a, (double X, double Y, double Dx, double Dy) b)
        {
            var det = (a.Dx * b.Dy) - (a.Dy * b.Dx);
            return Math.Abs(det) < 1e-6
                ? null
                : (((b.X - a.X) * b.Dy) - ((b.Y - a.Y) * b.Dx)) / det is var s ? (a.X + (s * a.Dx), a.Y + (s * a.Dy)) : null;
        }

        private byte EdgeAt(int at)
        {
            var (x, y) = (at % Width, at / Width);
            var most = 0;
            foreach (var channel in channels)
            {
                var (least, greatest) = (255, 0);
                for (var dy = Math.Max(0, y - 1); dy <= Math.Min(Height - 1, y + 1); dy++)
                {
                    for (var dx = Math.Max(0, x - 1); dx <= Math.Min(Width - 1, x + 1); dx++)
                    {
                        var value = channel[(dy * Width) + dx];
                        (least, greatest) = (Math.Min(least, value), Math.Max(greatest, value));
                    }
                }

                most = Math.Max(most, greatest - least);
            }

            return (byte)most;
        }

        /// <summary>The step of colour across the weakest side, in the middle of many places.</summary>
        public double Edge(Corners corners)
        {
            var weakest = double.MaxValue;
            for (var side = 0; side < 4; side++)
            {
                var (a, b) = (corners.All[side], corners.All[(side + 1) % 4]);
                var (nx, ny) = ((b.Y - a.Y) * Height, -(b.X - a.X) * Width);
                var length = Math.Sqrt((nx * nx) + (ny * ny));
                var steps = new List<double>();
                for (var i = 1; i < 40; i++)
                {
                    var (x, y) = ((a.X + ((b.X - a.X) * i / 40)) * Width, (a.Y + ((b.Y - a.Y) * i / 40)) * Height);
                    var (inX, inY, outX, outY) = ((int)(x - (4 * nx / length)), (int)(y - (4 * ny / length)), (int)(x + (4 * nx / length)), (int)(y
                        + (4 * ny / length)));
                    if (IsOn(inX, inY) && IsOn(outX, outY))
                    {
                        steps.Add(Step((inY * Width) + inX, (outY * Width) + outX));
                    }
                }

                // A side that is the picture's own has no step across it.
                if (steps.Count > 20)
                {
                    weakest = Math.Min(weakest, steps.Order().ElementAt(steps.Count / 2));
                }
            }

            return weakest == double.MaxValue ? 0 : weakest;
        }

        /// <summary>How dense strokes are outside of the page, as a share of how dense they are within.</summary>
        public double InkOutside(Corners corners)
        {
            var (count, area) = (new int[2], new int[2]);
            for (var y = 3; y < Height - 3; y++)
            {
                for (var x = 3; x < Width - 3; x++)
                {
                    var part = Within(corners, x, y) ? 0 : 1;
                    area[part]++;
                    count[part] += IsStroke(x, y) ? 1 : 0;
                }
            }

            var within = Math.Max(0.005, (double)count[0] / Math.Max(1, area[0]));
            return (double)count[1] / Math.Max(1, area[1]) / within;
        }

        // Darker than what is three pixels away on both sides, across or along: a stroke of writing, not an edge.
        private bool IsStroke(int x, int y)
        {
            bool Between(int a, int b) => light[(y * Width) + x] < 0.75 * Math.Min(light[a], light[b]);
            return Between((y * Width) + x - 3, (y * Width) + x + 3) || Between(((y - 3) * Width) + x, ((y + 3) * Width) + x);
        }

        private static bool Within(Corners corners, int x, int y, int width, int height)
        {
            var p = new Place((x + 0.5) / width, (y + 0.5) / height);
            var all = corners.All;
            for (var i = 0; i < 4; i++)
            {
                var (a, b) = (all[i], all[(i + 1) % 4]);
                if (((b.X - a.X) * (p.Y - a.Y)) - ((b.Y - a.Y) * (p.X - a.X)) < 0)
                {
                    return false;
                }
            }

            return true;
        }

        private bool Within(Corners corners, int x, int y) => Within(corners, x, y, Width, Height);

        private bool IsOn(int x, int y) => x >= 0 && y >= 0 && x < Width && y < Height;

        private int Step(
            int a,
            int b) => Math.Max(Math.Abs(channels[0][a] - channels[0][b]),
                Math.Max(Math.Abs(channels[1][a] - channels[1][b]), Math.Abs(channels[2][a] - channels[2][b])));

        private int Neighbours(int at, Span<int> into)
        {
            var (x, count) = (at % Width, 0);
            if (x > 0)
            {
                into[count++] = at - 1;
            }

            if (x < Width - 1)
            {
                into[count++] = at + 1;
            }

            if (at >= Width)
            {
                into[count++] = at - Width;
            }

            if (at < Width * (Height - 1))
            {
                into[count++] = at + Width;
            }

            return count;
        }

        private byte[] Channel(Pixels picture, int channel)
        {
            var values = new byte[Width * Height];
            for (var i = 0; i < values.Length; i++)
            {
                var rgb = picture[i % Width, i / Width];
                values[i] = channel switch { 0 => rgb.R, 1 => rgb.G, _ => rgb.B };
            }

            return values;
        }

        private byte[] Soft(byte[] values)
        {
            var soft = new byte[values.Length];
            for (var y = 0; y < Height; y++)
            {
                for (var x = 0; x < Width; x++)
                {
                    var (sum, count) = (0, 0);
                    for (var dy = Math.Max(0, y - 1); dy <= Math.Min(Height - 1, y + 1); dy++)
                    {
                        for (var dx = Math.Max(0, x - 1); dx <= Math.Min(Width - 1, x + 1); dx++)
                        {
                            (sum, count) = (sum + values[(dy * Width) + dx], count + 1);
                        }
                    }

                    soft[(y * Width) + x] = (byte)(sum / count);
                }
            }

            return soft;
        }
    }
}
