using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using ArchTalk.Web.Pages.Steps;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace ArchTalk.Web.TagHelpers;

/// <summary>
/// &lt;arch steps="…" /&gt;: the five steps as the five stones of a shallow arch, each with its word. Stones of steps that are done
/// are filled; the stone one stands on is marked; a step that can't be taken yet is no link and says why.
/// </summary>
[HtmlTargetElement("arch", Attributes = "steps", TagStructure = TagStructure.WithoutEndTag)]
public sealed class ArchTagHelper : TagHelper
{
    // In px: the arch's inner radius, the stones' height, and the half angle in degrees it spans.
    private const double Radius = 900;
    private const double Depth = 34;
    private const double HalfAngle = 14.5;
    private const double Joint = 0.18;

    public IReadOnlyList<StepStone> Steps { get; set; } = [];

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var outer = Radius + Depth;
        var width = (2 * outer * Math.Sin(Radians(HalfAngle))) + 4;
        var height = outer - (Radius * Math.Cos(Radians(HalfAngle))) + 4;
        output.TagName = "svg";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", "block max-w-full");
        output.Attributes.SetAttribute("viewBox", Invariant($"{-width / 2:0.#} {-outer - 2:0.#} {width:0.#} {height:0.#}"));
        output.Attributes.SetAttribute("width", Invariant($"{width:0}"));
        output.Attributes.SetAttribute("height", Invariant($"{height:0}"));
        output.Attributes.SetAttribute("role", "group");
        output.Attributes.SetAttribute("aria-label", "The steps of the lesson");
        var stones = new StringBuilder();
        var span = 2 * HalfAngle / Steps.Count;
        for (var i = 0; i < Steps.Count; i++)
        {
            Append(stones, Steps[i], -HalfAngle + (i * span) + Joint, -HalfAngle + ((i + 1) * span) - Joint);
        }

        output.Content.SetHtmlContent(stones.ToString());
    }

    private static void Append(StringBuilder svg, StepStone stone, double from, double to)
    {
        var middle = (from + to) / 2;
        var (textX, textY) = At(Radius + (Depth / 2), middle);
        var word = HtmlEncoder.Default.Encode(stone.Word);
        var title = HtmlEncoder.Default.Encode(stone.Hint);
        var classes = $"stone{(stone.IsDone ? " is-done" : "")}{(stone.Address is null ? " is-off" : "")}";
        var current = stone.IsCurrent ? " aria-current=\"step\"" : "";
        svg.Append(stone.Address is { } address
            ? $"<a class=\"{classes}\" href=\"{HtmlEncoder.Default.Encode(address)}\"{current}>"
            : $"<g class=\"{classes}\"{current}>");
        svg.Append("<title>").Append(title).Append("</title><path d=\"").Append(Outline(from, to)).Append("\"></path>");
        svg.Append(Invariant($"<text x=\"{textX:0.#}\" y=\"{textY:0.#}\" transform=\"rotate({middle:0.##} {textX:0.#} {textY:0.#})\">"));
        svg.Append(word).Append("</text>").Append(stone.Address is null ? "</g>" : "</a>");
    }

    private static string Outline(double from, double to)
    {
        var (ax, ay) = At(Radius, from);
        var (bx, by) = At(Radius + Depth, from);
        var (cx, cy) = At(Radius + Depth, to);
        var (dx, dy) = At(Radius, to);
        return Invariant(
            $"M{ax:0.##} {ay:0.##}L{bx:0.##} {by:0.##}A{Radius + Depth} {Radius + Depth} 0 0 1 {cx:0.##} {cy:0.##}L{dx:0.##} {dy:0.##}A{Radius} {Radius} 0 0 0 {ax:0.##} {ay:0.##}Z");
    }

    private static (double X, double Y) At(double radius, double degrees) =>
        (radius * Math.Sin(Radians(degrees)), -radius * Math.Cos(Radians(degrees)));

    private static double Radians(double degrees) => degrees * Math.PI / 180;

    private static string Invariant(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
