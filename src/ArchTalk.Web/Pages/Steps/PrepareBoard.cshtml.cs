using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Lessons;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using Microsoft.AspNetCore.Mvc;

namespace ArchTalk.Web.Pages.Steps;

/// <summary>One board while its items are placed.</summary>
public sealed class PrepareBoardModel(
    LessonService lessons,
    BoardService boards,
    SectionService sections) : StepPageModel(lessons, LessonStep.Prepare)
{
    public static readonly IReadOnlyList<(string Name, string Word)> Figures =
    [
        ("clock", "Clock face"), ("numberLine", "Number line"), ("placeValue", "Place-value chart"), ("cubes", "Box of unit cubes"),
        ("axes", "Axes, points, curve"),
    ];

    public static readonly IReadOnlyList<(string Value, string Word)> Sizes = [(TextSizes.Small, "Small"), (TextSizes.Reading, "Reading"), (TextSizes
        .Heading, "Heading")];

    public IReadOnlyList<InkStyle> Inks { get; } = [.. InkStyle.All.Where(s => s is { Tool: InkStyle.Pen, Width: "medium" })];

    public IReadOnlyList<InkStyle> Highlights { get; } = [.. InkStyle.All.Where(s => s is { Tool: InkStyle.Highlighter, Width: "medium" })];

    [FromRoute(Name = "board")]
    public Guid BoardId { get; set; }

    public IReadOnlyList<BoardView> Boards { get; private set; } = [];

    public string Language { get; private set; } = "";

    public IReadOnlyList<Term> Terms { get; private set; } = [];

    /// <summary>The board edited; null when it isn't in the lesson.</summary>
    public BoardView? Board => Boards.FirstOrDefault(b => b.Id == BoardId);

    public int Number => Boards.TakeWhile(b => b.Id != BoardId).Count() + 1;

    public BoardView? Before => Boards.ElementAtOrDefault(Number - 2);

    public BoardView? After => Boards.ElementAtOrDefault(Number);

    /// <summary>How the page names the type of a field.</summary>
    public static string TypeName(FigureField field) => field.Type switch
    {
        FieldType.Int => "int",
        FieldType.Number => "double",
        FieldType.Numbers => "numbers",
        FieldType.Points => "points",
        _ => "text",
    };

    public string Address(BoardView board) => $"/lessons/{Lesson.Id:N}/prepare/{board.Id:N}";

    public object PageData => new
    {
        lesson = Lesson.Id,
        language = Language,
        board = Board,
        boards = Boards.Select(b => new { b.Id, b.Title }),
        terms = Terms.Select(t => new { t.Id, t.Word }),
        colors = new { inks = Inks.ToDictionary(s => s.Ink, s => s.Color), highlights = Highlights.ToDictionary(s => s.Ink, s => s.Color) },
        templates = ItemTemplates.All,
        heights = new { Core.Boards.Board.GrowBy, Core.Boards.Board.RoomBelow },
        sizes = TextSizes.All.ToDictionary(s => s, TextSizes.Units),
    };

    protected override bool IsGone => Board is null;

    protected override async Task LoadAsync(CancellationToken cancel)
    {
        Boards = [.. (await boards.ListAsync(Lesson.Id, cancel)).Select(BoardView.Of)];
        Language = (await sections.DetailsAsync(Lesson.Id, cancel)).Language;
        Terms = await sections.TermsAsync(Lesson.Id, cancel);
    }
}
