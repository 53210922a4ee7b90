using System.Collections.Concurrent;
using System.Globalization;
using System.Text;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Reader.Painting;
using SkiaSharp;

namespace ArchTalk.Media;

/// <summary>
/// Measures writing with the fonts that the pages use. East Asian characters are an em wide; other scripts are measured with the
/// Noto fonts where they are installed, and guessed where not.
/// </summary>
public sealed class SkiaTextMeasure : ITextMeasure, IDisposable
{
    private const float MeasuredSize = 100;
    private const double Guess = 0.6;

    private readonly SKFont[] regular;
    private readonly SKFont[] bold;
    private readonly ConcurrentDictionary<(int Rune, bool IsBold), double> known = new();
    private readonly Lock turn = new();

    /// <param name="fonts">The folder of the web fonts, holding the .woff files of the interface's face.</param>
    /// <exception cref="FileNotFoundException">The interface's face isn't there.</exception>
    public SkiaTextMeasure(string fonts)
    {
        regular = [.. Faces.Open(fonts, isBold: false, isWithAsian: false).Select(f => new SKFont(f, MeasuredSize))];
        bold = [.. Faces.Open(fonts, isBold: true, isWithAsian: false).Select(f => new SKFont(f, MeasuredSize))];
    }

    public double Width(string text, double size, bool isBold)
    {
        var width = 0.0;
        foreach (var rune in text.EnumerateRunes())
        {
            width += known.GetOrAdd((rune.Value, isBold), key => Measure(new Rune(key.Rune), key.IsBold));
        }

        return width * size;
    }

    public void Dispose()
    {
        foreach (var font in regular.Concat(bold))
        {
            font.Typeface?.Dispose();
            font.Dispose();
        }
    }

    private double Measure(Rune rune, bool isBold)
    {
        if (Rune.GetUnicodeCategory(rune) is UnicodeCategory.NonSpacingMark or UnicodeCategory.EnclosingMark or UnicodeCategory.Format)
        {
            return 0;
        }

        if (IsWide(rune.Value))
        {
            return 1;
        }

        lock (turn)
        {
            foreach (var font in isBold ? bold : regular)
            {
                if (font.ContainsGlyph(rune.Value))
                {
                    return font.MeasureText(rune.ToString()) / MeasuredSize;
                }
            }
        }

        return Guess;
    }

    // Unicode Annex 11, the wide and full-width blocks.
    private static bool IsWide(int c) =>
        c is (>= 0x1100 and <= 0x115F) or (>= 0x2E80 and <= 0xA4CF) or (>= 0xAC00 and <= 0xD7A3) or (>= 0xF900 and <= 0xFAFF)
            or (>= 0xFE30 and <= 0xFE6F)
            or (>= 0xFF00 and <= 0xFF60) or (>= 0xFFE0 and <= 0xFFE6) or (>= 0x1F300 and <= 0x1FAFF) or (>= 0x20000 and <= 0x3FFFD);
}
