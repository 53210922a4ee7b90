using System.Globalization;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>What a step makes of the edits.</summary>
/// <param name="Said">In words, for the history: "Took out 4.2 s at 3:12".</param>
public sealed record EditsAfter(EditList Edits, string Said);

/// <summary>
/// What becomes of the edits of a lesson when the teacher does something. Places are given in the lesson as it is; what is kept is on
/// moments, so that no later edit moves it.
/// </summary>
/// <param name="proposals">What is proposed for it, where that was found already.</param>
public sealed partial class EditSteps(
    Arrangement arrangement, Func<TakeId, TakeMeasures> measures, IReadOnlyList<Proposal>? proposals = null)
{
    // A silence that would not become shorter by more than this isn't worth an edit.
    private static readonly Duration LeastSaved = Duration.FromSeconds(0.1);

    private const string NeedsLength = "A pause needs a length. Nothing was changed.";

    private readonly EditList edits = arrangement.Edits;

    /// <summary>Does a step; a fault says why it can't be done and changes nothing.</summary>
    public Checked<EditsAfter> Do(EditStep step) => step switch
    {
        TakeOut s => OnStretch(s.FromMs, s.ToMs, range => Took(range, s.KeepsMarks)),
        MakeShort s => OnStretch(s.FromMs, s.ToMs, range => Shortened(range, Duration.FromMilliseconds(Math.Clamp(s.RestMs, 1, 600_000)))),
        MuteVoice s => OnStretch(s.FromMs, s.ToMs, range => Muted(range, s.HasTone)),
        HoldOnlyThisTime s => OnStretch(s.FromMs, s.ToMs, HeldOnlyThisTime),
        PutInPause s => AtMoment(s.AtMs, moment => Paused(moment, s)),
        ChangePause s => PauseChanged(s),
        AddStop s => AtMoment(s.AtMs, moment => Asked(moment, s)),
        ChangeStop s => Changed(s),
        RemoveStop s => edits.Stops.Any(t => t.Id == s.Id)
            ? Done(edits with { Stops = [.. edits.Stops.Where(t => t.Id != s.Id)] }, "Removed a thinking stop")
            : Gone(),
        Accept s => Accepted(s.Proposals),
        Leave s => Done(edits with { Left = [.. edits.Left.Union(s.Proposals)] }, $"Left {Counted(s.Proposals.Count, "a proposal", "proposals")}"),
        PutBack s => Back(s),
        MoveEdges s => Moved(s),
        MoveStretch s => MovedBefore(s),
        LeaveOutTemporary s => s.IsOut == edits.LeavesOutTemporary
            ? Gone()
            : Done(edits with { LeavesOutTemporary = s.IsOut }, s.IsOut ? "Left out what holds only this time" : "Has in what holds only this time"),
        _ => "This is not known here. Reload the page and try again. Nothing was changed.",
    };

    /// <summary>A take that was recorded for a place of the lesson comes in there.</summary>
    public static EditsAfter TakeIn(TakeLog take, Arrangement arrangement)
    {
        var after = arrangement.Edits with { Sequence = Sequences.With(take, arrangement.Logs, arrangement.Edits) };
        var was = Sequences.Replaced(take, arrangement.Logs).Aggregate(Duration.Zero, (sum, s) => sum + (s.Source.End - s.Source.Start));
        var at = take.Place is { } place ? arrangement.Places(place.From, WhenCut.Snap) : [];
        var where = at.Count > 0 ? $"at {Clock(at[0] - LessonTime.Zero)}" : "at the end";
        return new(after, was > Duration.Zero ? $"Said {Words(was)} again {where}" : $"Recorded {Words(take.Live.Length)} {where}");
    }

    /// <summary>What a take had replaced is back in its place.</summary>
    public static EditsAfter PutBack(TakeLog take, Arrangement arrangement) => new(
        arrangement.Edits with { Sequence = Sequences.Without(take, arrangement.Logs, arrangement.Edits) },
        "Put back what was there before it was said again");

    /// <summary>A stretch of the lesson as stretches of its takes; what was taken out within it belongs to it.</summary>
    public static IReadOnlyList<TakeStretch> Sources(Arrangement arrangement, TimeRange<LessonTime> range)
    {
        var sources = new List<TakeStretch>();
        foreach (var placement in arrangement.Placements)
        {
            var (map, target) = (placement.Map, placement.Map.Target);
            if (target.Start < range.End && range.Start < target.End)
            {
                var start = map.ToTake(range.Start) ?? map.Source.Start;
                var end = range.End < target.End ? map.ToTake(range.End)!.Value : map.Source.End;
                if (start < end)
                {
                    sources.Add(new(placement.Take, new(start, end)));
                }
            }
        }

        return sources;
    }

    private static Checked<EditsAfter> Done(EditList edits, string said) => new(new EditsAfter(edits, said), null);

    private static Checked<EditsAfter> Gone() => "This was changed meanwhile. Look at the list again. Nothing was changed.";

    private static string Counted(int count, string one, string several) => count == 1 ? one : $"{count} {several}";

    private static string Words(Duration length) =>
        length < Duration.FromSeconds(60) ? $"{length.Seconds.ToString("0.0", CultureInfo.InvariantCulture)} s" : Clock(length);

    private static string Clock(Duration time)
    {
        var seconds = (long)time.Seconds;
        var minutes = $"{seconds / 60 % 60}:{seconds % 60:00}";
        return seconds < 3600 ? minutes : $"{seconds / 3600}:{seconds / 60 % 60:00}:{seconds % 60:00}";
    }

    private Checked<EditsAfter> OnStretch(double fromMs, double toMs, Func<TimeRange<LessonTime>, Checked<EditsAfter>> work)
    {
        var most = arrangement.Length.Milliseconds;
        return fromMs >= 0 && toMs > fromMs && fromMs < most
            ? work(new(LessonTime.FromMilliseconds(fromMs), LessonTime.FromMilliseconds(Math.Min(toMs, most))))
            : "Nothing is chosen. Drag over the rows below the board first. Nothing was changed.";
    }

    private Checked<EditsAfter> AtMoment(double ms, Func<Moment, Checked<EditsAfter>> work) =>
        ms >= 0 && arrangement.MomentAt(LessonTime.FromMilliseconds(Math.Min(ms, arrangement.Length.Milliseconds))) is { } moment
            ? work(moment)
            : "There is nothing recorded at this moment. Nothing was changed.";

    private Checked<EditsAfter> Took(TimeRange<LessonTime> range, bool keepsMarks)
    {
        if (range.End - range.Start >= arrangement.Length)
        {
            return "That is the whole lesson. Choose a part of it. Nothing was changed.";
        }

        var cuts = edits.Cuts.Concat(Sources(arrangement, range).Select(s => new Cut(s.Take, s.Source, keepsMarks)));
        return Done(edits with { Cuts = Joined(cuts) }, $"Took out {Words(range.End - range.Start)} at {Clock(range.Start - LessonTime.Zero)}");
    }

    // Cuts of a kind that overlap or touch are one.
    private static IReadOnlyList<Cut> Joined(IEnumerable<Cut> cuts)
    {
        var joined = new List<Cut>();
        foreach (var cut in cuts.OrderBy(c => c.Take.Value).ThenBy(c => c.KeepsMarks).ThenBy(c => c.Source.Start))
        {
            if (joined.Count > 0 && joined[^1] is var last && last.Take == cut.Take && last.KeepsMarks == cut.KeepsMarks
                && cut.Source.Start <= last.Source.End)
            {
                joined[^1] = last with { Source = new(last.Source.Start, cut.Source.End > last.Source.End ? cut.Source.End : last.Source.End) };
            }
            else
            {
                joined.Add(cut);
            }
        }

        return joined;
    }

    private Checked<EditsAfter> Shortened(TimeRange<LessonTime> range, Duration rest)
    {
        var silences = new List<ShortenedSilence>();
        foreach (var stretch in Sources(arrangement, range))
        {
            var marks = new MarkTimes(arrangement.Placements.First(p => p.Take == stretch.Take).Log);
            foreach (var silence in measures(stretch.Take).Silences)
            {
                if (silence.Common(stretch.Source) is { } part && !IsEdited(stretch.Take, part))
                {
                    var length = Proposals.RestOf(part.End - part.Start, rest, marks.AnyIn(part));
                    if (part.End - part.Start - length >= LeastSaved)
                    {
                        silences.Add(new(stretch.Take, part, length));
                    }
                }
            }
        }

        var saved = silences.Aggregate(Duration.Zero, (sum, s) => sum + (s.Source.End - s.Source.Start - s.Length));
        return silences.Count == 0
            ? $"There is no silence longer than {Words(rest)} in what you chose. Nothing was changed."
            : Done(
                edits with { Silences = [.. edits.Silences, .. silences] },
                $"Made {Counted(silences.Count, "a silence", "silences")} shorter by {Words(saved)} at {Clock(range.Start - LessonTime.Zero)}");
    }

    private bool IsEdited(TakeId take, TimeRange<TakeTime> source) =>
        edits.Silences.Any(s => s.Take == take && s.Source.Meets(source))
        || edits.Cuts.Any(c => c.Take == take && c.Source.Start <= source.Start && source.End <= c.Source.End);

    private Checked<EditsAfter> Muted(TimeRange<LessonTime> range, bool hasTone) => Done(
        edits with { Mutes = [.. edits.Mutes, .. Sources(arrangement, range).Select(s => new Mute(s.Take, s.Source, hasTone))] },
        $"{(hasTone ? "Laid a tone over" : "Muted")} {Words(range.End - range.Start)} at {Clock(range.Start - LessonTime.Zero)}");

    private Checked<EditsAfter> HeldOnlyThisTime(TimeRange<LessonTime> range) => Done(
        edits with { Temporary = [.. edits.Temporary, .. Sources(arrangement, range).Select(s => new TemporaryStretch(s.Take, s.Source))] },
        $"Marked {Words(range.End - range.Start)} at {Clock(range.Start - LessonTime.Zero)} as only this time");

    private static Duration WaitOf(double ms) => Duration.FromMilliseconds(Math.Clamp(ms, 0, EditRules.LongestWait.Milliseconds));

    private Checked<EditsAfter> Paused(Moment moment, PutInPause step)
    {
        var length = WaitOf(step.LengthMs);
        return length > Duration.Zero
            ? Done(
                edits with { Pauses = [.. edits.Pauses, new(moment.Take, moment.At, length)] },
                $"Put in a pause of {Words(length)} at {Clock(arrangement.Places(moment, WhenCut.Snap)[0] - LessonTime.Zero)}")
            : NeedsLength;
    }

    private Checked<EditsAfter> PauseChanged(ChangePause step)
    {
        var length = WaitOf(step.LengthMs);
        bool IsIt(InsertedPause pause) => pause.Take == step.Take && pause.At == step.At;
        return length <= Duration.Zero ? NeedsLength
            : edits.Pauses.Any(IsIt)
                ? Done(
                    edits with { Pauses = [.. edits.Pauses.Select(p => IsIt(p) ? p with { Length = length } : p)] },
                    $"Made a pause {Words(length)} long")
                : Gone();
    }

    private Checked<EditsAfter> Asked(Moment moment, AddStop step) => edits.Stops.Any(s => s.Id == step.Id) ? Gone() : Done(
        edits with { Stops = [.. edits.Stops, new(step.Id, moment.Take, AfterPhrase(moment), StopKind.UntilStudentGoesOn, step.Question)] },
        $"Put a thinking stop at {Clock(arrangement.Places(moment, WhenCut.Snap)[0] - LessonTime.Zero)}");

    private TakeTime AfterPhrase(Moment moment) =>
        TakeNotes.PlaceOf(moment.At, arrangement.Placements.First(p => p.Take == moment.Take).Log, measures(moment.Take).Phrases);

    private Checked<EditsAfter> Changed(ChangeStop step)
    {
        if (edits.Stops.FirstOrDefault(s => s.Id == step.Id) is not { } stop)
        {
            return Gone();
        }

        var (take, at) = (stop.Take, stop.At);
        if (step.AtMs is { } ms)
        {
            if (arrangement.MomentAt(LessonTime.FromMilliseconds(Math.Clamp(ms, 0, arrangement.Length.Milliseconds))) is not { } moment)
            {
                return Gone();
            }

            (take, at) = (moment.Take, AfterPhrase(moment));
        }

        var wait = WaitOf(step.WaitMs);
        var changed = stop with { Take = take, At = at, Kind = step.Kind, Question = step.Question, Wait = wait };
        return Done(
            edits with { Stops = [.. edits.Stops.Select(s => s.Id == step.Id ? changed : s)] },
            step.AtMs is null ? "Worded a thinking stop" : "Moved a thinking stop");
    }

    private Checked<EditsAfter> Accepted(IReadOnlyList<Accepted> accepted)
    {
        var found = (proposals ?? Proposals.Of(arrangement, measures)).ToDictionary(p => p.Key);
        var after = edits;
        foreach (var one in accepted)
        {
            if (!found.TryGetValue(one.Key, out var proposal))
            {
                return Gone();
            }

            var source = one.Source ?? proposal.Source;
            var log = arrangement.Placements.First(p => p.Take == proposal.Take).Log;
            if (source.IsEmpty || source.Start >= log.End)
            {
                return "The edges of the stretch lie on each other. Move them apart. Nothing was changed.";
            }

            if (proposal.Kind == ProposalKind.Quiet)
            {
                return "What is too quiet can only be said again: press Say it again. Nothing was changed.";
            }

            if (proposal.Kind == ProposalKind.Question && (one.Stop is not { } id || after.Stops.Any(s => s.Id == id)))
            {
                return Gone();
            }

            after = proposal.Change is { } change ? after with { Marks = [.. after.Marks, change] }
                : proposal.Kind == ProposalKind.Question ? after with { Stops = [.. after.Stops, StopBefore(proposal, one.Stop!.Value)] }
                : proposal.Rest is { } rest
                    ? after with { Silences = [.. after.Silences, new(proposal.Take, source, RestOf(proposal, source, one.RestMs, rest))] }
                : after with { Cuts = Joined(after.Cuts.Append(new Cut(proposal.Take, source, proposal.KeepsMarks))) };
        }

        if (after == edits)
        {
            return Gone();
        }

        var shorter = arrangement.Length - Arrangement.Resolve(arrangement.Logs, after).Length;
        var saved = Words(shorter);
        var first = found[accepted[0].Key];
        var at = Clock(arrangement.Spans(new(first.Take, first.Source)).First().Start - LessonTime.Zero);
        return Done(after, accepted.Count > 1 ? $"Accepted {accepted.Count} proposals{(shorter > Duration.Zero ? $", shorter by {saved}" : "")}"
            : first.Kind == ProposalKind.Question ? $"Put a thinking stop at {at}"
            : first.Change is not null ? $"Laid a line on its words at {at}"
            : first.Rest is null ? $"Took out {saved} at {at}"
            : $"Made a silence shorter by {saved} at {at}");
    }

    // Until the student has the answer shown that the teacher uncovers behind it.
    private static ThinkingStop StopBefore(Proposal proposal, Guid id) =>
        new(id, proposal.Take, proposal.Source.Start, StopKind.UntilAnswerShown, "");

    private static Duration RestOf(Proposal proposal, TimeRange<TakeTime> source, double? wantedMs, Duration proposed) => Proposals.RestOf(
        source.End - source.Start,
        wantedMs is { } ms ? Duration.FromMilliseconds(Math.Clamp(ms, 1, 600_000)) : proposed,
        proposal.Kind == ProposalKind.WritingSilence);

    private Checked<EditsAfter> MovedBefore(MoveStretch step)
    {
        const string Within = "It can only be moved before another part of the lesson. Nothing was changed.";
        var most = arrangement.Length.Milliseconds;
        string ClockAt(double ms) => Clock(Duration.FromMilliseconds(ms));
        Moment? At(double ms) => ms >= most ? null : arrangement.MomentAt(LessonTime.FromMilliseconds(ms));
        return step.FromMs >= 0 && step.BeforeMs >= 0 && step.FromMs < step.ToMs && At(step.FromMs) is { } from
            && Sequences.Moved(arrangement.Logs, edits, from, At(step.ToMs), At(step.BeforeMs)) is { } sequence
            ? Done(
                edits with { Sequence = sequence },
                $"Moved {ClockAt(Math.Min(step.ToMs, most) - step.FromMs)} from {ClockAt(step.FromMs)} to "
                    + (step.BeforeMs >= most ? "the end" : $"before {ClockAt(step.BeforeMs)}"))
            : Within;
    }
}
