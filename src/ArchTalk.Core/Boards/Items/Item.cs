using System.Text.Json.Serialization;
using ArchTalk.Core.Boards.Figures;

namespace ArchTalk.Core.Boards.Items;

/// <summary>Something placed on a board before recording. Later items lie over earlier ones.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(TextItem), "text")]
[JsonDerivedType(typeof(FormulaItem), "formula")]
[JsonDerivedType(typeof(TableItem), "table")]
[JsonDerivedType(typeof(LabelItem), "label")]
[JsonDerivedType(typeof(CoverItem), "cover")]
[JsonDerivedType(typeof(BlankItem), "blank")]
[JsonDerivedType(typeof(FigureItem), "figure")]
[JsonDerivedType(typeof(PictureItem), "picture")]
public abstract record Item
{
    public required Guid Id { get; init; }

    /// <summary>Left edge in board units.</summary>
    public double X { get; init; }

    /// <summary>Top edge in board units.</summary>
    public double Y { get; init; }

    /// <summary>In board units.</summary>
    public double Width { get; init; }

    /// <summary>In board units. Writing and tables are as high as what is in them, whatever is asked for.</summary>
    public double Height { get; init; }

    /// <summary>Whether it is held in its place.</summary>
    public bool IsLocked { get; init; }

    /// <summary>What was typed into fields and could not be read as what they hold, by the field's path; see <see cref="TypedFields"/>.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyDictionary<string, string>? Typed { get; init; }
}

/// <summary>Letters that look alike and stand together.</summary>
/// <param name="Color">Name of a writing ink, or empty for blue-black.</param>
/// <param name="Highlight">Name of a highlighter, or empty for none.</param>
/// <param name="Ruby">A reading written small above the letters, or empty.</param>
/// <param name="Language">BCP 47 tag, or empty for the lesson's own.</param>
public sealed record TextRun(string Text, bool IsBold = false, string Color = "", string Highlight = "", string Ruby = "", string Language = "");

/// <summary>How a text item is set.</summary>
public static class TextSettings
{
    public const string AlignStart = "start";
    public const string AlignMiddle = "middle";
    public const string AlignEnd = "end";
    public const string ListNone = "none";
    public const string ListDots = "dots";
    public const string ListNumbers = "numbers";
}

/// <summary>Writing. Its width breaks the lines and never changes the size of the letters.</summary>
public sealed record TextItem : Item
{
    /// <summary>Name of one of <see cref="TextSizes.All"/>.</summary>
    public string Size { get; init; } = TextSizes.Reading;

    /// <summary>"start" (of the direction of writing), "middle" or "end".</summary>
    public string Align { get; init; } = TextSettings.AlignStart;

    /// <summary>"none", "dots" or "numbers".</summary>
    public string List { get; init; } = TextSettings.ListNone;

    public IReadOnlyList<IReadOnlyList<TextRun>> Paragraphs { get; init; } = [];
}

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

/// <summary>A cell of a table.</summary>
/// <param name="IsBlank">Shown empty, to be filled while recording or watching.</param>
/// <param name="Answers">Texts that count as right beside <paramref name="Text"/>.</param>
public sealed record TableCell(string Text, bool IsBlank, IReadOnlyList<string> Answers);

/// <summary>A table.</summary>
public sealed record TableItem : Item
{
    public IReadOnlyList<IReadOnlyList<TableCell>> Rows { get; init; } = [];

    public bool HasHeaderRow { get; init; } = true;

    public bool HasHeaderColumn { get; init; }

    public string Size { get; init; } = TextSizes.Small;
}

/// <summary>A name with a line to what it names.</summary>
public sealed record LabelItem : Item
{
    public string Text { get; init; } = "";

    /// <summary>Where its line ends, in board units.</summary>
    public double TipX { get; init; }

    public double TipY { get; init; }

    /// <summary>The vocabulary term it shows the place of.</summary>
    public Guid? TermId { get; init; }

    public string Language { get; init; } = "";

    /// <summary>On an unlabelled copy: the number shown instead of the text; 0 shows the text.</summary>
    public int Number { get; init; }
}

/// <summary>Something opaque over a part of the board, taken away while recording.</summary>
public sealed record CoverItem : Item
{
    /// <summary>What may stand on it, such as a question mark or a number.</summary>
    public string Text { get; init; } = "";
}

/// <summary>A place to be filled in: a line or a box, and what counts as right there.</summary>
public sealed record BlankItem : Item
{
    public bool IsBox { get; init; }

    public IReadOnlyList<string> Answers { get; init; } = [];
}

/// <summary>A figure computed from its parameters.</summary>
public sealed record FigureItem : Item
{
    public required Figure Figure { get; init; }
}

/// <summary>A picture on a board; its file lies with the board's.</summary>
public sealed record PictureItem : Item
{
    /// <summary>The name of its copy among the board's files: <see cref="PictureFiles"/> says what it may be.</summary>
    public string File { get; init; } = "";

    /// <summary>Width by height of the whole picture, before it is turned.</summary>
    public double Shape { get; init; } = 1;

    /// <summary>What of it is shown, as shares of its width and height from its top left corner.</summary>
    public Crop Crop { get; init; } = Crop.Whole;

    /// <summary>Quarter turns clockwise, 0 to 3.</summary>
    public int Turn { get; init; }

    /// <summary>What there is to see, for those who hear it.</summary>
    public string AlternativeText { get; init; } = "";
}

/// <summary>A part of a picture, as shares of its width and height.</summary>
public readonly record struct Crop(double X, double Y, double Width, double Height)
{
    public static readonly Crop Whole = new(0, 0, 1, 1);
}
