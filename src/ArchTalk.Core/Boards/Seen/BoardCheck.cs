using System.Globalization;
using System.Text.Json.Serialization;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Ink;

namespace ArchTalk.Core.Boards.Seen;

/// <summary>What a finding is about.</summary>
public enum FindingKind
{
    SmallWriting = 0,
    PaleWriting = 1,
    PaleInk = 2,

    /// <summary>An item that reaches over the board's edge.</summary>
    Beyond = 3,
}

/// <summary>Something students may not be able to see, and where.</summary>
/// <param name="Subject">The word, the item's writing or the ink.</param>
/// <param name="Value">Minutes of arc for small writing, the share that is on the board for what reaches over its edge, the contrast ratio
/// otherwise.</param>
/// <param name="Needed">What the standard asks for.</param>
/// <param name="X">Of its place, in board units; so are the next three.</param>
public sealed record Finding(FindingKind Kind, string Subject, double Value, double Needed, double X, double Y, double Width, double Height)
{
    /// <summary>The finding in words.</summary>
    public string Text => Kind == FindingKind.Beyond
        ? string.Create(CultureInfo.InvariantCulture, $"{Subject}: {Math.Floor(Value * 100):0} % of it is on the board")
        : string.Create(CultureInfo.InvariantCulture, $"{Name}: {Measure} of {Unit(Needed)} needed");

    /// <summary>How far it falls short: 1 would just do.</summary>
    [JsonIgnore]
    public double Share => Value / Needed;

    private string Name => Kind == FindingKind.PaleInk ? Subject : $"“{Subject}”";

    private string Measure => Kind == FindingKind.SmallWriting ? Unit(Math.Round(Value, 1)) : Unit(Value);

    private string Unit(double value) =>
        Kind == FindingKind.SmallWriting
            ? string.Create(CultureInfo.InvariantCulture, $"{value:0.#}′")
            : string.Create(CultureInfo.InvariantCulture, $"{value:0.##}:1");
}

/// <summary>All findings of one kind.</summary>
/// <param name="Count">How many there are, also those that aren't listed.</param>
/// <param name="Findings">The worst first; at most <see cref="BoardCheck.MostFindings"/>.</param>
public sealed record FindingGroup(FindingKind Kind, int Count, IReadOnlyList<Finding> Findings)
{
    /// <summary>What the teacher reads: "7 writings are too small".</summary>
    public string Title => Kind switch
    {
        FindingKind.SmallWriting => $"{Are("writing")} too small",
        FindingKind.PaleWriting => $"{Are("writing")} too pale",
        FindingKind.Beyond => Count == 1 ? "1 item reaches over the board's edge" : $"{Count} items reach over the board's edge",
        _ => Count == 1 ? "1 ink would not show" : $"{Count} inks would not show",
    };

    private string Are(string word) => Count == 1 ? $"1 {word} is" : $"{Count} {word}s are";
}

/// <summary>How a board is seen on one screen.</summary>
/// <param name="SmallestMinutes">Capitals of the smallest writing, in minutes of arc; null when there is no writing.</param>
/// <param name="Groups">What may not be seen, by kind; the kind with the worst finding first.</param>
public sealed record SeenBoard(SeenOn Screen, double? SmallestMinutes, IReadOnlyList<FindingGroup> Groups)
{
    [JsonIgnore]
    public IReadOnlyList<Finding> Findings => [.. Groups.SelectMany(g => g.Findings)];

    /// <summary>How the smallest writing does, in words.</summary>
    public string Smallest => SmallestMinutes is not { } minutes ? "No writing on this board yet."
        : string.Create(
            CultureInfo.InvariantCulture,
            $"Smallest writing: {minutes:0.0}′ ({VisualAngle.LeastMinutes:0}′ needed, {VisualAngle.PreferredMinutes:0}′ better).");
}

