using System.Globalization;
using System.Text.RegularExpressions;
using System.Xml;
using System.Xml.Linq;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Ink;

namespace ArchTalk.Core.Boards.Items;

/// <summary>
/// Reads the SVG of a typeset formula. Nothing of the markup itself is kept: only outlines, rectangles, lines, writing, the names of our
/// inks and transforms pass, as numbers and names, so what is stored can do nothing but be drawn.
/// </summary>
public static partial class MathSvg
{
    /// <summary>The typesetter's unit: a thousandth of an em.</summary>
    private const double UnitsPerEm = 1000;

    /// <summary>How thick the lines of an array are, in thousandths of an em (the typesetter's own style).</summary>
    private const double ArrayLine = 60;

    // Ink names that everybody tries first.
    private static readonly Dictionary<string, string> Known = new(StringComparer.OrdinalIgnoreCase)
    {
        ["red"] = "vermilion",
        ["orange"] = "vermilion",
        ["black"] = "blue-black"
    };

    private const int DeepestGroup = 60;
    private const int MostShapes = 5000;
    private const int LongestText = 1000;

    /// <summary>The formula's outlines with an em of the given size.</summary>
    /// <param name="svg">As typeset, with a viewBox in thousandths of an em.</param>
    /// <param name="em">In board units.</param>
    /// <param name="color">#RRGGBB.</param>
    /// <returns>An empty drawing when it can't be read.</returns>
    public static Drawing Draw(string svg, double em, string color)
    {
        if (Parse(svg) is not { } root || ViewBox(root) is not { } box)
        {
            return Drawing.Empty;
        }

        var scale = em / UnitsPerEm;
        var shapes = new List<Shape>();
        try
        {
            Collect(root, new Matrix(scale, 0, 0, scale, -box.X * scale, -box.Y * scale), color, shapes, 0);
        }
        catch (FormatException)
        {
            return Drawing.Empty;
        }

        return new Drawing(box.Width * scale, box.Height * scale, shapes);
    }

    /// <summary>What is wrong with the markup, or null.</summary>
    public static string? Fault(string svg) => Draw(svg, UnitsPerEm, "#000000").Shapes.Count > 0 ? UnknownInk(svg)
        : "The formula could not be typeset. Look for a bracket that isn't closed or a command that is misspelled.";

    private static string? UnknownInk(string svg) =>
        Parse(svg)?.DescendantsAndSelf().SelectMany(e => e.Attributes("fill").Concat(e.Attributes("stroke"))).Select(a => a.Value)
            .FirstOrDefault(v => v is not ("none" or "currentColor") && Ink(v) is null) is { } unknown
            ? $"“{unknown}” in the formula is none of our inks. Write one of "
                + $"{string.Join(", ", InkStyle.All.Where(s => s is { Tool: InkStyle.Pen, Width: "medium" }).Select(s => s.Ink))}."
            : null;

    private static string? Ink(string name) =>
        InkStyle.All.FirstOrDefault(s => s is { Tool: InkStyle.Pen, Width: "medium" } && s.Ink == Known.GetValueOrDefault(name, name))?.Color;

    private static XElement? Parse(string svg)
    {
        try
        {
            return BoundedXml.Load(() => new StringReader(svg), 1_000_000, DeepestGroup + 1).Root;
        }
        catch (XmlException)
        {
            return null;
        }
    }

    private static (double X, double Y, double Width, double Height)? ViewBox(XElement root)
    {
        var numbers = Numbers((string?)root.Attribute("viewBox") ?? "");
        return root.Name.LocalName == "svg" && numbers is [var x, var y, > 0 and < 1e6, > 0 and < 1e6] ? (x, y, numbers[2], numbers[3]) : null;
    }

