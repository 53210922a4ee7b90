namespace ArchTalk.Media;

/// <summary>How much a file may be. Set under "Limits" in the configuration.</summary>
public sealed class MediaLimits
{
    /// <summary>Largest upload in bytes.</summary>
    public long FileBytes { get; set; } = 200L << 20;

    /// <summary>Most pages of one PDF.</summary>
    public int Pages { get; set; } = 300;

    /// <summary>Most pixels of one picture (width times height).</summary>
    public long Pixels { get; set; } = 60_000_000;

    /// <summary>Longest side of a picture in pixels.</summary>
    public int Side { get; set; } = 30_000;

    /// <summary>Seconds that one page may take.</summary>
    public int SecondsPerPage { get; set; } = 60;
}
