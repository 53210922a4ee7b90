using ArchTalk.Media.Boxes;

namespace ArchTalk.Media.Tests;

/// <summary>All that opens files, put together as the application does it.</summary>
public sealed class Kit
{
    public Kit(MediaLimits? limits = null, MediaPrograms? programs = null, BoxOptions? box = null)
    {
        Limits = limits ?? new MediaLimits();
        Box = new Box(box ?? new BoxOptions(), Limits);
        Pictures = new Pictures(Box, Limits);
        Clips = new Clips(Box, Pictures, Limits);
        Looks = new DeckLooks(Box, programs ?? new MediaPrograms(), Limits);
        Reader = new PageReader(Box, programs ?? new MediaPrograms(), Limits);
        Scans = new Scans(Pictures, Reader);
        Voice = new Voice(Box);
    }

    public MediaLimits Limits { get; }

    public Box Box { get; }

    public Pictures Pictures { get; }

    public Clips Clips { get; }

    public DeckLooks Looks { get; }

    public PageReader Reader { get; }

    public Scans Scans { get; }

    public Voice Voice { get; }

    public Task<PdfPages> OpenPdfAsync(string file) => PdfPages.OpenAsync(Box, file, Path.GetDirectoryName(file)!, Limits, CancellationToken.None);
}
