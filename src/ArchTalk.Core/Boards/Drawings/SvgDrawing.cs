using System.Globalization;
using System.Xml.Linq;

namespace ArchTalk.Core.Boards.Drawings;

/// <summary>Writes a drawing as SVG (W3C, SVG 1.1).</summary>
public static class SvgDrawing
{
    private static readonly XNamespace Svg = "http://www.w3.org/2000/svg";

    /// <param name="picture">Gives the address of a picture by the name of its file; null leaves pictures out.</param>
    public static XElement Write(Drawing drawing, Func<string, string?>? picture = null) => new(
        Svg + "svg",
        new XAttribute("viewBox", $"0 0 {Number(drawing.Width)} {Number(drawing.Height)}"),
        new XAttribute("width", Number(drawing.Width)),
        new XAttribute("height", Number(drawing.Height)),
        drawing.Shapes.Select(s => Write(s, picture)));

    private static XElement? Write(Shape shape, Func<string, string?>? picture) => shape switch
    {
        PictureShape shown => picture?.Invoke(shown.Src) is { } address ? Write(shown, address) : null,
        PathShape path => new XElement(
            Svg + "path",
            new XAttribute("d", path.D),
            new XAttribute("fill", path.Fill ?? "none"),
            path.Stroke is { } stroke
                ? new object[] { new XAttribute("stroke", stroke), new XAttribute("stroke-width", Number(path.StrokeWidth)) }
                : null,
            path.Dash > 0 ? new XAttribute("stroke-dasharray", Number(path.Dash)) : null,
            path.Transform is { } matrix
                ? new XAttribute("transform", $"matrix({string.Join(' ', matrix.Select(n => n.ToString("0.######", CultureInfo.InvariantCulture)))})")
                : null),
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

    // The whole picture is laid so that what is cut out of it fills the box; turned about the box's middle.
    private static XElement Write(PictureShape shown, string address)
    {
        var isSideways = shown.Turn % 2 == 1;
        var (width, height) = isSideways ? (shown.Height, shown.Width) : (shown.Width, shown.Height);
        var (left, top) = ((shown.Width - width) / 2, (shown.Height - height) / 2);
        var crop = shown.Crop;
        return new XElement(
            Svg + "svg",
            new XAttribute("width", Number(shown.Width)),
            new XAttribute("height", Number(shown.Height)),
            new XElement(
                Svg + "g",
                new XAttribute("transform", $"rotate({shown.Turn * 90} {Number(shown.Width / 2)} {Number(shown.Height / 2)})"),
                new XElement(
                    Svg + "svg",
                    new XAttribute("x", Number(left)),
                    new XAttribute("y", Number(top)),
                    new XAttribute("width", Number(width)),
                    new XAttribute("height", Number(height)),
                    new XElement(
                        Svg + "image",
                        new XAttribute("href", address),
                        new XAttribute("x", Number(-crop.X / crop.Width * width)),
                        new XAttribute("y", Number(-crop.Y / crop.Height * height)),
                        new XAttribute("width", Number(width / crop.Width)),
                        new XAttribute("height", Number(height / crop.Height)),
                        new XAttribute("preserveAspectRatio", "none")))));
    }

    private static string Number(double value) => value.ToString("0.##", CultureInfo.InvariantCulture);
}
