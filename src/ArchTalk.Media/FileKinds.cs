namespace ArchTalk.Media;

/// <summary>What a file is, judged by its first bytes and never by its name.</summary>
public enum FileKind
{
    Unknown = 0,
    Empty = 1,
    Pdf = 2,
    Png = 3,
    Jpeg = 4,
    WebP = 5,
}

/// <summary>Recognises the files that can become boards.</summary>
public static class FileKinds
{
    /// <summary>Enough bytes to recognise any kind.</summary>
    public const int Needed = 1024;

    public static FileKind Of(ReadOnlySpan<byte> start)
    {
        if (start.IsEmpty)
        {
            return FileKind.Empty;
        }

        if (start is [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, ..])
        {
            return FileKind.Png;
        }

        if (start is [0xFF, 0xD8, 0xFF, ..])
        {
            return FileKind.Jpeg;
        }

        if (start.Length >= 12 && start.StartsWith("RIFF"u8) && start[8..12].SequenceEqual("WEBP"u8))
        {
            return FileKind.WebP;
        }

        // Readers accept a PDF header within the first 1024 bytes (ISO 32000-1, Annex H.3.4.1, from memory).
        return start[..Math.Min(start.Length, Needed)].IndexOf("%PDF-"u8) >= 0 ? FileKind.Pdf : FileKind.Unknown;
    }

    /// <summary>Why a file of no known kind can't be used, and what to do.</summary>
    public static string Refusal(FileKind kind) => kind == FileKind.Empty
        ? "The file is empty. It may not have been saved or copied completely; try it again from where it came."
        : "It is not a PDF and not a PNG, JPEG or WebP picture, whatever its name says. Save or export it as one of these and add it again.";
}
