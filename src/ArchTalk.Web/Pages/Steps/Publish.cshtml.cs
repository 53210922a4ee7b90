using ArchTalk.Core.Editing;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Publishing;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Publishing;
using ArchTalk.Web.Setup;
using ArchTalk.Web.Timelines;
using QRCoder;

namespace ArchTalk.Web.Pages.Steps;

public sealed class PublishModel(
    LessonService lessons, LessonCompiler compiler, SectionService sections, PublishingService publishing, ArchTalkOptions options) : StepPageModel(
        lessons,
        LessonStep.Publish)
{
    public IReadOnlyList<SummaryLine> Summary { get; private set; } = [];

    public IReadOnlyList<Publication> Publications { get; private set; } = [];

    public bool CanPublish { get; private set; }

    /// <summary>How many stretches hold only this time, how long they are, and whether they are left out.</summary>
    public (int Count, TimeSpan Length, bool AreOut) Temporary { get; private set; }

    /// <summary>The address students open; null before the first publication.</summary>
    public string? Link { get; private set; }

    /// <summary>The address of one version, which works while it is open.</summary>
    public string AddressOfVersion(int number) => $"{Link}/{number}";

    public string QrSvg { get; private set; } = "";

    public object PageData => new { lesson = Lesson.Id, link = Link ?? "", isWithdrawn = Lesson.IsWithdrawn };

    protected override async Task LoadAsync(CancellationToken cancel)
    {
        Publications = await publishing.ListAsync(Lesson.Id, cancel);
        var arrangement = (await compiler.CompileAsync(Lesson.Id, cancel)).Arrangement;
        var length = TimeSpan.FromMilliseconds(arrangement.Length.Milliseconds);
        var edits = arrangement.Edits;
        var temporary = TimeSpan.FromMilliseconds(edits.Temporary.Sum(t => (t.Source.End - t.Source.Start).Milliseconds));
        Temporary = (edits.Temporary.Count, temporary, edits.LeavesOutTemporary);
        CanPublish = length > TimeSpan.Zero;
        await SummarizeAsync(length, arrangement, cancel);
        if (Publications.Count > 0)
        {
            var host = options.PublicBaseUrl.Length > 0 ? options.PublicBaseUrl.TrimEnd('/') : $"{Request.Scheme}://{Request.Host}";
            Link = $"{host}/w/{Lesson.WatchToken}";
            using var data = QRCodeGenerator.GenerateQrCode(Link, QRCodeGenerator.ECCLevel.M);
            using var code = new SvgQRCode(data);
            QrSvg = code.GetGraphic(new System.Drawing.Size(200, 200), "#1E2A2B", "#FFFFFF", drawQuietZones: true);
        }
    }

    // A chapter of a take that was put aside is kept, and isn't among what students find.
    private async Task SummarizeAsync(TimeSpan length, Arrangement arrangement, CancellationToken cancel) => Summary = PublishSummary.Of(
        CanPublish ? IndexModel.Clock(length) : null,
        Progress.Boards,
        Chapters.Place(await sections.ChaptersAsync(Lesson.Id, cancel), arrangement).Count,
        (await sections.TermsAsync(Lesson.Id, cancel)).Count,
        (await sections.ReferencesAsync(Lesson.Id, cancel)).Count,
        await sections.TaskAsync(Lesson.Id, cancel),
        (await sections.WrongItemsAsync(Lesson.Id, cancel)).Values.Sum());
}
