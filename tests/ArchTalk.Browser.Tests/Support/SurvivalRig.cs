using System.Globalization;
using System.Runtime.InteropServices;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using OpenQA.Selenium;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>What became of a take that was recorded while things were killed.</summary>
/// <param name="Faults">What was done to it, in order.</param>
/// <param name="LossesMs">What is missing at each place where a tab or a worker was killed, and at the end.</param>
/// <param name="Problems">What must never be: sound in the wrong place, sound that the microphone didn't give, a promise not kept.</param>
public sealed record SurvivalResult(int Seed, IReadOnlyList<string> Faults, IReadOnlyList<double> LossesMs, IReadOnlyList<string> Problems)
{
    public override string ToString() => string.Create(
        CultureInfo.InvariantCulture,
        $"seed {Seed}: {string.Join(", ", Faults)}; lost {string.Join(", ", LossesMs.Select(l => l.ToString("0", CultureInfo.InvariantCulture)))} "
            + $"ms{(Problems.Count > 0 ? "; " + string.Join("; ", Problems) : "")}");
}

/// <summary>
/// Records takes with a microphone whose every sample is known, and kills the server, the tab, the worker and the network at random
/// moments, from a seed. Afterwards the journal is compared with the microphone sample by sample.
/// </summary>
public sealed class SurvivalRig : IAsyncDisposable
{
    // What the page shows, noted as it changes, so that it is known up to the moment of a kill and not only before it was asked.
    private const string Noting =
        """
        setInterval(() => {
          const view = document.querySelector('.record')?._x_dataStack?.[0]?.view;
          if (view && ['recording', 'finishing'].includes(view.phase)) localStorage.shown = `${view.recordedMs} ${view.missingMs}`;
        }, 20);
        """;

    private readonly TestFiles files = new();
    private readonly KnownMicrophone microphone = new(seed: 17);
    private Server server = null!;
    private Wire wire = null!;
    private Chromium browser = null!;
    private TeacherSession teacher = null!;
    private int lessons;

    private SurvivalRig()
    {
    }

    public static async Task<SurvivalRig> StartAsync()
    {
        var rig = new SurvivalRig();
        rig.microphone.WriteWav(rig.files.Path("noise.wav"));
        rig.server = new Server(rig.files.Path("data"));
        await rig.server.StartAsync();
        rig.wire = new Wire(rig.server.Port);
        rig.browser = new Chromium(rig.files.Path("noise.wav"));
        rig.browser.Before(Noting);
        rig.teacher = new TeacherSession(rig.browser, rig.wire.Address);
        rig.teacher.ComeIn();
        return rig;
    }

    public async ValueTask DisposeAsync()
    {
        browser.Dispose();
        wire.Dispose();
        await server.DisposeAsync();
        files.Dispose();
    }

    public async Task<SurvivalResult> RunAsync(int seed)
    {
        var run = new Run(new Random(seed));
        teacher.CreateLesson($"Survival {++lessons}");
        teacher.AddEmptyBoard(1);
        teacher.OpenRecord();
        teacher.StartRecording();
        var faults = run.Random.Next(1, 4);
        for (var i = 0; i < faults && !run.IsFinished; i++)
        {
            await Task.Delay(run.Random.Next(300, 2500));
            await HarmAsync(run);
        }

        if (!run.IsFinished)
        {
            await Task.Delay(run.Random.Next(300, 1500));
            teacher.Finish();
            run.Expected.Enqueue(Shown());
        }

        wire.Mend();
        Compare(run);
        return new(seed, run.Faults, run.Losses, run.Problems);
    }

    private async Task HarmAsync(Run run)
    {
        var random = run.Random;
        switch (random.Next(7))
        {
            case 0:
                run.Faults.Add("server killed");
                await server.KillAsync();
                await Task.Delay(random.Next(0, 3000));
                await server.StartAsync();
                break;
            case 1:
                run.Faults.Add("network pulled");
                wire.Pull();
                await Task.Delay(random.Next(500, 6000));
                wire.PlugIn();
                break;
            case 2:
                run.Faults.Add("50 kB/s");
                wire.BytesPerSecond = 50_000;
                break;
            case 3:
                run.Faults.Add("5 % of uploads lost, 5 % of answers");
                (wire.LosesUploads, wire.LosesAnswers) = (0.05, 0.05);
                break;
            case 4:
                run.Faults.Add("worker killed");
                await KillWorkerAsync(run);
                break;
            case 5:
                run.Faults.Add("tab killed");
                await KillTabAsync(run, () => { });
                break;
            default:
                run.Faults.Add("network pulled, tab killed, opened on a slow line");
                wire.Pull();
                await Task.Delay(random.Next(1000, 5000));
                await KillTabAsync(run, () =>
                {
                    wire.PlugIn();
                    wire.BytesPerSecond = random.Next(100_000, 400_000);
                });
                break;
        }
    }

    private async Task KillWorkerAsync(Run run)
    {
        using (var worker = await Worker.OfAsync(browser.Driver))
        {
            await worker.KillAsync();
        }

        browser.UntilText("that keeps the sound has stopped");
        run.Expected.Enqueue(Shown());
        GoOnOrFinish(run, "Go on", "Finish");
    }

