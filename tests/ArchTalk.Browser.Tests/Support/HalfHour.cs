using System.Text.Json;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Tests;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>
/// Half an hour as it is recorded in one go: a false start, long silences with and without writing, five mistakes that are noted and
/// said again, a cough, hum, chatter at the end, over three boards. Every sentence begins with a click and a dot.
/// </summary>
public sealed class HalfHour
{
    /// <summary>So long is it quiet before every click that students hear.</summary>
    public const double QuietMs = 250;

    private const int Blocks = 72;
    private const int BlocksOfBoard = 24;
    private const double Sentence = 2.2;
    private const double Between = 0.7;
    private const double Hum = 50;

    private static readonly int[] Mistakes = [7, 19, 28, 41, 52];

    private readonly List<short> sound = [];
    private readonly List<TakeEvent> events = [];
    private readonly Guid[] boards;
    private int strokes;

    private HalfHour(Guid[] boards) => this.boards = boards;

    /// <summary>How long it is as it was recorded, in seconds.</summary>
    public double Recorded => (double)sound.Count / Clock.SampleRate;

    /// <summary>How long it is when it was cleaned, in seconds.</summary>
    public double Cleaned { get; private set; }

    /// <summary>How many sentences are meant for students.</summary>
    public int Sentences { get; private set; }

    /// <summary>How many strokes are drawn beside the dots.</summary>
    public int Lines { get; private set; }

    /// <summary>Has it recorded, and opens Refine.</summary>
    public static async Task<(TeacherSession Teacher, HalfHour Take)> BeginAsync(Server server, Chromium browser)
    {
        var teacher = new TeacherSession(browser, server.Address);
        teacher.ComeIn();
        teacher.CreateLesson("Half an hour");
        var lesson = new Uri(teacher.Lesson).Segments[2].TrimEnd('/');
        for (var i = 0; i < Blocks / BlocksOfBoard; i++)
        {
            browser.Call("POST", $"/api/lessons/{lesson}/boards", new { title = $"Board {i + 1}" });
        }

        using var listed = JsonDocument.Parse(browser.Call("GET", $"/api/lessons/{lesson}/boards"));
        var take = new HalfHour([.. listed.RootElement.GetProperty("boards").EnumerateArray().Select(b => b.GetProperty("id").GetGuid())]);
        take.Say();
        await UploadedTake.SendAsync(server.Address, browser, lesson, take.Journal().End().Records);
        browser.Go(teacher.Lesson);
        teacher.Step("Refine");
        teacher.UntilLesson();
        return (teacher, take);
    }

    private void Say()
    {
        events.Add(new BoardShown(0, boards[0]));
        Room(3);
        Murmur();
        Room(5);
        Cleaned = 0.3;
        for (var i = 0; i < Blocks; i++)
        {
            Block(i);
        }

        // The last silence ends with a word that isn't for students.
        Murmur();
        Room(6);
        Cleaned += 0.5;
    }

    private void Block(int number)
    {
        if (number > 0 && number % BlocksOfBoard == 0)
        {
            events.Add(new BoardShown((long)(Recorded * 1000) - 500, boards[number / BlocksOfBoard]));
        }

        Speak();
        Rest(Between);
        if (Mistakes.Contains(number))
        {
            Speak(counts: false);
            events.Add(new NoteMade((long)(Recorded * 1000) + 100, ++strokes, "later", "wrong word", 0));
            Room(Between);
        }

        Speak();
        Rest(Between);
        Speak();
        Silence(9, drawsLines: true);
        Speak();
        Rest(Between);
        if (number == 33)
        {
            // A cough by itself, of which nothing stays.
            Room(0.2);
            sound.AddRange(Sounds.Speech(0.3, 0.2));
            Room(0.9);
            Cleaned += 1;
        }

        Speak();
        Silence(number == Blocks - 1 ? 4 : 3, drawsLines: false, isLast: number == Blocks - 1, (number + 1) % BlocksOfBoard == 0);
    }

    // What isn't for students: nothing is drawn with it.
    private void Murmur() => sound.AddRange(Sounds.Speech(Sentence, 0.08));

    // A sentence, and with its beginning a click and a dot.
    private void Speak(bool counts = true)
    {
        var at = sound.Count;
        var click = Sounds.Click();
        sound.AddRange([.. click, .. Sounds.Speech(Sentence, 0.08).Skip(click.Length)]);
        Line((double)at / Clock.SampleRate, 0.02);
        Sentences += counts ? 1 : 0;
        Cleaned += counts ? Sentence : 0;
    }

    private void Rest(double seconds)
    {
        Room(seconds);
        Cleaned += seconds;
    }

    private void Silence(double seconds, bool drawsLines, bool isLast = false, bool isBeforeBoard = false)
    {
        for (var i = 0; drawsLines && i < 3; i++, Lines++)
        {
            Line(Recorded + 1 + (i * 2.5), 2);
        }

        Room(seconds);
        var rest = Proposals.RestOf(
            Duration.FromSeconds(seconds), isBeforeBoard ? Proposals.RestBeforeBoard : Proposals.Rest, drawsLines);
        Cleaned += isLast ? 0 : rest.Seconds;
    }

    private void Room(double seconds) => sound.AddRange(Sounds.Speech(seconds, 0));

    private void Line(double from, double seconds)
    {
        var number = ++strokes;
        var (x, y) = (1000 + (number % 20 * 600), 500 + (number / 20 % 30 * 260));
        var (begin, end) = ((long)Math.Round(from * 10_000), (long)Math.Round((from + seconds) * 10_000));
        var board = events.OfType<BoardShown>().Last().Board;
        events.AddRange(
        [
            new StrokeBegun(number, board, "pen", "blue", "medium"),
            new StrokePoints(number, [x, y, 128, begin, x + 40, y, 128, (begin + end) / 2, x + 80, y, 128, end]),
            new StrokeEnded(number, end / 10),
        ]);
    }

    private JournalBuilder Journal()
    {
        var journal = new JournalBuilder().Segment(new SegmentStart(0, Clock.SampleRate, 0, "Test", false, false, false));
        var samples = sound.Select((s, i) => (short)(s + (60 * Math.Sin(2 * Math.PI * Hum * i / Clock.SampleRate)))).ToArray();
        journal.Anchors(0, new ClockAnchor(0, 0)).Sound(0, samples).Anchors(0, new ClockAnchor(samples.Length, Recorded * 1000));
        foreach (var some in events.Chunk(50))
        {
            journal.Events(0, some);
        }

        return journal;
    }
}
