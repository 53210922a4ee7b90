using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Boards.Figures;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Web.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Recording;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Tests;
using ArchTalk.Demo;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace ArchTalk.Bench;

/// <summary>Dragging among 60 items against an empty page's frame, and opening a lesson of 200 boards.</summary>
internal static class PrepareBench
{
    private const int Items = 60;
    private const int Boards = 200;
    private const int StrokesOnEach = 20;
    private static readonly CancellationToken None = CancellationToken.None;

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("archtalk-bench-").FullName;
        await DemoBuilder.BuildAsync(folder, Repository.Root);
        var (board, large) = await FillAsync(folder);
        await using var server = new Server(folder);
        await server.StartAsync();
        using var browser = new Chromium();
        browser.SignIn(server.Address, "teacher@example.org", "keystone and thrust");
        Drag(browser, $"{server.Address}{board}");
        Open(browser, $"{server.Address}{large}");
        Directory.Delete(folder, recursive: true);
    }

    private static void Drag(Chromium browser, string board)
    {
        browser.Go(board);
        browser.Until(() => browser.Script<long>("return document.querySelectorAll('g.item').length") == Items, "the items");
        Thread.Sleep(500);
        var moves = JsonSerializer.Deserialize<double[][]>(browser.ScriptAsync<string>(DragScript, 60))!;
        browser.Go("about:blank");
        var empty = JsonSerializer.Deserialize<double[]>(browser.ScriptAsync<string>(SeekBench.EmptyScript, 60))!;
        var (script, frame, nothing) = (Measure.Median(moves[0]), Measure.Median(moves[1]), Measure.Median(empty));
        Measure.Say($"dragging one of {Items} items: script of a move {script:0.0} ms, move to shown frame median {frame:0.0} ms, longest "
            + $"{moves[1].Max():0.0} ms; an empty page's frame: {nothing:0.0} ms; ratio {frame / nothing:0.0}");
    }

    private static void Open(Chromium browser, string lesson)
    {
        for (var i = 0; i < 3; i++)
        {
            browser.Go(lesson);
            browser.Until(
                () => browser.Script<long>("return document.querySelectorAll('ol[aria-label=\"Boards in order\"] > li').length") == Boards,
                "the boards");
        }

        Thread.Sleep(1000);
        var told = JsonSerializer.Deserialize<double[]>(browser.ScriptAsync<string>(OpenScript, lesson))!;
        Measure.Say($"opening a lesson of {Boards} boards: server {told[0]:0} ms for the page and {told[1]:0} ms for the list of boards (medians "
            + $"of 10); {told[2] / 1024:0} KB of both as sent; {told[3]:0} of the boards' pictures asked for before "
            + $"scrolling, {told[4] / 1024:0} KB");
        Measure.Say($"all of its boards with {Boards * StrokesOnEach} strokes in one response: {told[6]:0} ms ({told[7] / 1024:0} KB as sent); "
            + $"the first, with reading the take and compiling, {told[5]:0} ms");
    }

    private const string DragScript =
        """
        const [count, done] = arguments;
        (async () => {
          const svg = document.querySelector('svg.board-surface'), target = document.querySelector('g.item .item-hit');
          const box = target.getBoundingClientRect(), x = box.left + box.width / 2, y = box.top + box.height / 2;
          const send = (type, dx, dy) => (type === 'pointerdown' ? target : svg).dispatchEvent(
            new PointerEvent(type, { bubbles: true, pointerId: 1, isPrimary: true, button: 0, buttons: 1, clientX: x + dx, clientY: y + dy }));
          svg.setPointerCapture = svg.releasePointerCapture = () => {};
          send('pointerdown', 0, 0);
          const scripts = [], frames = [];
          for (let i = 1; i <= count; i++) {
            const start = performance.now();
            send('pointermove', i * 3, (i % 20) * 5);
            scripts.push(performance.now() - start);
            await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
            frames.push(performance.now() - start);
          }
          send('pointerup', 0, 0);
          done(JSON.stringify([scripts, frames]));
        })();
        """;

    // What was sent before scrolling is known by the pictures the page asked for; server times are measured on answers read whole.
    private const string OpenScript =
        """
        const [page, done] = arguments;
        (async () => {
          const pictures = performance.getEntriesByType('resource').filter((r) => r.name.endsWith('.jpg'));
          const api = performance.getEntriesByType('resource').map((r) => r.name).find((n) => n.endsWith('/boards'));
          const shown = [...document.querySelectorAll('img.thumb')].filter((i) => i.complete && i.naturalWidth > 0);
          let bytes = 0;
          for (const image of shown) bytes += (await (await fetch(image.src)).blob()).size;
          const median = async (address) => {
            const times = [];
            let sent = 0;
            for (let i = 0; i < 10; i++) {
              const start = performance.now();
              await (await fetch(address, { cache: 'no-store' })).text();
              times.push(performance.now() - start);
              sent = performance.getEntriesByType('resource').filter((r) => r.name === address).at(-1)?.transferSize ?? 0;
            }
            return [times.sort((a, b) => a - b)[5], sent];
          };
          performance.setResourceTimingBufferSize(5000);
          const [pageMs, pageBytes] = await median(page);
          const [listMs, listBytes] = await median(api);
          const start = performance.now();
          await (await fetch(page.replace(/prepare$/, 'ink/end.json'), { cache: 'no-store' })).text();
          const firstMs = performance.now() - start;
          const [inkMs, inkBytes] = await median(page.replace(/prepare$/, 'ink/end.json'));
          done(JSON.stringify([pageMs, listMs, pageBytes + listBytes, shown.length, bytes, firstMs, inkMs, inkBytes]));
        })();
        """;

    private static async Task<(string Board, string Large)> FillAsync(string folder)
    {
        var services = new ServiceCollection();
        services.AddLogging();
        services.AddArchTalkServices(new ArchTalkOptions { DataFolder = folder }, folder, Path.Combine(Repository.Web, "wwwroot/app/fonts"));
        await using var provider = services.BuildServiceProvider();
        await using var scope = provider.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<ArchTalkDb>();
        var boards = scope.ServiceProvider.GetRequiredService<BoardService>();
        var files = scope.ServiceProvider.GetRequiredService<LessonFiles>();
        var teacher = await db.Users.Select(u => u.Id).SingleAsync();
        var lessons = scope.ServiceProvider.GetRequiredService<LessonService>();

        var one = await lessons.CreateAsync(teacher, "Items", null, None);
        var board = await boards.AddEmptyAsync(one.Id, "Items", None);
        var items = Enumerable.Range(0, Items).Select(i => Item(i, i % 10 * 155, i / 10 * 145)).ToArray();
        await scope.ServiceProvider.GetRequiredService<ItemService>()
            .SaveAsync(
                new(one.Id, SectionKind.Items, board.Id),
                JsonSerializer.SerializeToElement<IReadOnlyList<Item>>(items, SectionService.Json),
                0,
                None);

        // Two hundred boards that all look like one of the demo's pages.
        var page = await db.Boards.AsNoTracking().FirstAsync(b => b.Kind == BoardKind.Page);
        var large = await lessons.CreateAsync(teacher, "Two hundred boards", null, None);
        for (var i = 0; i < Boards; i++)
        {
            var copy = new BoardRow
            {
                Id = Guid.CreateVersion7(),
                LessonId = large.Id,
                Order = i,
                Kind = BoardKind.Page,
                Title = $"Board {i + 1} of a long lesson",
                Height = page.Height,
                Pictures = [.. page.Pictures],
                Notes = "Say this slowly, and wait for an answer.",
            };
            db.Boards.Add(copy);
            var target = Directory.CreateDirectory(files.Board(large.Id, copy.Id)).FullName;
            foreach (var file in Directory.EnumerateFiles(files.Board(page.LessonId, page.Id)))
            {
                File.CreateSymbolicLink(Path.Combine(target, Path.GetFileName(file)), file);
            }
        }

        await db.SaveChangesAsync();
        await RecordAsync(scope.ServiceProvider, large.Id, [.. await db.Boards.Where(b => b.LessonId == large.Id).Select(b => b.Id).ToListAsync()]);
        return ($"/lessons/{one.Id:N}/prepare/{board.Id:N}", $"/lessons/{large.Id:N}/prepare");
    }

    // Twenty strokes on each board.
    private static async Task RecordAsync(IServiceProvider services, Guid lesson, Guid[] boards)
    {
        const int Seconds = 400;
        var recording = services.GetRequiredService<RecordingService>();
        var take = await recording.StartAsync(lesson, None);
        var builder = new JournalBuilder().Segment(new SegmentStart(0, Clock.SampleRate, 0, "Bench", false, false, false));
        for (var s = 0; s < Seconds; s++)
        {
            builder.Audio(0, s * 48_000L, new short[48_000]).Anchors(0, new ClockAnchor((s + 1) * 48_000L, (s + 1) * 1000));
        }

        var random = new Random(4);
        for (var i = 0; i < boards.Length * StrokesOnEach; i++)
        {
            var (board, start) = (boards[i / StrokesOnEach], i * (double)Seconds * 1000 / (boards.Length * StrokesOnEach));
            builder.Events(0, new BoardShown(start, board), new StrokeBegun(i + 1, board, "pen", "blue", "medium"))
                .Events(0, new StrokePoints(i + 1, LargeLesson.Curve(random, start, 60)));
        }

        var admitted = (await recording.AdmitAsync(take.Take, take.Token, None))!;
        await recording.AppendAsync(admitted, take.Token, builder.End().Records.SelectMany(r => r.ToBytes()).ToArray(), None);
    }

    private static Item Item(int i, double x, double y) => (i % 4) switch
    {
        0 => new TextItem
        {
            Id = Guid.CreateVersion7(),
            X = x,
            Y = y,
            Width = 140,
            Size = TextSizes.Small,
            Paragraphs = [[new TextRun($"no. {i}", IsBold: i % 8 == 0)]]
        },
        1 => new CoverItem { Id = Guid.CreateVersion7(), X = x, Y = y, Width = 130, Height = 90, Text = "?" },
        2 => new FigureItem { Id = Guid.CreateVersion7(), X = x, Y = y, Width = 130, Height = 130, Figure = new ClockFace { Hour = i % 12 } },
        _ => new LabelItem { Id = Guid.CreateVersion7(), X = x, Y = y, Text = $"part {i}", TipX = x + 60, TipY = y + 120 },
    };
}
