using ArchTalk.Core.Boards.Figures;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Demo;

/// <summary>What the invented teacher prepared for the second lesson, which is not recorded yet.</summary>
internal static class DomeLesson
{
    public static readonly LessonDetails Details = new()
    {
        Language = "en",
        OtherLanguages = ["de"],
        AgeGroup = "15 to 17",
        Aims = ["say why a dome needs no scaffold for long", "show where its stones are squeezed and where they are pulled", "name three ways to "
            + "hold its foot together"],
        Agenda = ["Rings and ribs, 3 min", "Why the foot opens, 4 min", "Three ways to hold it, 5 min"],
        Before = "The arch: voussoirs, keystone, thrust.",
        NotCovered = "Domes of thin concrete, and how the rings are computed.",
        Ready = "The workbook, page 18, a pencil and a paper arch.",
        Contact = "Through the course folder, or after the lesson on Tuesday.",
    };

    public static readonly Term[] Terms =
    [
        Word(
            "dome",
            "/dəʊm/",
            "A roof in the shape of an arch turned round its keystone.",
            "die Kuppel") with { Example = "The dome covers the hall without a pillar." },
        Word(
            "hoop",
            "/huːp/",
            "A ring of stones lying level in a dome.",
            "der Ring") with { ConfusedWith = "rib", MemoryAid = "A hoop lies level, like the hoop of a barrel." },
        Word("rib", "/rɪb/", "A curved strip of a dome from its foot to its top.", "die Rippe") with { ConfusedWith = "hoop" },
        Word("springing line", "", "The level at which the curve of the dome begins.", "die Kämpferlinie") with { Status = Term.Known },
        Word("chain", "/tʃeɪn/", "A ring of iron round the foot of a dome that takes up the pull.", "der Ringanker"),
        Word("lantern", "/ˈlæntən/", "A small turret with windows on the top of a dome.", "die Laterne") with { Parts = "from Greek lamptēr, torch" },
        new Term(Guid.CreateVersion7(), "cupola", "/ˈkuːpola/", "The Italian word for a dome; in English a small one.", "it") {
            Status = Term.Later,
            Translations = [new("de", "die kleine Kuppel")] },
    ];

    public static readonly Reference[] References =
    [
        new(Guid.CreateVersion7(), Reference.Exercise, "Building Science Workbook", "", "7 on page 18", "With figure 12."),
        new(
            Guid.CreateVersion7(),
            Reference.Tool,
            "A chain to hang and turn round",
            "https://example.org/hanging-chain",
            "",
            "Pull its ends apart and watch where it pulls.") { Accessed = "2026-11-20" },
    ];

    public static readonly LessonTask Task = new(
        ["Cut a paper arch and turn it round its middle; photograph three positions.", "Draw the dome in section and colour what is pulled.",
        "Do number 3 of exercise 7."],
        "Stiff paper, scissors, a pin.", "One sheet with the section and the sum.", "In the box of the building science room.", "Friday")
    {
        Choices = ["Build the section of a dome from seven sugar cubes.", "Find a dome near you and sketch how its foot is held."],
        Worked = "Number 1: the squeezing ends about 52° from the top, so the hoop lies a little above the middle of figure 12.",
        Marking = "Two points for the section, two for the sum, one for naming what holds the foot.",
        Classes = [new("10a", "", "Thursday, 4 p.m."), new("10b", "In the course folder", "Monday, 8 a.m.")],
    };

    /// <summary>The names of the parts, with their lines, on the section of a dome.</summary>
    public static Item[] SectionLabels()
    {
        LabelItem Label(string text, string? term, double x, double y, double tipX, double tipY) => new()
        {
            Id = Guid.CreateVersion7(),
            Text = text,
            X = x,
            Y = y,
            TipX = tipX,
            TipY = tipY,
            TermId = term is null
                ? null
                : Terms.Single(t => t.Word == term).Id,
        };
        return
        [
            Label("lantern", "lantern", 1010, 90, 850, 215), Label("crown ring", null, 480, 130, 775, 350), Label("hoop", "hoop", 150, 330, 545, 445),
            Label("springing line", "springing line", 60, 600, 445, 690), Label("chain", "chain", 1290, 600, 1195, 700), Label(
                "wall",
                null,
                1300,
                740,
                1160,
                770),
        ];
    }

