using System.Collections.Immutable;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;

namespace ArchTalk.Core.Timelines;

/// <summary>Whether a stroke is there: drawn, not undone, not ended, and hit by no erasure that counts.</summary>
internal sealed record MarkState(bool IsDrawn, bool IsEnded, ImmutableHashSet<MarkKey> ErasedBy)
{
    public static readonly MarkState New = new(IsDrawn: true, IsEnded: false, []);

    public bool IsAlive => IsDrawn && !IsEnded && ErasedBy.IsEmpty;
}

/// <summary>
/// The boards at one moment of the lesson, with everything that undo, redo and erasures need to know. Never changed: any state
/// is a snapshot that can be gone back to.
/// </summary>
internal sealed record LessonState
{
    public static readonly LessonState Empty = new();

    /// <summary>The number under which its strokes and texts are kept.</summary>
    public int Marks { get; init; }

    /// <summary>What each text that was typed says.</summary>
    public ImmutableDictionary<MarkKey, Writing> Texts { get; init; } = ImmutableDictionary<MarkKey, Writing>.Empty;

    /// <summary>What each erasure hit; it is named like a stroke, by its placement and its number in the take.</summary>
    public ImmutableDictionary<MarkKey, ImmutableArray<MarkKey>> Erasures { get; init; } =
        ImmutableDictionary<MarkKey, ImmutableArray<MarkKey>>.Empty;

    /// <summary>Null before any board was shown.</summary>
    public ShownBoards? Shown { get; init; }

    public ImmutableDictionary<(int Board, int Pane), View> Views { get; init; } = ImmutableDictionary<(int, int), View>.Empty;

    /// <summary>Of boards that were lit up once, what is lit; null when the light is out.</summary>
    public ImmutableDictionary<int, Light?> Lights { get; init; } = ImmutableDictionary<int, Light?>.Empty;

    public ImmutableDictionary<int, int> Heights { get; init; } = ImmutableDictionary<int, int>.Empty;

    /// <summary>Of covers that were lifted once, whether they show.</summary>
    public ImmutableDictionary<(int Board, Guid Item), bool> Shows { get; init; } = ImmutableDictionary<(int, Guid), bool>.Empty;

    /// <summary>Of parameters that were set once; null when one is as the item was placed.</summary>
    public ImmutableDictionary<(int Board, Guid Item, string Name), int?> Parameters { get; init; } =
        ImmutableDictionary<(int, Guid, string), int?>.Empty;
}
