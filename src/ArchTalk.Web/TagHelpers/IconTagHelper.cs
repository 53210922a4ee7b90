using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace ArchTalk.Web.TagHelpers;

/// <summary>&lt;icon name="play" /&gt;: an icon of the shipped set; always beside a word, so hidden from screen readers.</summary>
[HtmlTargetElement("icon", Attributes = "name", TagStructure = TagStructure.WithoutEndTag)]
public sealed class IconTagHelper(IFileVersionProvider versions) : TagHelper
{
    public string Name { get; set; } = "";

    [ViewContext]
    [HtmlAttributeNotBound]
    public ViewContext ViewContext { get; set; } = null!;

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        output.TagName = "svg";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", "icon");
        output.Attributes.SetAttribute("aria-hidden", "true");
        var sprite = versions.AddFileVersionToPath(ViewContext.HttpContext.Request.PathBase, "/app/icons.svg");
        output.Content.SetHtmlContent($"<use href=\"{sprite}#{Name}\"></use>");
    }
}
