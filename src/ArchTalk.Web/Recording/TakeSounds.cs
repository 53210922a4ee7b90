using ArchTalk.Core.Audio;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Recording;
using ArchTalk.Data.Files;
using ArchTalk.Web.Timelines;

namespace ArchTalk.Web.Recording;

/// <summary>What was measured of takes. It is kept beside the journal once a take has ended; else it is worked out when asked for.</summary>
public sealed class TakeSounds(LessonFiles files, ComputedCache cache)
{
    /// <summary>The measures of a take as far as its log goes.</summary>
    public Task<TakeMeasures> MeasuresAsync(Guid lesson, TakeLog log, CancellationToken cancel) =>
        cache.GetAsync((log.Id, "measures", log.Length), () =>
        {
            var measures = Read(lesson, log) ?? Measure(lesson, log);
            return Task.FromResult((measures, BytesOf(measures)));
        }, cancel);

    /// <summary>Keeps the measures of a take that has ended.</summary>
    public void Keep(Guid lesson, Guid take, TakeMeasures measures)
    {
        var target = files.Measures(lesson, take);
        var draft = $"{target}.{Guid.NewGuid():N}.draft";
        using (var file = File.Create(draft))
        {
            MeasuresFile.Write(file, measures);
        }

        File.Move(draft, target, overwrite: true);
    }

    private TakeMeasures? Read(Guid lesson, TakeLog log)
    {
        var path = files.Measures(lesson, log.Id.Value);
        if (!log.IsEnded || !File.Exists(path))
        {
            return null;
        }

        using var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read | FileShare.Delete, bufferSize: 1 << 16);
        return MeasuresFile.Read(file) is { } measures && measures.Length == log.Length ? measures : null;
    }

    private TakeMeasures Measure(Guid lesson, TakeLog log)
    {
        using var file = TakeJournals.OpenToRead(files.Journal(lesson, log.Id.Value));
        var measures = TakeMeter.Measure(new TakeVoice(file, log.Sound), CancellationToken.None);
        if (log.IsEnded)
        {
            Keep(lesson, log.Id.Value, measures);
        }

        return measures;
    }

    private static long BytesOf(TakeMeasures measures) => 10_000 + (measures.Steps.Length * 4L) + (measures.Phrases.Count * 16L)
        + (Enumerable.Range(0, Waveform.Resolutions).Sum(r => measures.Waveform.Peaks(r).Count) * 2L);
}
