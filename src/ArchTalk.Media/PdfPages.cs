using System.Globalization;
using ArchTalk.Media.Boxes;

namespace ArchTalk.Media;

/// <summary>The pages of a PDF: pictures by poppler, words by the reader.</summary>
public sealed class PdfPages : IAsyncDisposable
{
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
            pages.Count = await pages.reader.AskAsync(v => new OpenPdf(v.Inputs[0]), cancel);
            return pages.Count > 0 && pages.Count <= limits.Pages ? pages : throw new MediaException("The PDF has no pages.");
        }
        catch
        {
            await pages.DisposeAsync();
            throw;
        }
    }

    /// <summary>
    /// Draws one page (from 1), writes its copies into <paramref name="folder"/>, and reads its words, in board units as the picture
    /// shows them: turned and cropped alike. Pages may be asked for at the same time.
    /// </summary>
    /// <exception cref="MediaException">The page can't be drawn.</exception>
    public async Task<PageRead> ImportAsync(int page, string folder, CancellationToken cancel)
    {
        var number = page.ToString(CultureInfo.InvariantCulture);
        var isTall = await reader.AskAsync(_ => new MeasurePage(page), cancel) > (double)PictureSizes.TallestCopy / PictureSizes.PageWidth;
        await DrawAsync(number, isTall ? ("-1", Pixels(PictureSizes.TallestCopy)) : (Pixels(PictureSizes.PageWidth), "-1"), cancel);
        work.Written($"{number}/drawn.jpg");
        var read = await reader.AskAsync(v => new ReadPage(page, v.Out($"{number}/drawn.jpg"), v.Out(number)), cancel);
        return read with { Copies = [.. work.TakeCopies(read.Copies, number, folder)] };
    }

    private static string Pixels(int pixels) => pixels.ToString(CultureInfo.InvariantCulture);

    private Task DrawAsync(string number, (string X, string Y) scale, CancellationToken cancel)
    {
        var drawing = work.Inner(number);
        return box.RunAsync(
            new BoxedProgram(
                "pdftocairo",
                v => ["-jpeg", "-jpegopt", "quality=90,optimize=n", "-cropbox", "-singlefile", "-f", number, "-l", number, "-scale-to-x", scale.X, "-scale-to-y", scale.Y, v.Inputs[0], v.Out("drawn")],
                TimeSpan.FromSeconds(limits.SecondsPerPage)) { Inputs = [file], Output = drawing, MemoryMegabytes = limits.MemoryMegabytes },
            cancel);
    }

    public async ValueTask DisposeAsync()
    {
        await reader.DisposeAsync();
        work.Dispose();
    }
}
