using ArchTalk.Core.Lessons;
using System.IO.Compression;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using DocumentFormat.OpenXml.Packaging;
using A = DocumentFormat.OpenXml.Drawing;
using P = DocumentFormat.OpenXml.Presentation;

namespace ArchTalk.Reader.Readers;

/// <summary>Reads the content of a deck, after it was written anew with only what may stay in it.</summary>
internal static partial class DeckReader
{
    private const string Pptx = ".pptx";
    private const string Odp = ".odp";
    private const int MostTypefaces = 40;
    private const int LongestTypeface = 100;
    private static readonly XNamespace Draw = "urn:oasis:names:tc:opendocument:xmlns:drawing:1.0";
    private static readonly XNamespace Presentation = "urn:oasis:names:tc:opendocument:xmlns:presentation:1.0";
    private static readonly XNamespace Text = "urn:oasis:names:tc:opendocument:xmlns:text:1.0";
    private static readonly XNamespace SvgLike = "urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0";
    private static readonly XNamespace Link = "http://www.w3.org/1999/xlink";
    private static readonly XNamespace Format = "urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0";
    private static readonly XNamespace Style = "urn:oasis:names:tc:opendocument:xmlns:style:1.0";

    /// <param name="clean">Where the cleaned deck is written, without the ending, which is added.</param>
    /// <exception cref="MediaException">It is no deck, protected, broken, or too large.</exception>
    public static Deck Read(string file, string clean, MediaLimits limits)
    {
        Deck deck;
        try
        {
            deck = Clean(file, clean, limits) is var (extension, hasMacros) && extension == Pptx
                ? new Deck(ReadPptx(clean + extension), hasMacros, extension)
                : new Deck(ReadOdp(clean + extension), hasMacros, extension);
        }
        catch (Exception e) when (e is not MediaException and not OutOfMemoryException)
        {
            throw new MediaException("The deck is broken and could not be read. Open it in the program it was made with, save it again, and add "
                + "the new file, or a PDF of it.", e);
        }

        return deck.Slides.Count switch
        {
            0 => throw new MediaException("The deck has no slides."),
            var n when n > limits
                .Pages => throw new MediaException($"The deck has {n} slides; at most {limits.Pages} can be added at once. Divide it."),
            _ => deck,
        };
    }

    private static (string Extension, bool HasMacros) Clean(string file, string clean, MediaLimits limits)
    {
        using var archive = new DeckArchive(file, limits);
        if (PptxCleaner.Knows(archive))
        {
            new PptxCleaner(archive, limits).Write(clean + Pptx);
            return (Pptx, PptxCleaner.HasMacros(archive));
        }

        if (!OdpCleaner.Knows(archive))
        {
            throw new MediaException(
                "It is an archive but not a PPTX or ODP deck. If it holds files for the lesson, unpack it and add them one by one.");
        }

        if (OdpCleaner.IsProtected(archive))
        {
            throw new MediaException(Protected);
        }

        new OdpCleaner(archive, limits).Write(clean + Odp);
        return (Odp, OdpCleaner.HasMacros(archive));
    }

    private static Slide[] ReadPptx(string file)
    {
        using var document = PresentationDocument.Open(file, isEditable: false);
        var presentation = document.PresentationPart ?? throw new InvalidDataException("No presentation part.");
        var ids = presentation.Presentation?.SlideIdList?.Elements<P.SlideId>() ?? [];
        return [.. ids.Select(id => ReadSlide((SlidePart)presentation.GetPartById(id.RelationshipId!.Value!)))];
    }

    private static Slide ReadSlide(SlidePart part)
    {
        var slide = part.Slide ?? throw new InvalidDataException("An empty slide part.");
        var title = slide.Descendants<P.Shape>().FirstOrDefault(IsTitle);
        var notes = part.NotesSlidePart?.NotesSlide?.Descendants<P.Shape>().FirstOrDefault(s =>
            s.NonVisualShapeProperties?.ApplicationNonVisualDrawingProperties?.PlaceholderShape?.Type?.Value is { } type
                && type == P.PlaceholderValues.Body);
        var alternatives = slide.Descendants<P.NonVisualDrawingProperties>().Select(p => p.Description?.Value?.Trim() ?? "").Where(IsSaid);
        return new Slide(
            Line(title?.TextBody is { } body ? Paragraphs(body) : ""), notes?.TextBody is { } said ? Paragraphs(said) : "",
            [.. Links(part)], [.. alternatives], slide.Show?.Value == false, Typefaces(part));
    }

