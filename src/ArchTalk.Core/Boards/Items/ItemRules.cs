using System.Xml;
using System.Xml.Linq;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Boards.Items;

/// <summary>What may stand on a board. Gives the items back put in order, or the first thing that is wrong.</summary>
public static class ItemRules
{
    public const int MostItems = 300;

    /// <summary>Longest writing of one item in characters.</summary>
    public const int LongestText = 4000;

    /// <summary>Most characters of a whole table: more can't be read on one board.</summary>
    public const int LongestTable = 12_000;

    private const int DeepestFormula = 60;
    private const double Smallest = 8;
    private const int MostRows = 60;
    private const int MostColumns = 20;
    private static readonly XNamespace MathMl = "http://www.w3.org/1998/Math/MathML";

    // MathML Core's presentation elements, and the few attributes that carry meaning.
    private static readonly HashSet<string> MathElements = new(StringComparer.Ordinal)
    {
        "math", "mrow", "mi", "mn", "mo", "mtext", "mspace", "ms", "mfrac", "msqrt", "mroot", "mstyle", "mpadded", "mphantom", "msub", "msup", "msubsup",
        "munder", "mover", "munderover", "mmultiscripts", "mprescripts", "none", "mtable", "mtr", "mtd", "menclose",
    };

    private static readonly HashSet<string> MathAttributes = new(StringComparer.Ordinal)
    {
        "display", "mathvariant", "stretchy", "fence", "separator", "accent", "accentunder", "displaystyle", "scriptlevel", "columnalign", "notation", "linethickness",
    };

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

        var tidy = new List<Item>();
        foreach (var item in items)
        {
            var (checkedItem, fault) = Check(item);
            if (fault is not null)
            {
                return fault;
            }

            tidy.Add(checkedItem!);
        }

