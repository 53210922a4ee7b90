using System.Globalization;

namespace ArchTalk.Core.Boards.Items;

/// <summary>What lies on a board, in words, for students who hear it. What is covered or left blank isn't given away.</summary>
public static class ItemWords
{
    private const int LongestName = 40;

    /// <summary>The items from back to front, a sentence each.</summary>
    public static string Describe(IReadOnlyList<Item> items)
    {
        var hidden = Covers.Hidden(items);
        return string.Join(' ', items.Where(i => !hidden.Contains(i.Id)).Select(Describe).Where(t => t.Length > 0));
    }

    /// <summary>A few words by which a teacher knows an item.</summary>
    public static string Name(Item item)
    {
        var text = Typed(item);
        return text.Length == 0 ? Kind(item) : $"“{(text.Length <= LongestName ? text : string.Concat(text.AsSpan(0, LongestName), "…"))}”";
    }

    internal static string Kind(Item item) => item switch
    {
        FormulaItem => "A formula",
        TableItem => "A table",
        LabelItem => "A label",
        CoverItem => "A cover",
        BlankItem => "A blank to fill",
        PictureItem => "A picture",
        FigureItem => "A figure",
        _ => "A text",
    };

    /// <summary>What was typed into an item, for the mark that stands where it can't be drawn.</summary>
    internal static string Typed(Item item) => item switch
    {
        TextItem text => string.Join(' ', text.Paragraphs.Select(p => string.Concat(p.Select(r => r.Text)))),
        FormulaItem formula => formula.Tex,
        LabelItem label => label.Text,
        CoverItem cover => cover.Text,
        _ => "",
    };

    private static string Describe(Item item) => item switch
    {
        TextItem text => Sentence(Typed(text)),
        FormulaItem formula => Sentence($"Formula: {formula.Tex}"),
        TableItem table => Sentence(
            $"Table: {string.Join("; ", table.Rows.Select(r => string.Join(", ", r.Select(c => c.IsBlank ? "blank" : c.Text))))}"),
        LabelItem { Number: > 0 } label => string.Create(CultureInfo.InvariantCulture, $"A part with the number {label.Number}."),
        LabelItem label => Sentence($"Label: {label.Text}"),
        CoverItem => "Something covered.",
        BlankItem => "A blank to fill.",
        FigureItem figure => figure.Figure.Describe(),
        PictureItem picture => Sentence(picture.AlternativeText.Length > 0 ? $"Picture: {picture.AlternativeText}" : "A picture"),
        _ => "",
    };

    private static string Sentence(string text)
    {
        var tidy = text.Trim();
        return tidy.Length == 0 ? "" : tidy[^1] is '.' or '?' or '!' or '。' or '؟' ? tidy : tidy + ".";
    }
}
