using System.Text.Json;
using ArchTalk.Core.Time;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>Finds clicks in sound that comes block by block: the first loud sample after some quiet.</summary>
/// <param name="quietMs">So long without a loud sample before a click.</param>
public sealed class ClickFinder(double quietMs)
{
    /// <summary>The clicks that <see cref="TestFiles.Clicks"/> makes are louder than this, in samples of 16 bits.</summary>
    public const int Threshold = 5000;

    private readonly List<double> clicks = [];
    private long position;
    private long last = long.MinValue / 2;

    /// <summary>Where clicks begin, in ms.</summary>
    public static List<double> Find(IEnumerable<short[]> blocks, double quietMs = 300)
    {
        var finder = new ClickFinder(quietMs);
        foreach (var block in blocks)
        {
            finder.Add(block);
        }

        return finder.clicks;
    }

    /// <summary>The clicks in the published files, decoded by ffmpeg and by Chromium.</summary>
    public static async Task<List<(string Name, List<double> Clicks)>> InPublishedAsync(
        Chromium browser, TestFiles files, string address, double quietMs = 300)
    {
        var found = new List<(string, List<double>)>();
        using var http = new HttpClient();
        foreach (var file in Media.Voice.CopyNames)
        {
            await File.WriteAllBytesAsync(files.Path(file), await http.GetByteArrayAsync($"{address}/{file}"));
            found.Add(($"{file} by ffmpeg", Find([await TestFiles.Voice.DecodeAsync(files.Path(file), CancellationToken.None)], quietMs)));
            var inBrowser = browser.ScriptAsync<string>(
                """
                const [address, threshold, quiet, done] = arguments;
                (async () => {
                  const context = new OfflineAudioContext(1, 1, 48000);
                  const sound = await context.decodeAudioData(await (await fetch(address)).arrayBuffer());
                  const clicks = [], samples = sound.getChannelData(0);
                  for (let i = 0, last = -Infinity; i < samples.length; i++) {
                    if (Math.abs(samples[i]) > threshold / 32768) {
                      if (i - last > quiet * 48) clicks.push(i / 48);
                      last = i;
                    }
                  }
                  done(JSON.stringify(clicks));
                })().catch((e) => done('"' + e + '"'));
                """,
                $"{address}/{file}",
                Threshold,
                quietMs);
            found.Add(($"{file} by Chromium", JsonSerializer.Deserialize<List<double>>(inBrowser)!));
        }

        return found;
    }

    private void Add(short[] samples)
    {
        foreach (var sample in samples)
        {
            if (Math.Abs((int)sample) >= Threshold)
            {
                if (position - last > quietMs * Clock.SamplesPerMillisecond)
                {
                    clicks.Add((double)position / Clock.SamplesPerMillisecond);
                }

                last = position;
            }

            position++;
        }
    }
}
