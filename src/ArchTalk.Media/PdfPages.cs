using System.Collections.Concurrent;
using System.Globalization;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Boards;
using ArchTalk.Media.Boxes;

namespace ArchTalk.Media;

/// <summary>The pages of a PDF: pictures by poppler, words by the reader.</summary>
public sealed class PdfPages : IAsyncDisposable
{
    private const string Large = "large";
    private const string Medium = "medium";
    private const int LongestName = 2_000;

    private readonly ConcurrentDictionary<int, string> folders = new();
    private readonly Box box;
    private readonly MediaLimits limits;
    private readonly string file;
    private readonly WorkFolder work;
    private readonly BoxedReader reader;

    private PdfPages(Box box, MediaLimits limits, string file, string parent, CancellationToken cancel)
    {
        (this.box, this.limits, this.file) = (box, limits, file);
        work = new WorkFolder(Directory.CreateDirectory(parent).FullName);
        reader = new BoxedReader(box, limits, [file], work.Path, cancel);
    }

    public int Count { get; private set; }

    /// <param name="parent">Where a folder for the work is made.</param>
    /// <param name="cancel">Ends the reader at any time.</param>
    /// <exception cref="MediaException">It is encrypted, broken, has no pages or too many.</exception>
    public static async Task<PdfPages> OpenAsync(Box box, string file, string parent, MediaLimits limits, CancellationToken cancel)
    {
        await box.RequireAsync();
        var pages = new PdfPages(box, limits, file, parent, cancel);
        try
        {
            // The first page is drawn while the reader opens the file: it is what is waited for.
            var first = pages.DrawAsync(1, 1, cancel);
            try
            {
                pages.Count = await pages.reader.AskAsync(v => new OpenPdf(v.Inputs[0]), cancel);
            }
            finally
            {
                await first;
            }

            return pages.Count > 0 && pages.Count <= limits.Pages ? pages : throw new MediaException("The PDF has no pages.");
        }
        catch
        {
            await pages.DisposeAsync();
            throw;
        }
    }

    /// <summary>
    /// Draws several pages at once, which is quicker than one after another. A page that could not be drawn so is drawn when it is imported.
    /// </summary>
    public async Task DrawAsync(int first, int last, CancellationToken cancel)
    {
        var range = $"{first}-{last}";
        try
        {
            foreach (var (size, width) in new[] { (Large, PictureSizes.PageWidth), (Medium, PictureSizes.All[1].Width) })
            {
                await RunAsync(
                    range,
                    ["-f", Text(first), "-l", Text(last), "-scale-to-x", Text(width), "-scale-to-y", "-1"],
                    size,
                    (last - first + 1) * limits.SecondsPerPage,
                    cancel);
            }
        }
        catch (MediaException) when (!cancel.IsCancellationRequested)
        {
            // Whichever page it was, it will say so itself.
        }

        for (var page = first; page <= last; page++)
        {
            folders[page] = range;
        }
    }

    /// <summary>
    /// Writes the copies of one page (from 1) into <paramref name="folder"/>, and reads its words, in board units as the picture
    /// shows them: turned and cropped alike. Pages may be asked for at the same time.
    /// </summary>
    /// <exception cref="MediaException">The page can't be drawn.</exception>
    public async Task<PageRead> ImportAsync(int page, string folder, CancellationToken cancel)
    {
        var number = Text(page);
        work.Inner(number);
        PageRead read;
        if (folders.TryGetValue(page, out var range) && Drawn(range, Large, page) is { } large && Drawn(range, Medium, page) is { } medium)
        {
            read = await reader.AskAsync(v => new ReadPage(page, v.Out(large), v.Out(medium), v.Out(number)), cancel);
        }
        else
        {
            var isTall = await reader.AskAsync(_ => new MeasurePage(page), cancel) > (double)PictureSizes.TallestCopy / PictureSizes.PageWidth;
            string[] scale = isTall
                ? ["-scale-to-x", "-1", "-scale-to-y", Text(PictureSizes.TallestCopy)]
                : ["-scale-to-x", Text(PictureSizes.PageWidth), "-scale-to-y", "-1"];
            await RunAsync(number, ["-singlefile", "-f", number, "-l", number, .. scale], Large, limits.SecondsPerPage, cancel);
            work.Written($"{number}/{Large}.jpg");
            read = await reader.AskAsync(v => new ReadPage(page, v.Out($"{number}/{Large}.jpg"), null, v.Out(number)), cancel);
        }

        return Checked(read) with { Copies = [.. work.TakeCopies(read.Copies, number, folder)] };
    }

    private static string Text(int number) => number.ToString(CultureInfo.InvariantCulture);

    // What came out of the box is looked at again: a link becomes one that a teacher can press.
    private static PageRead Checked(PageRead read) => read.Links.All(l => WebAddress.Is(l.Address)) && (read.Name?.Length ?? 0) <= LongestName
        ? read with
        {
            Words = new TextLayer([.. read.Words.Words.Select(w => w with { Text = PageWords.Plain(w.Text) }).Where(w => w.Text.Length > 0)]),
            Name = PageWords.Plain(read.Name ?? "") is { Length: > 0 } name ? name : null,
            Links = [.. read.Links.Select(l => l with { Title = PageWords.Plain(l.Title) })],
        }
        : throw new MediaException("The page could not be read: what came of it makes no sense. Save or print the PDF to a new one, and add that.");

    // poppler numbers its files with as many digits as the last page of the document has. A page too tall for it is left to be drawn alone.
    private string? Drawn(string range, string size, int page)
    {
        var name = $"{range}/{size}-{Text(page).PadLeft(Text(Count).Length, '0')}.jpg";
        return new FileInfo(Path.Combine(work.Path, name)) is { Exists: true, Length: > 0 } ? name : null;
    }

    private Task RunAsync(string folder, string[] which, string name, int seconds, CancellationToken cancel) => box.RunAsync(
        new BoxedProgram(
            "pdftocairo",
            v => ["-jpeg", "-jpegopt", "quality=90,optimize=n", "-cropbox", .. which, v.Inputs[0], v.Out(name)],
            TimeSpan.FromSeconds(seconds))
        {
            Inputs = [file],
            Output = work.Inner(folder),
            MemoryMegabytes = limits.MemoryMegabytes,
        }, cancel);

    public async ValueTask DisposeAsync()
    {
        await reader.DisposeAsync();
        work.Dispose();
    }
}