/// <summary>
/// Checks how a board is seen: the visual angle of its writing (ISO 9241-303) and the contrast of writing and inks against what is
/// really behind them (WCAG 2.2).
/// </summary>
public static class BoardCheck
{
    /// <summary>Most findings of one kind; the worst come first.</summary>
    public const int MostFindings = 20;

    /// <summary>A capital's height as a share of the em in common typefaces (common practice, no source).</summary>
    private const double CapitalShare = 0.7;

    // CSS Values 4, 5.2: the reference pixel is 0.0213 degrees; WCAG's large writing is 18 pt, 24 of these (both from memory).
    private const double MinutesPerPixel = 0.0213 * 60;
    private const double LargeMinutes = 24 * MinutesPerPixel;

    // The share of pixels that may be noise, or the soft edges of letters.
    private const double Outliers = 0.04;
    private const int InkColumns = 32;

    // A hair over the edge is nothing that is missed.
    private const double SeenWhole = 0.98;

    private sealed record Writing(string Text, double Em, double X, double Y, double Width, double Height, double Ratio);

    /// <param name="words">The words of the picture.</param>
    /// <param name="items">The items with their drawings, from back to front.</param>
    /// <param name="picture">The board's picture; null for an empty, white board.</param>
    public static SeenBoard Check(
        SeenOn screen, int boardHeight, TextLayer words, IReadOnlyList<(Item Item, Drawing Drawing)> items, Pixels? picture)
    {
        var writing = Words(words, picture).Concat(Items(items, picture)).Where(w => w.Text.Length > 0).ToArray();
        var angles = writing.Select(w => (Writing: w, Minutes: VisualAngle.Minutes(w.Em * CapitalShare, screen))).OrderBy(a => a.Minutes).ToArray();
        var small = angles.Where(a => Math.Round(a.Minutes, 1) < VisualAngle.LeastMinutes)
            .Select(a => Find(FindingKind.SmallWriting, a.Writing, a.Minutes, VisualAngle.LeastMinutes));
        var pale = writing.Select(
            w => (Writing: w, Needed: VisualAngle.Minutes(w.Em, screen) >= LargeMinutes ? Contrast.ForGraphics : Contrast.ForText))
            .Where(p => Math.Round(p.Writing.Ratio, 2) < p.Needed).OrderBy(p => p.Writing.Ratio)
            .Select(p => Find(FindingKind.PaleWriting, p.Writing, p.Writing.Ratio, p.Needed));
        return new SeenBoard(
            screen, angles.Length > 0 ? angles[0].Minutes : null,
            [.. new[] {
                Group(Beyond(boardHeight, items)),
                Group(Together(small)),
                Group(Together(pale)),
                Group(picture is null ? [] : Inks(picture, boardHeight)) }.OfType<FindingGroup>()
                .OrderBy(g => g.Findings[0].Share)]);
    }

    // What reaches over the board's edge isn't seen: the share of an item that is on the board.
    private static IEnumerable<Finding> Beyond(int boardHeight, IReadOnlyList<(Item Item, Drawing Drawing)> items) =>
        from i in items
        let seenWidth = Math.Max(0, Math.Min(i.Item.X + i.Drawing.Width, Board.Width) - Math.Max(i.Item.X, 0))
        let seenHeight = Math.Max(0, Math.Min(i.Item.Y + i.Drawing.Height, boardHeight) - Math.Max(i.Item.Y, 0))
        let share = seenWidth * seenHeight / Math.Max(1, i.Drawing.Width * i.Drawing.Height)
        where share < SeenWhole
        select new Finding(
            FindingKind.Beyond,
            ItemWords.Name(i.Item),
            Math.Round(share, 2),
            1,
            i.Item.X,
            i.Item.Y,
            i.Drawing.Width,
            i.Drawing.Height);

