using System.Globalization;
using System.Xml.Linq;

namespace ArchTalk.Core.Boards.Drawings;

/// <summary>Writes a drawing as SVG (W3C, SVG 1.1).</summary>
public static class SvgDrawing
{
    private static readonly XNamespace Svg = "http://www.w3.org/2000/svg";

    public static XElement Write(Drawing drawing) => new(
        Svg + "svg",
        new XAttribute("viewBox", $"0 0 {Number(drawing.Width)} {Number(drawing.Height)}"),
        new XAttribute("width", Number(drawing.Width)),
        new XAttribute("height", Number(drawing.Height)),
        drawing.Shapes.Select(Write));

    private static XElement Write(Shape shape) => shape switch
    {
        PathShape path => new XElement(
            Svg + "path",
            new XAttribute("d", path.D),
            new XAttribute("fill", path.Fill ?? "none"),
            path.Stroke is { } stroke ? new object[] { new XAttribute("stroke", stroke), new XAttribute("stroke-width", Number(path.StrokeWidth)) } : null,
            path.Dash > 0 ? new XAttribute("stroke-dasharray", Number(path.Dash)) : null,
            path.Transform is { } matrix ? new XAttribute("transform", $"matrix({string.Join(' ', matrix.Select(n => n.ToString("0.######", CultureInfo.InvariantCulture)))})") : null),
        TextShape text => new XElement(
            Svg + "text",
            new XAttribute("x", Number(text.X)),
            new XAttribute("y", Number(text.Y)),
            new XAttribute("font-size", Number(text.Size)),
            new XAttribute("fill", text.Fill),
            new XAttribute("text-anchor", text.Anchor),
            new XAttribute(XNamespace.Xml + "space", "preserve"),
            text.IsBold ? new XAttribute("font-weight", "bold") : null,
            text.IsRightToLeft ? new XAttribute("direction", "rtl") : null,
            text.Language is { } language ? new XAttribute(XNamespace.Xml + "lang", language) : null,
            text.Text),
        _ => throw new ArgumentOutOfRangeException(nameof(shape)),
    };

    private static string Number(double value) => value.ToString("0.##", CultureInfo.InvariantCulture);
}