    private async Task KillTabAsync(Run run, Action before)
    {
        browser.CloseTab();
        browser.Before(Noting);
        await Task.Delay(run.Random.Next(0, 1500));
        before();

        // The new tab shows no page of ours yet, so the teacher goes there by the address.
        browser.Go(wire.Address + "/mark.svg");
        run.Expected.Enqueue(Shown());
        teacher.OpenRecord();
        GoOnOrFinish(run, "Go on with it", "Finish it as it is");
    }

    // As soon as it can be pressed.
    private void GoOnOrFinish(Run run, string goOn, string finish)
    {
        run.IsFinished = run.Random.Next(3) == 0;
        browser.Until(() => browser.Driver.FindElements(By.XPath($"//button[contains(normalize-space(.), '{(run.IsFinished ? finish : goOn)}')]"))
            .FirstOrDefault(b => b is { Displayed: true, Enabled: true }), goOn, 120).Click();
        if (run.IsFinished)
        {
            browser.Until(() => browser.Driver.Url.Contains("/refine", StringComparison.Ordinal)
                || browser.Script<bool>("return document.body.innerText.includes('Go to Refine')"), "the finished take", 120);
        }
        else
        {
            browser.Until(teacher.IsRecording, "the take going on");
        }
    }

    /// <summary>How much the page last said is recorded, and how much of it is missing, in ms.</summary>
    private (double RecordedMs, double MissingMs) Shown()
    {
        var shown = browser.Script<string>("return localStorage.shown").Split(' ');
        return (double.Parse(shown[0], CultureInfo.InvariantCulture), double.Parse(shown[1], CultureInfo.InvariantCulture));
    }

    // Each writer's sound against the microphone, and against what the page had said was recorded.
    private void Compare(Run run)
    {
        var journal = Journals.ReadAll(files.Path("data"))[^1];
        var take = Takes.Log(journal);
        run.Check(take.IsEnded, "the take has not ended");
        run.Check(journal.Records.All(r => r.Kind != JournalRecordKind.Lost), "records were declared lost");
        run.Check(journal.Records.Zip(journal.Records.Skip(1)).All(p => p.First.Epoch <= p.Second.Epoch), "an older writer wrote after a newer one");
        var end = 0L;
        foreach (var epoch in journal.Records.GroupBy(r => r.Epoch).Where(g => g.Any(r => r.Kind == JournalRecordKind.Audio)))
        {
            var (length, missing) = CompareWriter([.. epoch], run);
            end += length;
            if (run.Expected.TryDequeue(out var expected))
            {
                // Frames that a busy machine never gave to the browser count as lost, and the page must have said so.
                run.Check(missing - expected.MissingMs < 150, $"{missing:0} ms are missing in the middle, and the page said {expected.MissingMs:0}");
                run.Losses.Add(expected.RecordedMs - ((double)end / Clock.SamplesPerMillisecond) + missing);
            }
        }

        run.Check(end == take.Length.Samples, $"the take is {take.Length.Samples} samples long and its writers together {end}");
    }

    /// <summary>The samples this writer added to the take, and how many ms of them are missing sound.</summary>
    private (long Length, double MissingMs) CompareWriter(IReadOnlyList<JournalRecord> records, Run run)
    {
        var (length, missing) = (0L, 0L);
        foreach (var segment in records.Where(r => r.Kind == JournalRecordKind.Audio).Select(ChunkOf).GroupBy(c => c.Segment))
        {
            int? offset = null;
            var expected = 0L;
            foreach (var (_, first, samples) in segment)
            {
                run.Check(first >= expected, "sound that overlaps itself");
                var gap = expected == 0 ? 0 : first - expected;
                missing += gap;
                length += samples.Length + gap;

                // The first samples of a segment, or after a loss, still hear the silence before them.
                var settled = first == 0 || gap > 0 ? KnownMicrophone.Settling : 0;
                expected = first + samples.Length;
                var at = microphone.Locate(samples.AsSpan(settled));
                if (at is null)
                {
                    run.Problems.Add($"sound at {first} that the microphone didn't give");
                    continue;
                }

                // Where the microphone was when the segment began; the same for all of it. Where frames were lost, the stand-in
                // for a device may have stood still meanwhile.
                var here = (int)((((at.Value - first - settled) % microphone.Length) + microphone.Length) % microphone.Length);
                var shift = Math.Abs(here - (offset ?? here));
                run.Check(
                    Math.Min(shift, microphone.Length - shift) <= gap,
                    $"sound at {first} lies {here - (offset ?? here)} samples from its place");
                offset = here;
                var wrong = microphone.Differing(samples.AsSpan(settled), at.Value);
                run.Check(wrong == 0, $"{wrong} samples at {first} differ from the microphone's");
            }
        }

        return (length, (double)missing / Clock.SamplesPerMillisecond);
    }

    private static (int Segment, long First, short[] Samples) ChunkOf(JournalRecord record)
    {
        var payload = record.Payload.Span;
        return (BitConverter.ToInt32(payload), BitConverter.ToInt64(payload[4..]), MemoryMarshal.Cast<byte, short>(payload[12..]).ToArray());
    }

    private sealed class Run(Random random)
    {
        public Random Random { get; } = random;

        public List<string> Faults { get; } = [];

        public List<double> Losses { get; } = [];

        public List<string> Problems { get; } = [];

        /// <summary>What the page showed when each writer came to its end, in ms of the take.</summary>
        public Queue<(double RecordedMs, double MissingMs)> Expected { get; } = [];

        public bool IsFinished { get; set; }


        public void Check(bool holds, string problem)
        {
            if (!holds)
            {
                Problems.Add(problem);
            }
        }
    }
}
