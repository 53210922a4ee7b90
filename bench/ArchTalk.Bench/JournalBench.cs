using System.Diagnostics;
using ArchTalk.Core.Recording;
using ArchTalk.Data;
using ArchTalk.Data.Files;
using Microsoft.Data.Sqlite;
using Microsoft.Win32.SafeHandles;

namespace ArchTalk.Bench;

/// <summary>Appending to a journal against writing and flushing the same bytes with nothing else done.</summary>
internal static class JournalBench
{
    private const int Records = 400;

    public static async Task RunAsync()
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
        Measure.Say($"append of 250 ms of sound, on the disk: {journalMs:0.000} ms; raw write and flush of the same bytes: {rawMs:0.000} ms; ratio "
            + $"{journalMs / rawMs:0.00}");
        await CommitsAsync(Path.Combine(folder, "commits.db"));
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    /// <summary>What it costs that a commit is on the disk when the page is told "Saved".</summary>
    private static async Task CommitsAsync(string path)
    {
        const int Commits = 300;
        await using var db = new SqliteConnection(DatabaseSetup.ConnectionString(path));
        await db.OpenAsync();
        async Task RunAsync(string sql)
        {
            await using var command = db.CreateCommand();
            command.CommandText = sql;
            await command.ExecuteNonQueryAsync();
        }

        await RunAsync("PRAGMA journal_mode = WAL; CREATE TABLE lists (json TEXT);");
        var times = new Dictionary<string, double>();
        foreach (var level in new[] { "NORMAL", "FULL", "NORMAL", "FULL" })
        {
            await RunAsync($"PRAGMA synchronous = {level};");
            var watch = Stopwatch.StartNew();
            for (var i = 0; i < Commits; i++)
            {
                await RunAsync("INSERT INTO lists VALUES (hex(randomblob(2000)));");
            }

            times[level] = watch.Elapsed.TotalMilliseconds / Commits;
        }

        Measure.Say(
            $"a commit of 4 kB flushed to the disk (synchronous = FULL): {times["FULL"]:0.000} ms, without the flush {times["NORMAL"]:0.000} ms");
    }
}