    private static FindingGroup? Group(IEnumerable<Finding> findings)
    {
        var worst = findings.OrderBy(f => f.Share).ToArray();
        return worst.Length == 0 ? null : new FindingGroup(worst[0].Kind, worst.Length, [.. worst.Take(MostFindings)]);
    }

    // Words that follow each other on a line and have the same fault are one finding.
    private static IEnumerable<Finding> Together(IEnumerable<Finding> findings)
    {
        var lines = new List<Finding>();
        foreach (var found in findings.OrderBy(f => f.X).ThenBy(f => f.Y))
        {
            var at = lines.FindIndex(l => Math.Abs(l.Value - found.Value) < 0.15 * l.Value
                && found.Y + (found.Height / 2) > l.Y && found.Y + (found.Height / 2) < l.Y + l.Height
                && found.X >= l.X && found.X - (l.X + l.Width) < 1.5 * l.Height);
            if (at < 0)
            {
                lines.Add(found);
                continue;
            }

            var line = lines[at];
            lines[at] = line with
            {
                Subject = $"{line.Subject} {found.Subject}",
                Value = Math.Min(line.Value, found.Value),
                Y = Math.Min(line.Y, found.Y),
                Width = found.X + found.Width - line.X,
                Height = Math.Max(line.Y + line.Height, found.Y + found.Height) - Math.Min(line.Y, found.Y),
            };
        }

        return lines.OrderBy(l => l.Value);
    }

    private static Finding Find(FindingKind kind, Writing w, double value, double needed) =>
        new(kind, w.Text, Math.Round(value, 2), needed, w.X, w.Y, w.Width, w.Height);

    private static IEnumerable<Writing> Words(TextLayer words, Pixels? picture) => words.Words
        .Where(w => w.Text.Any(char.IsLetterOrDigit))
        .Select(w => new Writing(w.Text, w.Height, w.X, w.Y, w.Width, w.Height, picture is null ? 21 : OwnContrast(picture, w)));

    // A printed word holds both its ink and its ground: the ground is what most of its box is, the ink what is farthest from it.
    private static double OwnContrast(Pixels picture, TextWord word)
    {
        var found = picture.Luminances(word.X, word.Y, word.Width, word.Height);
        if (found.Count == 0)
        {
            return 21;
        }

        found.Sort();
        var ground = found[found.Count / 2];
        var (dark, light) = (found[(int)(found.Count * Outliers)], found[(int)(found.Count * (1 - Outliers))]);
        return Math.Max(Contrast.Ratio(ground, dark), Contrast.Ratio(ground, light));
    }

    private static IEnumerable<Writing> Items(IReadOnlyList<(Item Item, Drawing Drawing)> items, Pixels? picture)
    {
        for (var i = 0; i < items.Count; i++)
        {
            var (item, drawing) = items[i];
            if (item is FormulaItem formula)
            {
                var ink = Contrast.Luminance(Rgb.Parse(TextSetter.Color(formula.Color)));
                var ratio = Behind(items, i, item.X, item.Y, drawing.Width, drawing.Height, picture, ink);
                yield return new Writing(formula.Tex, TextSizes.Units(formula.Size), item.X, item.Y, drawing.Width, drawing.Height, ratio);
            }

            for (var s = 0; s < drawing.Shapes.Count; s++)
            {
                if (drawing.Shapes[s] is TextShape text)
                {
                    yield return OfShape(items, i, s, text, picture);
                }
            }
        }
    }

    private static Writing OfShape(IReadOnlyList<(Item Item, Drawing Drawing)> items, int i, int s, TextShape text, Pixels? picture)
    {
        var (item, drawing) = items[i];

        // About half an em for each letter is near enough to find what is behind it.
        var width = Math.Min(text.Text.Length * text.Size * 0.5, Math.Max(text.Size, drawing.Width));
        var left = text.Anchor switch
        {
            TextShape.Middle => text.X - (width / 2),
            TextShape.End => text.X - width,
            _ => text.IsRightToLeft ? text.X - width : text.X,
        };
        var (x, y, height) = (item.X + left, item.Y + text.Y - (0.8 * text.Size), text.Size);
        var ink = Contrast.Luminance(Rgb.Parse(text.Fill));
        var own = Ground(drawing.Shapes.Take(s), text.X, text.Y - (0.3 * text.Size));
        var ratio = own is { } ground ? Contrast.Ratio(ink, ground) : Behind(items, i, x, y, width, height, picture, ink);
        return new Writing(text.Text, text.Size, x, y, width, height, ratio);
    }

