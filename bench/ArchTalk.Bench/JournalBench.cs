using ArchTalk.Core.Recording;
using ArchTalk.Data.Files;
using Microsoft.Win32.SafeHandles;

namespace ArchTalk.Bench;

/// <summary>Appending to a journal against writing and flushing the same bytes with nothing else done.</summary>
internal static class JournalBench
{
    private const int Records = 400;

    public static Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("archtalk-bench-").FullName;
        var builder = new JournalBuilder();
        for (var i = 0; i < Records; i++)
        {
            builder.Audio(0, i * 12_000L, new short[12_000]);
        }

        var bytes = builder.Records.Select(r => r.ToBytes()).ToArray();
        var runs = Enumerable.Range(0, 5).Select(run =>
        {
            var raw = Measure.MedianMs(1, () =>
            {
                using SafeFileHandle file = File.OpenHandle(Path.Combine(folder, "raw"), FileMode.Create, FileAccess.Write);
                long at = 0;
                foreach (var record in bytes)
                {
                    RandomAccess.Write(file, record, at);
                    RandomAccess.FlushToDisk(file);
                    at += record.Length;
                }
            });
            var number = 0;
            var journal = Measure.MedianMs(1, () =>
            {
                using var file = JournalFile.Open(Path.Combine(folder, $"{run}-{number++}"), Guid.NewGuid());
                foreach (var record in builder.Records)
                {
                    file.Append([record], epoch: 1);
                }
            });
            return (Raw: raw / Records, Journal: journal / Records);
        }).ToArray();
        var (rawMs, journalMs) = (Measure.Median(runs.Select(r => r.Raw)), Measure.Median(runs.Select(r => r.Journal)));
        Measure.Say($"append of 250 ms of sound, on the disk: {journalMs:0.000} ms; raw write and flush of the same bytes: {rawMs:0.000} ms; ratio {journalMs / rawMs:0.00}");
        Directory.Delete(folder, recursive: true);
        return Task.CompletedTask;
    }
}