    private static void Collect(XElement element, Matrix matrix, string color, List<Shape> shapes, int depth)
    {
        if (depth > DeepestGroup || shapes.Count > MostShapes)
        {
            throw new FormatException("The formula is too large.");
        }

        foreach (var child in element.Elements())
        {
            var own = matrix.Times(Transform((string?)child.Attribute("transform") ?? ""));
            var ink = Ink((string?)child.Attribute("fill") ?? "") ?? Ink((string?)child.Attribute("stroke") ?? "") ?? color;
            switch (child.Name.LocalName)
            {
                case "g":
                    Collect(child, own, ink, shapes, depth + 1);
                    break;
                case "svg" when ViewBox(child) is { } box:
                    var numbers = Inner(child);
                    var inner = own.Times(new Matrix(numbers.Width / box.Width, 0, 0, numbers.Height / box.Height,
                        numbers.X - (box.X * numbers.Width / box.Width), numbers.Y - (box.Y * numbers.Height / box.Height)));
                    Collect(child, inner, ink, shapes, depth + 1);
                    break;
                case "path" when (string?)child.Attribute("d") is { Length: > 0 } data && PathData().IsMatch(data):
                    shapes.Add(new PathShape(data, ink, Transform: own.ToNumbers()));
                    break;
                case "rect":
                    var (x, y, width, height) = (Number(child, "x"), Number(child, "y"), Number(child, "width"), Number(child, "height"));
                    shapes.Add((string?)child.Attribute("fill") == "none"
                        ? new PathShape(Outline.Rectangle(x, y, width, height), null, ink, Number(child, "stroke-width"), Transform: own.ToNumbers())
                        : new PathShape(Outline.Rectangle(x, y, width, height), ink, Transform: own.ToNumbers()));
                    break;
                case "line":
                    var line = Outline.Line(Number(child, "x1"), Number(child, "y1"), Number(child, "x2"), Number(child, "y2"));
                    var isDashed = ((string?)child.Attribute("class"))?.Contains("dash", StringComparison.Ordinal) == true;
                    shapes.Add(new PathShape(
                        line,
                        null,
                        ink,
                        Number(child, "stroke-width") is > 0 and var thick ? thick : ArrayLine,
                        isDashed ? 140 : 0,
                        own.ToNumbers()));
                    break;
                case "ellipse":
                    var (cx, cy, rx, ry) = (Number(child, "cx"), Number(child, "cy"), Number(child, "rx"), Number(child, "ry"));
                    shapes.Add(new PathShape(FormattableString.Invariant(
                        $"M{cx - rx:0.##} {cy:0.##}a{rx:0.##} {ry:0.##} 0 1 0 {2 * rx:0.##} 0a{rx:0.##} {ry:0.##} 0 1 0 {-2 * rx:0.##} 0Z"), null,
                            ink, Number(child, "stroke-width"), Transform: own.ToNumbers()));
                    break;
                case "text" when child.Value.Length is > 0 and <= LongestText:
                    // Writing stands upright: the typesetter turns the sheet over, and the writing back.
                    var isBold = (string?)child.Attribute("font-weight") == "bold"
                        || ((string?)child.Attribute("style"))?.Contains("bold", StringComparison.Ordinal) == true;
                    var size = double.TryParse(
                        ((string?)child.Attribute("font-size"))?.Replace("px", "", StringComparison.Ordinal),
                        NumberStyles.Float,
                        CultureInfo.InvariantCulture,
                        out var em) ? em : UnitsPerEm;
                    shapes.Add(new TextShape(
                        child.Value,
                        Math.Round(own.E, 2),
                        Math.Round(own.F, 2),
                        Math.Round(size * Math.Abs(own.A), 2),
                        ink,
                        IsBold: isBold,
                        IsRightToLeft: TextSetter.Direction(child.Value) ?? false));
                    break;
                default:
                    break;
            }
        }
    }

    private static (double X, double Y, double Width, double Height) Inner(XElement child) =>
        (Number(child, "x"), Number(child, "y"), Number(child, "width"), Number(child, "height"));

    private static double Number(XElement element, string name) =>
        double.TryParse((string?)element.Attribute(name), NumberStyles.Float, CultureInfo.InvariantCulture, out var value) ? value : 0;

    private static Matrix Transform(string text)
    {
        var matrix = Matrix.Identity;
        foreach (Match match in TransformPart().Matches(text))
        {
            var n = Numbers(match.Groups["numbers"].Value);
            matrix = matrix.Times((match.Groups["name"].Value, n) switch
            {
                ("translate", [var x]) => new Matrix(1, 0, 0, 1, x, 0),
                ("translate", [var x, var y]) => new Matrix(1, 0, 0, 1, x, y),
                ("scale", [var s]) => new Matrix(s, 0, 0, s, 0, 0),
                ("scale", [var sx, var sy]) => new Matrix(sx, 0, 0, sy, 0, 0),
                ("matrix", [var a, var b, var c, var d, var e, var f]) => new Matrix(a, b, c, d, e, f),
                _ => throw new FormatException("An unknown transform."),
            });
        }

        return matrix;
    }

    private static double[] Numbers(string text) =>
        [.. text.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries)
            .Select(t => double.Parse(t, NumberStyles.Float, CultureInfo.InvariantCulture))];

    [GeneratedRegex(@"^[MmLlHhVvCcSsQqTtAaZz0-9eE+\-., ]+$", RegexOptions.None, 1000)]
    private static partial Regex PathData();

    [GeneratedRegex(@"(?<name>[a-zA-Z]+)\((?<numbers>[^)]*)\)", RegexOptions.None, 1000)]
    private static partial Regex TransformPart();

    private readonly record struct Matrix(double A, double B, double C, double D, double E, double F)
    {
        public static readonly Matrix Identity = new(1, 0, 0, 1, 0, 0);

        public Matrix Times(Matrix m) => new(
            (A * m.A) + (C * m.B), (B * m.A) + (D * m.B), (A * m.C) + (C * m.D), (B * m.C) + (D * m.D),
            (A * m.E) + (C * m.F) + E, (B * m.E) + (D * m.F) + F);

        public double[] ToNumbers() => [.. new[] { A, B, C, D, E, F }.Select(n => Math.Round(n, 6))];
    }
}
