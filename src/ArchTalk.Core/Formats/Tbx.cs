using System.Xml;
using System.Xml.Linq;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Formats;

/// <summary>
/// The vocabulary as TBX (ISO 30042:2019), written in the DCA style: one conceptEntry for each term, a langSec for its language and
/// each translation's. What TBX-Basic has no category for stands in notes of a private dialect whose types begin with "x-".
/// Reading also takes the older martif files and the DCT style, by the names of their elements.
/// </summary>
public static class Tbx
{
    public static readonly XNamespace Namespace = "urn:iso:std:iso:30042:ed-2";

    private static readonly (string Type, Func<Term, string> Get, Func<Term, string, Term> Set)[] Notes =
    [
        ("partOfSpeech", t => t.PartOfSpeech, (t, v) => t with { PartOfSpeech = v }),
        ("pronunciation", t => t.Reading, (t, v) => t with { Reading = v }),
        ("x-wordParts", t => t.Parts, (t, v) => t with { Parts = v }),
        ("x-confusedWith", t => t.ConfusedWith, (t, v) => t with { ConfusedWith = v }),
        ("x-memoryAid", t => t.MemoryAid, (t, v) => t with { MemoryAid = v }),
        ("x-status", t => t.Status == Term.New ? "" : t.Status, (t, v) => t with { Status = v }),
    ];

    /// <param name="language">The lesson's language, for terms that name none.</param>
    public static XDocument Write(string title, string language, IReadOnlyList<Term> terms) => new(
        new XDeclaration("1.0", "utf-8", null),
        new XElement(
            Namespace + "tbx",
            new XAttribute("type", "TBX-Basic"),
            new XAttribute("style", "dca"),
            new XAttribute(XNamespace.Xml + "lang", language),
            new XElement(
                Namespace + "tbxHeader",
                new XElement(Namespace + "fileDesc", new XElement(Namespace + "sourceDesc", new XElement(Namespace + "p", title)))),
            new XElement(Namespace + "text", new XElement(Namespace + "body", terms.Select(t => Entry(t, language))))));

    /// <param name="file">One that can be read twice.</param>
    /// <summary>Reads a file; its first language that is <paramref name="language"/>, or else its first, holds the words.</summary>
    public static Checked<IReadOnlyList<Term>> Read(Stream file, string language, Func<Guid> newId)
    {
        XDocument document;
        try
        {
            // Older files name a DTD; it is not followed.
            document = BoundedXml.Load(
                () =>
                {
                    file.Position = 0;
                    return new StreamReader(file, leaveOpen: true);
                },
                20_000_000, 100, DtdProcessing.Ignore);
        }
        catch (XmlException e)
        {
            return $"The TBX file is broken near line {e.LineNumber}. Export it again from where it comes.";
        }

        var entries = document.Descendants().Where(e => e.Name.LocalName is "conceptEntry" or "termEntry").ToArray();
        if (entries.Length > LessonRules.MostEntries)
        {
            return $"The file holds {entries.Length} terms; at most {LessonRules.MostEntries} fit in a lesson. Divide it.";
        }

        var terms = entries.Select(e => ReadEntry(e, language, newId())).OfType<Term>().ToArray();
        return terms.Length == 0
            ? "No terms were found in the file. A TBX file holds them in conceptEntry or termEntry elements."
            : new Checked<IReadOnlyList<Term>>(terms, null);
    }

    private static XElement Entry(Term term, string language) => new(
        Namespace + "conceptEntry",
        new XAttribute("id", $"c{term.Id:N}"),
        new XElement(
            Namespace + "langSec",
            Language(term.Language.Length > 0 ? term.Language : language),
            term.Meaning.Length > 0
                ? new XElement(Namespace + "descripGrp", new XElement(Namespace + "descrip", new XAttribute("type", "definition"), term.Meaning))
                : null,
            new XElement(
                Namespace + "termSec",
                new XElement(Namespace + "term", term.Word),
                Notes.Where(n => n.Get(term).Length > 0)
                    .Select(n => new XElement(Namespace + "termNote", new XAttribute("type", n.Type), n.Get(term))),
                term.Example.Length > 0
                    ? new XElement(Namespace + "descripGrp", new XElement(Namespace + "descrip", new XAttribute("type", "context"), term.Example))
                    : null),
            term.Synonym.Length > 0 ? new XElement(Namespace + "termSec", new XElement(Namespace + "term", term.Synonym)) : null),
        term.Translations.GroupBy(t => t.Language, StringComparer.OrdinalIgnoreCase).Select(g => new XElement(
            Namespace + "langSec",
            Language(g.Key),
            g.Select(t => new XElement(Namespace + "termSec", new XElement(Namespace + "term", t.Text))))));

    private static XAttribute Language(string tag) => new(XNamespace.Xml + "lang", tag);

    private static Term? ReadEntry(XElement entry, string language, Guid id)
    {
        var sections = entry.Elements().Where(e => e.Name.LocalName is "langSec" or "langSet").ToArray();
        var own = Array.Find(sections, s => Matches(LanguageOf(s), language)) ?? sections.FirstOrDefault();
        var words = own is null ? [] : TermSections(own);
        if (own is null || words.Length == 0)
        {
            return null;
        }

        var tag = LanguageOf(own);
        var term = new Term(
            id,
            Word(words[0]),
            "",
            Described(own, "definition") ?? Described(entry, "definition") ?? "",
            Matches(tag, language) ? "" : tag)
        {
            Example = Described(words[0], "context") ?? "",
            Synonym = words.Length > 1 ? Word(words[1]) : "",
            Translations =
            [
                .. from section in sections where section != own from word in TermSections(section)
                   select new Translation(LanguageOf(section), Word(word)),
            ],
        };
        foreach (var (type, _, set) in Notes)
        {
            term = Value(words[0], "termNote", type) is { } value ? set(term, value) : term;
        }

        return term.Word.Length > 0 ? term : null;
    }

    private static XElement[] TermSections(XElement section) => [.. section.Elements().Where(e => e.Name.LocalName is "termSec" or "tig" or "ntig")];

    private static string Word(XElement section) => section.Descendants().FirstOrDefault(e => e.Name.LocalName == "term")?.Value.Trim() ?? "";

    private static string? Described(XElement parent, string type) =>
        parent.Elements().Where(e => e.Name.LocalName == "descripGrp").Append(parent).Select(e => Value(e, "descrip", type))
            .FirstOrDefault(v => v is not null);

    // DCA names the category in an attribute, DCT in the element itself.
    private static string? Value(XElement parent, string element, string type) =>
        parent.Descendants().FirstOrDefault(e => (e.Name.LocalName == element && (string?)e.Attribute("type") == type
            && (element != "descrip" || e.Parent == parent || e.Parent?.Parent == parent))
            || (e.Name.LocalName == type && e.Parent == parent))?.Value.Trim();

    private static string LanguageOf(XElement section) =>
        (string?)section.Attribute(XNamespace.Xml + "lang") ?? (string?)section.Attribute("lang") ?? "";

    private static bool Matches(string tag, string language) =>
        string.Equals(tag, language, StringComparison.OrdinalIgnoreCase) || tag.StartsWith(language + "-", StringComparison.OrdinalIgnoreCase);
}
