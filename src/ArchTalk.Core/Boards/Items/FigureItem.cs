using ArchTalk.Core.Boards.Figures;

namespace ArchTalk.Core.Boards.Items;

/// <summary>A figure computed from its parameters.</summary>
public sealed record FigureItem : Item
{
    public required Figure Figure { get; init; }
}
