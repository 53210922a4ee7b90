namespace ArchTalk.Core.Boards.Items;

/// <summary>A formula: typed as TeX, typeset once in the browser, kept as outlines and as MathML.</summary>
public sealed record FormulaItem : Item
{
    public string Tex { get; init; } = "";

    /// <summary>MathML Core markup, for those who hear it.</summary>
    public string MathMl { get; init; } = "";

    /// <summary>What the typesetter drew, as SVG; kept as <see cref="MathSvg"/> leaves it.</summary>
    public string Svg { get; init; } = "";

    public string Color { get; init; } = "";

    /// <summary>What the typesetter said when it could not set the formula as it is typed now; empty when it could.</summary>
    public string Problem { get; init; } = "";

    /// <summary>Name of one of <see cref="TextSizes.All"/>: the size of the letters.</summary>
    public string Size { get; init; } = TextSizes.Reading;
}
