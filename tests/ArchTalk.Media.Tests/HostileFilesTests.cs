using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using ArchTalk.Core.Boards;
using ArchTalk.Media.Boxes;
using SkiaSharp;

namespace ArchTalk.Media.Tests;

/// <summary>
/// More than two hundred hostile files, each brought in as a teacher would: it is taken or refused in words, in time, with nothing
/// left behind, and none gets at the canaries. Then what is behind each wall, with the other wall down.
/// </summary>
public sealed class HostileFilesTests : IDisposable
{
    private const string Word = "Canarybird";
    private static readonly CancellationToken None = CancellationToken.None;
    private static readonly SKColor Colour = new(255, 0, 200);
    private readonly Samples samples = new();
    private readonly string elsewhere = Directory.CreateDirectory($"/var/tmp/archtalk-canary-{Guid.NewGuid():N}").FullName;
    private readonly TcpListener listener = new(IPAddress.Loopback, 0);
    private readonly Canaries canaries;

    public HostileFilesTests()
    {
        listener.Start();
        File.WriteAllText(Path.Combine(elsewhere, "secret.txt"), $"{Word} {Word}\n");
        using var bitmap = new SKBitmap(64, 36);
        bitmap.Erase(Colour);
        using var image = SKImage.FromBitmap(bitmap);
        File.WriteAllBytes(Path.Combine(elsewhere, "secret.png"), image.Encode(SKEncodedImageFormat.Png, 100).ToArray());
        canaries = new Canaries(
            Path.Combine(elsewhere, "secret.png"),
            Path.Combine(elsewhere, "secret.txt"),
            $"http://127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}");
    }

    public void Dispose()
    {
        listener.Dispose();
        Directory.Delete(elsewhere, recursive: true);
        samples.Dispose();
    }

    private static byte[] Pptx => File.ReadAllBytes(Repository.DemoFile("dome-slides.pptx"));

    private static MediaLimits Strict => new() { SecondsPerPage = 4, SecondsPerDeck = 60, MemoryMegabytes = 700 };

    private async Task<byte[]> SoundAsync()
    {
        await samples.RunAsync("ffmpeg", "-v", "error", "-y", "-f", "lavfi", "-i", "sine=d=0.3", "sound.mp3");
        return await File.ReadAllBytesAsync(samples.Path("sound.mp3"));
    }

    [Fact]
    public async Task More_than_two_hundred_hostile_files_are_taken_or_refused_in_words()
    {
        HostileFile[] files =
        [
            .. HostileFiles.Pdfs(canaries), .. HostileFiles.Svgs(canaries), .. HostileFiles.Pictures(), .. HostileFiles.Clips(
                canaries,
                await SoundAsync()), .. HostileFiles.BrokenDecks(Pptx), .. HostileFiles.Others(),
        ];
        files.Length.ShouldBeGreaterThan(200);
        GC.Collect();
        var before = Process.GetCurrentProcess().PrivateMemorySize64;
        var kit = new Kit(Strict);
        var wrong = new ConcurrentBag<string>();
        await Parallel.ForEachAsync(files.Select((f, i) => (f, i)), new ParallelOptions { MaxDegreeOfParallelism = 2 }, async (file, _) =>
        {
            foreach (var fault in await BringInAsync(kit, file.f, $"hostile-{file.i}"))
            {
                wrong.Add($"{file.f.Name}: {fault}");
            }
        });
        wrong.ShouldBeEmpty();
        listener.Pending().ShouldBeFalse("an address was asked");
        GC.Collect();
        ((Process.GetCurrentProcess().PrivateMemorySize64 - before) >> 20).ShouldBeLessThan(300, "MB that the server's process grew by");
    }

    [Fact]
    public async Task Decks_that_reach_for_something_else_get_nothing()
    {
        var kit = new Kit(Strict);
        foreach (var (file, i) in HostileFiles.ReachingDecks(Pptx, canaries).Select((f, i) => (f, i)))
        {
            (await BringInAsync(kit, file, $"deck-{i}")).ShouldBeEmpty(file.Name);
        }

        listener.Pending().ShouldBeFalse();
    }

