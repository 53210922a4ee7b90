using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Browser.Tests;

/// <summary>
/// ITU-R BT.1359-1: voice against picture is noticed from 45 ms early. Ten minutes with a click and a dot every six seconds, edited in
/// fifty places, published, decoded by ffmpeg and by Chromium: every click that is left is within 20 ms of its dot, and none is without.
/// </summary>
[Trait("check", "aside")]
public sealed class EditedVoiceTests(ITestOutputHelper output, SharedServer shared) : IDisposable
{
    private const double MostMs = 20;
    private const double OffJoinsMs = 30;
    private const int Clicks = 100;
    private const double Apart = 6;
    private const double First = 3;

    private readonly TestFiles files = new();

    public void Dispose() => files.Dispose();

    [Fact]
    public async Task Every_click_that_is_left_is_with_its_dot_after_fifty_edits()
    {
        var server = await shared.StartedAsync();
        using var browser = new Chromium();
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Clicks");
        teacher.AddEmptyBoard(1);
        var lesson = new Uri(teacher.Lesson).Segments[2].TrimEnd('/');
        var board = JsonDocument.Parse(browser.Call("GET", $"/api/lessons/{lesson}/boards")).RootElement.GetProperty("boards")[0]
            .GetProperty("id").GetGuid();
        var take = await UploadAsync(server.Address, browser, lesson, board);
        var edits = Edits(new TakeId(take), new Random(12));
        (edits.Cuts.Count + edits.Silences.Count + edits.Pauses.Count + edits.Mutes.Count + edits.Sequence.Count).ShouldBe(50);
        browser.Call("PUT", $"/api/lessons/{lesson}/sections/Edits", new { content = edits, version = 0 }).ShouldContain("\"version\":1");

        var (timeline, address) = await TeacherSession.ReadPublishedAsync(teacher.Publish());
        var dots = timeline.Boards[0].Strokes.Select(s => s.Birth.Milliseconds).Order().ToList();
        dots.Count.ShouldBeInRange(80, Clicks);
        foreach (var (name, clicks) in await ClickFinder.InPublishedAsync(browser, files, address, OffJoinsMs))
        {
            clicks.Count.ShouldBe(dots.Count, name);
            var differences = clicks.Zip(dots, (click, dot) => dot - click).Order().ToArray();
            output.WriteLine($"{name}: {clicks.Count} clicks, ink minus voice {differences[0]:0.0} to {differences[^1]:0.0} ms");
            differences.ShouldAllBe(d => Math.Abs(d) <= MostMs, name);
        }
    }

    // As a recorder sends it, but at once: clicks over a quiet room, and a short stroke that begins with each.
    private static async Task<Guid> UploadAsync(string server, Chromium browser, string lesson, Guid board)
    {
        var random = new Random(5);
        var journal = new JournalBuilder().Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false));
        journal.Anchors(0, new ClockAnchor(0, 0)).Events(0, new BoardShown(0, board));
        for (var second = 0; second < Clicks * Apart; second++)
        {
            var sound = Enumerable.Range(0, Clock.SampleRate).Select(_ => (short)random.Next(-40, 41)).ToArray();
            var (click, isHere) = (second - (int)First) / (int)Apart is var n && (n * Apart) + First == second ? (n, true) : (0, false);
            if (isHere)
            {
                Sounds.Click().CopyTo(sound, 0);
            }

            journal.Audio(0, (long)second * Clock.SampleRate, sound.AsSpan(0, Clock.SampleRate / 2));
            journal.Audio(0, ((long)second * Clock.SampleRate) + (Clock.SampleRate / 2), sound.AsSpan(Clock.SampleRate / 2));
            journal.Anchors(0, new ClockAnchor((second + 1) * Clock.SampleRate, (second + 1) * 1000));
            if (isHere)
            {
                var (x, y) = (1000 + (click % 10 * 1300), 500 + (click / 10 * 700));

                // In tenths of a millisecond.
                var at = second * 10_000L;
                journal.Events(0,
                [
                    new StrokeBegun(click + 1, board, "pen", "blue", "medium"),
                    new StrokePoints(click + 1, [x, y, 128, at, x + 40, y, 128, at + 100, x + 80, y, 128, at + 200]),
                    new StrokeEnded(click + 1, (second * 1000) + 20),
                ]);
            }
        }

        return await UploadedTake.SendAsync(server, browser, lesson, journal.End().Records);
    }

    // Cuts with and without clicks in them; silences, pauses and mutes where none is; stretches moved, and one used twice.
    private static EditList Edits(TakeId take, Random random)
    {
        TakeTime At(double seconds) => TakeTime.FromSeconds(seconds);
        TimeRange<TakeTime> Range(double from, double to) => new(At(from), At(to));
        var (cuts, silences, pauses, mutes) = (new List<Cut>(), new List<ShortenedSilence>(), new List<InsertedPause>(), new List<Mute>());
        double Near(double click) => click + ((random.Next(2) == 0 ? 1 : -1) * ((OffJoinsMs / 1000) + 0.006 + (random.NextDouble() * 0.3)));
        for (var i = 0; i < 42; i++)
        {
            // One edit between two clicks, or around one.
            var click = First + (i * 2 * Apart);
            switch (i % 7)
            {
                case 0 or 1 or 2:
                    cuts.Add(new Cut(take, Range(click + OffJoinsMs / 1000 + 0.006 + random.NextDouble(), click + 2 + random.NextDouble())));
                    break;
                case 3:
                    cuts.Add(new Cut(take, Range(Near(click) - 0.7, Near(click) + 0.7)));
                    break;
                case 4:
                    silences.Add(new ShortenedSilence(take, Range(click + 0.05, click + 4 + random.NextDouble()), Duration.FromSeconds(0.3)));
                    break;
                case 5:
                    pauses.Add(new InsertedPause(take, At(click + 0.1 + random.NextDouble()), Duration.FromSeconds(0.5 + random.NextDouble())));
                    break;
                default:
                    mutes.Add(new Mute(take, Range(click + 0.1, click + 1 + random.NextDouble())));
                    break;
            }
        }

        return new EditList
        {
            Cuts = cuts,
            Silences = silences,
            Pauses = pauses,
            Mutes = mutes,
            Sequence =
            [
                new(take, Range(0, 125.04)), new(take, Range(301, 360.96)), new(take, Range(125.04, 200.7)), new(take, Range(0.5, 20.96)),
                new(take, Range(200.7, 301)), new(take, Range(360.96, 402)), new(take, Range(402.5, 500)), new(take, Range(500, 600)),
            ],
        };
    }
}
