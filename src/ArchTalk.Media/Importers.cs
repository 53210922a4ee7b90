using ArchTalk.Media.Boxes;

namespace ArchTalk.Media;

/// <summary>All that makes boards of files.</summary>
public sealed class Importers(Box box, DeckLooks looks, Pictures pictures, Clips clips, MediaLimits limits)
{
    public DeckLooks Looks { get; } = looks;

    public Pictures Pictures { get; } = pictures;

    public Clips Clips { get; } = clips;

    /// <param name="parent">Where a folder for the work is made.</param>
    /// <exception cref="MediaException">It is encrypted, broken, has no pages or too many.</exception>
    public Task<PdfPages> OpenPdfAsync(string file, string parent, CancellationToken cancel) => PdfPages.OpenAsync(box, file, parent, limits, cancel);
}
