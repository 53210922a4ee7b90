using System.Globalization;
using System.Text.Json.Serialization;

namespace ArchTalk.Core.Boards.Drawings;

/// <summary>
/// What an item looks like, worked out once so that every painter shows the same: shapes from back to front, in board units
/// from the item's top left corner.
/// </summary>
/// <param name="Width">In board units.</param>
/// <param name="Height">In board units.</param>
public sealed record Drawing(double Width, double Height, IReadOnlyList<Shape> Shapes)
{
    public static readonly Drawing Empty = new(0, 0, []);
}

/// <summary>An item as painters show it: where it is on its board, in board units, and how it looks.</summary>
/// <param name="IsCover">Whether it can be lifted.</param>
public sealed record PlacedDrawing(Guid Id, double X, double Y, Drawing Drawing, bool IsCover = false);

/// <summary>A part of a drawing.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "is")]
[JsonDerivedType(typeof(PathShape), "path")]
[JsonDerivedType(typeof(TextShape), "text")]
[JsonDerivedType(typeof(PictureShape), "picture")]
public abstract record Shape;

/// <summary>A filled or stroked outline.</summary>
/// <param name="D">Path data of SVG 1.1, section 8.3; also what a canvas's Path2D takes.</param>
/// <param name="Fill">#RRGGBB, or null for none.</param>
/// <param name="Stroke">#RRGGBB, or null for none.</param>
/// <param name="StrokeWidth">In board units.</param>
/// <param name="Dash">Length of dashes and gaps in board units; 0 for an unbroken line.</param>
/// <param name="Transform">The six numbers of an SVG matrix, or null for none.</param>
public sealed record PathShape(
    string D, string? Fill, string? Stroke = null, double StrokeWidth = 0, double Dash = 0, IReadOnlyList<double>? Transform = null) : Shape
{
    /// <summary>The box it fills so that writing can stand on it; null for lines and letters. Painters don't need it.</summary>
    [JsonIgnore]
    public Box? Ground { get; private init; }

    /// <summary>A filled rectangle.</summary>
    public static PathShape Rectangle(double x, double y, double width, double height, string fill, string? stroke = null, double strokeWidth = 0) =>
        new(Outline.Rectangle(x, y, width, height), fill, stroke, strokeWidth) { Ground = new Box(x, y, width, height) };

    /// <summary>A filled circle.</summary>
    public static PathShape Circle(double x, double y, double radius, string fill, string? stroke = null, double strokeWidth = 0) =>
        new(Outline.Circle(x, y, radius), fill, stroke, strokeWidth) { Ground = new Box(x - radius, y - radius, 2 * radius, 2 * radius) };
}

/// <summary>A box in board units.</summary>
public readonly record struct Box(double X, double Y, double Width, double Height)
{
    public bool Contains(double x, double y) => x >= X && x <= X + Width && y >= Y && y <= Y + Height;
}

/// <summary>One line of writing, or a part of one.</summary>
/// <param name="X">Of the anchor, in board units.</param>
/// <param name="Y">Of the baseline, in board units.</param>
/// <param name="Size">Of the letters (the em) in board units.</param>
/// <param name="Fill">#RRGGBB.</param>
/// <param name="Anchor">Which end of the writing stands at X: "start" (of its direction), "middle" or "end".</param>
/// <param name="IsRightToLeft">Its base direction.</param>
/// <param name="Language">BCP 47 tag, or null for the lesson's.</param>
public sealed record TextShape(
    string Text, double X, double Y, double Size, string Fill, string Anchor = TextShape.Start, bool IsBold = false,
    bool IsRightToLeft = false, string? Language = null) : Shape
{
    public const string Start = "start";
    public const string Middle = "middle";
    public const string End = "end";
}

/// <summary>A picture that fills the drawing's box.</summary>
/// <param name="Src">The name of its file among the board's; where drawings are sent, its address.</param>
/// <param name="Crop">What of it is shown, before it is turned.</param>
/// <param name="Turn">Quarter turns clockwise.</param>
public sealed record PictureShape(string Src, double Width, double Height, Items.Crop Crop, int Turn) : Shape;

/// <summary>Path data for common outlines.</summary>
internal static class Outline
{
    public static string Rectangle(double x, double y, double width, double height) =>
        Invariant($"M{x:0.##} {y:0.##}h{width:0.##}v{height:0.##}h{-width:0.##}Z");

    public static string Circle(double x, double y, double radius) =>
        Invariant($"M{x - radius:0.##} {y:0.##}{Half(radius)}{Half(-radius)}Z");

    private static string Half(double radius) => Invariant($"a{Math.Abs(radius):0.##} {Math.Abs(radius):0.##} 0 1 0 {2 * radius:0.##} 0");

    public static string Line(double x0, double y0, double x1, double y1) => Invariant($"M{x0:0.##} {y0:0.##}L{x1:0.##} {y1:0.##}");

    public static string Polygon(params ReadOnlySpan<(double X, double Y)> corners) => Run(corners) + "Z";

    public static string Run(params ReadOnlySpan<(double X, double Y)> points)
    {
        var text = new System.Text.StringBuilder();
        foreach (var (x, y) in points)
        {
            text.Append(CultureInfo.InvariantCulture, $"{(text.Length == 0 ? 'M' : 'L')}{x:0.##} {y:0.##}");
        }

        return text.ToString();
    }

    private static string Invariant(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
