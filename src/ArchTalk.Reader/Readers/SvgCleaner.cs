using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using System.Xml;
using System.Xml.Linq;
using ArchTalk.Core.Boards;

namespace ArchTalk.Reader.Readers;

/// <summary>
/// SVG pictures from outside. Only what draws is kept, by an allow-list of elements and attributes; scripts, events, outside
/// references, entities and styles that load anything are left out or refused. The result is shown as an image only.
/// </summary>
internal static partial class SvgCleaner
{
    private const long MostCharacters = 20_000_000;
    private static readonly XNamespace Svg = "http://www.w3.org/2000/svg";
    private static readonly XNamespace Link = "http://www.w3.org/1999/xlink";

    private static readonly HashSet<string> Elements = new(StringComparer.Ordinal)
    {
        "svg", "g", "defs", "symbol", "use", "title", "desc", "path", "rect", "circle", "ellipse", "line", "polyline", "polygon", "text", "tspan",
        "textPath",
        "linearGradient", "radialGradient", "stop", "clipPath", "mask", "pattern", "marker", "image", "style", "filter", "feGaussianBlur",
        "feOffset", "feBlend",
        "feMerge", "feMergeNode", "feColorMatrix", "feFlood", "feComposite", "switch",
    };

    private static readonly HashSet<string> Attributes = new(StringComparer.Ordinal)
    {
        "id", "class", "style", "transform", "d", "x", "y", "x1", "y1", "x2", "y2", "cx", "cy", "r", "rx", "ry", "fx", "fy", "width", "height",
        "points", "viewBox",
        "preserveAspectRatio", "version", "offset", "dx", "dy", "rotate", "textLength", "lengthAdjust", "startOffset", "pathLength", "gradientUnits",
        "gradientTransform",
        "spreadMethod", "clipPathUnits", "maskUnits", "maskContentUnits", "patternUnits", "patternContentUnits", "patternTransform", "markerUnits",
        "markerWidth", "markerHeight",
        "refX", "refY", "orient", "in", "in2", "result", "stdDeviation", "mode", "type", "values", "operator", "k1", "k2", "k3", "k4", "filterUnits",
        "primitiveUnits",
        "fill", "fill-opacity", "fill-rule", "stroke", "stroke-width", "stroke-opacity", "stroke-linecap", "stroke-linejoin", "stroke-miterlimit",
        "stroke-dasharray",
        "stroke-dashoffset", "opacity", "color", "display", "visibility", "overflow", "clip-path", "clip-rule", "mask", "filter", "marker-start",
        "marker-mid", "marker-end",
        "stop-color", "stop-opacity", "flood-color", "flood-opacity", "font-family", "font-size", "font-style", "font-weight", "font-variant",
        "font-stretch", "text-anchor",
        "text-decoration", "letter-spacing", "word-spacing", "dominant-baseline", "alignment-baseline", "baseline-shift", "direction",
        "unicode-bidi", "writing-mode",
        "paint-order", "vector-effect", "shape-rendering", "text-rendering", "image-rendering", "mix-blend-mode", "lang",
    };

    /// <summary>Reads an SVG picture and writes what draws of it.</summary>
    /// <exception cref="MediaException">It is broken, hostile, or larger than the limits.</exception>
    public static void Write(string file, string target, MediaLimits limits)
    {
        using var stream = File.OpenRead(file);
        File.WriteAllText(target, Clean(stream, limits).ToString(SaveOptions.DisableFormatting), new UTF8Encoding(false));
    }

