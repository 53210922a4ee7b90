using ArchTalk.Core.Editing;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>When the notes show that correct what was said.</summary>
internal static class Corrections
{
    /// <summary>The notes on a board: each shows from every place of its moment up to the next place of the moment at which it goes. One
    /// whose moment is
    /// nowhere never shows.</summary>
    public static IEnumerable<ItemSpans> On(Guid board, Arrangement arrangement)
    {
        foreach (var correction in arrangement.Edits.Corrections.Where(c => c.Board == board))
        {
            var births = arrangement.Places(new Moment(correction.Take, correction.At), WhenCut.Drop);
            var ends = correction.Until is { } until ? arrangement.Places(new Moment(correction.Take, until), WhenCut.Snap) : [];
            var shows = new List<Step<bool>> { new(LessonTime.Zero, Value: false) };
            foreach (var (at, value) in ends.Except(births).Select(t => (t, false)).Concat(births.Select(t => (t, true))).OrderBy(t => t.Item1))
            {
                shows.Add(at, value);
            }

            yield return new ItemSpans(correction.Note.Id, shows);
        }
    }
}
