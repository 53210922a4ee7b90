using ArchTalk.Core.Audio;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>
/// What a teacher is likely to want out of a lesson, found from where somebody speaks and from what was done. Nothing is proposed where
/// something was taken out or made shorter already, nor again what the teacher left. The lengths are common practice, no source.
/// </summary>
public static class Proposals
{
    /// <summary>A shorter silence is a breath or a thought.</summary>
    public static readonly Duration ShortestSilence = Duration.FromSeconds(1.5);

    /// <summary>What is left of a silence.</summary>
    public static readonly Duration Rest = Duration.FromSeconds(0.4);

    /// <summary>What is left of it when another board is shown: students look at it first.</summary>
    public static readonly Duration RestBeforeBoard = Duration.FromSeconds(1);

    /// <summary>What is drawn in a silence is drawn at most so many times as fast.</summary>
    public const int FastestInk = 8;

    // What is left before the first word and after the last.
    private static readonly Duration LeadIn = Duration.FromSeconds(0.3);
    private static readonly Duration FadeOut = Duration.FromSeconds(0.5);

    // Less than this at an end isn't worth a question.
    private static readonly Duration ShortestEnd = Duration.FromSeconds(0.7);

    // A false start, or a word after the end: so few words, and such a silence.
    private static readonly Duration LongestAside = Duration.FromSeconds(8);
    private static readonly Duration SilenceOfAside = Duration.FromSeconds(2.5);

    // Who notes "fix later" has just said it: the words between two rests as long as after a sentence, but not half a lecture.
    private static readonly Duration BetweenSentences = Duration.FromSeconds(0.6);
    private static readonly Duration LongestSlip = Duration.FromSeconds(20);

    // What was uncovered is looked at before anything goes on.
    private static readonly Duration LookAtUncovered = Duration.FromSeconds(2);

    /// <summary>Students need so long to think before they answer (Rowe, Wait-time and rewards, 1974; from memory).</summary>
    public static readonly Duration ShortestWait = Duration.FromSeconds(3);

    /// <summary>In LU: what is quieter than the take by more than this isn't a softer word, but a turned head or a hand on the microphone.</summary>
    public const double FarQuieter = 10;

    // A cough, a knock, a hesitation: so short, and with so much silence on either side. Around it goes what is too faint to be found.
    private static readonly Duration LongestSound = Duration.FromSeconds(0.6);
    private static readonly Duration SilenceOfSound = Duration.FromSeconds(0.5);
    private static readonly Duration AroundSound = Duration.FromSeconds(0.05);

    // Who answers begins to speak, and uncovers the answer.
    private static readonly Duration AnswerWithin = Duration.FromSeconds(3);

    // A few quiet words are an aside.
    private static readonly Duration ShortestQuiet = Duration.FromSeconds(2);

    // A stop sits where a phrase ends, give or take how exactly that is known.
    private static readonly Duration AtStop = Duration.FromSeconds(0.1);

    /// <summary>All proposals, in order of the lesson; what overlaps an earlier one is left out.</summary>
    /// <param name="measures">What was measured of a take.</param>
    /// <param name="settle">On which words a stroke settles that nobody answered for; null for on none, and without it for all.</param>
    public static IReadOnlyList<Proposal> Of(
        Arrangement arrangement, Func<TakeId, TakeMeasures> measures, Func<StrokeDrawn, SettledStroke?>? settle = null)
    {
        var edits = arrangement.Edits;
        var left = edits.Left.ToHashSet();
        var found = new List<Proposal>();
        foreach (var log in arrangement.Placements.Select(p => p.Log).DistinctBy(l => l.Id))
        {
            var take = new Take(log, arrangement, measures(log.Id));

            // What the teacher asked for comes first, then what is surest.
            foreach (var proposal in take.FixLater().Concat(take.Ends()).Concat(take.Silences()).Concat(take.Quiet()).Concat(take.ShortSounds()))
            {
                if (!left.Contains(proposal.Key) && !IsEdited(edits, proposal)
                    && !found.Exists(f => f.Take == proposal.Take && f.Source.Meets(proposal.Source)))
                {
                    found.Add(proposal);
                }
            }

            // A line takes nothing out: it may lie in what is proposed otherwise.
            found.AddRange(Unsettled(log, arrangement, settle).Where(p => !left.Contains(p.Key)).DistinctBy(p => p.Key));
        }

        // Where its first moment is, or where what was taken out before it was.
        return [.. found.Select(p => (Proposal: p, Places: arrangement.Places(new(p.Take, p.Source.Start), WhenCut.Snap)))
            .Where(p => p.Places.Count > 0).OrderBy(p => p.Places[0].Samples).Select(p => p.Proposal)];
    }

    /// <summary>How short a silence may become, however short the teacher wants it.</summary>
    /// <param name="hasMarks">Whether something is drawn in it.</param>
    public static Duration RestOf(Duration silence, Duration wanted, bool hasMarks)
    {
        var least = hasMarks ? new Duration(silence.Samples / FastestInk) : Duration.Zero;
        return wanted > least ? wanted : least;
    }

