using System.Text.Json;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Recording;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Publishing;
using ArchTalk.Web.Recording;
using ArchTalk.Web.Setup;
using ArchTalk.Web.Timelines;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;

namespace ArchTalk.Demo;

/// <summary>Makes the demo teacher and the three lessons, each step by the service that a teacher's own click would call.</summary>
public sealed class DemoBuilder
{
    private const string Email = "teacher@example.org";
    private const string Password = "keystone and thrust";
    private static readonly CancellationToken None = CancellationToken.None;

    private readonly IServiceProvider services;
    private readonly string root;
    private readonly LessonService lessons;
    private readonly SectionService sections;
    private readonly BoardService boards;
    private readonly LessonFiles files;

    private DemoBuilder(IServiceProvider services, string root)
    {
        this.services = services;
        this.root = root;
        lessons = services.GetRequiredService<LessonService>();
        sections = services.GetRequiredService<SectionService>();
        boards = services.GetRequiredService<BoardService>();
        files = services.GetRequiredService<LessonFiles>();
    }

    /// <summary>Fills a data folder with the demo, unless it holds anything already.</summary>
    /// <param name="dataFolder">Where the data is kept.</param>
    /// <param name="root">The repository's root, where the teacher's files lie under demo-lessons/boards.</param>
    public static async Task BuildAsync(string dataFolder, string root)
    {
        var collection = new ServiceCollection();
        collection.AddLogging(l => l.AddSimpleConsole().SetMinimumLevel(LogLevel.Warning));
        collection.AddArchTalkServices(
            new ArchTalkOptions { DataFolder = Path.GetFullPath(dataFolder) },
            root,
            Path.Combine(root, "src/ArchTalk.Web/wwwroot/app/fonts"));
        await using var provider = collection.BuildServiceProvider();
        await using var scope = provider.CreateAsyncScope();
        await new DemoBuilder(scope.ServiceProvider, root).RunAsync();
    }

    private async Task RunAsync()
    {
        var db = services.GetRequiredService<ArchTalkDb>();
        await DatabaseSetup.MigrateAsync(db, None);
        if (await db.Users.AnyAsync())
        {
            Console.WriteLine("The demo data is there already.");
            return;
        }

        var work = Directory.CreateTempSubdirectory("archtalk-demo-").FullName;
        try
        {
            Say("the teacher");
            var teacher = await CreateTeacherAsync();
            var unit = await lessons.CreateUnitAsync(teacher, "How buildings stand", None);
            await MakeArchLessonAsync(teacher, unit.Id, work);
            await MakeDomeLessonAsync(teacher, unit.Id);
            await MakeBridgeLessonAsync(teacher, unit.Id, work);
        }
        finally
        {
            Directory.Delete(work, recursive: true);
        }
    }

    private static void Say(string what) => Console.WriteLine($"Demo: {what}");

    private async Task<string> CreateTeacherAsync()
    {
        var teacher = new Teacher { UserName = Email, Email = Email, DisplayName = "Mara Lindqvist" };
        var result = await services.GetRequiredService<UserManager<Teacher>>().CreateAsync(teacher, Password);
        return result.Succeeded ? teacher.Id : throw new InvalidOperationException(string.Join(' ', result.Errors.Select(e => e.Description)));
    }

