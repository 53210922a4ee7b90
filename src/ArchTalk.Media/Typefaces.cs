using System.Text;
using ArchTalk.Media.Boxes;

namespace ArchTalk.Media;

/// <summary>The typefaces that are on the server, and those that take up the room of others to the letter.</summary>
public sealed class Typefaces(Box box)
{
    // Made to the widths of the usual typefaces of office programs, so that lines break alike (common practice, no source). Symbols are
    // drawn by LibreOffice's own.
    private static readonly Dictionary<string, string> Alike = new(StringComparer.OrdinalIgnoreCase)
    {
        ["Calibri"] = "Carlito",
        ["Calibri Light"] = "Carlito",
        ["Cambria"] = "Caladea",
        ["Arial"] = "Liberation Sans",
        ["Helvetica"] = "Liberation Sans",
        ["Times New Roman"] = "Liberation Serif",
        ["Times"] = "Liberation Serif",
        ["Courier New"] = "Liberation Mono",
        ["Courier"] = "Liberation Mono",
        ["Arial Narrow"] = "Liberation Sans Narrow",
        ["Georgia"] = "Gelasio",
        ["Symbol"] = "OpenSymbol",
        ["Wingdings"] = "OpenSymbol",
        ["Webdings"] = "OpenSymbol",
    };

    // Names of kinds, which any typeface of the kind does right by.
    private static readonly string[] Kinds = ["sans-serif", "serif", "monospace", "sans", "mono"];

    /// <summary>Those of some typefaces that are neither here nor have one here that takes up the same room.</summary>
    public async Task<IReadOnlyList<string>> MissingAsync(IReadOnlyCollection<string> wanted, CancellationToken cancel)
    {
        if (wanted.Count == 0)
        {
            return [];
        }

        using var list = new MemoryStream();
        await box.RunAsync(new BoxedProgram("fc-list", _ => [":", "family"], TimeSpan.FromSeconds(20)) { Said = Box.Collect(list) }, cancel);
        var here = Encoding.UTF8.GetString(list.ToArray()).Split(['\n', ','], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .ToHashSet(StringComparer.OrdinalIgnoreCase);
        return [.. wanted.Where(w => !here.Contains(w) && !Kinds.Contains(w, StringComparer.OrdinalIgnoreCase)
            && !(Alike.TryGetValue(w, out var alike) && here.Contains(alike)))];
    }

    /// <summary>The missing typefaces of a deck with the slides they are used on, as a teacher reads it; empty when all are here.</summary>
    public async Task<string> RemarkAsync(Deck deck, CancellationToken cancel)
    {
        var uses = deck.Slides.SelectMany((s, i) => s.Typefaces.Select(t => (Typeface: t, Slide: i + 1)))
            .GroupBy(u => u.Typeface, u => u.Slide, StringComparer.OrdinalIgnoreCase)
            .ToArray();
        var missing = await MissingAsync([.. uses.Select(u => u.Key)], cancel);
        string[] named = [.. uses.Where(u => missing.Contains(u.Key, StringComparer.OrdinalIgnoreCase))
            .Select(u => $"{u.Key} ({Slides([.. u.Distinct()], deck.Slides.Count)})")];
        return named.Length == 0 ? ""
            : $"Drawn in other letters, because {(named.Length == 1 ? "this typeface is" : "these typefaces are")} not on the server: "
                + $"{string.Join(", ", named)}. Lines may break elsewhere. To keep the look, save the deck as a PDF and add that.";
    }

    private static string Slides(int[] slides, int all) =>
        slides.Length == all ? "on all slides" : slides.Length == 1
            ? $"on slide {slides[0]}"
            : $"on slides {string.Join(", ", slides.Take(12))}{(slides.Length > 12 ? " and more" : "")}";
}