    private static IEnumerable<Proposal> Unsettled(TakeLog log, Arrangement arrangement, Func<StrokeDrawn, SettledStroke?>? settle) =>
        from unsettled in settle is null ? [] : UnsettledStrokes.Of(log)
        let stroke = unsettled.Stroke
        let number = stroke.Stroke.Number
        where stroke.At < stroke.End
        where !arrangement.Edits.Marks.Any(m => m.Take == log.Id && m.Stroke == number && (m.IsGone || m.Settled is not null))
        where arrangement.Places(new(log.Id, stroke.At), WhenCut.Drop).Count > 0
        let line = settle!(stroke)
        where line is not null
        select new Proposal(ProposalKind.Unsettled, log.Id, new(stroke.At, stroke.End), Rest: null, KeepsMarks: true, line.Text)
        {
            Change = new(log.Id, number) { Settled = line, Becomes = unsettled.Becomes },
        };

    private static bool IsEdited(EditList edits, Proposal proposal) =>
        edits.Cuts.Any(c => c.Take == proposal.Take && c.Source.Meets(proposal.Source))
        || edits.Silences.Any(s => s.Take == proposal.Take && s.Source.Meets(proposal.Source));

    /// <summary>One take as it counts in the end.</summary>
    private sealed class Take(TakeLog log, Arrangement arrangement, TakeMeasures measures)
    {
        // What counts, without what a retake took back: phrases within each stretch that goes on as it was recorded.
        private readonly TimeRange<TakeTime>[] spoken =
        [
            .. from stretch in log.Live.Stretches
               from phrase in measures.Phrases
               let heard = phrase.Common(stretch.Range)
               where heard is not null
               select heard.Value,
        ];

        private readonly MarkTimes marks = new(log);

        // What was done with the boards is little beside what was drawn.
        private readonly TakeAction[] boards = [.. log.Live.Actions.Where(a => a is ViewChanged or CoverChanged or BoardChanged)];

        public IEnumerable<Proposal> Ends()
        {
            var sentences = Groups(SilenceOfAside);
            if (sentences.Count == 0)
            {
                yield break;
            }

            var (first, last) = (sentences[0], sentences[^1]);
            var isFalse = sentences.Count > 1 && first.End - first.Start <= LongestAside && !marks.AnyIn(new(TakeTime.Zero, sentences[1].Start));
            var begins = isFalse ? sentences[1].Start : first.Start;
            if (Before(begins, LeadIn) is var start && start - TakeTime.Zero >= ShortestEnd)
            {
                yield return Out(isFalse ? ProposalKind.FalseStart : ProposalKind.Beginning, new(TakeTime.Zero, start));
            }

            var isAfter = sentences.Count > 1 && last.End - last.Start <= LongestAside && !marks.AnyIn(new(sentences[^2].End, log.End));
            var ends = (isAfter ? sentences[^2].End : last.End) + FadeOut;
            if (log.End - ends >= ShortestEnd)
            {
                yield return Out(isAfter ? ProposalKind.Afterword : ProposalKind.Ending, new(ends, log.End));
            }
        }

        public IEnumerable<Proposal> FixLater()
        {
            var sentences = Groups(BetweenSentences);
            foreach (var note in TakeNotes.Of(log).Where(n => n.Kind == NoteKind.FixLater))
            {
                var index = sentences.FindLastIndex(s => s.Start <= note.At);
                if (index < 0)
                {
                    continue;
                }

                // Of a long run of words without a rest, the last ones, from where a phrase begins.
                var sentence = sentences[index];
                var start = note.At - sentence.Start <= LongestSlip
                    ? sentence.Start
                    : spoken.First(p => note.At - p.Start <= LongestSlip || p.Contains(note.At)).Start;
                var end = index + 1 < sentences.Count && IsOneRun(start, sentences[index + 1].Start) ? sentences[index + 1].Start : sentence.End;
                yield return Out(ProposalKind.FixLater, new(start, end)) with { KeepsMarks = false, Text = note.Text };
            }
        }

        public IEnumerable<Proposal> Silences()
        {
            foreach (var stretch in log.Live.Stretches)
            {
                var words = spoken.Where(p => p.Meets(stretch.Range)).ToArray();
                for (var i = 0; i + 1 < words.Length; i++)
                {
                    foreach (var proposal in Silence(new(words[i].End, words[i + 1].Start)))
                    {
                        yield return proposal;
                    }
                }
            }
        }

