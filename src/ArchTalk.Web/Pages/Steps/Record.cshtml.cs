using System.Globalization;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Boards.Seen;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Lessons;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Recording;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.ViewFeatures;

namespace ArchTalk.Web.Pages.Steps;

/// <summary>A drawing tool as the Record page offers it.</summary>
public sealed record ToolButton(string Tool, string Icon, string Word);

/// <summary>A family of tools; it shows the member used last.</summary>
public sealed record ToolFamily(string Name, string Word, IReadOnlyList<ToolButton> Tools);

public sealed class RecordModel(LessonService lessons, BoardService boards, ItemService items, SectionService sections, RecordingService recording,
    IFileVersionProvider versions)
    : StepPageModel(lessons, LessonStep.Record)
{
    public static readonly IReadOnlyList<ToolFamily> Families =
    [
        new(
            "write",
            "Write",
            [
                new("pen", "pen", "Pen"), new("highlighter", "highlighter", "Highlighter"), new("straight", "slash", "Straight"),
                new("arrow", "move-up-right", "Arrow"), new("type", "type", "Type"), new("eraser", "eraser", "Eraser"),
            ]),
        new("point", "Point", [new("pointer", "mouse-pointer-2", "Pointer"), new("light", "lightbulb", "Light up")]),
        new("look", "Look", [new("slide", "hand", "Slide"), new("close-up", "focus", "Close-up")]),
    ];

    public static readonly IReadOnlyList<(string Width, int Radius)> Widths = [("fine", 2), ("medium", 4), ("broad", 7)];

    public IReadOnlyList<BoardView> Boards { get; private set; } = [];

    /// <summary>Addresses of pictures of what lies on the boards, by board.</summary>
    public IReadOnlyDictionary<Guid, string> ItemPictures { get; private set; } = new Dictionary<Guid, string>();

    public IReadOnlyList<Term> Terms { get; private set; } = [];

    public IReadOnlyList<AgendaPart> Agenda { get; private set; } = [];

    /// <summary>Where something is to be filled in, by board.</summary>
    public IReadOnlyDictionary<Guid, IReadOnlyList<BlankPlace>> Blanks { get; private set; } = new Dictionary<Guid, IReadOnlyList<BlankPlace>>();

    public IEnumerable<InkStyle> Inks { get; } = InkStyle.All.DistinctBy(s => (s.Tool, s.Ink));

    public object PageData => new
    {
        lesson = Lesson.Id,
        boards = Boards.Select(b => b with { Items = ItemPictures.GetValueOrDefault(b.Id) }),
        styles = InkStyle.All,
        blanks = Blanks,
        rules = new
        {
            growth = new { by = Board.GrowBy, before = Board.GrowBefore, tallest = Board.MaxHeight },
            eraserRadius = InkStyle.EraserRadius,
            leastCapital = VisualAngle.HeightFor(VisualAngle.LeastMinutes, SeenOn.Phone),
            sizes = TextSizes.All.ToDictionary(s => s, TextSizes.Units),
        },
        terms = Terms.Select(t => new { t.Id, t.Word }),
        agenda = Agenda,
        place = MomentOf(From) is { } from && MomentOf(Until) is { } until ? new { from, until } : null,
        unfinished,
        worker = Script("capture-worker.js"),
        worklet = Script("capture-worklet.js"),
        voice = Script("test-voice.m4a"),
    };

    private Guid? unfinished;

    /// <summary>A moment of a take and its sample, "take:sample": what is recorded comes in there.</summary>
    [FromQuery(Name = "from")]
    public string? From { get; set; }

    /// <summary>The moment with which the lesson goes on, as <see cref="From"/>.</summary>
    [FromQuery(Name = "until")]
    public string? Until { get; set; }

    protected override async Task LoadAsync(CancellationToken cancel)
    {
        Boards = [.. (await boards.ListAsync(Lesson.Id, cancel)).Select(BoardView.Of)];
        ItemPictures = await items.PicturesAsync(Lesson.Id, cancel);
        Blanks = await items.BlanksAsync(Lesson.Id, cancel);
        unfinished = await recording.UnfinishedAsync(Lesson.Id, cancel);
        Terms = await sections.TermsAsync(Lesson.Id, cancel);
        Agenda = [.. (await sections.DetailsAsync(Lesson.Id, cancel)).Agenda.Select(AgendaPart.Of)];
    }

    private static object? MomentOf(string? words) =>
        words?.Split(':') is [var take, var sample] && Guid.TryParse(take, out var id)
        && long.TryParse(sample, NumberStyles.None, CultureInfo.InvariantCulture, out var samples)
            ? new { take = id, sample = samples }
            : null;

    private string Script(string name) => versions.AddFileVersionToPath(Request.PathBase, $"/app/{name}");
}
