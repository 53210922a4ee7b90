using ArchTalk.Core.Boards;
using ArchTalk.Core.Recording;

namespace ArchTalk.Core.Timelines;

/// <summary>A board in the lesson, with what happens on it.</summary>
/// <param name="Board">Its name, and its height at the end.</param>
/// <param name="Heights">Its height in units from each time on; the first at 0.</param>
/// <param name="Views">For each pane, its view from each time on; before the first it is seen from the top.</param>
/// <param name="Strokes">Ordered by birth.</param>
public sealed record TimelineBoard(
    Board Board, IReadOnlyList<Step<int>> Heights, IReadOnlyList<IReadOnlyList<Step<View>>> Views, IReadOnlyList<TimelineStroke> Strokes)
{
    /// <summary>What was typed on it, ordered by birth.</summary>
    public IReadOnlyList<TimelineText> Texts { get; init; } = [];

    /// <summary>What of it is lit up from each time on; null, and before the first, the light is out.</summary>
    public IReadOnlyList<Step<Light?>> Lights { get; init; } = [];

    /// <summary>The items that don't show throughout, covers that are lifted, say.</summary>
    public IReadOnlyList<ItemSpans> Items { get; init; } = [];

    /// <summary>The parameters of items that are set in the lesson.</summary>
    public IReadOnlyList<ParameterSteps> Parameters { get; init; } = [];
}

/// <summary>When an item shows.</summary>
/// <param name="Shows">From each time on; the first at 0.</param>
public sealed record ItemSpans(Guid Item, IReadOnlyList<Step<bool>> Shows);

/// <summary>The values of a parameter of an item.</summary>
/// <param name="Values">From each time on; null, and before the first, it is as the item was placed.</param>
public sealed record ParameterSteps(Guid Item, string Name, IReadOnlyList<Step<int?>> Values);
