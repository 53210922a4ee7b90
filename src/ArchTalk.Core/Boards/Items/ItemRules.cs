using System.Xml;
using System.Xml.Linq;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Boards.Items;

/// <summary>What may stand on a board: all items put in order, and what is wrong with each.</summary>
public static class ItemRules
{
    public const int MostItems = 300;

    /// <summary>Longest writing of one item in characters.</summary>
    public const int LongestText = 4000;

    /// <summary>Most characters of a whole table: more can't be read on one board.</summary>
    public const int LongestTable = 12_000;

    private const int LongestCell = 400;
    private const int LongestLabel = 120;
    private const int LongestCover = 40;
    private const int LongestRuby = 60;
    private const int DeepestFormula = 60;
    private const double Smallest = 8;
    private const int MostRows = 60;
    private const int MostColumns = 20;
    private static readonly XNamespace MathMl = "http://www.w3.org/1998/Math/MathML";

    // MathML Core's presentation elements, and the few attributes that carry meaning.
    private static readonly HashSet<string> MathElements = new(StringComparer.Ordinal)
    {
        "math", "mrow", "mi", "mn", "mo", "mtext", "mspace", "ms", "mfrac", "msqrt", "mroot", "mstyle", "mpadded", "mphantom", "msub", "msup",
        "msubsup",
        "munder", "mover", "munderover", "mmultiscripts", "mprescripts", "none", "mtable", "mtr", "mtd", "menclose",
    };

    private static readonly HashSet<string> MathAttributes = new(StringComparer.Ordinal)
    {
        "display", "mathvariant", "stretchy", "fence", "separator", "accent", "accentunder", "displaystyle", "scriptlevel", "columnalign",
        "notation", "linethickness",
    };

    /// <summary>Gives the items back put in order, or why they can't be kept at all.</summary>
    public static Checked<IReadOnlyList<Item>> Check(IReadOnlyList<Item> items)
    {
        if (items.Count > MostItems)
        {
            return $"There are {items.Count} items on this board; at most {MostItems} fit.";
        }

        if (items.Select(i => i.Id).Distinct().Count() != items.Count)
        {
            return "Two items on this board have the same identity, so nothing was saved. Reload the page.";
        }

        return items.Any(i => !HasPlace(i))
            ? "Something on this board has no place, so nothing was saved. Reload the page."
            : new Checked<IReadOnlyList<Item>>([.. items.Select(Tidy)], null);
    }

    /// <summary>
    /// What is wrong with one item, said so that a teacher can mend it; null when it is right. A wrong item is kept as it was typed and
    /// holds up no other; until it is mended only its teacher sees it.
    /// </summary>
    public static string? Fault(Item item) => item switch
    {
        TextItem text => Text(text),
        FormulaItem formula => Formula(formula),
        TableItem table => Table(table),
        LabelItem label => Label(label),
        CoverItem cover => TooLong("The writing on a cover", cover.Text.Length, LongestCover),
        FigureItem figure => figure.Figure.Fault(),
        PictureItem picture => PictureFiles.IsName(picture.File) ? null : "The picture isn't there any more. Bring it in again.",
        _ => null,
    };

    /// <summary>What the teacher should know of an item: what is wrong with it, what was typed and can't be read, or what isn't drawn.</summary>
    public static string? Notice(Item item) => TypedFields.Fault(item) ?? Fault(item) ?? (item as FigureItem)?.Figure.Notice();

    private static bool HasPlace(Item item) =>
        new[] { item.X, item.Y, item.Width, item.Height }.All(n => double.IsFinite(n) && Math.Abs(n) <= 4 * Board.MaxHeight)
        && (item is not LabelItem label || (double.IsFinite(label.TipX) && double.IsFinite(label.TipY)))
        && (item is not PictureItem picture
            || new[] { picture.Shape, picture.Crop.X, picture.Crop.Y, picture.Crop.Width, picture.Crop.Height }.All(double.IsFinite));

    private static Item Tidy(Item item)
    {
        item = item with
        {
            X = Math.Round(item.X, 1),
            Y = Math.Round(item.Y, 1),
            Width = Math.Round(Math.Clamp(item.Width, Smallest, Board.Width * 2), 1),
            Height = Math.Round(Math.Clamp(item.Height, Smallest, Board.MaxHeight), 1),
        };
        return item switch
        {
            TextItem text => text with
            {
                Size = Size(text.Size),
                Paragraphs = [.. text.Paragraphs
                .Select(p => (IReadOnlyList<TextRun>)[.. p.Where(r => !string.IsNullOrEmpty(r.Text)).Select(Run)])]
            },
            FormulaItem formula => formula with
            {
                Size = Size(formula.Size),
                Color = Known(InkStyle.Pen, formula
                .Color),
                MathMl = Harmless(formula.MathMl),
                Problem = Shortened(formula.Problem, 300)
            },
            TableItem table => table with { Size = Size(table.Size), Rows = Even(table.Rows) },
            LabelItem label => label with
            {
                Text = label.Text.Trim(),
                TipX = Math.Round(label.TipX, 1),
                TipY = Math.Round(
                label.TipY,
                1),
                Language = label.Language.Trim()
            },
            CoverItem cover => cover with { Text = cover.Text.Trim() },
            BlankItem blank => blank with { Answers = Answers(blank.Answers) },
            PictureItem picture => PictureFiles.Tidy(picture),
            _ => item,
        };

        static TextRun Run(TextRun run) => run with
        {
            Text = new string([.. run.Text.Select(c => char.IsControl(c) ? ' ' : c)]),
            Color = Known(InkStyle.Pen, run.Color),
            Highlight = Known(InkStyle.Highlighter, run.Highlight),
            Ruby = (run.Ruby ?? "").Trim(),
            Language = (run.Language ?? "").Trim(),
        };
    }

