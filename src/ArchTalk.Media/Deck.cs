using System.IO.Compression;
using System.Xml;
using System.Xml.Linq;
using DocumentFormat.OpenXml.Packaging;
using A = DocumentFormat.OpenXml.Drawing;
using P = DocumentFormat.OpenXml.Presentation;

namespace ArchTalk.Media;

/// <summary>A web address in a slide, and the words that carry it.</summary>
public sealed record SlideLink(string Title, string Address);

/// <summary>What a slide says of itself, beside its looks.</summary>
/// <param name="Title">Of its title placeholder, or empty.</param>
/// <param name="Notes">The speaker's notes, paragraphs on lines of their own.</param>
/// <param name="AlternativeTexts">Of its pictures and drawings, as their author wrote them.</param>
/// <param name="IsHidden">Whether its author left it out of the show.</param>
public sealed record Slide(string Title, string Notes, IReadOnlyList<SlideLink> Links, IReadOnlyList<string> AlternativeTexts, bool IsHidden);

/// <summary>The content of a deck, read from the file itself: PPTX (ISO/IEC 29500) or ODP (ISO/IEC 26300).</summary>
/// <param name="HasMacros">Whether it carries macros. They are never run.</param>
public sealed record Deck(IReadOnlyList<Slide> Slides, bool HasMacros, string Extension)
{
    private const string OdpType = "application/vnd.oasis.opendocument.presentation";
    private static readonly XNamespace Draw = "urn:oasis:names:tc:opendocument:xmlns:drawing:1.0";
    private static readonly XNamespace Presentation = "urn:oasis:names:tc:opendocument:xmlns:presentation:1.0";
    private static readonly XNamespace Text = "urn:oasis:names:tc:opendocument:xmlns:text:1.0";
    private static readonly XNamespace SvgLike = "urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0";
    private static readonly XNamespace Link = "http://www.w3.org/1999/xlink";
    private static readonly XNamespace Style = "urn:oasis:names:tc:opendocument:xmlns:style:1.0";

    /// <exception cref="MediaException">It is no deck, protected, broken, or too large.</exception>
    public static async Task<Deck> ReadAsync(string file, MediaLimits limits, CancellationToken cancel)
    {
        await Archives.CheckAsync(file, limits, cancel);
        Deck deck;
        try
        {
            using var archive = ZipFile.OpenRead(file);
            deck = archive.Entries.Any(e => e.FullName.StartsWith("ppt/presentation", StringComparison.Ordinal)) ? ReadPptx(file)
                : archive.GetEntry("mimetype") is { } type && await TextOfAsync(type, cancel) is var name && name.StartsWith(OdpType, StringComparison.Ordinal) ? ReadOdp(archive)
                : throw new MediaException("It is an archive but not a PPTX or ODP deck. If it holds files for the lesson, unpack it and add them one by one.");
        }
        catch (Exception e) when (e is not MediaException and not OutOfMemoryException and not OperationCanceledException)
        {
            throw new MediaException("The deck is broken and could not be read. Open it in the program it was made with, save it again, and add the new file, or a PDF of it.", e);
        }

        return deck.Slides.Count switch
        {
            0 => throw new MediaException("The deck has no slides."),
            var n when n > limits.Pages => throw new MediaException($"The deck has {n} slides; at most {limits.Pages} can be added at once. Divide it."),
            _ => deck,
        };
    }

    private static Deck ReadPptx(string file)
    {
        using var document = PresentationDocument.Open(file, isEditable: false);
        var presentation = document.PresentationPart ?? throw new InvalidDataException("No presentation part.");
        var ids = presentation.Presentation?.SlideIdList?.Elements<P.SlideId>() ?? [];
        var slides = ids.Select(id => ReadSlide((SlidePart)presentation.GetPartById(id.RelationshipId!.Value!))).ToArray();
        return new Deck(slides, presentation.VbaProjectPart is not null, ".pptx");
    }

    private static Slide ReadSlide(SlidePart part)
    {
        var slide = part.Slide ?? throw new InvalidDataException("An empty slide part.");
        var title = slide.Descendants<P.Shape>().FirstOrDefault(s =>
            s.NonVisualShapeProperties?.ApplicationNonVisualDrawingProperties?.PlaceholderShape?.Type?.Value is { } type
            && (type == P.PlaceholderValues.Title || type == P.PlaceholderValues.CenteredTitle));
        var notes = part.NotesSlidePart?.NotesSlide?.Descendants<P.Shape>().FirstOrDefault(s =>
            s.NonVisualShapeProperties?.ApplicationNonVisualDrawingProperties?.PlaceholderShape?.Type?.Value is { } type && type == P.PlaceholderValues.Body);
        var alternatives = slide.Descendants<P.NonVisualDrawingProperties>().Select(p => p.Description?.Value?.Trim() ?? "").Where(t => t.Length > 0);
        return new Slide(
            Line(title?.TextBody is { } body ? Paragraphs(body) : ""), notes?.TextBody is { } said ? Paragraphs(said) : "",
            [.. Links(part)], [.. alternatives], slide.Show?.Value == false);
    }

