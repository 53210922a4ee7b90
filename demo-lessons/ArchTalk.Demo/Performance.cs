using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Demo;

/// <summary>
/// A lesson performed in front of a simulated recorder: what is said, and what is done on the boards while it is said, go
/// into a journal exactly as the browser's recorder writes it.
/// </summary>
internal sealed class Performance(Narration narration, Handwriting hand, IReadOnlyList<Guid> boards)
{
    // The browser's clock at the first sample; any value will do.
    private const double ClockStart = 4321.7;
    private const int ChunkSamples = Clock.SampleRate / 4;

    private readonly List<short> voice = [];
    private readonly List<(double Ms, TakeEvent Event)> events = [];
    private readonly Random random = new(11);
    private Guid board = boards[0];
    private int action = 1;
    private double inkFreeAt;

    private double Now => (double)voice.Count / Clock.SamplesPerMillisecond;

    /// <summary>Shows another board.</summary>
    public void Show(int index)
    {
        board = boards[index];
        Add(Now, t => new BoardShown(t, board));
        inkFreeAt = Now + 250;
    }

    /// <summary>Says a sentence while doing something; what takes longer than the sentence is waited for.</summary>
    public async Task SayAsync(string sentence, params IEnumerable<Action<double>> doing)
    {
        var start = Now;
        var said = await narration.SayAsync(sentence, CancellationToken.None);
        foreach (var act in doing)
        {
            act(start);
        }

        voice.AddRange(said);
        Wait(Math.Max(320, inkFreeAt - Now));
    }

    /// <summary>Says nothing for a while.</summary>
    public void Wait(double milliseconds)
    {
        // A quiet room isn't digital silence.
        for (var i = (int)(milliseconds * Clock.SamplesPerMillisecond); i > 0; i--)
        {
            voice.Add((short)random.Next(-3, 4));
        }
    }

    /// <summary>Writes by hand, beginning some time into the sentence.</summary>
    public Action<double> Write(
        string text,
        double x,
        double baseline,
        double height,
        double afterMs = 200,
        string ink = "blue-black",
        string width = "medium") =>
        Ink("pen", ink, width, afterMs, () => hand.Write(text, x, baseline, height));

    public Action<double> Line(string ink, string width, double afterMs, params (double X, double Y)[] path) =>
        Ink("pen", ink, width, afterMs, () => [hand.Line(path)]);

    public Action<double> Underline(double x, double y, double length, double afterMs = 300, string ink = "vermilion") =>
        Line(ink, "medium", afterMs, (x, y), (x + (length / 2), y + 3), (x + length, y - 2));

    public Action<double> Arrow(
        string ink,
        double afterMs,
        (double X, double Y) from,
        (double X, double Y) to) => Ink("pen", ink, "medium", afterMs, () =>
    {
        var angle = Math.Atan2(to.Y - from.Y, to.X - from.X);
        (double, double) Barb(double turn) => (to.X - (34 * Math.Cos(angle + turn)), to.Y - (34 * Math.Sin(angle + turn)));
        return [hand.Line(from, to), hand.Line(Barb(0.5), to, Barb(-0.5))];
    });

    public Action<double> Highlight(double x, double y, double length, double afterMs = 300, string ink = "yellow") =>
        Ink("highlighter", ink, "broad", afterMs, () => [hand.Line((x, y), (x + (length / 2), y + 2), (x + length, y))]);

    public Action<double> Circle(double x, double y, double width, double height, double afterMs = 300, string ink = "vermilion") =>
        Ink("pen", ink, "medium", afterMs, () => [hand.Loop(x, y, width, height)]);

    /// <summary>Moves the pointer along a path.</summary>
    public Action<double> Point(double afterMs, double lastsMs, params (double X, double Y)[] path) => start =>
    {
        for (var ms = 0.0; ms <= lastsMs; ms += 33)
        {
            var along = ms / lastsMs * (path.Length - 1);
            var i = Math.Min((int)along, path.Length - 2);
            var share = along - i;
            var x = path[i].X + (share * (path[i + 1].X - path[i].X)) + (2 * Math.Sin(ms / 90));
            var y = path[i].Y + (share * (path[i + 1].Y - path[i].Y)) + (2 * Math.Cos(ms / 110));
            Add(start + afterMs + ms, t => new PointerMoved(board, [(long)(x * 10), (long)(y * 10), (long)(t * 10)]));
        }

        Add(start + afterMs + lastsMs + 60, t => new PointerAway(t));
    };

    /// <summary>Glides the view to another place: left, top and width in units.</summary>
    public Action<double> Look(
        (double X, double Y, double Width) from,
        (double X, double Y, double Width) to,
        double afterMs = 0,
        double lastsMs = 900) => start =>
    {
        for (var ms = 0.0; ms <= lastsMs; ms += 25)
        {
            var share = ms / lastsMs;
            var eased = share * share * (3 - (2 * share));
            int At(double a, double b) => (int)((a + ((b - a) * eased)) * 10);
            Add(start + afterMs + ms, t => new ViewMoved(t, board, [At(from.X, to.X), At(from.Y, to.Y), At(from.Width, to.Width)]));
        }
    };

    /// <summary>Takes the last stroke back, as one does after a slip.</summary>
    public Action<double> Undo(double afterMs) => start => Add(Math.Max(start + afterMs, inkFreeAt), t => new Undone(t, action - 1));

    /// <summary>The journal: sound in chunks of 250 ms, with anchors a little late, and the events between them.</summary>
    public JournalBuilder ToJournal()
    {
        Wait(600);
        var journal = new JournalBuilder().Segment(new SegmentStart(0, Clock.SampleRate, 0, "Demo voice", false, false, false));
        var samples = voice.ToArray();
        var ordered = events.OrderBy(e => e.Ms).ToArray();
        var next = 0;
        for (var at = 0; at < samples.Length; at += ChunkSamples)
        {
            var length = Math.Min(ChunkSamples, samples.Length - at);
            journal.Audio(0, at, samples.AsSpan(at, length));
            var late = 0.3 + random.NextDouble();
            journal.Anchors(0, new ClockAnchor(at + length, ClockStart + ((double)(at + length) / Clock.SamplesPerMillisecond) + late));
            var due = new List<TakeEvent>();
            while (next < ordered.Length && ordered[next].Ms <= (double)(at + length) / Clock.SamplesPerMillisecond)
            {
                due.Add(ordered[next++].Event);
            }

            if (due.Count > 0)
            {
                journal.Events(0, due);
            }
        }

        return journal.End();
    }

    private Action<double> Ink(string tool, string ink, string width, double afterMs, Func<IReadOnlyList<HandPoint[]>> draw) => start =>
    {
        var begin = Math.Max(start + afterMs, inkFreeAt);
        foreach (var stroke in draw())
        {
            var number = action++;
            Add(begin + stroke[0].Milliseconds, _ => new StrokeBegun(number, board, tool, ink, width));
            for (var i = 0; i < stroke.Length; i += 8)
            {
                var part = stroke[i..Math.Min(i + 8, stroke.Length)];
                Add(begin + part[^1].Milliseconds, _ => new StrokePoints(number, [.. part.SelectMany(p => (long[])
                    [(long)(p.X * 10), (long)(p.Y * 10), (long)(p.Pressure * 255), (long)((ClockStart + begin + p.Milliseconds) * 10)])]));
            }

            inkFreeAt = begin + stroke[^1].Milliseconds + 120;
        }
    };

    private void Add(double ms, Func<double, TakeEvent> make) => events.Add((ms, make(ClockStart + ms)));
}
