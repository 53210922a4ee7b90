using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Bench;

/// <summary>
/// A lesson of 60 minutes on 20 boards with 20,000 strokes of 50 points, curved and trembling as hands write, and a pointer that
/// moves a third of the time.
/// </summary>
internal static class LargeLesson
{
    public const int Minutes = 60;
    public const int Strokes = 20_000;
    public const int PointsPerStroke = 50;
    private const int BoardCount = 20;

    public static IReadOnlyList<Board> Boards { get; } =
        [.. Enumerable.Range(0, BoardCount).Select(i => new Board(new Guid(i + 1, 0, 0, new byte[8]), $"Board {i + 1}", Board.SlideHeight))];

    public static Arrangement Whole => Arrangement.Resolve([Read(Journal(Minutes))], EditList.Empty);

    /// <summary>What was done, as the server reads it from a journal.</summary>
    public static TakeLog Read(byte[] journal)
    {
        using var bytes = new MemoryStream(journal);
        var reader = JournalReader.Open(bytes)!;
        return TakeLog.Read(reader.Take, reader.Entries());
    }

    /// <summary>The journal of one take, almost without sound: a millisecond now and then, and missing sound between.</summary>
    public static byte[] Journal(int minutes)
    {
        var length = minutes * 60_000;
        var builder = new JournalBuilder().Segment(new SegmentStart(0, Clock.SampleRate, 0, "Bench", false, false, false));
        for (var at = 0; at < length; at += 300_000)
        {
            builder.Audio(0, at * 48L, new short[48]);
        }

        builder.Audio(0, (length - 1) * 48L, new short[48]);
        builder.Anchors(0, [.. Enumerable.Range(0, length / 250).Select(i => new ClockAnchor(i * 12_000L, i * 250.0))]);
        var random = new Random(1);
        var strokes = Strokes * minutes / Minutes;
        var perBoard = Math.Max(1, strokes / BoardCount);
        for (var s = 0; s < strokes; s++)
        {
            var board = Boards[Math.Min(BoardCount - 1, s / perBoard)];
            var start = (double)length * s / strokes;
            if (s % perBoard == 0)
            {
                builder.Events(0, new BoardShown(start, board.Id));
            }

            builder.Events(
                0,
                new StrokeBegun(s + 1, board.Id, "pen", "blue-black", "medium"),
                new StrokePoints(s + 1, Curve(random, start, (double)length / strokes * 0.6)));
            if (s % 3 == 0)
            {
                var from = start + ((double)length / strokes * 0.6);
                builder.Events(
                    0,
                    new PointerMoved(board.Id, Pointing(random, from, (double)length / strokes)),
                    new PointerAway(from + ((double)length / strokes)));
            }
        }

        return builder.ToBytes(Guid.NewGuid());
    }

    internal static long[] Curve(Random random, double start, double lasts)
    {
        double x = random.Next(800, 14_800), y = random.Next(800, 8200), angle = random.NextDouble() * 6.28, bend = (random.NextDouble() - 0.5) * 0.5;
        var data = new long[PointsPerStroke * 4];
        for (var i = 0; i < PointsPerStroke; i++)
        {
            angle += bend + ((random.NextDouble() - 0.5) * 0.1);
            x += Math.Cos(angle) * 22;
            y += Math.Sin(angle) * 22;
            data[i * 4] = (long)x;
            data[(i * 4) + 1] = (long)y;
            data[(i * 4) + 2] = 110 + (long)(40 * Math.Sin(i * 0.12));
            data[(i * 4) + 3] = (long)((start + (lasts * i / PointsPerStroke)) * 10);
        }

        return data;
    }

    // Sixty places a second, circling as one does while explaining.
    private static long[] Pointing(Random random, double start, double lasts)
    {
        double x = random.Next(2000, 13_000), y = random.Next(2000, 7000), turn = random.NextDouble() * 6.28;
        var data = new List<long>();
        for (double at = 0; at < lasts; at += 1000 / 60.0)
        {
            turn += 0.2;
            data.AddRange([(long)(x + (Math.Cos(turn) * 300)), (long)(y + (Math.Sin(turn) * 300)), (long)((start + at) * 10)]);
        }

        return [.. data];
    }
}