    /// <summary>The picture with nothing in it but what draws.</summary>
    /// <param name="isBoard">Whether it becomes 1600 units wide; else it stays as large as it says.</param>
    /// <exception cref="MediaException">It is broken, hostile, or larger than the limits.</exception>
    public static XDocument Clean(Stream stream, MediaLimits limits, bool isBoard = true)
    {
        XElement root;
        try
        {
            using var reader = XmlReader.Create(
                stream, new XmlReaderSettings
                {
                    DtdProcessing = DtdProcessing.Prohibit,
                    XmlResolver = null,
                    MaxCharactersInDocument = MostCharacters
                });
            root = Load(reader, limits);
        }
        catch (XmlException e)
        {
            throw new MediaException(
                e.Message.Contains("DTD", StringComparison.Ordinal)
                    ? "The SVG picture has a document type of its own, which could pull in other files, so it was not opened. Export it again as "
                        + "“plain SVG”, or as PNG."
                    : $"The SVG picture is broken near line {e.LineNumber}. Export it again, or as PNG.", e);
        }

        if (root.Name != Svg + "svg")
        {
            throw new MediaException("The file is XML but not an SVG picture. Export the picture again as SVG or PNG.");
        }

        var count = 0;
        var clean = Copy(root, limits, ref count)!;
        CheckUses(clean, limits);
        if (isBoard)
        {
            Size(clean);
        }

        return new XDocument(clean);
    }

    // Depth is held while reading: building a tree of a million levels would be too late.
    private static XElement Load(XmlReader reader, MediaLimits limits)
    {
        XElement? root = null;
        var open = new Stack<XElement>();
        while (reader.Read())
        {
            switch (reader.NodeType)
            {
                case XmlNodeType.Element:
                    var element = new XElement(XName.Get(reader.LocalName, reader.NamespaceURI));
                    var isEmpty = reader.IsEmptyElement;
                    while (reader.MoveToNextAttribute())
                    {
                        if (reader.Prefix != "xmlns" && reader.Name != "xmlns")
                        {
                            element.SetAttributeValue(XName.Get(reader.LocalName, reader.NamespaceURI), reader.Value);
                        }
                    }

                    if (open.Count > 0)
                    {
                        open.Peek().Add(element);
                    }

                    root ??= element;
                    if (!isEmpty)
                    {
                        open.Push(element);
                    }

                    if (open.Count > limits.SvgDepth)
                    {
                        throw new MediaException($"The SVG picture is nested more than {limits.SvgDepth} levels deep, so it was not opened. Export "
                            + $"it again as “plain SVG”, or as PNG.");
                    }

                    break;
                case XmlNodeType.EndElement:
                    open.Pop();
                    break;
                case XmlNodeType.Text or XmlNodeType.CDATA or XmlNodeType.SignificantWhitespace or XmlNodeType.Whitespace when open.Count > 0:
                    open.Peek().Add(new XText(reader.Value));
                    break;
                default:
                    break;
            }
        }

        return root ?? throw new XmlException("There is no element.");
    }

    private static XElement? Copy(XElement from, MediaLimits limits, ref int count)
    {
        if (from.Name.Namespace != Svg || !Elements.Contains(from.Name.LocalName))
        {
            return null;
        }

        if (++count > limits.SvgElements)
        {
            throw new MediaException($"The SVG picture has more than {limits.SvgElements} parts. Simplify it, or export it as PNG.");
        }

        var to = new XElement(from.Name);
        foreach (var attribute in from.Attributes())
        {
            if (attribute.Name == Link + "href" || attribute.Name == "href")
            {
                if (Reference(from.Name.LocalName, attribute.Value) is { } reference)
                {
                    to.SetAttributeValue("href", reference);
                }
            }
            else if (attribute.Name.Namespace == XNamespace.None && Attributes.Contains(attribute.Name.LocalName) && IsHarmless(attribute.Value))
            {
                to.SetAttributeValue(attribute.Name, attribute.Value);
            }
            else if (attribute.Name == XNamespace.Xml + "space")
            {
                to.SetAttributeValue(attribute.Name, attribute.Value);
            }
        }

        // A style is one text, however many pieces it is written in.
        if (from.Name.LocalName == "style" && IsHarmless(from.Value))
        {
            to.Add(new XText(from.Value));
        }

        foreach (var node in from.Nodes())
        {
            if (node is XElement child && Copy(child, limits, ref count) is { } kept)
            {
                to.Add(kept);
            }
            else if (node is XText text && from.Name.LocalName != "style")
            {
                to.Add(new XText(text.Value));
            }
        }

        return to;
    }

    // Only what lies in the picture itself: a part of it, or pixels written into it.
    private static string? Reference(string element, string value) =>
        value.StartsWith('#') ? value : element == "image" && InnerPicture().IsMatch(value) ? value : null;

