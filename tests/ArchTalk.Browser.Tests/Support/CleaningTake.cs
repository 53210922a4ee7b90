using System.Text.Json;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Demo;
using ArchTalk.Tests;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>A lesson of one board and one take that is to be cleaned: a false start, a slip, silences, words after the end.</summary>
public static class CleaningTake
{
    public const double Recorded = 51;
    public const double Slip = 35.8;
    public const double SlipEnd = 38;

    private static readonly (double From, double To)[] Spoken =
    [
        (2, 4), (8, 10.2), (11.1, 13.3), (14.2, 16.4), (17.3, 19.5), (27.5, 29.7), (32.7, 34.9), (Slip, SlipEnd), (38.9, 41.1), (46, 47.5),
    ];

    /// <summary>Has it recorded, and opens Refine.</summary>
    /// <param name="address">Where the browser finds the server, when not at its own address.</param>
    public static async Task<TeacherSession> BeginAsync(Server server, Chromium browser, string? address = null)
    {
        var teacher = new TeacherSession(browser, address ?? server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Cleaning");
        teacher.AddEmptyBoard(1);
        var lesson = new Uri(teacher.Lesson).Segments[2].TrimEnd('/');
        var board = JsonDocument.Parse(browser.Call("GET", $"/api/lessons/{lesson}/boards")).RootElement.GetProperty("boards")[0].GetProperty("id")
            .GetGuid();
        await UploadedTake.SendAsync(server.Address, browser, lesson, Journal(board).End().Records);
        teacher.Step("Record");
        teacher.Step("Refine");
        teacher.UntilLesson();
        return teacher;
    }

    private static JournalBuilder Journal(Guid board)
    {
        var journal = new JournalBuilder().Segment(new SegmentStart(0, Clock.SampleRate, 0, "Test", false, false, false));
        journal.Anchors(0, new ClockAnchor(0, 0)).Events(0, new BoardShown(0, board));
        var sound = new List<short>();
        foreach (var (from, to) in Spoken)
        {
            sound.AddRange(Sounds.Speech(from - ((double)sound.Count / Clock.SampleRate), 0));
            sound.AddRange(Sounds.Speech(to - from));
        }

        sound.AddRange(Sounds.Speech(Recorded - ((double)sound.Count / Clock.SampleRate), 0));
        var samples = sound.ToArray();
        journal.Sound(0, samples).Anchors(0, new ClockAnchor(samples.Length, Recorded * 1000));

        // A line while somebody speaks, one in the silence, one in the slip; and the note right behind the noted sentence.
        Line(1, 9, 10);
        Line(2, 21, 26);
        Line(3, 36.3, 37.3);
        return journal.Events(0, new NoteMade(16_600, 4, "later", "wrong word", 0));

        void Line(int number, double from, double to) => journal.Events(0,
        [
            new StrokeBegun(number, board, "pen", "blue", "medium"),
            new StrokePoints(number, [2000, 1000 * number, 128, (long)(from * 10_000), 9000, 1000 * number, 128, (long)(to * 10_000)]),
            new StrokeEnded(number, (long)(to * 1000)),
        ]);
    }
}