    private static IEnumerable<SlideLink> Links(SlidePart part)
    {
        var addresses = part.HyperlinkRelationships.Where(r => IsWeb(r.Uri)).ToDictionary(r => r.Id, r => r.Uri.AbsoluteUri, StringComparer.Ordinal);
        return part.Slide!.Descendants<A.HyperlinkOnClick>()
            .Where(link => link.Id?.Value is { } id && addresses.ContainsKey(id))
            .Select(link => new SlideLink(
                link.Ancestors<A.Run>().FirstOrDefault() is { } run ? run.InnerText.Trim()
                    : link.Ancestors<P.Shape>().FirstOrDefault()?.TextBody?.InnerText.Trim() ?? "", addresses[link.Id!.Value!]))
            .DistinctBy(l => l.Address);
    }

    private static string Paragraphs(DocumentFormat.OpenXml.OpenXmlElement body) => string.Join('\n', body.Elements<A.Paragraph>().Select(p =>
        string.Concat(p.ChildElements.Select(c => c is A.Break ? "\n" : c is A.Run or A.Field ? c.InnerText : "")))).Trim();

    private static Deck ReadOdp(ZipArchive archive)
    {
        if (archive.GetEntry("META-INF/manifest.xml") is { } manifest && Load(manifest).Descendants().Any(e => e.Name.LocalName == "encryption-data"))
        {
            throw new MediaException(Protected);
        }

        var content = Load(archive.GetEntry("content.xml") ?? throw new InvalidDataException("No content."));
        var hidden = content.Descendants(Style + "style")
            .Where(s => s.Descendants().Any(p => (string?)p.Attribute(Presentation + "visibility") == "hidden"))
            .Select(s => (string?)s.Attribute(Style + "name")).ToHashSet(StringComparer.Ordinal);
        var slides = content.Descendants(Draw + "page").Select(page => ReadPage(page, hidden)).ToArray();
        var hasMacros = archive.Entries.Any(e => e.FullName.StartsWith("Basic/", StringComparison.Ordinal) || e.FullName.StartsWith("Scripts/", StringComparison.Ordinal));
        return new Deck(slides, hasMacros, ".odp");
    }

    private static Slide ReadPage(XElement page, HashSet<string?> hidden)
    {
        var notes = page.Element(Presentation + "notes");
        var shown = page.Elements().Where(e => e != notes).ToArray();
        var title = shown.FirstOrDefault(e => (string?)e.Attribute(Presentation + "class") == "title");
        var said = notes?.Descendants(Draw + "frame").FirstOrDefault(f => (string?)f.Attribute(Presentation + "class") == "notes");
        var links = shown.DescendantsAndSelf().Where(e => e.Name.LocalName == "a")
            .Select(a => (Title: a.Value.Trim(), Address: (string?)a.Attribute(Link + "href") ?? ""))
            .Where(l => Uri.TryCreate(l.Address, UriKind.Absolute, out var uri) && IsWeb(uri)).Select(l => new SlideLink(l.Title, new Uri(l.Address).AbsoluteUri)).DistinctBy(l => l.Address);
        var alternatives = shown.DescendantsAndSelf().Where(e => e.Name == SvgLike + "title" || e.Name == SvgLike + "desc").Select(e => e.Value.Trim()).Where(t => t.Length > 0);
        return new Slide(Line(Said(title)), Said(said), [.. links], [.. alternatives], hidden.Contains((string?)page.Attribute(Draw + "style-name")));
    }

    private static string Said(XElement? element) => element is null ? "" : string.Join('\n', element.Descendants()
        .Where(e => (e.Name == Text + "p" || e.Name == Text + "h") && !e.Ancestors().Any(a => a.Name == Text + "p")).Select(Spaced)).Trim();

    // Spaces, tabs and line breaks are elements of their own in ODF.
    private static string Spaced(XElement paragraph) => string.Concat(paragraph.DescendantNodes().Select(n => n switch
    {
        XText text => text.Value,
        XElement e when e.Name == Text + "s" => new string(' ', (int?)e.Attribute(Text + "c") ?? 1),
        XElement e when e.Name == Text + "tab" => "\t",
        XElement e when e.Name == Text + "line-break" => "\n",
        _ => "",
    }));

    internal const string Protected = "The file is protected by a password. Open it, save a copy without the password, and add the copy.";

    private static string Line(string text) => string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    private static bool IsWeb(Uri uri) => uri.IsAbsoluteUri && (uri.Scheme == Uri.UriSchemeHttp || uri.Scheme == Uri.UriSchemeHttps);

    private static XDocument Load(ZipArchiveEntry entry)
    {
        using var stream = entry.Open();
        using var reader = XmlReader.Create(stream, new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });
        return XDocument.Load(reader);
    }

    private static async Task<string> TextOfAsync(ZipArchiveEntry entry, CancellationToken cancel)
    {
        using var reader = new StreamReader(await entry.OpenAsync(cancel));
        return await reader.ReadToEndAsync(cancel);
    }
}
