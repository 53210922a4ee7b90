using System.IO.Compression;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Tests.Editing;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Bench;

/// <summary>Compiling a long lesson, at first and after an edit, asking for scenes, and the size of what players are sent.</summary>
internal static class CompileBench
{
    private const int RandomCases = 20_000;

    public static Task RunAsync()
    {
        Time(LargeLesson.Minutes);
        Time(15);
        Send();
        Compare();
        return Task.CompletedTask;
    }

    private static void Time(int minutes)
    {
        var journal = LargeLesson.Journal(minutes);
        var idle = Settled();
        TakeLog log = null!;
        LessonTimeline timeline = null!;
        LessonTimeline Compile(EditList edits) => timeline = TimelineCompiler.Compile(LargeLesson.Boards, Arrangement.Resolve([log], edits));
        var events = Measure.MedianMs(5, () => ReadEvents(journal));
        var read = Measure.MedianMs(5, () => log = LargeLesson.Read(journal));
        var first = Measure.MedianMs(5, () => Compile(EditList.Empty));
        var edits = new EditList
        {
            Cuts = [new(log.Id, Range(60, 64)), new(log.Id, Range(200, 203.5))],
            Silences = [.. Enumerable.Range(0, minutes * 5)
                .Select(i => new ShortenedSilence(log.Id, Range((i * 12) + 6, (i * 12) + 8), Duration.FromSeconds(0.4)))],
        };
        var afterOne = Measure.MedianMs(5, () => Compile(edits));
        var grown = (Settled() - idle) / 1e6;
        Measure.Say($"{minutes} min with pointer and {timeline.Boards.Sum(b => b.Strokes.Count)} strokes: reading the take {read:0} ms, once "
            + $"({events:0} ms of it the {journal.Length / 1_000_000} MB of its journal, the rest smoothing and simplifying); compile {first:0} ms, "
            + $"after one edit more (of {edits.Count}) {afterOne:0} ms; {grown:0} MB above idle");
        GC.KeepAlive(log);
        GC.KeepAlive(timeline);
    }

    private static void ReadEvents(byte[] journal)
    {
        using var bytes = new MemoryStream(journal);
        foreach (var entry in JournalReader.Open(bytes)!.Entries().Where(e => e.Record.Kind == JournalRecordKind.Events))
        {
            TakeEvents.Read(entry.Record.Payload.Span[sizeof(int)..], out _);
        }
    }

    private static TimeRange<TakeTime> Range(double from, double to) => new(TakeTime.FromSeconds(from), TakeTime.FromSeconds(to));

    private static long Settled()
    {
        for (var i = 0; i < 3; i++)
        {
            GC.Collect();
            GC.WaitForPendingFinalizers();
        }

        return GC.GetTotalMemory(forceFullCollection: true);
    }

    private static void Send()
    {
        var timeline = TimelineCompiler.Compile(LargeLesson.Boards, LargeLesson.Whole);
        var random = new Random(2);
        var times = Enumerable.Range(0, 1000).Select(_ => new LessonTime((long)(random.NextDouble() * timeline.Length.Samples))).ToArray();
        var at = Measure.MedianMs(5, () => Array.ForEach(times, t => timeline.At(t))) / times.Length;
        Measure.Say($"At: {at:0.0000} ms");
        var file = TimelineFiles.Timeline(timeline, [.. LargeLesson.Boards.Select(_ => Array.Empty<BoardPicture>())], []);
        var json = TimelineFiles.ToBytes(file);
        var boards = timeline.Boards.Select(b => TimelineFiles.ToBytes(TimelineFiles.Board(b, []))).ToArray();
        var minutes = file.PointerMinutes.Select(m => TimelineFiles.ToBytes(TimelineFiles.Pointer(timeline, m))).ToArray();
        Measure.Say($"as sent, compressed (plain): timeline.json {Compressed(json)} ({json.Length}) bytes, the largest board "
            + $"{boards.Max(Compressed)} ({boards.Max(b => b.Length)}), the largest minute of the pointer {minutes.Max(Compressed)} "
                + $"({minutes.Max(m => m.Length)})");
        Measure.Say($"all {boards.Length} boards and {minutes.Length} minutes of the pointer {boards.Sum(Compressed) + minutes.Sum(Compressed)} "
            + $"({boards.Sum(b => (long)b.Length) + minutes.Sum(m => (long)m.Length)}) bytes; to write a board "
                + $"{Measure.MedianMs(5, () => TimelineFiles.ToBytes(TimelineFiles.Board(timeline.Boards[0], []))):0.0} ms");
    }

    // The same code as in the tests, over many more cases.
    private static void Compare()
    {
        var differing = 0;
        Parallel.For(0, RandomCases, seed =>
        {
            if (TwoCompilers.Difference(seed) is { } difference && Interlocked.Increment(ref differing) <= 3)
            {
                Measure.Say($"seed {seed}: {difference}");
            }
        });
        Measure.Say($"{RandomCases} random lessons with random edits: {differing} differ from the second compiler");
    }

    internal static long Compressed(byte[] bytes)
    {
        using var target = new MemoryStream();
        using (var brotli = new BrotliStream(target, CompressionLevel.Fastest, leaveOpen: true))
        {
            brotli.Write(bytes);
        }

        return target.Length;
    }
}