    // Every row with as many cells as the longest.
    private static IReadOnlyList<TableCell>[] Even(IReadOnlyList<IReadOnlyList<TableCell>> rows)
    {
        var columns = rows.Count == 0 ? 0 : rows.Max(r => r.Count);
        return [.. rows.Select(r => (IReadOnlyList<TableCell>)[.. Enumerable.Range(0, columns)
            .Select(c => c < r.Count
                ? new TableCell((r[c].Text ?? "").Trim(), r[c].IsBlank, Answers(r[c].Answers))
                : new TableCell("", IsBlank: false, []))])];
    }

    private static string? Text(TextItem text) =>
        TooLong("A text on this board", text.Paragraphs.Sum(p => p.Sum(r => r.Text.Length)), LongestText)
        ?? text.Paragraphs.SelectMany(p => p).Select(
            r => LanguageTag.IsKnown(r.Language) ? TooLong("A reading above letters", r.Ruby.Length, LongestRuby) : LanguageTag.Fault(r.Language))
            .FirstOrDefault(f => f is not null);

    private static string? Formula(FormulaItem formula) =>
        formula.Problem.Length > 0 ? $"The formula can't be typeset: {formula.Problem}"
        : formula.Tex.Trim().Length == 0 ? "There is nothing in the formula yet. Type it, or remove it."
        : TooLong("A formula", formula.Tex.Length, LongestText) ?? MathSvg.Fault(formula.Svg);

    private static string? Table(TableItem table)
    {
        if (table.Rows.Count is 0 or > MostRows || table.Rows.Any(r => r.Count is 0 or > MostColumns))
        {
            return $"A table has from 1 to {MostRows} rows and from 1 to {MostColumns} columns. Divide it.";
        }

        var length = table.Rows.Sum(r => r.Sum(c => c.Text.Length));
        return length > LongestTable ? $"A table on this board holds {length} characters; at most {LongestTable} can be read on one board. Divide it."
            : table.Rows.SelectMany(r => r).Select(c => TooLong("A cell of a table", c.Text.Length, LongestCell)).FirstOrDefault(f => f is not null);
    }

    private static string? Label(LabelItem label) =>
        label.Text.Length == 0 ? "A label has no words. Type what the part is called, or remove the label."
        : !LanguageTag.IsKnown(label.Language) ? LanguageTag.Fault(label.Language)
        : TooLong("A label", label.Text.Length, LongestLabel);

    private static string? TooLong(string what, int length, int longest) =>
        length > longest ? $"{what} is longer than {longest} characters. Shorten or divide it." : null;

    // What isn't presentation is left out with all that is in it.
    private static string Harmless(string markup)
    {
        try
        {
            return BoundedXml.Load(() => new StringReader(markup), 200_000, DeepestFormula).Root is { } root && root.Name.LocalName == "math"
                ? Copy(root, 0)!.ToString(SaveOptions.DisableFormatting)
                : "";
        }
        catch (XmlException)
        {
            return "";
        }

        static XElement? Copy(XElement from, int depth) => !MathElements.Contains(from.Name.LocalName) || depth > DeepestFormula
            ? null
            : new XElement(
            MathMl + from.Name.LocalName,
            from.Attributes().Where(a => MathAttributes.Contains(a.Name.LocalName)).Select(a => new XAttribute(a.Name.LocalName, a.Value)),
            from.Nodes()
                .Select(n => n switch { XText text => new XText(text.Value), XElement element => Copy(element, depth + 1), _ => (object?)null }));
    }

    private static string[] Answers(IReadOnlyList<string>? answers) =>
        [.. (answers ?? []).Select(a => Shortened(a, 200)).Where(a => a.Length > 0).Distinct(StringComparer.Ordinal).Take(20)];

    private static string Size(string size) => TextSizes.All.Contains(size, StringComparer.Ordinal) ? size : TextSizes.Reading;

    private static string Known(string tool, string? ink) => InkStyle.All.Any(s => s.Tool == tool && s.Ink == ink) ? ink! : "";

    private static string Shortened(string? text, int longest)
    {
        var tidy = (text ?? "").Trim();
        return tidy[..Math.Min(tidy.Length, longest)];
    }
}
