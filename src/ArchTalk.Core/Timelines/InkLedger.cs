using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>
/// Keeps account of which strokes are alive while the actions of a lesson are gone through in order: a stroke lives while it
/// is drawn (not undone) and no erasure that counts has hit it.
/// </summary>
internal sealed class InkLedger
{
    private readonly Dictionary<StrokeKey, Entry> strokes = [];
    private readonly Dictionary<StrokeKey, Entry[]> erasures = [];

    public void Draw(StrokeKey stroke, LessonTime at) => Change(strokes[stroke] = new Entry(), at, e => e.Drawn = true);

    /// <summary>Erases what is alive of the named strokes; strokes that aren't there (cut out, of a deleted take) are passed over.</summary>
    public void Erase(StrokeKey action, IEnumerable<StrokeKey> targets, LessonTime at)
    {
        erasures[action] = [.. targets.Distinct().Select(k => strokes.GetValueOrDefault(k)).OfType<Entry>().Where(e => e.IsAlive)];
        Redo(action, at);
    }

    public void Undo(StrokeKey action, LessonTime at) => SetDone(action, at, done: false);

    public void Redo(StrokeKey action, LessonTime at) => SetDone(action, at, done: true);

    /// <summary>The spans in which a stroke is alive; empty when there is no instant at which it can be seen.</summary>
    public IReadOnlyList<Life> LivesOf(StrokeKey stroke) =>
        [.. strokes[stroke].Lives.Where(l => l.Death is not { } death || death > l.Birth)];

    // An action this lesson doesn't hold (cut out, of a deleted take) changes nothing.
    private void SetDone(StrokeKey action, LessonTime at, bool done)
    {
        if (strokes.TryGetValue(action, out var stroke))
        {
            Change(stroke, at, e => e.Drawn = done);
        }
        else if (erasures.TryGetValue(action, out var hit))
        {
            Array.ForEach(hit, h => Change(h, at, e => _ = done ? e.Erasures.Add(action) : e.Erasures.Remove(action)));
        }
    }

    private static void Change(Entry entry, LessonTime at, Action<Entry> change)
    {
        var wasAlive = entry.IsAlive;
        change(entry);
        if (!wasAlive && entry.IsAlive)
        {
            // A stroke that died and came back in the same instant was never away.
            if (entry.Lives.Count > 0 && entry.Lives[^1].Death == at)
            {
                entry.Lives[^1] = entry.Lives[^1] with { Death = null };
            }
            else
            {
                entry.Lives.Add(new Life(at, null));
            }
        }
        else if (wasAlive && !entry.IsAlive)
        {
            entry.Lives[^1] = entry.Lives[^1] with { Death = at };
        }
    }

    private sealed class Entry
    {
        private HashSet<StrokeKey>? erasures;

        public bool Drawn { get; set; }

        /// <summary>The erasures that count at present.</summary>
        public HashSet<StrokeKey> Erasures => erasures ??= [];

        public bool IsAlive => Drawn && erasures is not { Count: > 0 };

        public List<Life> Lives { get; } = [];
    }
}