    private async Task MakeArchLessonAsync(string teacher, Guid unit, string work)
    {
        var lesson = await lessons.CreateAsync(teacher, "Why an arch stands", unit, None);
        Say("boards of the first lesson");
        await ImportAsync(lesson.Id, "arch-slides.pdf", "parts-of-an-arch.png", "arch-worksheet.pdf");
        await NameAsync(lesson.Id, "parts-of-an-arch", "The parts of an arch");
        await boards.AddEmptyAsync(lesson.Id, "In one line", None);

        Say("narration and ink");
        await PlaceAsync(lesson.Id, await FindAsync(lesson.Id, "The parts of an arch"), [DemoLessons.KeystoneCover]);
        await PlaceAsync(lesson.Id, await FindAsync(lesson.Id, "In one line"), DemoLessons.InOneLine);
        var performance = await PerformanceAsync(lesson.Id, work);
        await DemoLessons.PerformAsync(performance);
        await RecordAsync(lesson.Id, performance.ToJournal());

        Say("chapters, words, publication");
        await SaveAsync(lesson.Id, SectionKind.Chapters, await services.GetRequiredService<ChapterProposals>().OfAsync(lesson.Id, None));
        await SaveAsync(lesson.Id, SectionKind.Terms, DemoLessons.ArchTerms);
        await SaveAsync(lesson.Id, SectionKind.References, DemoLessons.ArchReferences);
        await SaveAsync(lesson.Id, SectionKind.Task, DemoLessons.ArchTask);
        await services.GetRequiredService<PublishingService>().PublishAsync(lesson.Id, None);
        await RunJobsAsync(lesson.Id);
    }

    private async Task MakeDomeLessonAsync(string teacher, Guid unit)
    {
        Say("the second lesson: a deck, a section, a photographed page");
        var lesson = (await lessons.CreateAsync(teacher, "Domes: an arch turned round", unit, None)).Id;
        await SaveAsync(lesson, SectionKind.Details, DomeLesson.Details);
        await ImportAsync(lesson, "domes.pdf", "dome-slides.pptx", "8-section-of-a-dome.svg", "workbook-page.jpg");
        await NameAsync(lesson, "8-section-of-a-dome", "The parts of a dome");
        await NameAsync(lesson, "workbook-page", "Workbook, page 18");
        var pictures = services.GetRequiredService<BoardPictures>();
        var page = await FindAsync(lesson, "Workbook, page 18");
        await pictures.SetAsync(lesson, page, await pictures.ProposeAsync(lesson, page, None), None);

        Say("words, labels, figures");
        await SaveAsync(lesson, SectionKind.Terms, DomeLesson.Terms);
        await SaveAsync(lesson, SectionKind.References, DomeLesson.References);
        await SaveAsync(lesson, SectionKind.Task, DomeLesson.Task);
        var section = await FindAsync(lesson, "The parts of a dome");
        await PlaceAsync(lesson, section, DomeLesson.SectionLabels());
        await services.GetRequiredService<ItemService>().AddUnlabelledAsync(lesson, section, None);
        using var formula = JsonDocument.Parse(await File.ReadAllBytesAsync(Path.Combine(root, "demo-lessons", "boards", "formula.json")));
        string Read(string name) => formula.RootElement.GetProperty(name).GetString()!;
        var worked = await boards.AddEmptyAsync(lesson, "Worked example", None);
        await PlaceAsync(lesson, worked.Id, DomeLesson.WorkedExample(Read("tex"), Read("svg"), Read("mathMl")));
        var compared = await boards.AddEmptyAsync(lesson, "The arch again", None);
        var arch = await services.GetRequiredService<ItemService>()
            .AddPictureAsync(lesson, compared.Id, Path.Combine(root, "demo-lessons", "boards", "parts-of-an-arch.png"), None);
        await PlaceAsync(lesson, compared.Id, DomeLesson.ArchAgain(arch));
        var figures = await boards.AddEmptyAsync(lesson, "The dome in figures", None);
        await PlaceAsync(lesson, figures.Id, DomeLesson.Figures());
        await RunJobsAsync(lesson);
    }

