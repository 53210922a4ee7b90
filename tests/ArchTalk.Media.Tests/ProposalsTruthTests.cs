using ArchTalk.Core.Audio;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Media.Tests;

/// <summary>
/// What is proposed for a spoken take of which every word's place is known: a false start, slips noted and said again, long silences with
/// and without ink, chatter behind the end; clean, and with noise.
/// </summary>
public sealed class ProposalsTruthTests(ITestOutputHelper output) : IDisposable
{
    // How far an edge may lie from that of a word; in noise one of seven may lie farther, where a faint last sound is lost in it.
    private const double Near = 0.05;

    private const int Pieces = 30;
    private const int Quiet = 22;
    private static readonly TakeId Id = new(Guid.Parse("00000000-0000-0000-0000-0000000000d5"));
    private static readonly Board Board = new(Guid.Parse("00000000-0000-0000-0000-0000000000b5"), "A", 900);
    private static readonly int[] Slips = [8, 14];

    // Behind piece number so and so. Ink lies in the second.
    private static readonly Dictionary<int, double> LongSilences = new() { [4] = 2.2, [6] = 6, [11] = 1.8, [17] = 3.5, [20] = 12 };
    private static readonly int[] Written = [6, 20];

    private readonly Samples work = new();

    public void Dispose() => work.Dispose();

    [Theory]
    [InlineData("espeak", 0)]
    [InlineData("espeak", 10)]
    [InlineData("flite", 10)]
    public async Task All_that_is_in_the_way_is_found_and_no_word_is_cut_into(string speaker, double noiseDb)
    {
        // A false start: the first piece, and three seconds; chatter: the last one, behind four.
        double Rest(int piece) => LongSilences.GetValueOrDefault(piece, Slips.Contains(piece) ? 0.9 : 0.45 + (piece % 5 * 0.2));
        double[] silences = [2, 3.2, .. Enumerable.Range(1, Pieces - 3).Select(Rest), 4, 2.5];
        var truth = await SpokenTruth.OfAsync(speaker, work, new Kit().Voice, silences, i => i is Quiet or Quiet + 1 ? -16 : 0);
        var (log, measures) = Take(truth, noiseDb == 0 ? truth.Sound : truth.With(noiseDb, isPink: false, hum: false));
        var arrangement = Arrangement.Resolve([log], EditList.Empty);
        var proposals = Proposals.Of(arrangement, _ => measures);

        proposals.Select(p => p.Kind).Where(k => k != ProposalKind.Quiet).ShouldBe(
        [
            ProposalKind.FalseStart, ProposalKind.Silence, ProposalKind.WritingSilence, ProposalKind.FixLater, ProposalKind.Silence,
            ProposalKind.FixLater, ProposalKind.Silence, ProposalKind.WritingSilence, ProposalKind.Afterword,
        ]);
        var words = Words(truth);
        var offMs = new List<double>();
        foreach (var proposal in proposals)
        {
            var (from, to) = (proposal.Source.Start.Milliseconds / 1000, proposal.Source.End.Milliseconds / 1000);
            var what = FormattableString.Invariant($"{proposal.Kind} from {from:0.000} to {to:0.000}");
            double[] edges = proposal.Kind switch
            {
                ProposalKind.FalseStart => [to + 0.3],
                ProposalKind.Afterword => [from - 0.5],
                _ => [from, to],
            };
            offMs.AddRange(edges.Select(e => 1000 * words.Min(w => Math.Min(Math.Abs(w.From - e), Math.Abs(w.To - e)))));

            // What is left of a silence lies at both its ends.
            var within = proposal.Rest is { } rest ? rest.Seconds / 2 : Near;
            var gone = (From: from + within, To: to - within);
            Func<(double From, double To), bool> isWithin = w => gone.From - (2 * Near) <= w.From && w.To <= gone.To + (2 * Near);
            words.ShouldAllBe(w => gone.To <= w.From || w.To <= gone.From || isWithin(w), what);
        }

        offMs.Sort();
        output.WriteLine(FormattableString.Invariant(
            $"{speaker}, noise {noiseDb} dB below: edges off by {offMs[offMs.Count / 2]:0} ms (median), {offMs[^1]:0} ms (most), of {offMs.Count}"));
        ((double)offMs.Count(o => o <= 1000 * Near) / offMs.Count).ShouldBeGreaterThanOrEqualTo(noiseDb == 0 ? 1 : 0.85);

        // The noise lies 6 dB over a piece that is 16 dB quieter: then nobody can tell.
        var quiet = proposals.Where(p => p.Kind == ProposalKind.Quiet).ToArray();
        quiet.Length.ShouldBeLessThanOrEqualTo(1);
        (noiseDb > 0 || quiet.Single().Source.Contains(TakeTime.FromSeconds((words[Quiet].From + words[Quiet].To) / 2))).ShouldBeTrue();

        // Accepted, all of it: what is left are the words, whole, and no silence that is longer than it may be.
        var accepted = proposals.Where(p => p.Kind != ProposalKind.Quiet).Select(p => new Accepted(p.Key));
        var (after, fault) = new EditSteps(arrangement, _ => measures).Do(new Accept([.. accepted]));
        fault.ShouldBeNull();
        var clean = Arrangement.Resolve([log], after!.Edits);
        Proposals.Of(clean, _ => measures).ShouldAllBe(p => p.Kind == ProposalKind.Quiet);
        var heard = VoicePlan.Of(clean);
        var left = words.Where((_, i) => i > 0 && i < Pieces - 1 && !Slips.Contains(i)).ToArray();
        left.ShouldAllBe(w => w.To - w.From - Heard(heard, w.From, w.To) <= Near);
    }

    // How much of a stretch of the take is heard, in seconds.
    private static double Heard(VoicePlan plan, double from, double to) => plan.Stretches.Where(s => s.From is not null).Sum(s =>
    {
        var (start, length) = (s.From!.Value.At.Milliseconds / 1000, (s.Target.End - s.Target.Start).Seconds);
        return Math.Max(0, Math.Min(to, start + length) - Math.Max(from, start));
    });

    private static (double From, double To)[] Words(SpokenTruth truth) =>
        [.. truth.Silences.Zip(truth.Silences.Skip(1), (before, after) => (before.To, after.From))];

    private static (TakeLog Log, TakeMeasures Measures) Take(SpokenTruth truth, float[] sound)
    {
        var meter = new TakeMeter();
        meter.Add(Sounds.To16Bit(sound));
        var words = Words(truth);
        TakeAction Note(int piece) => new Noted(TakeTime.FromSeconds(words[piece].To + 0.4), piece, NoteKind.FixLater, "", Duration.Zero);
        TakeAction Stroke(int piece)
        {
            var (from, to) = (TakeTime.FromSeconds(words[piece].To + 0.5), TakeTime.FromSeconds(words[piece + 1].From - 0.5));
            return new StrokeDrawn(from, new(Id, piece), Board.Id, 0, [new(2000, 2000, 128, from), new(9000, 2000, 128, to)]);
        }

        TakeAction[] actions = [new BoardChanged(TakeTime.Zero, Board.Id), .. Slips.Select(Note), .. Written.Select(Stroke)];
        return (new(Id, meter.Length, [.. actions.OrderBy(a => a.At)]), meter.Measures());
    }
}
