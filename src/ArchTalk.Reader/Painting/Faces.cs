using SkiaSharp;

namespace ArchTalk.Reader.Painting;

/// <summary>
/// The faces that boards are written in, in the order in which a letter is looked for: the interface's own, then the Noto faces that are
/// installed. Skia without fontconfig finds none by itself, so they are opened by path.
/// </summary>
public static class Faces
{
    private const string NotoFolder = "/usr/share/fonts/truetype/noto";
    private const string Asian = "/usr/share/fonts/opentype/noto";
    private static readonly string[] NotoScripts
        = ["", "Arabic", "Hebrew", "Devanagari", "Thai", "Bengali", "Tamil", "Armenian", "Georgian", "Ethiopic"];

    /// <param name="fonts">The folder of the web fonts, holding the .woff files of the interface's face.</param>
    /// <param name="isWithAsian">Whether the faces of East Asia and of pictographs are needed, too: they are large.</param>
    /// <exception cref="FileNotFoundException">The interface's face isn't there.</exception>
    public static IReadOnlyList<SKTypeface> Open(string fonts, bool isBold, bool isWithAsian)
    {
        var (weight, name) = isBold ? ("700", "Bold") : ("400", "Regular");
        string[] own = [.. new[] { "latin", "latin-ext" }.Select(s => Path.Combine(fonts, $"atkinson-hyperlegible-next-{s}-{weight}-normal.woff"))];
        if (Array.Find(own, f => !File.Exists(f)) is { } missing)
        {
            throw new FileNotFoundException("A font of the pages is missing. Build the client first (npm run build).", missing);
        }

        string[] asian = isWithAsian ? [Path.Combine(Asian, $"NotoSansCJK-{name}.ttc"), Path.Combine(NotoFolder, "NotoColorEmoji.ttf")] : [];
        return [.. own.Concat(NotoScripts.Select(s => Path.Combine(NotoFolder, $"NotoSans{s}-{name}.ttf"))).Concat(asian)
            .Where(File.Exists).Select(f => SKTypeface.FromFile(f)).OfType<SKTypeface>()];
    }
}
