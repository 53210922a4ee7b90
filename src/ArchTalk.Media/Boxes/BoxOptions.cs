namespace ArchTalk.Media.Boxes;

/// <summary>The section "Box" of the configuration.</summary>
public sealed class BoxOptions
{
    /// <summary>Bubblewrap: it closes a program in.</summary>
    public string Program { get; set; } = "bwrap";

    /// <summary>
    /// Reads PDFs, decks and SVG pictures also where programs can't be closed in. Whoever sets it takes the risk that a hostile file
    /// reads what the server's account can read, and reaches what the server can reach.
    /// </summary>
    public bool ReadsFilesWithoutIt { get; set; }
}
