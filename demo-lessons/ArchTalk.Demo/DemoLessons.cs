using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Recording;

namespace ArchTalk.Demo;

/// <summary>What the invented teacher made of the first lesson: its words, and its performance.</summary>
internal static class DemoLessons
{
    public static readonly Term[] ArchTerms =
    [
        Word("arch", "/ɑːtʃ/", "A curved structure that carries a load over an opening by squeezing its stones together."),
        Word("voussoir", "/vuːˈswɑː/", "One of the wedge-shaped stones of an arch.", "fr"),
        Word("keystone", "/ˈkiːstəʊn/", "The stone at the top, set last; it locks the others."),
        Word("springing line", "", "The level at which the curve of the arch begins."),
        Word("thrust", "/θrʌst/", "The slanting push with which an arch presses on what holds it."),
        Word("abutment", "/əˈbʌtmənt/", "The heavy block beside an arch that takes up its thrust."),
        Word("buttress", "/ˈbʌtrəs/", "A wall or pier built against another wall to take up a thrust."),
        Word("line of thrust", "", "The path of the push through the stones; the arch stands while the path stays inside them."),
    ];

    public static readonly Reference[] ArchReferences =
    [
        new(Guid.CreateVersion7(), Reference.Book, "How Buildings Carry Their Load", "", "34–37", "Read the page on arches; look at figure 12."),
        new(
            Guid.CreateVersion7(),
            Reference.Web,
            "Hanging chains and arches: a model to play with",
            "https://example.org/hanging-chain",
            "",
            "Change the span and watch the curve."),
        new(Guid.CreateVersion7(), Reference.Book, "Building Science Workbook", "", "18", "Exercise 4."),
    ];

    public static readonly LessonTask ArchTask = new(
        [
            "Hang a string or a thin chain between two nails and photograph it.",
            "Turn the photograph over and draw seven stones around the curve.",
            "Mark the keystone and both abutments, and draw the thrust at one foot as an arrow.",
            "Write two sentences: what happens when one abutment gives way, and why?",
        ],
        "A string of about 60 cm, two nails or pins, and a sheet of squared paper.",
        "One sheet with the drawing and the two sentences.",
        "In the box of the building science room, or as a photograph in the course folder.",
        "Friday of next week");

    /// <summary>Lies over the name of the stone at the top until it was asked for.</summary>
    public static readonly CoverItem KeystoneCover = new()
    {
        Id = Guid.Parse("6f1c2a52-7f0a-4f0e-9a55-1f3f6f6c1b01"), X = 1005, Y = 236, Width = 215, Height = 64, Text = "?",
    };

    /// <summary>What the arch makes of the load: students try it before the teacher fills it in.</summary>
    public static readonly Item[] InOneLine =
    [
        new TextItem
        {
            Id = Guid.Parse("6f1c2a52-7f0a-4f0e-9a55-1f3f6f6c1b02"), X = 880, Y = 310, Width = 420, Paragraphs = [[new TextRun("load + arch =")]],
        },
        new BlankItem { Id = Guid.Parse("6f1c2a52-7f0a-4f0e-9a55-1f3f6f6c1b03"), X = 1270, Y = 305, Width = 270, Height = 75, Answers = ["thrust"] },
    ];

