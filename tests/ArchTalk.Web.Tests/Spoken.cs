using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Web.Recording;
using Microsoft.Extensions.DependencyInjection;

namespace ArchTalk.Web.Tests;

/// <summary>Takes in which somebody speaks.</summary>
internal static class Spoken
{
    /// <summary>Syllables of a buzzing voice over a quiet room, with pauses of 0.8 s after every 2.2 s.</summary>
    public static short[] Speech(double seconds, double level = 0.1, int seed = 1)
    {
        var random = new Random(seed);
        return [.. Enumerable.Range(0, (int)(seconds * Clock.SampleRate)).Select(i =>
        {
            var t = (double)i / Clock.SampleRate;
            var buzz = Enumerable.Range(1, 8).Sum(k => Math.Sin(2 * Math.PI * 160 * k * t) / k);
            var voice = t % 3 > 2.2 ? 0 : level * (0.6 + (0.4 * Math.Sin(2 * Math.PI * 4 * t))) * buzz;
            return (short)(32767 * Math.Clamp(voice + (0.0005 * ((2 * random.NextDouble()) - 1)), -1, 1));
        })];
    }

    /// <summary>Recorded as a recorder sends it: a quarter of a second at a time.</summary>
    public static async Task<Guid> RecordAsync(App app, Guid lesson, short[] sound, bool ends = true)
    {
        var take = await app.WithAsync(s => s.GetRequiredService<RecordingService>().StartAsync(lesson, CancellationToken.None));
        var journal = new JournalBuilder().Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false));
        for (var at = 0; at < sound.Length; at += 12_000)
        {
            journal.Audio(0, at, sound.AsSpan(at, Math.Min(12_000, sound.Length - at)));
        }

        foreach (var record in ends ? journal.End().Records : journal.Records)
        {
            var answer = await app.WithAsync(async s =>
            {
                var recording = s.GetRequiredService<RecordingService>();
                var admitted = await recording.AdmitAsync(take.Take, take.Token, CancellationToken.None);
                return await recording.AppendAsync(admitted!, take.Token, record.ToBytes(), CancellationToken.None);
            });
            answer.Outcome.ShouldBe(UploadOutcome.Saved);
        }

        return take.Take;
    }
}