    // The worst contrast with what lies behind: an item's ground, or the darker and lighter pixels of the picture.
    private static double Behind(
        IReadOnlyList<(Item Item, Drawing Drawing)> items, int index, double x, double y, double width, double height, Pixels? picture, double ink)
    {
        for (var i = index - 1; i >= 0; i--)
        {
            var (item, drawing) = items[i];
            var (innerX, innerY) = (x + (width / 2) - item.X, y + (height / 2) - item.Y);
            if (Ground(drawing.Shapes, innerX, innerY) is { } ground)
            {
                return Contrast.Ratio(ink, ground);
            }
        }

        var found = picture?.Luminances(x, y, width, height) ?? [];
        if (found.Count == 0)
        {
            return Contrast.Ratio(ink, 1);
        }

        found.Sort();
        var (dark, light) = (found[(int)(found.Count * Outliers)], found[(int)(found.Count * (1 - Outliers))]);
        return ink >= dark && ink <= light ? 1 : Math.Min(Contrast.Ratio(ink, dark), Contrast.Ratio(ink, light));
    }

    // The luminance of the last shape that fills a place with colour; null where nothing does.
    private static double? Ground(IEnumerable<Shape> shapes, double x, double y) =>
        shapes.OfType<PathShape>().LastOrDefault(p => p.Ground is { } box && box.Contains(x, y)) is { Fill: { } fill }
            ? Contrast.Luminance(Rgb.Parse(fill))
            : null;

    // Where a writing ink would not be seen: cells of a coarse grid whose ground is too near to it, as one box for each ink.
    private static IEnumerable<Finding> Inks(Pixels picture, int boardHeight)
    {
        var cell = (double)Board.Width / InkColumns;
        var rows = Math.Max(1, (int)(boardHeight / cell));
        var grounds = new double[rows, InkColumns];
        for (var r = 0; r < rows; r++)
        {
            for (var c = 0; c < InkColumns; c++)
            {
                var found = picture.Luminances(c * cell, r * cell, cell, cell, 60);
                found.Sort();
                grounds[r, c] = found.Count > 0 ? found[found.Count / 2] : 1;
            }
        }

        foreach (var ink in InkStyle.All.Where(s => s is { Tool: InkStyle.Pen, Width: "medium" }))
        {
            var luminance = Contrast.Luminance(Rgb.Parse(ink.Color));
            var hidden = new List<(int Row, int Column, double Ratio)>();
            for (var r = 0; r < rows; r++)
            {
                for (var c = 0; c < InkColumns; c++)
                {
                    if (Contrast.Ratio(luminance, grounds[r, c]) is < Contrast.ForGraphics and var ratio)
                    {
                        hidden.Add((r, c, ratio));
                    }
                }
            }

            // A few cells are details to be written around, not a ground to be written on.
            if (hidden.Count >= rows * InkColumns * 0.05)
            {
                var (left, top) = (hidden.Min(h => h.Column), hidden.Min(h => h.Row));
                yield return new Finding(
                    FindingKind.PaleInk, ink.Ink, Math.Round(hidden.Min(h => h.Ratio), 2), Contrast.ForGraphics,
                    left * cell, top * cell, (hidden.Max(h => h.Column) + 1 - left) * cell, (hidden.Max(h => h.Row) + 1 - top) * cell);
            }
        }
    }
}
