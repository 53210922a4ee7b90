using ArchTalk.Data;
using ArchTalk.Data.Queries;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Publishing;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;
using QRCoder;

namespace ArchTalk.Web.Pages.Steps;

/// <summary>A line of what students will find, and where to change it.</summary>
public sealed record SummaryLine(bool IsThere, string Text, string Step, string Change);

public sealed class PublishModel(
    LessonService lessons, ArchTalkDb db, SectionService sections, PublishingService publishing, ArchTalkOptions options) : StepPageModel(lessons, db, "Publish")
{
    private readonly ArchTalkDb db = db;

    public IReadOnlyList<SummaryLine> Summary { get; private set; } = [];

    public IReadOnlyList<Publication> Publications { get; private set; } = [];

    public bool CanPublish { get; private set; }

    /// <summary>The address students open; null before the first publication.</summary>
    public string? Link { get; private set; }

    public string QrSvg { get; private set; } = "";

    public object PageData => new { lesson = Lesson.Id, link = Link ?? "" };

    protected override async Task LoadAsync(CancellationToken cancel)
    {
        Publications = await publishing.ListAsync(Lesson.Id, cancel);
        var takes = db.Takes.Where(t => t.LessonId == Lesson.Id && t.DeletedAt == null && t.EndedAt != null);
        var length = TimeSpan.FromSeconds((double)await takes.SumAsync(t => t.Samples, cancel) / Core.Time.Clock.SampleRate);
        CanPublish = length > TimeSpan.Zero;
        await SummarizeAsync(length, cancel);
        if (Publications.Count > 0)
        {
            var host = options.PublicBaseUrl.Length > 0 ? options.PublicBaseUrl.TrimEnd('/') : $"{Request.Scheme}://{Request.Host}";
            Link = $"{host}/w/{Lesson.WatchToken}";
            using var data = QRCodeGenerator.GenerateQrCode(Link, QRCodeGenerator.ECCLevel.M);
            using var code = new SvgQRCode(data);
            QrSvg = code.GetGraphic(new System.Drawing.Size(200, 200), "#1E2A2B", "#FFFFFF", drawQuietZones: true);
        }
    }

    private async Task SummarizeAsync(TimeSpan length, CancellationToken cancel)
    {
        var boards = await db.Boards.InLesson(Lesson.Id).CountAsync(cancel);
        var chapters = (await sections.ChaptersAsync(Lesson.Id, cancel)).Count;
        var terms = (await sections.TermsAsync(Lesson.Id, cancel)).Count;
        var references = (await sections.ReferencesAsync(Lesson.Id, cancel)).Count;
        var task = await sections.TaskAsync(Lesson.Id, cancel);
        Summary =
        [
            new(CanPublish, CanPublish ? $"{IndexModel.Clock(length)} of narration on {Count(boards, "board")}" : "No recording yet", "record", "Record"),
            new(chapters > 0, chapters > 0 ? Count(chapters, "chapter") : "No chapters: students can't jump to a part", "refine", "Chapters"),
            new(terms > 0, terms > 0 ? $"{Count(terms, "term")} in the vocabulary" : "No vocabulary", "prepare", "Vocabulary"),
            new(references > 0, references > 0 ? Count(references, "reference") : "No references", "prepare", "References"),
            new(!task.IsEmpty, task.IsEmpty ? "No task" : task.Steps.Count > 0 ? $"A task of {Count(task.Steps.Count, "step")}" : "A task", "prepare", "Task"),
        ];
    }

    private static string Count(int number, string word) => $"{number} {word}{(number == 1 ? "" : "s")}";
}