        return new Checked<IReadOnlyList<Item>>(tidy, null);
    }

    private static (Item? Item, string? Fault) Check(Item item)
    {
        if (!new[] { item.X, item.Y, item.Width, item.Height }.All(n => double.IsFinite(n) && Math.Abs(n) <= 4 * Board.MaxHeight))
        {
            return (null, "Something on this board has no place, so nothing was saved. Reload the page.");
        }

        item = item with
        {
            X = Math.Round(item.X, 1),
            Y = Math.Round(item.Y, 1),
            Width = Math.Round(Math.Clamp(item.Width, Smallest, Board.Width * 2), 1),
            Height = Math.Round(Math.Clamp(item.Height, Smallest, Board.MaxHeight), 1),
        };
        return item switch
        {
            TextItem text => Text(text),
            FormulaItem formula => Formula(formula),
            TableItem table => Table(table),
            LabelItem label => Label(label),
            CoverItem cover => (cover with { Text = Tidy(cover.Text, 40) }, null),
            BlankItem blank => (blank with { Answers = Answers(blank.Answers) }, null),
            FigureItem figure => (figure, figure.Figure.Fault()),
            _ => (null, "Something on this board is of an unknown kind, so nothing was saved. Reload the page."),
        };
    }

    private static (Item?, string?) Text(TextItem text)
    {
        var length = text.Paragraphs.Sum(p => p.Sum(r => (r.Text ?? "").Length));
        if (length > LongestText)
        {
            return (null, $"A text on this board is longer than {LongestText} characters. Divide it.");
        }

        var paragraphs = text.Paragraphs.Select(p => (IReadOnlyList<TextRun>)[.. p.Where(r => !string.IsNullOrEmpty(r.Text)).Select(Run)]).ToArray();
        if (paragraphs.SelectMany(p => p).FirstOrDefault(r => !LanguageTag.IsKnown(r.Language)) is { } run)
        {
            return (null, LanguageTag.Fault(run.Language));
        }

        return (text with { Size = Size(text.Size), Paragraphs = paragraphs }, null);

        static TextRun Run(TextRun run) => run with
        {
            Text = new string([.. run.Text.Select(c => char.IsControl(c) ? ' ' : c)]),
            Color = Known(InkStyle.Pen, run.Color),
            Highlight = Known(InkStyle.Highlighter, run.Highlight),
            Ruby = Tidy(run.Ruby, 60),
            Language = (run.Language ?? "").Trim(),
        };
    }

    private static (Item?, string?) Formula(FormulaItem formula) =>
        formula.Tex.Length > LongestText ? (null, $"A formula is longer than {LongestText} characters. Divide it.")
        : MathSvg.Fault(formula.Svg) is { } fault ? (null, fault)
        : (formula with { Size = Size(formula.Size), Color = Known(InkStyle.Pen, formula.Color), MathMl = Harmless(formula.MathMl) }, null);

    private static (Item?, string?) Table(TableItem table)
    {
        if (table.Rows.Count is 0 or > MostRows || table.Rows.Any(r => r.Count is 0 or > MostColumns))
        {
            return (null, $"A table has from 1 to {MostRows} rows and from 1 to {MostColumns} columns.");
        }

        var columns = table.Rows.Max(r => r.Count);
        IReadOnlyList<TableCell>[] rows = [.. table.Rows.Select(r => (IReadOnlyList<TableCell>)[.. Enumerable.Range(0, columns)
            .Select(c => c < r.Count ? new TableCell(Tidy(r[c].Text, 400), r[c].IsBlank, Answers(r[c].Answers)) : new TableCell("", IsBlank: false, []))])];
        return rows.Sum(r => r.Sum(c => c.Text.Length)) is var length && length > LongestTable
            ? (null, $"A table on this board holds {length} characters; at most {LongestTable} can be read on one board. Divide it.")
            : (table with { Size = Size(table.Size), Rows = rows }, null);
    }

    private static (Item?, string?) Label(LabelItem label)
    {
        var text = Tidy(label.Text, 120);
        return text.Length == 0 ? (null, "A label has no words. Type what the part is called, or remove the label.")
            : !LanguageTag.IsKnown(label.Language) ? (null, LanguageTag.Fault(label.Language))
            : !double.IsFinite(label.TipX) || !double.IsFinite(label.TipY) ? (null, "The line of a label leads nowhere. Draw it again.")
            : (label with { Text = text, TipX = Math.Round(label.TipX, 1), TipY = Math.Round(label.TipY, 1), Language = label.Language.Trim() }, null);
    }

    // What isn't presentation is left out with all that is in it.
    private static string Harmless(string markup)
    {
        try
        {
            return BoundedXml.Load(() => new StringReader(markup), 200_000, DeepestFormula).Root is { } root && root.Name.LocalName == "math" ? Copy(root, 0)!.ToString(SaveOptions.DisableFormatting) : "";
        }
        catch (XmlException)
        {
            return "";
        }

        static XElement? Copy(XElement from, int depth) => !MathElements.Contains(from.Name.LocalName) || depth > DeepestFormula ? null : new XElement(
            MathMl + from.Name.LocalName,
            from.Attributes().Where(a => MathAttributes.Contains(a.Name.LocalName)).Select(a => new XAttribute(a.Name.LocalName, a.Value)),
            from.Nodes().Select(n => n switch { XText text => new XText(text.Value), XElement element => Copy(element, depth + 1), _ => (object?)null }));
    }

    private static string[] Answers(IReadOnlyList<string>? answers) =>
        [.. (answers ?? []).Select(a => Tidy(a, 200)).Where(a => a.Length > 0).Distinct(StringComparer.Ordinal).Take(20)];

    private static string Size(string size) => TextSizes.All.Contains(size, StringComparer.Ordinal) ? size : TextSizes.Reading;

    private static string Known(string tool, string? ink) => InkStyle.All.Any(s => s.Tool == tool && s.Ink == ink) ? ink! : "";

    private static string Tidy(string? text, int longest)
    {
        var tidy = (text ?? "").Trim();
        return tidy[..Math.Min(tidy.Length, longest)];
    }
}
