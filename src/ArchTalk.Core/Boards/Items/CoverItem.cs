namespace ArchTalk.Core.Boards.Items;

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
