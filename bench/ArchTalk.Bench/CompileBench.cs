using System.IO.Compression;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Bench;

/// <summary>Compiling a long lesson, asking for scenes, and the size of what players are sent.</summary>
internal static class CompileBench
{
    public static Task RunAsync()
    {
        var ranges = LargeLesson.Ranges();
        LessonTimeline timeline = null!;
        var compile = Measure.MedianMs(5, () => timeline = TimelineCompiler.Compile(LargeLesson.Boards, ranges));
        var random = new Random(2);
        var times = Enumerable.Range(0, 1000).Select(_ => new LessonTime((long)(random.NextDouble() * timeline.Length.Samples))).ToArray();
        var at = Measure.MedianMs(5, () => Array.ForEach(times, t => timeline.At(t))) / times.Length;
        var points = timeline.Boards.Sum(b => b.Strokes.Sum(s => (long)s.Points.Count));
        Measure.Say($"compile of {LargeLesson.Minutes} min, {LargeLesson.Strokes} strokes, {LargeLesson.Strokes * LargeLesson.PointsPerStroke} points: {compile:0} ms ({points} points kept)");
        Measure.Say($"At: {at:0.0000} ms");
        var json = TimelineJson.Write(timeline, [.. LargeLesson.Boards.Select(_ => Array.Empty<BoardPicture>())], []);
        var ink = timeline.Boards.Select(b => TimelineJson.WriteInk(b.Strokes, [])).ToArray();
        Measure.Say($"timeline as sent: {Compressed(json) + ink.Sum(Compressed)} bytes compressed ({json.Length + ink.Sum(i => (long)i.Length)} plain), of which the largest board {ink.Max(Compressed)}");
        return Task.CompletedTask;
    }

    public static long Compressed(byte[] bytes)
    {
        using var target = new MemoryStream();
        using (var brotli = new BrotliStream(target, CompressionLevel.Fastest, leaveOpen: true))
        {
            brotli.Write(bytes);
        }

        return target.Length;
    }
}
