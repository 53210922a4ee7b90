using System.Buffers.Binary;
using System.Runtime.InteropServices;
using System.Text.Json;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Recording;
using ArchTalk.Web.Setup;

namespace ArchTalk.Web.Timelines;

/// <summary>What Refine shows of a lesson, and the steps that a teacher does there.</summary>
public sealed class RefineService(LessonCompiler compiler, TakeSounds sounds, SectionService sections, SettlingService settling, ComputedCache cache)
{
    /// <summary>Most pairs of peaks in one answer: a minute of the finest, or an hour of the next.</summary>
    private const int MostPeaks = 80_000;

    // About what one takes in memory.
    private const int BytesOfProposal = 200;

    public async Task<RefineView> GetAsync(Guid lesson, CancellationToken cancel)
    {
        var key = Key(lesson);
        var edits = await sections.GetAsync(key, cancel);
        var compiled = await compiler.CompileAsync(lesson, cancel);
        var (arrangement, timeline) = (compiled.Arrangement, compiled.Timeline);
        var measures = await MeasuresAsync(compiled, cancel);
        return new RefineView(
            edits.Version,
            edits.CanUndo,
            edits.CanRedo,
            compiled.Key.Revision,
            arrangement.Length.Milliseconds,
            Arrangement.Resolve(arrangement.Logs, EditList.Empty).Length.Milliseconds,
            [.. LessonSilences.Phrases(arrangement, measures).SelectMany(p => (long[])[Round(Ms(p.Start)), Round(Ms(p.End))])],
            [.. (await ProposalsAsync(compiled, measures, cancel)).Select(p => View(p, arrangement))],
            [.. EditsOf(arrangement).OrderBy(e => e.AtMs)],
            [.. timeline.Stops.Select(s => new StopView(s.Stop.Id, Ms(s.At), s.Stop.Kind, s.Stop.Question, s.Stop.Wait.Milliseconds))],
            arrangement.Edits.LeavesOutTemporary,
            [.. (await sections.HistoryAsync(key, cancel)).Select(s => new StepView(s.Number, s.Said ?? "Changed the edits", s.SavedAt))]);
    }

    /// <summary>Does a step, starting from the state that the window shows.</summary>
    /// <exception cref="Refusal">It can't be done, or another window did something in between.</exception>
    public async Task<RefineView> DoAsync(Guid lesson, EditStep step, int version, CancellationToken cancel)
    {
        var compiled = await compiler.CompileAsync(lesson, cancel);
        var measures = await MeasuresAsync(compiled, cancel);
        var (after, fault) = new EditSteps(compiled.Arrangement, measures, await ProposalsAsync(compiled, measures, cancel)).Do(step);
        if (fault is not null)
        {
            throw new Refusal(fault);
        }

        await sections.SaveAsync(Key(lesson), JsonSerializer.SerializeToElement(after!.Edits, SectionService.Json), version, cancel, after.Said);
        return await GetAsync(lesson, cancel);
    }

    /// <summary>Goes back or forward to a state that was there before; 0 is the lesson as it was recorded.</summary>
    /// <exception cref="Refusal">Another window did something in between.</exception>
    public async Task<RefineView> GoToAsync(Guid lesson, int number, int version, CancellationToken cancel)
    {
        await sections.GoToAsync(Key(lesson), number, version, cancel);
        return await GetAsync(lesson, cancel);
    }

    /// <summary>What was drawn and typed: from and to in ms, and the style it is drawn in, by turns; 32-bit numbers, little-endian.</summary>
    public async Task<byte[]> MarksAsync(Guid lesson, CancellationToken cancel)
    {
        var flat = new List<int>();
        void Add(LessonTime from, double toMs, int style) => flat.AddRange((int)Round(Ms(from)), (int)Round(toMs), style);
        foreach (var board in (await compiler.CompileAsync(lesson, cancel)).Timeline.Boards)
        {
            foreach (var stroke in board.Strokes)
            {
                Add(stroke.Birth, stroke.Points[^1].Milliseconds, stroke.Style);
            }

            foreach (var text in board.Texts)
            {
                Add(text.Birth, Ms(text.Steps[^1].At), InkStyle.IndexOf(InkStyle.Pen, text.Ink, "medium"));
            }
        }

        // Little-endian, as every browser's array of numbers is, and every machine that this runs on.
        return MemoryMarshal.AsBytes(CollectionsMarshal.AsSpan(flat)).ToArray();
    }

    /// <summary>
    /// The lowest and the highest sample of stretches of a take, as 16-bit numbers by turns, little-endian; null without such a take.
    /// </summary>
    /// <param name="resolution">0 for stretches of 5 ms, 1 for 50 ms, 2 for 500 ms.</param>
    /// <param name="from">The first stretch.</param>
    public async Task<byte[]?> PeaksAsync(Guid lesson, Guid take, int resolution, int from, int count, CancellationToken cancel)
    {
        var compiled = await compiler.CompileAsync(lesson, cancel);
        if (compiled.Arrangement.Logs.FirstOrDefault(l => l.Id.Value == take) is not { } log || resolution is < 0 or >= Waveform.Resolutions)
        {
            return null;
        }

        var peaks = (await sounds.MeasuresAsync(lesson, log, cancel)).Waveform.Peaks(resolution);
        var first = Math.Clamp(2L * from, 0, peaks.Count);
        var length = (int)Math.Min(peaks.Count - first, 2L * Math.Clamp(count, 0, MostPeaks));
        var bytes = new byte[2 * length];
        for (var i = 0; i < length; i++)
        {
            BinaryPrimitives.WriteInt16LittleEndian(bytes.AsSpan(2 * i), peaks[(int)first + i]);
        }

        return bytes;
    }

