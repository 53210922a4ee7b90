using System.IO.Compression;
using System.Text;
using System.Xml.Linq;

namespace ArchTalk.Reader.Readers;

/// <summary>
/// Writes a deck anew with what may stay in it, before it is drawn or read: the parts that slides are made of, pictures that are
/// pictures, and addresses only where people follow them. Whatever is not named here is left out, so nothing that a deck holds or
/// points at can make the program that draws it open another file or address. Embedded objects stay as their preview pictures, charts as charts.
/// </summary>
internal abstract class DeckCleaner(DeckArchive deck, MediaLimits limits)
{
    private static readonly UTF8Encoding Plain = new(encoderShouldEmitUTF8Identifier: false);

    protected DeckArchive Deck { get; } = deck;

    /// <summary>Writes what may stay to <paramref name="target"/>.</summary>
    /// <exception cref="MediaException">The deck is more than the limits allow.</exception>
    public void Write(string target)
    {
        using var archive = ZipFile.Open(target, ZipArchiveMode.Create);
        foreach (var (name, content) in Parts())
        {
            // An ODF reader expects its type first and unpacked (ODF 1.2 part 3, 3.3).
            using var stream = archive.CreateEntry(name, name == "mimetype" ? CompressionLevel.NoCompression : CompressionLevel.Fastest).Open();
            stream.Write(content);
        }
    }

    /// <summary>A picture of the deck as it may stay: one in pixels as it is, an SVG cleaned; null when it is neither.</summary>
    protected byte[]? Picture(string name)
    {
        var bytes = Deck.Bytes(name);
        if (IsPicture(bytes))
        {
            return bytes;
        }

        try
        {
            return name.EndsWith(".svg", StringComparison.OrdinalIgnoreCase)
                ? Bytes(SvgCleaner.Clean(new MemoryStream(bytes), limits, isBoard: false))
                : null;
        }
        catch (MediaException)
        {
            // A deck without one of its pictures is better than none.
            return null;
        }
    }

    /// <summary>The parts that stay, as they stay.</summary>
    protected abstract IEnumerable<(string Name, byte[] Content)> Parts();

    protected static byte[] Bytes(XDocument document) =>
        Plain.GetBytes($"""<?xml version="1.0" encoding="UTF-8" standalone="yes"?>{'\n'}{document.Root!.ToString(SaveOptions.DisableFormatting)}""");

    /// <summary>An address that people follow and programs don't.</summary>
    protected static bool IsFollowed(string? address) => Uri.TryCreate(address, UriKind.Absolute, out var uri)
        && (uri.Scheme == Uri.UriSchemeHttp || uri.Scheme == Uri.UriSchemeHttps || uri.Scheme == Uri.UriSchemeMailto);

    /// <summary>Where a relative address leads from a part, or null when it leads out of the deck.</summary>
    protected static string? Resolve(string part, string address)
    {
        if (address.Length == 0 || address.Contains(':', StringComparison.Ordinal) || address.Contains('\\', StringComparison.Ordinal)
            || address.StartsWith("//", StringComparison.Ordinal) || address.Contains('%', StringComparison.Ordinal))
        {
            return null;
        }

        var path = address.StartsWith('/') ? [] : part.Split('/')[..^1].ToList();
        foreach (var step in address.TrimStart('/').Split('/'))
        {
            if (step == ".." && path.Count == 0)
            {
                return null;
            }

            if (step == "..")
            {
                path.RemoveAt(path.Count - 1);
            }
            else if (step != ".")
            {
                path.Add(step);
            }
        }

        return string.Join('/', path);
    }

    /// <summary>Whether the bytes are those of a picture without any way to name another file (magic numbers from memory).</summary>
    private static bool IsPicture(ReadOnlySpan<byte> start) =>
        start is [0x89, 0x50, 0x4E, 0x47, ..] or [0xFF, 0xD8, 0xFF, ..] or [0x42, 0x4D, ..] or [0x49, 0x49, 0x2A, 0, ..] or [0x4D, 0x4D, 0, 0x2A, ..]
        || start.StartsWith("GIF8"u8) || start.StartsWith("VCLMTF"u8)
        || start is [0xD7, 0xCD, 0xC6, 0x9A, ..] or [1, 0, 9, 0, ..]
        || (start.Length > 44 && start[40..44].SequenceEqual(" EMF"u8));
}
