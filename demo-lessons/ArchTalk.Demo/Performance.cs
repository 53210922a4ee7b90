using ArchTalk.Core.Boards;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Demo;

/// <summary>
/// A lesson performed in front of a simulated recorder: what is said, and what is done on the boards while it is said, go
/// into a journal exactly as the browser's recorder writes it.
/// </summary>
/// <param name="lines">The lines of words on each board, on which underlines and highlighters settle.</param>
/// <param name="hum">Of the room at 50 Hz, as the highest of a 16-bit sample.</param>
internal sealed class Performance(
    Narration narration,
    Handwriting hand,
    IReadOnlyList<Guid> boards,
    Settling settling,
    IReadOnlyDictionary<Guid, IReadOnlyList<TextLine>> lines,
    double hum = 0)
{
    // A recorder has its answer about so soon after a stroke, in ms.
    private const double AnsweredAfter = 18;

    // The browser's clock at the first sample; any value will do.
    private const double ClockStart = 4321.7;
    private const double BetweenKeys = 90;
    private const double AfterTyping = 500;
    private const int ChunkSamples = Clock.SampleRate / 4;

    private readonly List<short> voice = [];
    private readonly List<(double Ms, TakeEvent Event)> events = [];
    private readonly Random random = new(11);
    private Guid board = boards[0];
    private int action = 1;
    private double inkFreeAt;
    private (int First, int Count) lastWritten;

    private double Now => (double)voice.Count / Clock.SamplesPerMillisecond;

    /// <summary>Shows another board.</summary>
    public void Show(int index)
    {
        board = boards[index];
        Add(Now, t => new BoardShown(t, board));
        inkFreeAt = Now + 250;
    }

    /// <summary>Says a sentence while doing something; what takes longer than the sentence is waited for.</summary>
    public Task SayAsync(string sentence, params IEnumerable<Action<double>> doing) => SayAsync(sentence, 1, doing);

    /// <summary>Says a sentence to nobody, with the head turned away.</summary>
    public Task MurmurAsync(string sentence) => SayAsync(sentence, 0.2, []);

    /// <summary>Does something without a word.</summary>
    public void Silently(params IEnumerable<Action<double>> doing)
    {
        Do(doing);
        WaitForInk();
    }

    /// <summary>A burst of noise that rises at once and dies away.</summary>
    public void Cough()
    {
        const double LastsMs = 320;
        for (var i = 0; i < LastsMs * Clock.SamplesPerMillisecond; i++)
        {
            voice.Add((short)(9_000 * Math.Exp(-i / (90.0 * Clock.SamplesPerMillisecond)) * ((2 * random.NextDouble()) - 1)));
        }
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

    /// <summary>Underlines; along words it settles on them.</summary>
    /// <param name="becomes">What the words become for students; null for no key line.</param>
    public Action<double> Underline(
        double x, double y, double length, double afterMs = 300, string ink = "vermilion", KeyLineKind? becomes = null, bool isMust = false) =>
        Settled(Line(ink, "medium", afterMs, (x, y), (x + (length / 2), y + 3), (x + length, y - 2)), isHighlighter: false, becomes, isMust);

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

    /// <summary>Highlights; along words it settles on them.</summary>
    public Action<double> Highlight(double x, double y, double length, double afterMs = 300, string ink = "yellow") => Settled(
        Ink("highlighter", ink, "broad", afterMs, () => [hand.Line((x, y), (x + (length / 2), y + 2), (x + length, y))]),
        isHighlighter: true, null, false);

    /// <summary>Types letter by letter.</summary>
    /// <param name="size">Of the letters (the em) in units.</param>
    /// <param name="marked">How many of the last letters are highlighted then.</param>
    public Action<double> Type(string text, double x, double y, double size, double afterMs, string ink = "blue-black", int marked = 0) => start =>
    {
        var (number, begin) = (action++, Math.Max(start + afterMs, inkFreeAt));
        void Say(double at, string letters, string looks) => Add(
            at, t => new TextTyped(t, number, board, [(int)(x * 10), (int)(y * 10)], (int)(size * 10), ink, letters, looks));
        for (var i = 1; i <= text.Length; i++)
        {
            Say(begin + (i * BetweenKeys), text[..i], "");
        }

        inkFreeAt = begin + (text.Length * BetweenKeys) + 120;
        if (marked > 0)
        {
            var look = new string(Writing.LookOf("", "yellow"), marked);
            Say(inkFreeAt += AfterTyping, text, look.PadLeft(text.Length, Writing.Plain));
        }
    };

    /// <summary>Lights up a region for a while.</summary>
    public Action<double> LightUp(double afterMs, double lastsMs, params (double X, double Y)[] outline) => start =>
    {
        Add(start + afterMs, t => new LitUp(t, board, [.. outline.SelectMany(p => (int[])[(int)(p.X * 10), (int)(p.Y * 10)])]));
        Add(start + afterMs + lastsMs, t => new LitUp(t, board, []));
    };

    /// <summary>Notes the moment, as with one press.</summary>
    public Action<double> Note(string kind, double afterMs, string text = "", int waitMs = 0) => start =>
    {
        var number = action++;
        Add(start + afterMs, t => new NoteMade(t, number, kind, text, waitMs));
    };

    /// <summary>Notes that a term of the vocabulary is said.</summary>
    public Action<double> Term(Term term, double afterMs) => start =>
    {
        var number = action++;
        Add(start + afterMs, t => new TermNoted(t, number, term.Id, term.Word));
    };

    /// <summary>Lifts a cover.</summary>
    public Action<double> Uncover(Guid item, double afterMs) => start => Add(start + afterMs, t => new CoverLifted(t, board, item, true));

    /// <summary>Says something wrong, notices, and goes back to before it.</summary>
    public async Task SlipAsync(string sentence, params IEnumerable<Action<double>> doing)
    {
        var before = voice.Count - (250 * Clock.SamplesPerMillisecond);
        await SayAsync(sentence, doing);
        Wait(500);
        Add(Now, t => new WentBack(t, 0, before));
        Wait(300);
    }

    /// <summary>What was written last becomes a key line.</summary>
    public Action<double> KeyLine(KeyLineKind kind, string text, bool isMust) => _ =>
    {
        int[] written = [.. Enumerable.Range(lastWritten.First, lastWritten.Count)];
        Add(inkFreeAt, t => new KeyLineMade(t, written, KeyLineKinds.Name(kind), text, isMust));
    };

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
        short[] samples = hum > 0 ? [.. voice.Select(WithHum)] : [.. voice];
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

    private async Task SayAsync(string sentence, double gain, IEnumerable<Action<double>> doing)
    {
        var said = await narration.SayAsync(sentence, CancellationToken.None);
        Do(doing);
        voice.AddRange(said.Select(s => (short)(gain * s)));
        WaitForInk();
    }

    // What takes longer than the words is waited for.
    private void WaitForInk() => Wait(Math.Max(320, inkFreeAt - Now));

    private void Do(IEnumerable<Action<double>> doing)
    {
        var start = Now;
        foreach (var act in doing)
        {
            act(start);
        }
    }

    // The mains and their third multiple.
    private short WithHum(short sample, int at)
    {
        var turn = 2 * Math.PI * 50 * at / Clock.SampleRate;
        return (short)Math.Clamp(sample + (hum * (Math.Sin(turn) + (0.3 * Math.Sin(3 * turn)))), short.MinValue, short.MaxValue);
    }

    private Action<double> Ink(string tool, string ink, string width, double afterMs, Func<IReadOnlyList<HandPoint[]>> draw) => start =>
    {
        var begin = Math.Max(start + afterMs, inkFreeAt);
        var strokes = draw();
        lastWritten = (action, strokes.Count);
        foreach (var stroke in strokes)
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

    // As the page does it: asked when the stroke is finished.
    private Action<double> Settled(Action<double> draw, bool isHighlighter, KeyLineKind? becomes, bool isMust) => start =>
    {
        var (stroke, first) = (action, events.Count);
        draw(start);
        InkPlace[] points = [.. events.Skip(first).Select(e => e.Event).OfType<StrokePoints>().SelectMany(p => p.Data.Chunk(4))
            .Select(p => new InkPlace((int)p[0], (int)p[1]))];
        if (settling.Settle(points, isHighlighter, lines.GetValueOrDefault(board, [])) is not { } settled)
        {
            return;
        }

        var number = action++;
        Add(inkFreeAt - 120 + AnsweredAfter, t => new StrokeSettled(
            t, number, stroke, [settled.From.X, settled.From.Y, settled.To.X, settled.To.Y], settled.Height, settled.Text));
        if (becomes is { } kind)
        {
            Add(inkFreeAt - 120 + AnsweredAfter, t => new KeyLineMade(t, [number, stroke], KeyLineKinds.Name(kind), settled.Text, isMust));
        }
    };

    private void Add(double ms, Func<double, TakeEvent> make) => events.Add((ms, make(ClockStart + ms)));
}
