using ArchTalk.Core.Boards.Scans;
using ArchTalk.Media.Boxes;

namespace ArchTalk.Media;

/// <summary>Says how photographs and scans of pages are put right.</summary>
public sealed class Scans(Pictures pictures, PageReader reader)
{
    /// <inheritdoc cref="Pictures.GutterAsync"/>
    public Task<double> GutterAsync(string original, ScanSettings settings, CancellationToken cancel) =>
        pictures.GutterAsync(original, settings, cancel);

    /// <summary>
    /// What would put the page right: turned by what can be read, its corners pulled straight, straightened, and made white where the paper
    /// isn't. Nothing is cropped that may be page.
    /// </summary>
    /// <exception cref="MediaException">It is too large, broken, or not a picture.</exception>
    public async Task<ScanSettings> ProposeAsync(string original, CancellationToken cancel)
    {
        var proposed = await pictures.ProposeScanAsync(original, cancel);
        using var work = new WorkFolder(Path.GetTempPath());
        var copies = await pictures.ImportScanAsync(original, proposed, work.Inner("page"), cancel);
        var quarters = await reader.QuartersAsync(Path.Combine(work.Path, "page", copies[^1].Name), cancel);
        return proposed.Turned(quarters).Check().Value ?? proposed;
    }
}
