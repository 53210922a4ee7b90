using System.Diagnostics;
using System.Globalization;
using ArchTalk.Media;
using ArchTalk.Media.Boxes;
using ArchTalk.Reader.Contract;
using ArchTalk.Reader.Readers;
using ArchTalk.Tests;
using CliWrap;

namespace ArchTalk.Bench;

/// <summary>
/// What it costs that files are read in a box: the same pages and slides read by programs closed in, by the same programs not closed
/// in, and as it was before, with the readers in the server's own process.
/// </summary>
internal static class BoxBench
{
    private const int Slides = 20;
    private const int Rounds = 3;
    private static readonly CancellationToken None = CancellationToken.None;
    private static readonly MediaLimits Limits = new();
    private static readonly Box Closed = new(new BoxOptions(), Limits);
    private static readonly Box Open = new(new BoxOptions { Program = "no-such-box", ReadsFilesWithoutIt = true }, Limits);

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("archtalk-bench-").FullName;
        var (pdf, deck) = (Path.Combine(folder, "pages.pdf"), Path.Combine(folder, "deck.pptx"));
        ImportBench.Write(pdf);
        await Cli.Wrap("node").WithArguments(["-e", ImportBench.DeckScript, Path.Combine(Repository.Web, "package.json"), deck, $"{Slides}"])
            .ExecuteAsync();
        await CompareAsync("100 pages of a PDF", folder, (box, to) => PagesAsync(box, pdf, to), to => PagesInProcessAsync(pdf, to));
        await CompareAsync($"a deck of {Slides} slides", folder, (box, to) => DeckAsync(box, deck, to), to => DeckInProcessAsync(deck, to));
        Directory.Delete(folder, recursive: true);
    }

    // In turns, and the fastest of each: what else the machine does comes on top of it.
    private static async Task CompareAsync(string what, string folder, Func<Box, string, Task> boxed, Func<string, Task> inProcess)
    {
        var times = new List<(double Closed, double Open, double Before)>();
        for (var round = 0; round < Rounds; round++)
        {
            times.Add(
                (await TimeAsync(folder, to => boxed(Closed, to)), await TimeAsync(folder, to => boxed(Open, to)),
                await TimeAsync(folder, inProcess)));
        }

        var (closed, open, before) = (times.Min(t => t.Closed), times.Min(t => t.Open), times.Min(t => t.Before));
        Measure.Say(
            $"{what}: in boxes {closed:0.0} s, the same programs without {open:0.0} s (ratio {closed / open:0.00}), with the readers in the "
                + $"server's process {before:0.0} s (ratio {closed / before:0.00})");
    }

    private static async Task<double> TimeAsync(string folder, Func<string, Task> work)
    {
        var target = Directory.CreateDirectory(Path.Combine(folder, Guid.NewGuid().ToString("N"))).FullName;
        var start = Stopwatch.GetTimestamp();
        await work(target);
        var taken = Stopwatch.GetElapsedTime(start).TotalSeconds;
        Directory.Delete(target, recursive: true);
        return taken;
    }

    private static Task EachAsync(int pages, Func<int, Task> work) => Parallel.ForEachAsync(
        Enumerable.Range(1, pages), new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount }, async (page, _) => await work(page));

    private static async Task PagesAsync(Box box, string pdf, string target)
    {
        await using var pages = await PdfPages.OpenAsync(box, pdf, target, Limits, None);
        await EachAsync(pages.Count, page => pages.ImportAsync(page, Path.Combine(target, $"{page}"), None));
    }

    private static async Task DeckAsync(Box box, string deck, string target)
    {
        var (_, pdf, _) = await new DeckLooks(box, new MediaPrograms(), Limits).DrawAsync(deck, target, None);
        await PagesAsync(box, pdf, target);
    }

    private static async Task PagesInProcessAsync(string pdf, string target)
    {
        using var pages = PdfReader.Open(pdf, Limits);
        await EachAsync(pages.Count, async page =>
        {
            var number = page.ToString(CultureInfo.InvariantCulture);
            var drawn = Path.Combine(target, $"drawn-{number}");
            await Cli.Wrap("pdftocairo").WithArguments(
                ["-jpeg", "-jpegopt", "quality=90,optimize=n", "-cropbox", "-singlefile", "-f", number, "-l", number, "-scale-to-x", "3840",
                "-scale-to-y", "-1", pdf, drawn]).ExecuteAsync();
            PictureReader.ImportPage(drawn + ".jpg", null, Path.Combine(target, number));
            lock (pages)
            {
                pages.Read(page);
            }
        });
    }

    private static async Task DeckInProcessAsync(string deck, string target)
    {
        DeckReader.Read(deck, Path.Combine(target, "deck"), Limits);
        await Cli.Wrap("soffice").WithArguments(
            [$"-env:UserInstallation=file://{target}/profile", "--headless", "--norestore", "--convert-to", "pdf:impress_pdf_Export", "--outdir",
            target, Path.Combine(target, "deck.pptx")]).ExecuteAsync();
        await PagesInProcessAsync(Path.Combine(target, "deck.pdf"), target);
    }
}
