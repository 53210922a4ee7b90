using ArchTalk.Core.Time;
using ArchTalk.Media;
using CliWrap;

namespace ArchTalk.Demo;

/// <summary>The invented teacher's voice: espeak-ng, one sentence at a time, so that it is known when each is said.</summary>
internal sealed class Narration(Voice voice, string folder)
{
    private int count;

    /// <summary>Says a sentence; 16-bit mono at 48 kHz, the silence at its ends taken off.</summary>
    public async Task<short[]> SayAsync(string sentence, CancellationToken cancel)
    {
        var file = Path.Combine(folder, $"sentence-{count++}.wav");
        await Cli.Wrap("espeak-ng").WithArguments(["-v", "en-gb", "-s", "148", "-p", "42", "-w", file, sentence]).ExecuteAsync(cancel);
        var samples = await voice.DecodeAsync(file, cancel);
        var first = Array.FindIndex(samples, s => Math.Abs((int)s) > 120);
        var last = Array.FindLastIndex(samples, s => Math.Abs((int)s) > 120);
        return first < 0 ? samples : samples[first..Math.Min(samples.Length, last + (Clock.SampleRate / 20))];
    }
}