    [Fact]
    public async Task The_box_alone_holds_with_nothing_cleaned()
    {
        var box = new Kit(Strict).Box;
        foreach (var (file, i) in HostileFiles.ReachingDecks(Pptx, canaries).Select((f, i) => (f, i))
            .Where(f => !f.f.Name.Contains("million", StringComparison.Ordinal)))
        {
            var deck = await WriteAsync($"raw-{i}/deck{(file.Name.Contains("ODP", StringComparison.Ordinal) ? ".odp" : ".pptx")}", file.Content);
            using var drawn = new WorkFolder(samples.Folder);
            await RawAsync(
                box,
                "soffice",
                v => [$"-env:UserInstallation=file://{v.Scratch}/profile", "--headless", "--convert-to", "pdf", "--outdir", v.Out(""), v.Inputs[0]],
                deck,
                drawn.Path);
            await samples.RunAsync(
                "sh",
                "-c",
                $"cd {drawn.Path}; for f in *.pdf; do [ -f \"$f\" ] && pdftoppm -r 20 -png \"$f\" page && pdftotext \"$f\" text.txt; done; true");
            SeenIn(drawn.Path).ShouldBeEmpty(file.Name);
        }

        foreach (var (file, i) in HostileFiles.Svgs(canaries).Select((f, i) => (f, i)).Where(f => f.f.Content.Length < 10_000))
        {
            using var drawn = new WorkFolder(samples.Folder);
            await RawAsync(
                box,
                "rsvg-convert",
                v => ["--width", "320", "--output", v.Out("drawn.png"), v.Inputs[0]],
                await WriteAsync($"raw-{i}.svg", file.Content),
                drawn.Path);
            SeenIn(drawn.Path).ShouldBeEmpty(file.Name);
        }

        foreach (var (file, i) in HostileFiles.Clips(canaries, await SoundAsync()).Select((f, i) => (f, i))
            .Where(f => f.f.Name.Contains("list", StringComparison.Ordinal)))
        {
            using var drawn = new WorkFolder(samples.Folder);
            await RawAsync(box, "ffmpeg", v => ["-v", "error", "-protocol_whitelist", "file,pipe,http,tcp,concat,crypto,udp,rtp",
                "-allowed_extensions", "ALL", "-i", v.Inputs[0], "-frames:v", "1", v.Out("drawn.png")],
                await WriteAsync($"raw-{i}.m3u8", file.Content[10..]), drawn.Path);
            SeenIn(drawn.Path).ShouldBeEmpty(file.Name);
        }

        listener.Pending().ShouldBeFalse();
    }

    [Fact]
    public async Task The_cleaner_alone_holds_without_a_box()
    {
        var kit = new Kit(Strict, box: new() { Program = "no-such-box", ReadsFilesWithoutIt = true });
        HostileFile[] files = [.. HostileFiles.ReachingDecks(Pptx, canaries), .. HostileFiles.Svgs(canaries).Take(28), .. HostileFiles.Clips(
            canaries,
            await SoundAsync()).Take(21)];
        foreach (var (file, i) in files.Select((f, i) => (f, i)))
        {
            (await BringInAsync(kit, file, $"bare-{i}")).ShouldBeEmpty(file.Name);
        }

        listener.Pending().ShouldBeFalse();
    }

    // The canaries themselves can be seen and heard, or none of this would mean anything.
    [Fact]
    public async Task What_is_looked_for_would_be_found()
    {
        using var work = new WorkFolder(samples.Folder);
        File.Copy(canaries.Picture, Path.Combine(work.Path, "small.png"));
        SeenIn(work.Path).ShouldHaveSingleItem();
        await samples.RunAsync("sh", "-c", $"rsvg-convert --version; echo '<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 64 36\" "
            + $"width=\"64\" height=\"36\"><image href=\"secret.png\" width=\"64\" height=\"36\"/></svg>' > {elsewhere}/a.svg; rsvg-convert -o "
                + $"{work.Path}/drawn.png {elsewhere}/a.svg");
        SeenIn(work.Path).Count().ShouldBe(2);

        // A deck as it came, in a program that isn't closed in.
        var open = new Kit(Strict, box: new() { Program = "no-such-box", ReadsFilesWithoutIt = true }).Box;
        var deck = await WriteAsync("raw/deck.pptx", HostileFiles.ReachingDecks(Pptx, canaries).First().Content);
        using var drawn = new WorkFolder(samples.Folder);
        await RawAsync(
            open,
            "soffice",
            v => [$"-env:UserInstallation=file://{v.Scratch}/profile", "--headless", "--convert-to", "pdf", "--outdir", v.Out(""), v.Inputs[0]],
            deck,
            drawn.Path);
        await samples.RunAsync(
            "pdftoppm",
            "-r",
            "20",
            "-png",
            "-f",
            "1",
            "-l",
            "1",
            Path.Combine(drawn.Path, "deck.pdf"),
            Path.Combine(drawn.Path, "page"));
        SeenIn(drawn.Path).ShouldHaveSingleItem("the secret picture, by X1");
    }

