using System.Xml.Linq;

namespace ArchTalk.Reader.Readers;

/// <summary>PPTX (ISO/IEC 29500, its packages in part 2).</summary>
internal sealed class PptxCleaner(DeckArchive deck, MediaLimits limits) : DeckCleaner(deck, limits)
{
    private const string ContentTypes = "[Content_Types].xml";
    private const string Presentation = "application/vnd.openxmlformats-officedocument.presentationml.presentation.main+xml";
    private static readonly XNamespace Package = "http://schemas.openxmlformats.org/package/2006/relationships";
    private static readonly XNamespace Types = "http://schemas.openxmlformats.org/package/2006/content-types";

    // Transitional and strict.
    private static readonly XNamespace[] References =
    [
        "http://schemas.openxmlformats.org/officeDocument/2006/relationships", "http://purl.oclc.org/ooxml/officeDocument/relationships",
    ];

    // What slides are made of. Not here: embeddings, activeX, ctrlProps, macros, fonts, films, custom data.
    private static readonly string[] Folders =
    [
        "ppt/slides/", "ppt/slideLayouts/", "ppt/slideMasters/", "ppt/notesSlides/", "ppt/notesMasters/", "ppt/handoutMasters/", "ppt/theme/",
        "ppt/charts/",
        "ppt/diagrams/", "ppt/drawings/", "ppt/media/", "docProps/",
    ];

    private static readonly string[] Single =
    [
        ContentTypes, "_rels/.rels", "ppt/tableStyles.xml", "ppt/presProps.xml", "ppt/viewProps.xml",
    ];

    private static readonly string[] Links = ["hlinkClick", "hlinkHover", "hlinkMouseOver"];

    private readonly HashSet<string> pictures = new(StringComparer.Ordinal);

    /// <summary>Whether the archive is laid out as a PPTX.</summary>
    public static bool Knows(DeckArchive deck) => deck.Names.Any(IsMain);

    public static bool HasMacros(DeckArchive deck) => deck.Names.Any(n => n.Contains("vbaProject", StringComparison.OrdinalIgnoreCase));

    protected override IEnumerable<(string Name, byte[] Content)> Parts()
    {
        // Pictures first: what relates to one that isn't there is left out.
        foreach (var name in Deck.Names.Where(n => MayStay(n) && !IsXml(n)).ToArray())
        {
            if (Picture(name) is { } bytes)
            {
                pictures.Add(name);
                yield return (name, bytes);
            }
        }

        foreach (var name in Deck.Names.Where(n => MayStay(n) && IsXml(n) && !n.EndsWith(".rels", StringComparison.Ordinal)).ToArray())
        {
            var document = Deck.Xml(name);
            if (name == ContentTypes)
            {
                CleanTypes(document);
            }
            else
            {
                var relations = Relations(name);
                Clean(name, document, relations);
                if (relations is not null)
                {
                    yield return (RelationsOf(name), Bytes(relations));
                }
            }

            yield return (name, Bytes(document));
        }

        if (Relations("") is { } root)
        {
            CleanRelations("", root, new HashSet<string>(StringComparer.Ordinal));
            yield return ("_rels/.rels", Bytes(root));
        }
    }

    private static bool IsXml(string name) => name.EndsWith(".xml", StringComparison.Ordinal) || name.EndsWith(".rels", StringComparison.Ordinal);

    private static bool IsMain(string name) =>
        name.StartsWith("ppt/presentation", StringComparison.Ordinal) && name.EndsWith(".xml", StringComparison.Ordinal);

    private static bool MayStay(string name) =>
        Single.Contains(name, StringComparer.Ordinal)
            || IsMain(name.Replace("_rels/", "", StringComparison.Ordinal).Replace(".rels", "", StringComparison.Ordinal))
            || Folders.Any(f => name.StartsWith(f, StringComparison.Ordinal));

    private bool Stays(string name) => MayStay(name) && Deck.Has(name) && (IsXml(name) || pictures.Contains(name));

    private static string RelationsOf(string part) =>
        part.LastIndexOf('/') is var slash && part.Length == 0 ? "_rels/.rels" : $"{part[..(slash + 1)]}_rels/{part[(slash + 1)..]}.rels";

    private XDocument? Relations(string part) => Deck.Has(RelationsOf(part)) ? Deck.Xml(RelationsOf(part)) : null;

    // An identity is resolved by whatever element names it, so an address stays only when nothing but links names it.
    private void Clean(string part, XDocument document, XDocument? relations)
    {
        foreach (var element in document.Descendants().Where(e => e.Name.LocalName is "externalData" or "control" or "controls" or "custDataLst")
            .ToArray())
        {
            element.Remove();
        }

        var uses = document.Descendants().SelectMany(e => e.Attributes()).Where(a => References.Contains(a.Name.Namespace)).ToArray();
        var notLinks = uses.Where(a => !Links.Contains(a.Parent!.Name.LocalName, StringComparer.Ordinal)).Select(a => a.Value)
            .ToHashSet(StringComparer.Ordinal);
        var kept = relations is null ? [] : CleanRelations(part, relations, notLinks);
        foreach (var use in uses.Where(a => !kept.Contains(a.Value)))
        {
            use.Remove();
        }
    }

    private HashSet<string> CleanRelations(string part, XDocument relations, HashSet<string> notLinks)
    {
        var kept = new HashSet<string>(StringComparer.Ordinal);
        foreach (var relation in relations.Root!.Elements().ToArray())
        {
            var (id, target, type) = ((string?)relation.Attribute("Id") ?? "", (string?)relation.Attribute("Target") ?? "", (string?)relation
                .Attribute("Type") ?? "");
            var isOutside = (string?)relation.Attribute("TargetMode") is { } mode && mode != "Internal";
            var stays = relation.Name == Package + "Relationship" && id.Length > 0
                && (isOutside ? type.EndsWith("/hyperlink", StringComparison.Ordinal) && IsFollowed(target) && !notLinks.Contains(id)
                    : Resolve(part, target) is { } inside && Stays(inside));
            if (!stays || !kept.Add(id))
            {
                relation.Remove();
            }
        }

        return kept;
    }

    private void CleanTypes(XDocument document)
    {
        foreach (var entry in document.Root!.Elements().ToArray())
        {
            var part = ((string?)entry.Attribute("PartName") ?? "").TrimStart('/');
            if (entry.Name == Types + "Override" && !Stays(part))
            {
                entry.Remove();
            }
            else if (IsMain(part))
            {
                // A deck with macros, a template and a show are decks too.
                entry.SetAttributeValue("ContentType", Presentation);
            }
        }
    }
}