    private static SectionKey Key(Guid lesson) => new(lesson, SectionKind.Edits);

    private async Task<Func<TakeId, TakeMeasures>> MeasuresAsync(CompiledLesson compiled, CancellationToken cancel)
    {
        var measures = new Dictionary<TakeId, TakeMeasures>();
        foreach (var log in compiled.Arrangement.Logs)
        {
            measures[log.Id] = await sounds.MeasuresAsync(compiled.Key.Lesson, log, cancel);
        }

        return take => measures[take];
    }

    // A step is done on what was proposed before it.
    private Task<IReadOnlyList<Proposal>> ProposalsAsync(CompiledLesson compiled, Func<TakeId, TakeMeasures> measures, CancellationToken cancel)
    {
        async Task<(IReadOnlyList<Proposal>, long)> FindAsync()
        {
            var settled = await SettledAsync(compiled);
            var proposals = Proposals.Of(compiled.Arrangement, measures, stroke => settled.GetValueOrDefault(stroke.Stroke));
            return (proposals, BytesOfProposal * (long)proposals.Count);
        }

        return cache.GetAsync((compiled.Key, "proposals"), FindAsync, cancel);
    }

    // What nobody answered for while it was recorded, asked again. Of a board that is gone there are no words.
    private async Task<IReadOnlyDictionary<StrokeKey, SettledStroke?>> SettledAsync(CompiledLesson compiled)
    {
        var settled = new Dictionary<StrokeKey, SettledStroke?>();
        foreach (var (stroke, _) in compiled.Arrangement.Logs.SelectMany(UnsettledStrokes.Of))
        {
            if (compiled.Boards.Any(b => b.Id == stroke.Board))
            {
                var drawn = new DrawnStroke(
                    stroke.Board, InkStyle.All[stroke.Style].Tool == InkStyle.Highlighter, [.. stroke.Points.SelectMany(p => (int[])[p.X, p.Y])]);
                settled[stroke.Stroke] = await settling.SettleAsync(compiled.Key.Lesson, drawn, CancellationToken.None);
            }
        }

        return settled;
    }

    private static ProposalView View(Proposal proposal, Arrangement arrangement)
    {
        var span = arrangement.Spans(new(proposal.Take, proposal.Source)).First();
        return new(
            proposal.Key, Samples(proposal.Source), Ms(span.Start), Ms(span.End), proposal.Rest?.Milliseconds, proposal.KeepsMarks, proposal.Text);
    }

    private static IEnumerable<EditView> EditsOf(Arrangement arrangement)
    {
        var edits = arrangement.Edits;
        IEnumerable<EditView> Views(EditKind kind, TakeId take, TimeRange<TakeTime> source, Duration rest) =>
            arrangement.Places(new(take, source.Start), WhenCut.Snap).Take(1)
                .Select(at => new EditView(kind, take.Value, Samples(source), Ms(at), (source.End - source.Start).Milliseconds, rest.Milliseconds));
        EditView SaidAgain(Placement placement)
        {
            var (take, target) = (placement.Log, placement.Map.Target);
            var was = placement.InsteadOf.Sum(s => (s.Source.End - s.Source.Start).Milliseconds);
            return new(EditKind.SaidAgain, take.Id.Value, [0, take.End.Samples], Ms(target.Start), was, (target.End - target.Start).Milliseconds);
        }

        IEnumerable<EditView> TakenBack(TakeLog take) =>
            from retake in take.Actions.OfType<Retaken>()
            let branch = new TimeRange<TakeTime>(retake.To, retake.At)
            let isThere = edits.Sequence.Contains(Sequences.Branch(take.Id, branch))
            from at in arrangement.Places(new(take.Id, isThere ? branch.Start : branch.End), WhenCut.Snap).Take(1)
            let length = (branch.End - branch.Start).Milliseconds
            select new EditView(EditKind.TakenBack, take.Id.Value, Samples(branch), Ms(at), length, isThere ? length : 0);

        return
        [
            .. edits.Cuts.SelectMany(c => Views(EditKind.TakenOut, c.Take, c.Source, Duration.Zero)),
            .. edits.Silences.SelectMany(s => Views(EditKind.MadeShort, s.Take, s.Source, s.Length)),
            .. edits.Mutes.SelectMany(m => Views(m.HasTone ? EditKind.UnderTone : EditKind.Muted, m.Take, m.Source, m.Source.End - m.Source.Start)),
            .. arrangement.Placements.Where(p => p.Log is { Place: not null, IsEnded: true }).DistinctBy(p => p.Take).Select(SaidAgain),
            .. arrangement.Logs.SelectMany(TakenBack),
            .. edits.Temporary.SelectMany(t => Views(
                EditKind.OnlyThisTime, t.Take, t.Source, edits.LeavesOutTemporary ? Duration.Zero : t.Source.End - t.Source.Start)),
            .. from change in edits.Marks
               where change.Settled is not null
               from stroke in arrangement.Logs.SelectMany(l => l.Actions.OfType<StrokeDrawn>())
               where stroke.Stroke == new StrokeKey(change.Take, change.Stroke)
               from view in Views(EditKind.Settled, change.Take, new(stroke.At, stroke.End), stroke.End - stroke.At)
               select view,
            .. edits.Pauses.SelectMany(p => Views(EditKind.Paused, p.Take, new(p.At, p.At), p.Length)),
        ];
    }

    private static long[] Samples(TimeRange<TakeTime> range) => [range.Start.Samples, range.End.Samples];

    private static double Ms(LessonTime time) => time.Milliseconds;

    private static long Round(double ms) => (long)Math.Round(ms);
}