        /// <summary>Phrases one after another that are far quieter than the take.</summary>
        public IEnumerable<Proposal> Quiet()
        {
            if (measures.Loudness is not { } loudness)
            {
                yield break;
            }

            TimeRange<TakeTime>? quiet = null;
            foreach (var phrase in spoken.Append(new(log.End, log.End)))
            {
                // What is too short to be measured goes with what it follows.
                var isNext = quiet is { } run && phrase.Start - run.End < ShortestSilence && IsOneRun(run.End, phrase.Start);
                var isQuiet = LoudnessOf(phrase) is { } own ? own < loudness - FarQuieter : isNext && !phrase.IsEmpty;
                if (isQuiet && isNext)
                {
                    quiet = new(quiet!.Value.Start, phrase.End);
                    continue;
                }

                if (quiet is { } found && found.End - found.Start >= ShortestQuiet)
                {
                    yield return new(ProposalKind.Quiet, log.Id, found, Rest: null, KeepsMarks: false);
                }

                quiet = isQuiet ? phrase : null;
            }
        }

        public IEnumerable<Proposal> ShortSounds()
        {
            for (var i = 0; i < spoken.Length; i++)
            {
                var sound = spoken[i];
                var (before, after) = (i > 0 ? spoken[i - 1].End : TakeTime.Zero, i + 1 < spoken.Length ? spoken[i + 1].Start : log.End);
                if (sound.End - sound.Start <= LongestSound && sound.Start - before >= SilenceOfSound && after - sound.End >= SilenceOfSound
                    && IsOneRun(before, after))
                {
                    var source = new TimeRange<TakeTime>(Before(sound.Start, AroundSound), sound.End + AroundSound);
                    yield return new(ProposalKind.ShortSound, log.Id, source, Rest: null, KeepsMarks: true);
                }
            }
        }

        // Null for less than the 400 ms that loudness is measured over, and for silence.
        private double? LoudnessOf(TimeRange<TakeTime> range)
        {
            var from = Math.Min((int)(range.Start.Samples / Loudness.Step), measures.Steps.Length);
            var to = Math.Min((int)(range.End.Samples / Loudness.Step), measures.Steps.Length);
            return Loudness.Integrated(measures.Steps.AsSpan(from, Math.Max(0, to - from)));
        }

        private IEnumerable<Proposal> Silence(TimeRange<TakeTime> silence)
        {
            var isWaiting = arrangement.Edits.Stops.Any(s => s.Take == log.Id && s.At + AtStop >= silence.Start && s.At < silence.End);

            // A view that glides leads the eye: it takes its time.
            if (!isWaiting && boards.Any(a => a is ViewChanged && silence.Contains(a.At)))
            {
                yield break;
            }

            // What is uncovered in it, or as the next words begin, answers what was asked before it.
            TakeTime[] uncovered =
            [
                .. boards.OfType<CoverChanged>().Where(c => c.IsUncovered).Select(c => c.At)
                    .Where(at => silence.Start <= at && at < silence.End + AnswerWithin),
            ];
            TakeTime[] within = [.. uncovered.Where(silence.Contains)];
            var wait = within.Length > 0 ? new(silence.Start, within[0]) : silence;
            if (!isWaiting && uncovered.Length > 0 && wait.End - wait.Start >= ShortestWait && !marks.AnyIn(wait))
            {
                yield return new(ProposalKind.Question, log.Id, wait, Rest: null, KeepsMarks: false);
            }
            else if ((isWaiting || within.Length == 0) && Shorter(wait, isWaiting) is { } shorter)
            {
                yield return shorter;
            }

            if (within.Length > 0 && within[^1] + LookAtUncovered is var looked && looked < silence.End
                && Shorter(new(looked, silence.End), isWaiting: false) is { } behind)
            {
                yield return behind;
            }
        }

        private Proposal? Shorter(TimeRange<TakeTime> silence, bool isWaiting)
        {
            var length = silence.End - silence.Start;
            if (length < ShortestSilence)
            {
                return null;
            }

            var hasMarks = marks.AnyIn(silence);
            var rest = RestOf(length, boards.Any(a => a is BoardChanged && silence.Contains(a.At)) ? RestBeforeBoard : Rest, hasMarks);
            var kind = isWaiting ? ProposalKind.Waiting : hasMarks ? ProposalKind.WritingSilence : ProposalKind.Silence;
            return rest < length ? new(kind, log.Id, silence, rest, KeepsMarks: true) : null;
        }

        // At an end of the take what was drawn without a word stays.
        private Proposal Out(ProposalKind kind, TimeRange<TakeTime> source) =>
            new(kind, log.Id, source, Rest: null, marks.AnyIn(source));

        // Phrases between which there is no longer silence, in runs that go on as they were recorded.
        private List<TimeRange<TakeTime>> Groups(Duration silence)
        {
            var groups = new List<TimeRange<TakeTime>>();
            foreach (var phrase in spoken)
            {
                if (groups.Count > 0 && phrase.Start - groups[^1].End < silence && IsOneRun(groups[^1].End, phrase.Start))
                {
                    groups[^1] = new(groups[^1].Start, phrase.End);
                }
                else
                {
                    groups.Add(phrase);
                }
            }

            return groups;
        }

        private bool IsOneRun(TakeTime from, TakeTime to) => log.Live.Stretches.Any(s => s.Range.Start <= from && to <= s.Range.End);

        private static TakeTime Before(TakeTime time, Duration by) => new(Math.Max(0, time.Samples - by.Samples));
    }
}
