using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Web.Recording;
using Microsoft.Extensions.DependencyInjection;

namespace ArchTalk.Web.Tests;

/// <summary>Takes in which somebody speaks.</summary>
internal static class Spoken
{
    /// <summary>Recorded as a recorder sends it: a quarter of a second at a time.</summary>
    public static async Task<Guid> RecordAsync(App app, Guid lesson, short[] sound, bool ends = true, params TakeEvent[] events)
    {
        var take = await app.WithAsync(s => s.GetRequiredService<RecordingService>().StartAsync(lesson, CancellationToken.None));
        var journal = new JournalBuilder().Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false)).Sound(0, sound);
        if (events.Length > 0)
        {
            journal.Anchors(0, new ClockAnchor(0, 0)).Anchors(0, new ClockAnchor(sound.Length, sound.Length / 48.0)).Events(0, events);
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
