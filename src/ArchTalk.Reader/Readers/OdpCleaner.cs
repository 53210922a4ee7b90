using System.Text;
using System.Text.RegularExpressions;
using System.Xml.Linq;

namespace ArchTalk.Reader.Readers;

/// <summary>ODP (ISO/IEC 26300).</summary>
internal sealed partial class OdpCleaner(DeckArchive deck, MediaLimits limits) : DeckCleaner(deck, limits)
{
    /// <summary>More spaces, columns or rows than this are in no slide, and cost memory for each.</summary>
    private const int MostRepeated = 500;

    private const string Type = "application/vnd.oasis.opendocument.presentation";
    private static readonly XNamespace Link = "http://www.w3.org/1999/xlink";
    private const string ChartType = "application/vnd.oasis.opendocument.chart";
    private static readonly XNamespace Chart = "urn:oasis:names:tc:opendocument:xmlns:chart:1.0";
    private static readonly XNamespace Manifest = "urn:oasis:names:tc:opendocument:xmlns:manifest:1.0";

    // Not here: script, form, database, formula, animation and configuration.
    private static readonly HashSet<string> Namespaces = new(StringComparer.Ordinal)
    {
        "urn:oasis:names:tc:opendocument:xmlns:office:1.0", "urn:oasis:names:tc:opendocument:xmlns:style:1.0",
        "urn:oasis:names:tc:opendocument:xmlns:text:1.0",
        "urn:oasis:names:tc:opendocument:xmlns:table:1.0", "urn:oasis:names:tc:opendocument:xmlns:drawing:1.0",
        "urn:oasis:names:tc:opendocument:xmlns:presentation:1.0",
        "urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0", "urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0",
        "urn:oasis:names:tc:opendocument:xmlns:datastyle:1.0", Chart
            .NamespaceName, "urn:oasis:names:tc:opendocument:xmlns:meta:1.0", "urn:oasis:names:tc:opendocument:xmlns:dr3d:1.0",
        "urn:org:documentfoundation:names:experimental:office:xmlns:loext:1.0",
        "urn:org:documentfoundation:names:experimental:calc:xmlns:calcext:1.0",
        "urn:oasis:names:tc:opendocument:xmlns:smil-compatible:1.0", "http://purl.org/dc/elements/1.1/", Link.NamespaceName, XNamespace.Xml
            .NamespaceName, "",
    };

    private static readonly HashSet<string> Elements = new(StringComparer.Ordinal)
    {
        "scripts", "event-listeners", "forms", "settings", "object-ole", "applet", "plugin", "floating-frame", "control", "sound",
        "dde-connection-decls",
        "section-source", "table-source", "cell-range-source", "font-face-src", "script", "dde-source", "database-ranges", "animations",
    };

    private static readonly string[] Addressed = ["image", "background-image", "fill-image"];

    private readonly HashSet<string> pictures = new(StringComparer.Ordinal);
    private readonly HashSet<string> charts = new(StringComparer.Ordinal);

    /// <summary>Whether the archive is laid out as an ODP.</summary>
    public static bool Knows(DeckArchive deck) =>
        deck.Has("mimetype") && Encoding.ASCII.GetString(deck.Bytes("mimetype", 256)).StartsWith(Type, StringComparison.Ordinal);

    public static bool HasMacros(DeckArchive deck) =>
        deck.Names.Any(n => n.StartsWith("Basic/", StringComparison.Ordinal) || n.StartsWith("Scripts/", StringComparison.Ordinal));

    public static bool IsProtected(DeckArchive deck) =>
        deck.Has("META-INF/manifest.xml") && deck.Xml("META-INF/manifest.xml").Descendants().Any(e => e.Name.LocalName == "encryption-data");

