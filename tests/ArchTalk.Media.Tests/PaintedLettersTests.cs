using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using ArchTalk.Reader.Painting;
using SkiaSharp;

namespace ArchTalk.Media.Tests;

/// <summary>Painted writing: what it looks like is compared with a browser's in the browser's tests.</summary>
public sealed class PaintedLettersTests
{
    private const int Rounds = 12;

    // A face's tables are asked for once and used as long as it is open.
    [Fact]
    public void Letters_stay_what_they_are_while_memory_is_cleared_up()
    {
        using var painter = new ScenePainter(Path.Combine(Repository.Web, "wwwroot", "app", "fonts"), _ => null);
        using var first = Painted(painter);
        first.Pixels.Count(p => p.Green < 128).ShouldBeGreaterThan(1000, "there is writing");
        for (var i = 0; i < Rounds; i++)
        {
            GC.Collect();
            GC.WaitForPendingFinalizers();
            GC.Collect();
            Rubbish();
            using var again = Painted(painter);
            again.Bytes.AsSpan().SequenceEqual(first.Bytes).ShouldBeTrue($"the same picture, in round {i + 1}");
        }
    }

    // Where something was that is used no longer, there is something else now.
    private static void Rubbish()
    {
        var kept = new List<byte[]>();
        for (var size = 100; size < 60_000; size += 20)
        {
            kept.Add(new byte[size]);
            kept[^1].AsSpan().Fill(0xEE);
        }

        GC.KeepAlive(kept);
    }

    private static SKBitmap Painted(ScenePainter painter)
    {
        string[] lines = ["keystone, voûte, Gewölbe: AVATAR fi 60 kN", "אבן ראשה", "قوس من الحجر", "मेहराब का पत्थर"];
        TextShape[] shapes = [.. lines.Select((l, i) => new TextShape(l, 100, 100 * (i + 1), 48, "#1E2A2B"))];
        var timeline = new LessonTimeline(
            Duration.FromSeconds(1), [new TimelineBoard(new Board(Guid.Empty, "", 900), [], [[]], [])], [], [], [], []);
        var ground = new BoardGround(null, [new(Guid.Empty, 0, 0, new(1600, 900, shapes))]);
        return painter.Paint(timeline, timeline.At(LessonTime.Zero).Panes[0], LessonTime.Zero, ground, 800);
    }
}
