using ArchTalk.Core.Audio;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Media.Tests;

/// <summary>
/// How many made coughs, knocks and hesitations are proposed to be taken out, and how many single words: the figures that stand beside
/// the switch on Refine. Each lies between two sentences, with 0.8 s on either side.
/// </summary>
public sealed class ShortSoundsTests(ITestOutputHelper output) : IDisposable
{
    private const int Each = 20;
    private static readonly TakeId Id = new(Guid.Parse("00000000-0000-0000-0000-0000000000d6"));
    private static readonly string[] Voices = ["en-gb", "en-us", "en-gb+m3", "en-us+f3", "en-gb-scotland"];
    private readonly Samples work = new();
    private readonly Random random = new(5);

    public void Dispose() => work.Dispose();

    [Fact]
    public async Task Coughs_knocks_and_hesitations_are_found_and_so_are_single_words()
    {
        var (sentence, found) = (await SpokenAsync("Each stone pushes on the next.", "en-gb"), new Dictionary<string, int>());
        foreach (var (kind, make) in new (string, Func<int, Task<float[]>>)[]
        {
            ("coughs", _ => Task.FromResult(Burst(0.2 + (0.2 * random.NextDouble()), () => (2 * random.NextDouble()) - 1))),
            ("knocks", _ => Task.FromResult(Burst(0.06 + (0.06 * random.NextDouble()), () => random.NextDouble() - 0.2))),
            ("hesitations", i => SpokenAsync(((string[])["hm", "um", "er", "uh"])[i % 4], Voices[i / 4])),
            ("words", i => SpokenAsync(((string[])["Yes.", "No.", "Right.", "So."])[i % 4], Voices[i / 4])),
        })
        {
            var (sound, places) = (new List<float>(), new List<double>());
            for (var i = 0; i < Each; i++)
            {
                sound.AddRange([.. Room(1), .. sentence, .. Room(0.8)]);
                var one = await make(i);
                places.Add((sound.Count + (one.Length / 2.0)) / Clock.SampleRate);
                sound.AddRange([.. one, .. Room(0.8), .. sentence]);
            }

            found[kind] = Found(sound, places);
        }

        output.WriteLine(string.Join(", ", found.Select(f => $"{f.Value} of {Each} {f.Key}")));
        found["coughs"].ShouldBe(Each);
        found["knocks"].ShouldBe(Each);
        found["hesitations"].ShouldBe(17);
        found["words"].ShouldBe(Each, "the switch says so: words are among them");
    }

    private static int Found(List<float> sound, List<double> places)
    {
        var meter = new TakeMeter();
        meter.Add(Sounds.To16Bit([.. sound]));
        var measures = meter.Measures();
        var arrangement = Arrangement.Resolve([new TakeLog(Id, meter.Length, [])], EditList.Empty);
        var proposed = Proposals.Of(arrangement, _ => measures).Where(p => p.Kind == ProposalKind.ShortSound).ToArray();
        proposed.Length.ShouldBeLessThanOrEqualTo(places.Count, "no sentence is taken for one");
        return places.Count(at => proposed.Any(p => p.Source.Contains(TakeTime.FromSeconds(at))));
    }

    // A room at about 66 dB under full scale.
    private float[] Room(double seconds) =>
        [.. Enumerable.Range(0, (int)(seconds * Clock.SampleRate)).Select(_ => (float)(0.0005 * ((2 * random.NextDouble()) - 1)))];

    private static float[] Burst(double seconds, Func<double> noise)
    {
        var length = (int)(seconds * Clock.SampleRate);
        return [.. Enumerable.Range(0, length).Select(i => (float)(0.25 * Math.Exp(-4.0 * i / length) * noise()))];
    }

    private async Task<float[]> SpokenAsync(string text, string voice)
    {
        var file = work.Path($"short-{Guid.NewGuid():N}.wav");
        await work.RunAsync("espeak-ng", "-v", voice, "-s", "145", "-w", file, text);
        var samples = await new Kit().Voice.DecodeAsync(file, CancellationToken.None);
        var (first, last) = (Array.FindIndex(samples, s => Math.Abs((int)s) > 200), Array.FindLastIndex(samples, s => Math.Abs((int)s) > 200));
        return [.. samples[first..last].Select(s => s / 65536f)];
    }
}