    private async Task<string> WriteAsync(string name, byte[] content)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(samples.Path(name))!);
        await File.WriteAllBytesAsync(samples.Path(name), content);
        return samples.Path(name);
    }

    private static async Task RawAsync(Box box, string program, Func<BoxView, IEnumerable<string>> arguments, string input, string output)
    {
        try
        {
            await box.RunAsync(
                new BoxedProgram(program, arguments, TimeSpan.FromSeconds(120)) { Inputs = [input], Output = output, MemoryMegabytes = 2048 },
                None);
        }
        catch (MediaException)
        {
            // It may well fail; what counts is what it got.
        }
    }

    private async Task<List<string>> BringInAsync(Kit kit, HostileFile file, string name)
    {
        var folder = Directory.CreateDirectory(samples.Path(name)).FullName;
        var upload = await WriteAsync($"{name}.upload", file.Content);
        var faults = new List<string>();
        var watch = Stopwatch.StartNew();
        try
        {
            foreach (var words in await ImportAsync(kit, upload, folder))
            {
                if (words.Words.Any(w => w.Text.Contains(Word, StringComparison.OrdinalIgnoreCase)))
                {
                    faults.Add("the secret text was read");
                }
            }
        }
        catch (MediaException e)
        {
            if (!e.Message.EndsWith('.') || e.Message.Contains(samples.Folder, StringComparison.Ordinal) || e.Message.Length is < 20 or > 400
                || new[] { "Exception", "pdftocairo", "rsvg", "ffmpeg", "prlimit", "/in/", "/out", " at ArchTalk" }.Any(
                    w => e.Message.Contains(w, StringComparison.Ordinal)))
            {
                faults.Add($"the message is not for a teacher: {e.Message}");
            }
        }
        catch (Exception e)
        {
            faults.Add($"{e}");
        }

        if (watch.Elapsed.TotalSeconds > 100)
        {
            faults.Add($"it took {watch.Elapsed.TotalSeconds:0} s");
        }

        faults.AddRange(SeenIn(folder));
        faults.AddRange(Directory.EnumerateDirectories(folder).Where(d => Path.GetFileName(d).StartsWith("work-", StringComparison.Ordinal))
            .Select(d => $"left {d}"));
        return faults;
    }

    private static async Task<IReadOnlyList<TextLayer>> ImportAsync(Kit kit, string upload, string folder)
    {
        var kind = await FileKinds.OfAsync(upload, None);
        switch (kind)
        {
            case FileKind.Pdf:
                return await PagesAsync(kit, upload, folder);
            case FileKind.Archive:
                var (_, pdf, _) = await kit.Looks.DrawAsync(upload, folder, None);
                return await PagesAsync(kit, pdf, folder);
            case FileKind.Svg:
                await kit.Pictures.ImportSvgAsync(upload, folder, None);
                return [];
            case FileKind.Clip:
                await kit.Clips.ImportAsync(upload, folder, _ => Task.CompletedTask, None);
                return [];
            case FileKind.Compound:
                throw new MediaException(await kit.Looks.RefuseCompoundAsync(upload, None));
            case FileKind.Unknown or FileKind.Empty:
                throw new MediaException(FileKinds.Refusal(kind));
            default:
                await kit.Pictures.ImportAsync(upload, folder, None);
                return [];
        }
    }

    private static async Task<IReadOnlyList<TextLayer>> PagesAsync(Kit kit, string pdf, string folder)
    {
        await using var pages = await PdfPages.OpenAsync(kit.Box, pdf, folder, kit.Limits, None);
        var words = new List<TextLayer>();
        for (var page = 1; page <= pages.Count; page++)
        {
            words.Add((await pages.ImportAsync(page, Path.Combine(folder, $"page-{page}"), None)).Words);
        }

        return words;
    }

    // The secret colour in any picture, the secret word in any text.
    private static IEnumerable<string> SeenIn(string folder)
    {
        foreach (var file in Directory.EnumerateFiles(folder, "*", SearchOption.AllDirectories))
        {
            if (Path.GetExtension(file) is ".txt" && File.ReadAllText(file).Contains(Word, StringComparison.Ordinal))
            {
                yield return $"the secret text is in {Path.GetFileName(file)}";
            }

            if (Path.GetExtension(file) is ".png" || Path.GetFileName(file) == "small.jpg")
            {
                using var bitmap = SKBitmap.Decode(file);
                if (bitmap is not null && Enumerable.Range(0, 400)
                    .Count(i => IsSecret(bitmap.GetPixel(i % 20 * (bitmap.Width - 1) / 19, i / 20 * (bitmap.Height - 1) / 19))) > 10)
                {
                    yield return $"the secret picture is in {Path.GetFileName(file)}";
                }
            }
        }
    }

    private static bool IsSecret(SKColor c) => c.Red > 220 && c.Green < 60 && c.Blue is > 160 and < 240;
}
