namespace ArchTalk.Core.Boards.Items;

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
