using System.Globalization;
using System.Text.RegularExpressions;
using System.Xml;
using System.Xml.Linq;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Formats;

namespace ArchTalk.Core.Boards.Items;

/// <summary>
/// Reads the SVG of a typeset formula. Nothing of the markup itself is kept: only outlines, rectangles and transforms pass, as
/// numbers, so what is stored can do nothing but be drawn.
/// </summary>
public static partial class MathSvg
{
    /// <summary>The typesetter's unit: a thousandth of an em.</summary>
    private const double UnitsPerEm = 1000;

    private const int DeepestGroup = 60;
    private const int MostShapes = 5000;

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
    public static string? Fault(string svg) => Draw(svg, UnitsPerEm, "#000000").Shapes.Count > 0 ? null
        : "The formula could not be typeset. Look for a bracket that isn't closed or a command that is misspelled.";

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
            switch (child.Name.LocalName)
            {
                case "g":
                    Collect(child, own, color, shapes, depth + 1);
                    break;
                case "svg" when ViewBox(child) is { } box:
                    var numbers = Inner(child);
                    var inner = own.Times(new Matrix(numbers.Width / box.Width, 0, 0, numbers.Height / box.Height,
                        numbers.X - (box.X * numbers.Width / box.Width), numbers.Y - (box.Y * numbers.Height / box.Height)));
                    Collect(child, inner, color, shapes, depth + 1);
                    break;
                case "path" when (string?)child.Attribute("d") is { Length: > 0 } data && PathData().IsMatch(data):
                    shapes.Add(new PathShape(data, color, Transform: own.ToNumbers()));
                    break;
                case "rect":
                    var (x, y, width, height) = (Number(child, "x"), Number(child, "y"), Number(child, "width"), Number(child, "height"));
                    shapes.Add(new PathShape(Outline.Rectangle(x, y, width, height), color, Transform: own.ToNumbers()));
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
        [.. text.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries).Select(t => double.Parse(t, NumberStyles.Float, CultureInfo.InvariantCulture))];

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
