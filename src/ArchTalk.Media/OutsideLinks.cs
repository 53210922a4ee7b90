using System.IO.Compression;
using System.Text;
using System.Xml;
using System.Xml.Linq;

namespace ArchTalk.Media;

/// <summary>
/// Cuts what a deck would fetch from outside when it is drawn: linked pictures, films and the like could name any address the
/// server can reach, or a file of the server's own. Hyperlinks are only followed by people and stay.
/// </summary>
internal static class OutsideLinks
{
    private static readonly XNamespace Link = "http://www.w3.org/1999/xlink";

    /// <summary>Changes the file in place.</summary>
    public static async Task CutAsync(string deck, CancellationToken cancel)
    {
        await using var archive = await ZipFile.OpenAsync(deck, ZipArchiveMode.Update, cancel);
        foreach (var entry in archive.Entries.Where(e => e.FullName.EndsWith(".rels", StringComparison.OrdinalIgnoreCase) || e.FullName is "content.xml" or "styles.xml").ToArray())
        {
            XDocument document;
            await using (var stream = await entry.OpenAsync(cancel))
            {
                using var reader = XmlReader.Create(stream, new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });
                document = XDocument.Load(reader, LoadOptions.PreserveWhitespace);
            }

            if (CutRelationships(document) + CutReferences(document) > 0)
            {
                var name = entry.FullName;
                entry.Delete();
                await using var stream = await archive.CreateEntry(name).OpenAsync(cancel);
                await using var writer = new StreamWriter(stream, new UTF8Encoding(false));
                await writer.WriteAsync($"{document.Declaration}{document.ToString(SaveOptions.DisableFormatting)}".AsMemory(), cancel);
            }
        }
    }

    // PPTX keeps addresses in relationships, marked as external (ISO/IEC 29500-2).
    private static int CutRelationships(XDocument document)
    {
        var outside = document.Descendants().Where(e => e.Name.LocalName == "Relationship" && (string?)e.Attribute("TargetMode") == "External"
            && !((string?)e.Attribute("Type") ?? "").EndsWith("/hyperlink", StringComparison.Ordinal)).ToArray();
        Array.ForEach(outside, e => e.Remove());
        return outside.Length;
    }

    // ODP keeps them where they are used; what lies in the archive itself has no scheme and doesn't leave its folder.
    private static int CutReferences(XDocument document)
    {
        var outside = document.Descendants().Where(e => e.Name.LocalName != "a" && e.Attribute(Link + "href") is { Value: var value }
            && (value.Contains(':', StringComparison.Ordinal) || value.StartsWith('/') || value.StartsWith("..", StringComparison.Ordinal))).ToArray();
        Array.ForEach(outside, e => e.Attribute(Link + "href")!.Remove());
        return outside.Length;
    }
}
