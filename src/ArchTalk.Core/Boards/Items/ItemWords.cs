using System.Globalization;

namespace ArchTalk.Core.Boards.Items;

/// <summary>What lies on a board, in words, for students who hear it. What is covered or left blank isn't given away.</summary>
public static class ItemWords
{
    /// <summary>The items from back to front, a sentence each.</summary>
    public static string Describe(IReadOnlyList<Item> items)
    {
        var hidden = Covers.Hidden(items);
        return string.Join(' ', items.Where(i => !hidden.Contains(i.Id)).Select(Describe).Where(t => t.Length > 0));
    }

    private static string Describe(Item item) => item switch
    {
        TextItem text => Sentence(string.Join(' ', text.Paragraphs.Select(p => string.Concat(p.Select(r => r.Text))))),
        FormulaItem formula => Sentence($"Formula: {formula.Tex}"),
        TableItem table => Sentence($"Table: {string.Join("; ", table.Rows.Select(r => string.Join(", ", r.Select(c => c.IsBlank ? "blank" : c.Text))))}"),
        LabelItem { Number: > 0 } label => string.Create(CultureInfo.InvariantCulture, $"A part with the number {label.Number}."),
        LabelItem label => Sentence($"Label: {label.Text}"),
        CoverItem => "Something covered.",
        BlankItem => "A blank to fill.",
        FigureItem figure => figure.Figure.Describe(),
        _ => "",
    };

    private static string Sentence(string text)
    {
        var tidy = text.Trim();
        return tidy.Length == 0 ? "" : tidy[^1] is '.' or '?' or '!' or '。' or '؟' ? tidy : tidy + ".";
    }
}