    private async Task MakeBridgeLessonAsync(string teacher, Guid unit, string work)
    {
        Say("the third lesson: recorded, not refined yet");
        const double Hum = 40;
        var lesson = (await lessons.CreateAsync(teacher, "Why bridges are curved", unit, None)).Id;
        await ImportAsync(lesson, "bridges.pdf");
        foreach (var title in BridgeLesson.EmptyBoards)
        {
            await boards.AddEmptyAsync(lesson, title, None);
        }

        await SaveAsync(lesson, SectionKind.Terms, BridgeLesson.Terms);
        await PlaceAsync(lesson, (await boards.ListAsync(lesson, None))[1].Id, [BridgeLesson.ChainCover]);
        var performance = await PerformanceAsync(lesson, work, Hum);
        await BridgeLesson.PerformAsync(performance);
        await RecordAsync(lesson, performance.ToJournal());
    }

    private async Task<Performance> PerformanceAsync(Guid lesson, string work, double hum = 0)
    {
        var list = await boards.ListAsync(lesson, None);
        var lines = new Dictionary<Guid, IReadOnlyList<TextLine>>();
        foreach (var board in list)
        {
            lines[board.Id] = (await boards.WordsAsync(lesson, board.Id, None)).Lines();
        }

        var hand = new Handwriting("/usr/share/hershey-fonts/futural.jhf");
        var settling = new Settling(services.GetRequiredService<ITextMeasure>());
        var narration = new Narration(services.GetRequiredService<Voice>(), work);
        return new Performance(narration, hand, [.. list.Select(b => b.Id)], settling, lines, hum);
    }

    private async Task<Guid> FindAsync(Guid lesson, string title) => (await boards.ListAsync(lesson, None)).Single(b => b.Title == title).Id;

    private async Task PlaceAsync(Guid lesson, Guid board, IReadOnlyList<Item> items) => await services.GetRequiredService<ItemService>()
        .SaveAsync(new(lesson, SectionKind.Items, board), JsonSerializer.SerializeToElement(items, SectionService.Json), 0, None);

    private async Task ImportAsync(Guid lesson, params string[] sources)
    {
        var jobs = services.GetRequiredService<JobService>();
        Directory.CreateDirectory(files.Uploads(lesson));
        foreach (var source in sources)
        {
            var stored = Guid.NewGuid().ToString("N");
            File.Copy(Path.Combine(root, "demo-lessons", "boards", source), Path.Combine(files.Uploads(lesson), stored));
            await jobs.AddAsync(JobKind.Import, lesson, stored, source, None);
        }

        await RunJobsAsync(lesson);
    }

    private async Task NameAsync(Guid lesson, string from, string to)
    {
        await boards.ChangeAsync(lesson, await FindAsync(lesson, from), new BoardChange(to, null, null, null, null), None);
    }

    // As a browser does: a take is started, and its records are sent a few at a time.
    private async Task RecordAsync(Guid lesson, JournalBuilder journal)
    {
        var recording = services.GetRequiredService<RecordingService>();
        var take = await recording.StartAsync(lesson, None);
        var admitted = (await recording.AdmitAsync(take.Take, take.Token, None))!;
        foreach (var batch in journal.Records.Chunk(12))
        {
            byte[] body = [.. batch.SelectMany(r => r.ToBytes())];
            var answer = await recording.AppendAsync(admitted, take.Token, body, None);
            if (answer.Outcome != UploadOutcome.Saved)
            {
                throw new InvalidOperationException($"The take was not saved: {answer}");
            }
        }

        await RunJobsAsync(lesson);
    }

    private async Task SaveAsync<T>(Guid lesson, SectionKind kind, T content) =>
        await sections.SaveAsync(new(lesson, kind), JsonSerializer.SerializeToElement(content, SectionService.Json), 0, None);

    private async Task RunJobsAsync(Guid lesson)
    {
        var runner = services.GetRequiredService<JobRunner>();
        while (await runner.RunNextAsync(None))
        {
        }

        var db = services.GetRequiredService<ArchTalkDb>();
        var failed = await db.Jobs.AsNoTracking().FirstOrDefaultAsync(j => j.LessonId == lesson && j.State == JobState.Failed);
        if (failed is not null)
        {
            throw new InvalidOperationException($"{failed.Kind} of {failed.Title}: {failed.Message}");
        }
    }
}