    private static bool IsHarmless(string value) =>
        !value.Contains("javascript:", StringComparison.OrdinalIgnoreCase) && !value.Contains("@import", StringComparison.OrdinalIgnoreCase)
        && !value.Contains("expression(", StringComparison.OrdinalIgnoreCase) && !value.Contains('\\', StringComparison.Ordinal)
        && OutsideUrl().Matches(value).Count == 0;

    // "use" can repeat what it points at, which can hold further uses: the whole is counted as it would be drawn.
    private static void CheckUses(XElement root, MediaLimits limits)
    {
        var byId = root.DescendantsAndSelf().Where(e => e.Attribute("id") is not null)
            .GroupBy(e => e.Attribute("id")!.Value, StringComparer.Ordinal).ToDictionary(g => g.Key, g => g.First(), StringComparer.Ordinal);
        var sizes = new Dictionary<XElement, long>();
        var open = new HashSet<XElement>();
        if (SizeOf(root) > limits.SvgElements * 4L)
        {
            throw new MediaException(
                "The SVG picture repeats itself so often that it could not be drawn. Export it again as “plain SVG”, or as PNG.");
        }

        long SizeOf(XElement element)
        {
            if (sizes.TryGetValue(element, out var known))
            {
                return known;
            }

            if (!open.Add(element))
            {
                throw new MediaException(
                    "The SVG picture uses a part of itself within that part, without end, so it was not opened. Export it again, or as PNG.");
            }

            long size = 1 + element.Elements().Sum(SizeOf);
            if (element.Name.LocalName == "use" && (string?)element.Attribute("href") is { } href && byId.TryGetValue(href[1..], out var target))
            {
                size += SizeOf(target);
            }

            open.Remove(element);
            return sizes[element] = Math.Min(size, int.MaxValue);
        }
    }

    // Every board is 1600 wide; the picture says so itself, for painters that ask it.
    private static void Size(XElement root)
    {
        double Number(string name) => LengthValue().Match((string?)root.Attribute(name) ?? "") is { Success: true } match
            ? double.Parse(match.Groups["number"].Value, CultureInfo.InvariantCulture) * Unit(match.Groups["unit"].Value) : 0;
        var box = ((string?)root.Attribute("viewBox") ?? "").Split([' ', ',', '\t', '\n'], StringSplitOptions.RemoveEmptyEntries)
            .Select(n => double.TryParse(n, NumberStyles.Float, CultureInfo.InvariantCulture, out var value) ? value : double.NaN).ToArray();
        var (width, height) = (Number("width"), Number("height"));
        if (box.Length != 4 || box.Any(n => !double.IsFinite(n)) || box[2] <= 0 || box[3] <= 0)
        {
            if (width <= 0 || height <= 0)
            {
                throw new MediaException("The SVG picture doesn't say how large it is. Export it again with a page size, or as PNG.");
            }

            root.SetAttributeValue("viewBox", string.Create(CultureInfo.InvariantCulture, $"0 0 {width} {height}"));
            box = [0, 0, width, height];
        }

        root.SetAttributeValue("width", Board.Width);
        root.SetAttributeValue("height", Math.Clamp((int)Math.Round(Board.Width * box[3] / box[2]), 1, Board.MaxHeight));
    }

    // CSS Values: 96 pixels to the inch.
    private static double Unit(string unit) =>
        unit switch { "mm" => 96 / 25.4, "cm" => 96 / 2.54, "in" => 96, "pt" => 96 / 72.0, "pc" => 16, "%" => 0, _ => 1 };

    [GeneratedRegex("^data:image/(png|jpeg|webp|gif);base64,[A-Za-z0-9+/=\\s]+$", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex InnerPicture();

    [GeneratedRegex(@"url\(\s*['""]?\s*(?!#)[^\s'"")]", RegexOptions.IgnoreCase, 1000)]
    private static partial Regex OutsideUrl();

    [GeneratedRegex(@"^\s*(?<number>[0-9.]+(e[0-9]+)?)\s*(?<unit>[a-z%]*)\s*$", RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex LengthValue();
}