    // What the slide itself asks for, and what its master and theme give to writing that asks for nothing.
    private static string[] Typefaces(SlidePart part)
    {
        var slide = part.Slide!;
        if (!slide.Descendants<A.Text>().Any(t => t.InnerText.Any(char.IsLetterOrDigit)))
        {
            return [];
        }

        var master = part.SlideLayoutPart?.SlideMasterPart;
        var theme = master?.ThemePart?.Theme?.ThemeElements?.FontScheme;
        var named = slide.Descendants<A.LatinFont>().Concat(master?.SlideMaster?.TextStyles?.Descendants<A.LatinFont>() ?? [])
            .Select(f => f.Typeface?.Value ?? "");
        var eastern = slide.InnerText.Any(c => c is >= '\u3040' and <= '\u9FFF' or >= '\uAC00' and <= '\uD7AF')
            ? slide.Descendants<A.EastAsianFont>().Select(f => f.Typeface?.Value ?? "")
            : [];

        // Writing that names no typeface takes the theme's: one for titles, one for all else.
        var plain = slide.Descendants<A.Run>().Where(r => r.InnerText.Trim().Length > 0 && r.RunProperties?.GetFirstChild<A.LatinFont>() is null)
            .Select(IsInTitle)
            .Distinct()
            .ToArray();
        return Named(named.Concat(eastern)
            .Append(plain.Contains(true)
                ? theme?.MajorFont?.LatinFont?.Typeface?.Value ?? ""
                : "").Append(plain.Contains(false) ? theme?.MinorFont?.LatinFont?.Typeface?.Value ?? "" : ""));
    }

    private static bool IsInTitle(A.Run run) => run.Ancestors<P.Shape>().FirstOrDefault() is { } shape && IsTitle(shape);

    private static bool IsTitle(
        P.Shape shape) => shape.NonVisualShapeProperties?.ApplicationNonVisualDrawingProperties?.PlaceholderShape?.Type?.Value is { } type
        && (type == P.PlaceholderValues.Title || type == P.PlaceholderValues.CenteredTitle);

    // "+mn-lt" is the theme's own.
    private static string[] Named(IEnumerable<string> typefaces) =>
        [.. typefaces.Select(t => t.Trim().Trim('\'', '"')).Where(t => t.Length is > 0 and <= LongestTypeface && !t.StartsWith('+'))
            .Distinct(StringComparer.OrdinalIgnoreCase)
            .Take(MostTypefaces)];

    private static IEnumerable<SlideLink> Links(SlidePart part)
    {
        var addresses = part.HyperlinkRelationships.Where(r => WebAddress.Is(r.Uri))
            .ToDictionary(r => r.Id, r => r.Uri.AbsoluteUri, StringComparer.Ordinal);
        return part.Slide!.Descendants<A.HyperlinkOnClick>()
            .Where(link => link.Id?.Value is { } id && addresses.ContainsKey(id))
            .Select(link => new SlideLink(
                link.Ancestors<A.Run>().FirstOrDefault() is { } run ? run.InnerText.Trim()
                    : link.Ancestors<P.Shape>().FirstOrDefault()?.TextBody?.InnerText.Trim() ?? "", addresses[link.Id!.Value!]))
            .DistinctBy(l => l.Address);
    }

    private static string Paragraphs(DocumentFormat.OpenXml.OpenXmlElement body) => string.Join('\n', body.Elements<A.Paragraph>().Select(p =>
        string.Concat(p.ChildElements.Select(c => c is A.Break ? "\n" : c is A.Run or A.Field ? c.InnerText : "")))).Trim();

    private static Slide[] ReadOdp(string file)
    {
        using var archive = ZipFile.OpenRead(file);
        using var stream = (archive.GetEntry("content.xml") ?? throw new InvalidDataException("No content.")).Open();
        var content = XDocument.Load(stream);
        var hidden = content.Descendants(Style + "style")
            .Where(s => s.Descendants().Any(p => (string?)p.Attribute(Presentation + "visibility") == "hidden"))
            .Select(s => (string?)s.Attribute(Style + "name")).ToHashSet(StringComparer.Ordinal);
        var styles = OdpTypefaces(archive, content);
        return [.. content.Descendants(Draw + "page").Select(page => ReadPage(page, hidden, styles))];
    }

