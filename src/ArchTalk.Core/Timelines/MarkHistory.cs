using System.Runtime.InteropServices;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>
/// What becomes of each stroke and text of the lesson: when it is there, and what it was at each moment that was kept. They come in
/// tens of thousands, so only what changes between two such moments is written down.
/// </summary>
internal sealed class MarkHistory
{
    private readonly Dictionary<MarkKey, Mark> marks = [];

    // The number of the next moment that is kept.
    private int next;

    /// <summary>What it is now; null for one that the lesson doesn't have.</summary>
    public MarkState? this[MarkKey mark] => marks.TryGetValue(mark, out var known) ? known.Now : null;

    public bool Has(MarkKey mark) => this[mark] is not null;

    /// <summary>When it is there, in order.</summary>
    public IReadOnlyList<Life> LivesOf(MarkKey mark) => marks.TryGetValue(mark, out var known) ? known.Lives : [];

    /// <summary>Keeps what all are now.</summary>
    /// <returns>A number, to go back to it.</returns>
    public int Keep() => next++;

    /// <param name="after">Null when the lesson has it no more.</param>
    public void Set(MarkKey mark, MarkState? after, LessonTime at)
    {
        ref var known = ref CollectionsMarshal.GetValueRefOrAddDefault(marks, mark, out _);
        (known ??= new Mark()).Set(after, at, next);
    }

    /// <summary>All are what they were when a moment was kept.</summary>
    public void GoBack(int kept, LessonTime at)
    {
        foreach (var mark in marks.Values)
        {
            mark.Set(mark.At(kept), at, next);
        }
    }

    private sealed class Mark
    {
        // From which kept moment on it is what.
        private readonly List<(int From, MarkState? State)> states = [];

        public List<Life> Lives { get; } = [];

        public MarkState? Now => states.Count > 0 ? states[^1].State : null;

        public MarkState? At(int kept)
        {
            var count = Search.CountTo(states.Count, i => states[i].From <= kept);
            return count > 0 ? states[count - 1].State : null;
        }

        public void Set(MarkState? after, LessonTime at, int moment)
        {
            var (wasAlive, isAlive) = (Now is { IsAlive: true }, after is { IsAlive: true });
            if (states.Count > 0 && states[^1].From == moment)
            {
                states[^1] = (moment, after);
            }
            else if (states.Count > 0 ? states[^1].State != after : after is not null)
            {
                states.Add((moment, after));
            }

            if (isAlive && !wasAlive)
            {
                // A stroke that died and came back in the same instant was never away.
                if (Lives.Count > 0 && Lives[^1].Death == at)
                {
                    Lives[^1] = Lives[^1] with { Death = null };
                }
                else
                {
                    Lives.Add(new Life(at, null));
                }
            }
            else if (wasAlive && !isAlive)
            {
                Lives[^1] = Lives[^1] with { Death = at };
                if (Lives[^1].Birth == at)
                {
                    Lives.RemoveAt(Lives.Count - 1);
                }
            }
        }
    }
}
