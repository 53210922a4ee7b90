using System.Text.Json.Serialization;

namespace ArchTalk.Core.Editing;

/// <summary>
/// What the teacher decided about the takes of a lesson, as data on moments: nothing here holds a lesson time, so no edit moves
/// another. An edit of a take applies wherever the lesson uses that take. Empty, it says: every take whole, one after another.
/// </summary>
public sealed record EditList
{
    public static readonly EditList Empty = new();

    /// <summary>
    /// Which stretches of which takes make up the lesson, in order. Empty for every take whole. Takes that it doesn't name come
    /// after it whole, so that what is recorded later is in the lesson; but for those that were recorded for a place of it.
    /// </summary>
    public IReadOnlyList<SequenceRange> Sequence { get; init; } = [];

    public IReadOnlyList<Cut> Cuts { get; init; } = [];

    public IReadOnlyList<ShortenedSilence> Silences { get; init; } = [];

    public IReadOnlyList<InsertedPause> Pauses { get; init; } = [];

    public IReadOnlyList<Mute> Mutes { get; init; } = [];

    /// <summary>What holds for one class or one week.</summary>
    public IReadOnlyList<TemporaryStretch> Temporary { get; init; } = [];

    /// <summary>Whether that is out of the lesson, and so out of what is published now.</summary>
    public bool LeavesOutTemporary { get; init; }

    public IReadOnlyList<MarkChange> Marks { get; init; } = [];

    public IReadOnlyList<AddedStroke> AddedInk { get; init; } = [];

    public IReadOnlyList<ThinkingStop> Stops { get; init; } = [];

    public IReadOnlyList<Correction> Corrections { get; init; } = [];

    /// <summary>What was proposed and left as it is; it changes nothing in the lesson.</summary>
    public IReadOnlyList<ProposalKey> Left { get; init; } = [];

    /// <summary>How many edits it holds.</summary>
    [JsonIgnore]
    public int Count => Sequence.Count + Cuts.Count + Silences.Count + Pauses.Count + Mutes.Count + Temporary.Count
        + Marks.Count + AddedInk.Count + Stops.Count + Corrections.Count + Left.Count;
}