    // The typefaces of each style, with those of the styles it is made from.
    private static Dictionary<string, (string? Parent, string[] Typefaces)> OdpTypefaces(ZipArchive archive, XDocument content)
    {
        XDocument[] documents = [content, .. archive.GetEntry("styles.xml") is { } entry ? new[] { Load(entry) } : []];
        var faces = documents.SelectMany(d => d.Descendants(Style + "font-face"))
            .GroupBy(f => (string?)f.Attribute(Style + "name") ?? "", StringComparer
                .Ordinal).ToDictionary(g => g.Key, g => (string?)g.First().Attribute(SvgLike + "font-family") ?? g.Key, StringComparer.Ordinal);
        return documents.SelectMany(d => d.Descendants(Style + "style"))
            .GroupBy(s => (string?)s.Attribute(Style + "name") ?? "", StringComparer.Ordinal)
            .ToDictionary(
                g => g.Key,
                g => ((string?)g.First().Attribute(Style + "parent-style-name"),
                    g.First().Elements(Style + "text-properties").SelectMany(p => new[] {
                    (string?)p.Attribute(Format + "font-family"),
                    (string?)p.Attribute(Style + "font-name") is { } name ? faces.GetValueOrDefault(name, name) : null })
                        .OfType<string>().ToArray()), StringComparer.Ordinal);
    }

    private static XDocument Load(ZipArchiveEntry entry)
    {
        using var stream = entry.Open();
        return XDocument.Load(stream);
    }

    private static string[] Typefaces(IEnumerable<XElement> shown, Dictionary<string, (string? Parent, string[] Typefaces)> styles)
    {
        var found = new List<string>();
        foreach (var name in shown.DescendantsAndSelf().Where(e => e.Value.Length > 0).SelectMany(e => e.Attributes())
            .Where(a => a.Name.LocalName == "style-name")
            .Select(a => a.Value)
            .Distinct(StringComparer.Ordinal))
        {
            var next = name;
            for (var depth = 0; depth < MostTypefaces && next is not null && styles.TryGetValue(next, out var style); depth++)
            {
                found.AddRange(style.Typefaces);
                next = found.Count > 0 && style.Typefaces.Length > 0 ? null : style.Parent;
            }
        }

        return Named(found);
    }

    private static Slide ReadPage(XElement page, HashSet<string?> hidden, Dictionary<string, (string? Parent, string[] Typefaces)> styles)
    {
        var notes = page.Element(Presentation + "notes");
        var shown = page.Elements().Where(e => e != notes).ToArray();
        var title = shown.FirstOrDefault(e => (string?)e.Attribute(Presentation + "class") == "title");
        var said = notes?.Descendants(Draw + "frame").FirstOrDefault(f => (string?)f.Attribute(Presentation + "class") == "notes");
        var links = shown.DescendantsAndSelf().Where(e => e.Name.LocalName == "a")
            .Select(a => (Title: a.Value.Trim(), Address: (string?)a.Attribute(Link + "href") ?? ""))
            .Where(l => WebAddress.Is(l.Address)).Select(
                l => new SlideLink(l.Title, new Uri(l.Address).AbsoluteUri)).DistinctBy(l => l.Address);
        var alternatives = shown.DescendantsAndSelf().Where(e => e.Name == SvgLike + "title" || e.Name == SvgLike + "desc")
            .Select(e => e.Value.Trim())
            .Where(IsSaid);
        return new Slide(
            Line(Said(title)),
            Said(said),
            [.. links],
            [.. alternatives],
            hidden.Contains((string?)page.Attribute(Draw + "style-name")),
            Typefaces(shown, styles));
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

    // Programs fill in the path of a picture's file where its author wrote nothing.
    private static bool IsSaid(string text) => text.Length > 0 && !FileName().IsMatch(text);

    [GeneratedRegex(@"^(?:[A-Za-z]:[\\/]|[\\/]|file:).*$|^\S+\.(?:png|jpe?g|gif|bmp|tiff?|svg|emf|wmf|webp|heic)$", RegexOptions.IgnoreCase, 1000)]
    private static partial Regex FileName();

    private static string Line(string text) => string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
}
