using ArchTalk.Core.Ink;
using ArchTalk.Core.Lessons;
using ArchTalk.Data;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Pages.Steps;

public sealed class RecordModel(LessonService lessons, ArchTalkDb db, BoardService boards, ItemService items, SectionService sections, IFileVersionProvider versions)
    : StepPageModel(lessons, db, "Record")
{
    private readonly ArchTalkDb db = db;

    public static readonly IReadOnlyList<(string Tool, string Icon, string Word, int Key)> Tools =
    [
        ("pen", "pen", "Pen", 1), ("highlighter", "highlighter", "Highlighter", 2), ("eraser", "eraser", "Eraser", 3),
        ("pointer", "mouse-pointer-2", "Pointer", 4), ("move", "hand", "Move", 5),
    ];

    public static readonly IReadOnlyList<(string Width, int Radius)> Widths = [("fine", 2), ("medium", 4), ("broad", 7)];

    public IReadOnlyList<BoardView> Boards { get; private set; } = [];

    /// <summary>Addresses of pictures of what lies on the boards, by board.</summary>
    public IReadOnlyDictionary<Guid, string> ItemPictures { get; private set; } = new Dictionary<Guid, string>();

    public IReadOnlyList<Term> Terms { get; private set; } = [];

    public bool HasRecording { get; private set; }

    public IEnumerable<InkStyle> Inks { get; } = InkStyle.All.DistinctBy(s => (s.Tool, s.Ink));

    public object PageData => new
    {
        lesson = Lesson.Id,
        boards = Boards,
        styles = InkStyle.All,
        terms = Terms,
        worker = Script("capture-worker.js"),
        worklet = Script("capture-worklet.js"),
        voice = Script("test-voice.m4a"),
    };

    protected override async Task LoadAsync(CancellationToken cancel)
    {
        Boards = [.. (await boards.ListAsync(Lesson.Id, cancel)).Select(BoardView.Of)];
        ItemPictures = await items.PicturesAsync(Lesson.Id, cancel);
        Terms = await sections.TermsAsync(Lesson.Id, cancel);
        HasRecording = await db.Takes.AnyAsync(t => t.LessonId == Lesson.Id && t.DeletedAt == null && t.Samples > 0, cancel);
    }

    private string Script(string name) => versions.AddFileVersionToPath(Request.PathBase, $"/app/{name}");
}
