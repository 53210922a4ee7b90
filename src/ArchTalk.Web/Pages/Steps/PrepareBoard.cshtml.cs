using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Lessons;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using Microsoft.AspNetCore.Mvc;

namespace ArchTalk.Web.Pages.Steps;

/// <summary>A parameter of a figure as the page asks for it.</summary>
/// <param name="Type">How what is typed is read: "int", "number", "numbers", "points", "text" or "bool".</param>
public sealed record FigureField(string Figure, string Path, string Label, string Type, string Hint = "");

/// <summary>One board while its items are placed.</summary>
public sealed class PrepareBoardModel(LessonService lessons, BoardService boards, SectionService sections) : StepPageModel(lessons, LessonStep.Prepare)
{
    public static readonly IReadOnlyList<(string Name, string Word)> Figures =
    [
        ("clock", "Clock face"), ("numberLine", "Number line"), ("placeValue", "Place-value chart"), ("cubes", "Box of unit cubes"), ("axes", "Axes, points, curve"),
    ];

    public static readonly IReadOnlyList<FigureField> FigureFields =
    [
        new("clock", "hour", "Hour", "int"), new("clock", "minute", "Minute", "int"), new("clock", "showsDigits", "Digits", "bool"),
        new("clock", "showsHands", "Hands", "bool"), new("clock", "showsMinutes", "Minute strokes", "bool"),
        new("numberLine", "from", "From", "number"), new("numberLine", "to", "To", "number"), new("numberLine", "step", "Step", "number"),
        new("numberLine", "numberEvery", "A number at every … stroke", "int", "0 for none"), new("numberLine", "marked", "Marked values", "numbers", "3; 7.5"),
        new("numberLine", "locale", "Numbers written as in", "text", "en, de, hi-IN"),
        new("placeValue", "number", "Number", "text", "305020.7"), new("placeValue", "places", "Places at least", "int"),
        new("placeValue", "locale", "Digit groups as in", "text", "en, hi-IN"), new("placeValue", "showsDigits", "Digits", "bool"),
        new("cubes", "length", "Cubes long", "int"), new("cubes", "depth", "Cubes deep", "int"), new("cubes", "height", "Cubes high", "int"),
        new("axes", "xFrom", "x from", "number"), new("axes", "xTo", "x to", "number"), new("axes", "xStep", "x step", "number"),
        new("axes", "yFrom", "y from", "number"), new("axes", "yTo", "y to", "number"), new("axes", "yStep", "y step", "number"),
        new("axes", "xName", "Name across", "text"), new("axes", "yName", "Name up", "text"), new("axes", "curve", "Curve y =", "text", "2x^2 - 3x + 1"),
        new("axes", "points", "Points, one a line", "points", "1; 2; A"), new("axes", "locale", "Numbers written as in", "text", "en, de"), new("axes", "showsGrid", "Grid", "bool"),
    ];

    public static readonly IReadOnlyList<(string Value, string Word)> Sizes = [(TextSizes.Small, "Small"), (TextSizes.Reading, "Reading"), (TextSizes.Heading, "Heading")];

    public IReadOnlyList<InkStyle> Inks { get; } = [.. InkStyle.All.Where(s => s is { Tool: InkStyle.Pen, Width: "medium" })];

    public IReadOnlyList<InkStyle> Highlights { get; } = [.. InkStyle.All.Where(s => s is { Tool: InkStyle.Highlighter, Width: "medium" })];

    [FromRoute(Name = "board")]
    public Guid BoardId { get; set; }

    public IReadOnlyList<BoardView> Boards { get; private set; } = [];

    public IReadOnlyList<Term> Terms { get; private set; } = [];

    /// <summary>The board edited; null when it isn't in the lesson.</summary>
    public BoardView? Board => Boards.FirstOrDefault(b => b.Id == BoardId);

    public int Number => Boards.TakeWhile(b => b.Id != BoardId).Count() + 1;

    public BoardView? Before => Boards.ElementAtOrDefault(Number - 2);

    public BoardView? After => Boards.ElementAtOrDefault(Number);

    public string Address(BoardView board) => $"/lessons/{Lesson.Id:N}/prepare/{board.Id:N}";

    public object PageData => new
    {
        lesson = Lesson.Id,
        board = Board,
        boards = Boards.Select(b => new { b.Id, b.Title }),
        terms = Terms.Select(t => new { t.Id, t.Word }),
        colors = new { inks = Inks.ToDictionary(s => s.Ink, s => s.Color), highlights = Highlights.ToDictionary(s => s.Ink, s => s.Color) },
        templates = ItemTemplates.All,
        sizes = TextSizes.All.ToDictionary(s => s, TextSizes.Units),
    };

    protected override bool IsGone => Board is null;

    protected override async Task LoadAsync(CancellationToken cancel)
    {
        Boards = [.. (await boards.ListAsync(Lesson.Id, cancel)).Select(BoardView.Of)];
        Terms = await sections.TermsAsync(Lesson.Id, cancel);
    }
}
