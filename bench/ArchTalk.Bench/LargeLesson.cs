using ArchTalk.Core.Boards;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Bench;

/// <summary>A lesson of 60 minutes on 20 boards with 20,000 strokes of 50 points: curved and trembling, as hands write.</summary>
internal static class LargeLesson
{
    public const int Minutes = 60;
    public const int Strokes = 20_000;
    public const int PointsPerStroke = 50;
    private const int BoardCount = 20;

    public static IReadOnlyList<Board> Boards { get; } =
        [.. Enumerable.Range(0, BoardCount).Select(i => new Board(new Guid(i + 1, 0, 0, new byte[8]), $"Board {i + 1}", Board.SlideHeight))];

    /// <summary>Compiler input without sound: one take whose actions are given as they come out of a journal.</summary>
    public static IReadOnlyList<TakeRange> Ranges()
    {
        var length = Minutes * 60_000;
        var builder = new JournalBuilder().Segment(new SegmentStart(0, Clock.SampleRate, 0, "Bench", false, false, false));

        // A millisecond of sound now and then and missing sound between: the length is right and the journal stays small.
        for (var at = 0; at < length; at += 300_000)
        {
            builder.Audio(0, at * 48L, new short[48]);
        }

        builder.Audio(0, (length - 1) * 48L, new short[48]);
        builder.Anchors(0, [.. Enumerable.Range(0, length / 250).Select(i => new ClockAnchor(i * 12_000L, i * 250.0))]);
        var random = new Random(1);
        var perBoard = Strokes / BoardCount;
        for (var s = 0; s < Strokes; s++)
        {
            var board = Boards[s / perBoard];
            var start = (double)length * s / Strokes;
            if (s % perBoard == 0)
            {
                builder.Events(0, new BoardShown(start, board.Id));
            }

            builder.Events(0, new StrokeBegun(s + 1, board.Id, "pen", "blue-black", "medium"), new StrokePoints(s + 1, Curve(random, start, (double)length / Strokes * 0.8)));
        }

        Journal.TryRead(builder.ToBytes(Guid.NewGuid()), out var journal);
        return TakeRange.EndToEnd([Take.FromJournal(journal!)]);
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
}