    /// <summary>The worked example: a formula, a table with blanks, a covered answer.</summary>
    public static Item[] WorkedExample(string tex, string svg, string mathMl) =>
    [
        new TextItem {
            Id = Guid.CreateVersion7(),
            X = 100,
            Y = 60,
            Width = 1400,
            Size = TextSizes.Heading,
            Paragraphs = [[new TextRun("What each strand "), new TextRun("carries", Highlight: "yellow")]] },
        new TextItem { Id = Guid.CreateVersion7(), X = 100, Y = 220, Width = 640, Paragraphs = [[new TextRun("The pull of "), new TextRun(
            "240 kN",
            IsBold: true,
            Color: "vermilion"), new TextRun(" is shared by four equal strands.")]] },
        new FormulaItem { Id = Guid.CreateVersion7(), X = 100, Y = 520, Tex = tex, Svg = svg, MathMl = mathMl, Color = "blue" },
        new CoverItem { Id = Guid.CreateVersion7(), X = 530, Y = 535, Width = 190, Height = 100, Text = "?" },
        new TableItem
        {
            Id = Guid.CreateVersion7(), X = 830, Y = 230, Width = 670,
            Rows =
            [
                [new("strands", false, []), new("each carries", false, [])], [new("2", false, []), new("120 kN", false, [])],
                [new("4", false, []), new("60 kN", true, ["60", "60kN"])], [new("6", false, []), new("40 kN", true, ["40"])],
            ],
        },
        new TextItem {
            Id = Guid.CreateVersion7(),
            X = 100,
            Y = 720,
            Width = 800,
            Size = TextSizes.Small,
            Paragraphs = [[new TextRun("The ring that does it is called a")]] },
        new BlankItem { Id = Guid.CreateVersion7(), X = 880, Y = 715, Width = 300, Height = 75, Answers = ["chain", "Ringanker"] },
    ];

    /// <summary>A detail cut out of a picture beside the whole of it, with what it shows.</summary>
    public static Item[] ArchAgain(PictureItem arch)
    {
        PictureItem Part(double x, double y, double width, Crop crop, string words)
        {
            var part = arch with { Id = Guid.CreateVersion7(), X = x, Y = y, Width = width, Crop = crop, AlternativeText = words };
            return part with { Height = Math.Round(width / PictureFiles.ShownShape(part), 1) };
        }

        return
        [
            new TextItem {
                Id = Guid.CreateVersion7(),
                X = 80,
                Y = 50,
                Width = 1400,
                Size = TextSizes.Heading,
                Paragraphs = [[new TextRun("The keystone, once more")]] },
            Part(80, 230, 860, Crop.Whole, "An arch with the names of its parts"),
            Part(1020, 230, 500, new Crop(0.34, 0.3, 0.28, 0.28), "Its keystone, closer"),
            new TextItem
            {
                Id = Guid.CreateVersion7(), X = 1020, Y = 560, Width = 500, Size = TextSizes.Small, List = TextSettings.ListDots,
                Paragraphs = [[new TextRun("set last")], [new TextRun("locks all the others")]],
            },
        ];
    }

    /// <summary>Figures: the dome's outline on axes, an angle on a clock face, sugar cubes to build with, the load as a number.</summary>
    public static Item[] Figures() =>
    [
        new FigureItem { Id = Guid.CreateVersion7(), X = 60, Y = 40, Width = 820, Height = 520, Figure = new Axes {
            XFrom = -6,
            XTo = 6,
            YFrom = 0,
            YTo = 6,
            XName = "m",
            YName = "m",
            Curve = "sqrt(25 - x^2)",
            Points = [new(3.94, 3.08, "52°")] } },
        new FigureItem {
            Id = Guid.CreateVersion7(),
            X = 960,
            Y = 70,
            Width = 560,
            Height = 430,
            Figure = new UnitCubes { Length = 5, Depth = 3, Height = 2 } },
        new FigureItem { Id = Guid.CreateVersion7(), X = 60, Y = 620, Width = 700, Height = 200, Figure = new PlaceValueChart { Number = "240000" } },
        new FigureItem {
            Id = Guid.CreateVersion7(),
            X = 820,
            Y = 640,
            Width = 720,
            Height = 130,
            Figure = new NumberLine { From = 0, To = 90, Step = 10, NumberEvery = 3, Marked = [52] } },
    ];

    private static Term Word(string word, string reading, string meaning, string german) =>
        new(Guid.CreateVersion7(), word, reading, meaning, "en") { Translations = [new("de", german)] };
}
