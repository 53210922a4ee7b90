namespace ArchTalk.Media;

/// <summary>The outside programs that may be absent. Set under "Programs" in the configuration.</summary>
public sealed class MediaPrograms
{
    /// <summary>LibreOffice, for the looks of decks.</summary>
    public string LibreOffice { get; set; } = "soffice";

    /// <summary>Tesseract, for the words in pictures.</summary>
    public string Tesseract { get; set; } = "tesseract";
}