    /// <summary>Boards: 0 title, 1 beam and arch, 2 parts (a picture), 3 line of thrust (tall), 4 where it goes, 5 empty.</summary>
    public static async Task PerformAsync(Performance p)
    {
        p.Show(0);
        p.Wait(400);
        await p.SayAsync("Hello, and welcome to the first lesson on how buildings stand.");
        await p.SayAsync("Today we ask why an arch stands, although it is made of loose stones.", p.Underline(84, 204, 800, 900));
        await p.SayAsync("There are three parts. First, what an arch does that a beam can't.", p.Circle(110, 396, 100, 96, 1500));
        await p.SayAsync(
            "Second, what each stone pushes on. And third, where that push goes.",
            p.Circle(110, 516, 100, 96, 300),
            p.Circle(110, 636, 100, 96, 2300));
        p.Wait(700);

        p.Show(1);
        await p.SayAsync(
            "Here is a beam on two walls. Put a load on it, and it bends.",
            p.Line("vermilion", "broad", 1900, (220, 492), (310, 520), (400, 530), (490, 520), (580, 492)));
        await p.SayAsync(
            "Its underside is stretched, and stone is weak when it is stretched. It cracks here.",
            p.Line("vermilion", "medium", 3300, (404, 528), (396, 505), (408, 488), (398, 462)),
            p.Write("crack", 440, 586, 44, 3600, "vermilion"));
        await p.SayAsync(
            "Now the arch. The same load, but no stone is stretched.",
            p.Point(1200, 2200, (1200, 400), (1200, 470), (1330, 520), (1390, 620)));
        await p.SayAsync(
            "Each stone is squeezed between its neighbours. Write that down.",
            p.Highlight(1040, 790, 320, 300),
            p.Underline(1040, 818, 322, 2300, becomes: KeyLineKind.WriteDown));
        p.Wait(900);

        p.Show(2);
        await p.SayAsync(
            "Let us name the parts. A wedge-shaped stone like this is called a voussoir.",
            p.Point(500, 1700, (1040, 560), (940, 440), (850, 400)),
            Said(p, "voussoir", 4700),
            p.Underline(1215, 456, 160, 3600));
        await p.SlipAsync("The one at the top is the corner stone, and it", p.Line("vermilion", "medium", 900, (700, 300), (830, 330)));
        await p.SayAsync("Which stone is set last? Stop here, and think.", p.Note("answer", 2200, "Which stone is set last, and why?"));
        p.Wait(1200);
        await p.SayAsync(
            "The one at the top, the keystone. It is set last, and it locks all the others.",
            p.Uncover(KeystoneCover.Id, 300),
            p.Circle(760, 405, 150, 150, 1100),
            Said(p, "keystone", 1700),
            p.Look((0, 0, 1600), (400, 200, 800), 2600, 1000));
        await p.SayAsync(
            "The curve begins at the springing line.",
            p.Look((400, 200, 800), (0, 0, 1600), 0, 900),
            p.Line("blue", "medium", 1300, (300, 758), (760, 764), (1230, 757)),
            Said(p, "springing line", 2400));
        await p.SayAsync(
            "And on each side stands an abutment, the heavy block that holds the foot.",
            p.Arrow("green", 1700, (470, 700), (380, 786)),
            p.Underline(74, 656, 170, 2900),
            Said(p, "abutment", 2000));
        p.Wait(700);

        p.Show(3);
        await p.SayAsync(
            "Now the beautiful part. Hang a chain between two nails. Every link is pulled.",
            p.Point(1800, 2600, (280, 540), (520, 800), (800, 900), (1080, 800), (1320, 540)));
        await p.SayAsync("Turn its curve upside down.", p.Look((0, 0, 1600), (0, 820, 1600), 0, 1400));
        await p.SayAsync(
            "Built of stone, every part is pushed. This path is called the line of thrust.",
            p.Line(
                "blue",
                "broad",
                500,
                (272, 1584),
                (300, 1440),
                (380, 1270),
                (520, 1135),
                (660, 1075),
                (800, 1056),
                (940, 1075),
                (1080, 1135),
                (1220, 1270),
                (1300, 1440),
                (1328, 1584)),
            Said(p, "line of thrust", 4600));
        await p.SayAsync(
            "Here is the rule. As long as the line stays inside the stones, the arch stands.",
            p.Look((0, 820, 1600), (0, 1362, 1600), 0, 1100),
            p.Underline(152, 1928, 960, 1500, becomes: KeyLineKind.MarkInBook),
            p.Underline(152, 1984, 290, 3700, becomes: KeyLineKind.MarkInBook));
        await p.SayAsync("What happens when the load is put on one side only? Stop here, and think.",
            p.Highlight(112, 2070, 1010, 600, "sky"), p.Note("ask", 4200, "What happens when the load is put on one side only?"));
        p.Wait(3600);

        p.Show(4);
        await p.SayAsync(
            "At its feet the arch pushes outward. Something must push back.",
            p.Arrow("vermilion", 700, (340, 690), (210, 760)),
            p.Arrow("vermilion", 1300, (780, 690), (910, 760)),
            p.Note("later", 2600, "say: at both feet"));
        await p.SayAsync(
            "A heavy abutment can do it, or a buttress that leans back.",
            p.Circle(1190, 292, 220, 64, 700),
            Said(p, "buttress", 2100),
            p.Circle(1190, 427, 220, 64, 1900),
            p.LightUp(300, 3200, (1090, 228), (1575, 228), (1575, 505), (1090, 505)));
        await p.SayAsync(
            "So can a tie from foot to foot, or the next arch, which pushes the same way back.",
            p.Circle(1148, 562, 110, 64, 300),
            p.Circle(1198, 697, 230, 64, 2100));
        p.Wait(600);

        p.Show(5);
        await p.SayAsync(
            "Let us put it into one line.",
            p.Write("An arch turns load into thrust.", 110, 170, 56, 300),
            p.KeyLine(KeyLineKind.WriteDown, "An arch turns load into thrust.", isMust: true),
            p.Note("later", 400, "write more slowly"));
        await p.SayAsync("The weight goes down, the arch turns it to the side, and the abutment takes it up.",
            p.Arrow("blue-black", 300, (500, 260), (500, 390)), p.Write("load", 530, 330, 46, 900),
            p.Line("green", "broad", 1500, (250, 640), (280, 510), (380, 425), (500, 400), (620, 425), (720, 510), (750, 640)),
            p.Arrow("vermilion", 2600, (745, 640), (850, 705)), p.Arrow("vermilion", 3100, (255, 640), (150, 705)), p.Write(
                "thrust",
                880,
                720,
                46,
                3500,
                "vermilion"),
            p.Note("ask", 4600, "What does the arch make of the load? Fill it in."));
        p.Wait(1500);
        await p.SayAsync("It makes thrust of it.", p.Type("thrust", 1279, 305, 57.6, 300, "blue", marked: 6));
        await p.SayAsync("You must know this rule. Your task is written beside the board. Good luck, and see you next time, when we turn the arch "
            + "round and make a dome.", p.Underline(110, 196, 1290, 300));
        p.Wait(800);
    }

    private static Action<double> Said(Performance p, string word, double afterMs) => p.Term(ArchTerms.Single(t => t.Word == word), afterMs);

    private static Term Word(string word, string reading, string meaning, string language = "en") =>
        new(Guid.CreateVersion7(), word, reading, meaning, language);
}
