using ArchTalk.Core.Lessons;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <content>What was done is put back, or its edges are moved.</content>
public sealed partial class EditSteps
{
    private Checked<EditsAfter> Back(PutBack step)
    {
        if (step.Kind == EditKind.SaidAgain)
        {
            return arrangement.Logs.FirstOrDefault(l => l.Id == step.Take) is { Place: not null } take && edits.Sequence.Any(r => r.Take == take.Id)
                ? new(PutBack(take, arrangement), null)
                : Gone();
        }

        if (step.Kind == EditKind.TakenBack)
        {
            return Branch(step);
        }

        var after = step.Kind switch
        {
            EditKind.TakenOut => edits with { Cuts = [.. edits.Cuts.Where(c => c.Take != step.Take || c.Source != step.Source)] },
            EditKind.MadeShort => edits with { Silences = [.. edits.Silences.Where(s => s.Take != step.Take || s.Source != step.Source)] },
            EditKind.Muted or EditKind.UnderTone => edits with
            {
                Mutes = [.. edits.Mutes.Where(m => m.Take != step.Take || m.Source != step.Source)],
            },
            EditKind.OnlyThisTime => edits with
            {
                Temporary = [.. edits.Temporary.Where(t => t.Take != step.Take || t.Source != step.Source)],
            },
            EditKind.Settled => edits with { Marks = [.. edits.Marks.Where(m => m.Settled is null || m.Take != step.Take || !IsDrawnIn(step, m))] },
            _ => edits with { Pauses = [.. edits.Pauses.Where(p => p.Take != step.Take || p.At != step.Source.Start)] },
        };
        return after.Count == edits.Count ? Gone() : Done(after, step.Kind switch
        {
            EditKind.TakenOut => $"Put back {Words(step.Source.End - step.Source.Start)}",
            EditKind.MadeShort => "Made a silence as long as it was",
            EditKind.OnlyThisTime => $"Let {Words(step.Source.End - step.Source.Start)} hold always",
            EditKind.Muted or EditKind.UnderTone => $"Let {Words(step.Source.End - step.Source.Start)} be heard again",
            EditKind.Settled => "Left a line as it was drawn",
            _ => "Took a pause out again",
        });
    }

    private bool IsDrawnIn(PutBack step, MarkChange change) =>
        arrangement.Logs.Where(l => l.Id == step.Take).SelectMany(l => l.Actions).OfType<StrokeDrawn>()
            .Any(s => s.Stroke.Number == change.Stroke && step.Source == new TimeRange<TakeTime>(s.At, s.End));

    private Checked<EditsAfter> Branch(PutBack step)
    {
        var (branch, length) = (Sequences.Branch(step.Take, step.Source), Words(step.Source.End - step.Source.Start));
        if (edits.Sequence.Contains(branch))
        {
            return Done(edits with { Sequence = [.. edits.Sequence.Where(r => r != branch)] }, $"Took out {length} that a retake had taken back");
        }

        var isBranch = arrangement.Logs.FirstOrDefault(l => l.Id == step.Take)?.Actions
            .Any(a => a is Retaken r && r.To == step.Source.Start && r.At == step.Source.End) == true;
        return isBranch && Sequences.WithBranch(branch, arrangement.Logs, edits) is { } sequence
            ? Done(edits with { Sequence = sequence }, $"Put back {length} that a retake had taken back")
            : "What was said instead is not in the lesson any more, so there is no place to put it. Put that back first. Nothing was changed.";
    }

    private Checked<EditsAfter> Moved(MoveEdges step)
    {
        bool IsIt(TakeId take, TimeRange<TakeTime> source) => take == step.Take && source == step.Source;
        var rest = edits.Silences.FirstOrDefault(s => IsIt(s.Take, s.Source))?.Length ?? Duration.Zero;
        var isThere = step.Kind switch
        {
            EditKind.TakenOut => edits.Cuts.Any(c => IsIt(c.Take, c.Source)),
            EditKind.MadeShort => rest > Duration.Zero,
            EditKind.Muted or EditKind.UnderTone => edits.Mutes.Any(m => IsIt(m.Take, m.Source)),
            _ => false,
        };
        if (!isThere)
        {
            return Gone();
        }

        if (step.To.End - step.To.Start <= rest)
        {
            return "The edges lie too close together. Put it back instead. Nothing was changed.";
        }

        var after = step.Kind switch
        {
            EditKind.TakenOut => edits with { Cuts = Joined(edits.Cuts.Select(c => IsIt(c.Take, c.Source) ? c with { Source = step.To } : c)) },
            EditKind.MadeShort => edits with { Silences = [.. edits.Silences.Select(s => IsIt(s.Take, s.Source) ? s with { Source = step.To } : s)] },
            _ => edits with { Mutes = [.. edits.Mutes.Select(m => IsIt(m.Take, m.Source) ? m with { Source = step.To } : m)] },
        };
        return Done(after, "Moved the edges of a stretch");
    }
}
