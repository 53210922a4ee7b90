using System.IO.Compression;
using System.Xml;
using System.Xml.Linq;

namespace ArchTalk.Reader.Readers;

/// <summary>The parts of a deck: bounded in number, size and depth before anything is made of them.</summary>
internal sealed class DeckArchive : IDisposable
{
    /// <summary>Elements within each other in one part; slides have some twenty.</summary>
    private const int MostDepth = 256;

    private readonly ZipArchive archive;
    private readonly MediaLimits limits;
    private readonly Dictionary<string, ZipArchiveEntry> parts = new(StringComparer.Ordinal);
    private long unpacked;

    /// <exception cref="MediaException">It is broken, or holds more than the limits allow.</exception>
    public DeckArchive(string file, MediaLimits limits)
    {
        this.limits = limits;
        try
        {
            archive = ZipFile.OpenRead(file);
            if (archive.Entries.Count > limits.ArchiveEntries)
            {
                throw new MediaException(
                    $"The file holds {archive.Entries.Count} parts; at most {limits.ArchiveEntries} are unpacked. Save the deck anew, or as a PDF.");
            }
        }
        catch (InvalidDataException e)
        {
            throw Broken(e);
        }

        // Of two parts with one name no two readers take the same, and a name that leaves its folder is none.
        foreach (var entry in archive.Entries.Where(e => IsPlain(e.FullName)))
        {
            parts.TryAdd(entry.FullName, entry);
        }
    }

    public IReadOnlyCollection<string> Names => parts.Keys;

    public bool Has(string name) => parts.ContainsKey(name);

    /// <summary>A part as it is.</summary>
    /// <exception cref="MediaException">It is broken, or all that was unpacked is more than the limits allow.</exception>
    public byte[] Bytes(string name, long most = long.MaxValue)
    {
        try
        {
            using var stream = parts[name].Open();
            using var bytes = new MemoryStream();
            var buffer = new byte[1 << 16];
            for (int read; (read = stream.Read(buffer)) > 0;)
            {
                bytes.Write(buffer, 0, read);

                // Counted as they come, since what an archive says of its own sizes may be wrong.
                if ((unpacked += read) > limits.ArchiveBytes)
                {
                    throw new MediaException(
                        $"The file grows beyond {limits.ArchiveBytes >> 20} MB when it is unpacked, so it was not opened. Save the deck with "
                            + $"smaller pictures, or as a PDF.");
                }

                if (bytes.Length > most)
                {
                    throw new MediaException(
                        $"A part of the deck has more than {most >> 20} MB of writing, so it was not opened. Divide the deck, or save it as a PDF.");
                }
            }

            return bytes.ToArray();
        }
        catch (InvalidDataException e)
        {
            throw Broken(e);
        }
    }

    /// <summary>A part as XML without a document type, so that nothing in it stands for anything else.</summary>
    /// <exception cref="MediaException">It is too large or too deep.</exception>
    /// <exception cref="XmlException">It is no XML.</exception>
    public XDocument Xml(string name)
    {
        var bytes = Bytes(name, limits.DeckPartBytes);
        using (var reader = Reader(bytes))
        {
            while (reader.Read())
            {
                if (reader.Depth > MostDepth)
                {
                    throw new MediaException(
                        $"The deck is nested more than {MostDepth} levels deep, so it was not opened. Ungroup its drawings, or save it as a PDF.");
                }
            }
        }

        using var again = Reader(bytes);
        return XDocument.Load(again, LoadOptions.PreserveWhitespace);
    }

    public void Dispose() => archive.Dispose();

    private static XmlReader Reader(byte[] bytes) =>
        XmlReader.Create(new MemoryStream(bytes), new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });

    private static bool IsPlain(string name) =>
        name.Length is > 0 and < 256 && !name.EndsWith('/') && !name.StartsWith('/') && !name.Contains('\\', StringComparison.Ordinal)
        && !name.Split('/').Any(p => p is ".." or "." or "");

    private static MediaException Broken(Exception e) =>
        new("The file is broken: its parts could not be unpacked. It may not have been copied completely; save it again and add the new file.", e);
}
