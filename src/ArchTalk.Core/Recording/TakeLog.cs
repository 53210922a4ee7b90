using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>
/// What was done in one recording pass, in take time, and how far it extends; it holds no sound (<see cref="TakeVoice"/> reads
/// that). Segments are laid end to end, pauses are left out, missing sound counts as silence so that everything after it stays in
/// its place. Strokes and the pointer are smoothed and simplified here, once.
/// </summary>
public sealed class TakeLog
{
    private readonly Lazy<TakePath> live;

    /// <param name="actions">Ordered by time; of equal times, as they were done.</param>
    public TakeLog(TakeId id, Duration length, IReadOnlyList<TakeAction> actions, IReadOnlyList<TakeSound>? sound = null, bool isEnded = true,
        TakePlace? place = null)
    {
        Id = id;
        Length = length;
        Actions = actions;
        Sound = sound ?? [];
        IsEnded = isEnded;
        Place = place;
        live = new(() => TakePath.Of(actions, End));
    }

    public TakeId Id { get; }

    public Duration Length { get; }

    public TakeTime End => TakeTime.Zero + Length;

    /// <summary>Everything that was done, also what a retake took back.</summary>
    public IReadOnlyList<TakeAction> Actions { get; }

    /// <summary>In order, without gaps.</summary>
    public IReadOnlyList<TakeSound> Sound { get; }

    /// <summary>Whether the teacher finished it; otherwise it was interrupted, or is being recorded.</summary>
    public bool IsEnded { get; }

    /// <summary>The place it was recorded for; null for the end of the lesson.</summary>
    public TakePlace? Place { get; }

    /// <summary>What counts of it in the end: without anything that a retake took back.</summary>
    public TakePath Live => live.Value;

    /// <summary>What counted of it at a moment: the branch that a later retake took back, say.</summary>
    public TakePath As(TakeTime of) => of >= End ? Live : TakePath.Of(Actions, of);

    /// <summary>Reads a take from the records of its journal.</summary>
    public static TakeLog Read(Guid take, IEnumerable<JournalEntry> entries)
    {
        var id = new TakeId(take);
        var index = new SoundIndex();
        foreach (var entry in entries)
        {
            index.Add(entry);
        }

        var actions = TakeActions.Resolve(id, index.Segments);
        return new TakeLog(id, index.Length, actions, index.Sound, index.IsEnded, TakeActions.PlaceOf(index.Segments));
    }
}
