namespace ArchTalk.Reader.Contract;

/// <summary>How much a file may be. Set under "Limits" in the configuration.</summary>
public sealed class MediaLimits
{
    /// <summary>Largest upload in bytes.</summary>
    public long FileBytes { get; set; } = 200L << 20;

    /// <summary>Most pages of one PDF, or slides of one deck.</summary>
    public int Pages { get; set; } = 300;

    /// <summary>Most pixels of one picture (width times height).</summary>
    public long Pixels { get; set; } = 60_000_000;

    /// <summary>Longest side of a picture in pixels.</summary>
    public int Side { get; set; } = 30_000;

    /// <summary>Seconds that a single question to the reader, or drawing one page, may take.</summary>
    public int SecondsPerPage { get; set; } = 60;

    /// <summary>Seconds that the looks of a whole deck may take.</summary>
    public int SecondsPerDeck { get; set; } = 240;

    /// <summary>Seconds that reading the words of one picture may take.</summary>
    public int SecondsPerReading { get; set; } = 90;

    /// <summary>Most files in an archive such as a deck.</summary>
    public int ArchiveEntries { get; set; } = 5_000;

    /// <summary>Most bytes of an archive when unpacked.</summary>
    public long ArchiveBytes { get; set; } = 1L << 30;

    /// <summary>Most bytes of one part of a deck that is XML.</summary>
    public long DeckPartBytes { get; set; } = 32L << 20;

    /// <summary>Longest film or sound in seconds.</summary>
    public int ClipSeconds { get; set; } = 1800;

    /// <summary>Most elements of an SVG picture, and how deep they may lie in each other.</summary>
    public int SvgElements { get; set; } = 20_000;

    public int SvgDepth { get; set; } = 100;

    /// <summary>Memory that one program may take, in MB; and LibreOffice.</summary>
    public int MemoryMegabytes { get; set; } = 1536;

    public int DeckMemoryMegabytes { get; set; } = 2048;

    /// <summary>Most bytes and files that one program may write.</summary>
    public long OutputBytes { get; set; } = 1L << 30;

    public int OutputFiles { get; set; } = 2_000;
}
