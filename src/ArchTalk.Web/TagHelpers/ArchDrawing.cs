using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Web.TagHelpers;

/// <summary>
/// The five steps as the five stones of a shallow arch, each with its word. Stones of steps that are done are filled; the stone one
/// stands on is marked; a step that can't be taken yet is no link and says why. The page fetches it anew when a step opens.
/// </summary>
public static class ArchDrawing
{
    // In px: the arch's inner radius, the stones' height, and the half angle in degrees it spans.
    private const double Radius = 900;
    private const double Depth = 34;
    private const double HalfAngle = 14.5;
    private const double Joint = 0.18;
    private const double Outer = Radius + Depth;

    private static readonly LessonStep[] Steps = Enum.GetValues<LessonStep>();

    /// <summary>As a whole svg element.</summary>
    /// <param name="lesson">For the addresses of the steps.</param>
    /// <param name="watchToken">Of the students' link.</param>
    public static string Svg(Guid lesson, string? watchToken, LessonProgress progress, LessonStep current)
    {
        var width = (2 * Outer * Math.Sin(Radians(HalfAngle))) + 4;
        var height = Outer - (Radius * Math.Cos(Radians(HalfAngle))) + 4;
        var box = Invariant($"{-width / 2:0.#} {-Outer - 2:0.#} {width:0.#} {height:0.#}");
        var svg = new StringBuilder($"<svg class=\"arch\" viewBox=\"{box}\" role=\"group\" aria-label=\"The steps of the lesson\">");
        var span = 2 * HalfAngle / Steps.Length;
        foreach (var step in Steps)
        {
            var from = -HalfAngle + ((int)step * span);
            var address = !progress.CanTake(step) ? null : step == LessonStep.Watch ? $"/w/{watchToken}" : Address(lesson, step);
            Append(svg, step, address, progress, step == current, from + Joint, from + span - Joint);
        }

        return svg.Append("</svg>").ToString();
    }

    /// <summary>Where a step of a lesson is taken.</summary>
    public static string Address(Guid lesson, LessonStep step) => $"/lessons/{lesson:N}/{step.ToString().ToLowerInvariant()}";

    private static void Append(StringBuilder svg, LessonStep step, string? address, LessonProgress progress, bool isCurrent, double from, double to)
    {
        var middle = (from + to) / 2;
        var (textX, textY) = At(Radius + (Depth / 2), middle);
        var classes = $"stone{(progress.IsDone(step) ? " is-done" : "")}{(address is null ? " is-off" : "")}";
        var current = isCurrent ? " aria-current=\"step\"" : "";
        svg.Append(address is null
            ? $"<g class=\"{classes}\"{current}>"
            : $"<a class=\"{classes}\" href=\"{HtmlEncoder.Default.Encode(address)}\"{current}>");
        svg.Append("<title>").Append(HtmlEncoder.Default.Encode(progress.Hint(step))).Append("</title><path d=\"").Append(Outline(from, to))
            .Append("\"></path>");
        svg.Append(Invariant($"<text x=\"{textX:0.#}\" y=\"{textY:0.#}\" transform=\"rotate({middle:0.##} {textX:0.#} {textY:0.#})\">"));
        svg.Append(step).Append("</text>").Append(address is null ? "</g>" : "</a>");
    }

    private static string Outline(double from, double to)
    {
        var (ax, ay) = At(Radius, from);
        var (bx, by) = At(Outer, from);
        var (cx, cy) = At(Outer, to);
        var (dx, dy) = At(Radius, to);
        return Invariant($"M{ax:0.##} {ay:0.##}L{bx:0.##} {by:0.##}A{Outer} {Outer} 0 0 1 {cx:0.##} {cy:0.##}")
            + Invariant($"L{dx:0.##} {dy:0.##}A{Radius} {Radius} 0 0 0 {ax:0.##} {ay:0.##}Z");
    }

    private static (double X, double Y) At(double radius, double degrees) =>
        (radius * Math.Sin(Radians(degrees)), -radius * Math.Cos(Radians(degrees)));

    private static double Radians(double degrees) => degrees * Math.PI / 180;

    private static string Invariant(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
