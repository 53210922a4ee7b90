using System.Diagnostics;
using ArchTalk.Browser.Tests.Support;

namespace ArchTalk.Bench;

/// <summary>The survival runs of the browser tests, with other seeds, for as long as is wanted (ARCHTALK_MINUTES, 45 if not said).</summary>
internal static class SurvivalBench
{
    private const int FirstSeed = 1000;
    private const int RunsWithOneBrowser = 40;

    public static async Task RunAsync()
    {
        var minutes = int.TryParse(Environment.GetEnvironmentVariable("ARCHTALK_MINUTES"), out var wanted) ? wanted : 45;
        var watch = Stopwatch.StartNew();
        var results = new List<SurvivalResult>();
        while (watch.Elapsed < TimeSpan.FromMinutes(minutes))
        {
            await using var rig = await SurvivalRig.StartAsync();
            for (var i = 0; i < RunsWithOneBrowser && watch.Elapsed < TimeSpan.FromMinutes(minutes); i++)
            {
                var result = await rig.RunAsync(FirstSeed + results.Count);
                results.Add(result);
                Console.WriteLine(result);
            }
        }

        var losses = results.SelectMany(r => r.LossesMs).Order().ToArray();
        var bad = results.Where(r => r.Problems.Count > 0).ToArray();
        Measure.Say($"{results.Count} takes (seeds {FirstSeed} to {FirstSeed + results.Count - 1}), {results.Sum(r => r.Faults.Count)} faults in "
            + $"{watch.Elapsed.TotalMinutes:0} minutes; {bad.Length} with sound in the wrong place, changed, or missing untold");
        Measure.Say($"lost at a kill or at the end, against what the page had shown, ms: median {losses[losses.Length / 2]:0}, 95th percentile "
            + $"{losses[(int)(losses.Length * 0.95)]:0}, longest {losses[^1]:0}");
        Array.ForEach(bad, r => Console.WriteLine(r));
    }
}