    protected override IEnumerable<(string Name, byte[] Content)> Parts()
    {
        yield return ("mimetype", Encoding.ASCII.GetBytes(Type));
        foreach (var name in Deck.Names.Where(
            n => n.StartsWith("Pictures/", StringComparison.Ordinal) || n.StartsWith("ObjectReplacements/", StringComparison.Ordinal)).ToArray())
        {
            if (Picture(name) is { } bytes)
            {
                pictures.Add(name);
                yield return (name, bytes);
            }
        }

        // Of embedded objects only charts are drawn anew: decks often have no preview of them, and a chart is XML like the slides.
        var written = new List<string>();
        foreach (var name in Deck.Names.Where(n => ObjectContent().IsMatch(n)).ToArray())
        {
            var document = Deck.Xml(name);
            if (document.Descendants(Chart + "chart").Any())
            {
                var folder = name[..name.IndexOf('/', StringComparison.Ordinal)];
                charts.Add(folder);
                foreach (var part in new[] { "content.xml", "styles.xml" }.Select(p => $"{folder}/{p}").Where(Deck.Has))
                {
                    var chart = Deck.Xml(part);
                    Clean(chart);
                    written.Add(part);
                    yield return (part, Bytes(chart));
                }
            }
        }

        foreach (var name in new[] { "content.xml", "styles.xml", "meta.xml" }.Where(Deck.Has))
        {
            var document = Deck.Xml(name);
            Clean(document);
            written.Add(name);
            yield return (name, Bytes(document));
        }

        yield return ("META-INF/manifest.xml", Bytes(new XDocument(new XElement(
            Manifest + "manifest", new XAttribute(XNamespace.Xmlns + "manifest", Manifest), new XAttribute(Manifest
                + "version", "1.2"), Entry("/", Type),
            charts.Select(c => Entry($"{c}/", ChartType)), written.Select(n => Entry(n, "text/xml")), pictures.Select(n => Entry(n, ""))))));
    }

    private static XElement Entry(string path, string type) =>
        new(Manifest + "file-entry", new XAttribute(Manifest + "full-path", path), new XAttribute(Manifest + "media-type", type));

    private void Clean(XDocument document)
    {
        foreach (var element in document.Root!.Descendants()
            .Where(e => !Namespaces.Contains(e.Name.NamespaceName) || Elements.Contains(e.Name.LocalName))
            .ToArray())
        {
            element.Remove();
        }

        foreach (var attribute in document.Root.DescendantsAndSelf().SelectMany(e => e.Attributes()).Where(a => !a.IsNamespaceDeclaration).ToArray())
        {
            if (attribute.Name == Link + "href" && !MayStay(attribute))
            {
                // A frame can hold the same picture in two forms; the one that stays is drawn.
                var element = attribute.Parent!;
                attribute.Remove();
                if (element.Name.LocalName is "image" or "object" && element.Parent is not null)
                {
                    element.Remove();
                }
            }
            else if (!Namespaces.Contains(attribute.Name.NamespaceName))
            {
                attribute.Remove();
            }
            else if (attribute.Name.LocalName is "c" or "number-columns-repeated" or "number-rows-repeated"
                && !(int.TryParse(attribute.Value, System.Globalization.CultureInfo.InvariantCulture, out var times)
                    && times is >= 0 and <= MostRepeated))
            {
                attribute.Value = "1";
            }
        }
    }

    [GeneratedRegex("^Object[ _]?[0-9]+/content\\.xml$", RegexOptions.None, 1000)]
    private static partial Regex ObjectContent();

    // People follow "a"; a picture or a chart lies in the deck itself.
    private bool MayStay(XAttribute href) => href.Parent!.Name.LocalName switch
    {
        "a" => IsFollowed(href.Value) || href.Value.StartsWith('#'),
        "object" => Resolve("content.xml", href.Value.TrimEnd('/')) is { } chart && charts.Contains(chart),
        var name when Addressed.Contains(name, StringComparer.Ordinal) => Resolve("content.xml", href.Value) is { } inside
            && pictures.Contains(inside),
        _ => false,
    };
}
