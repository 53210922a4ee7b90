using System.Globalization;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Lessons;
using CliWrap;
using SkiaSharp;

namespace ArchTalk.Media;

/// <summary>Reads the words in a picture (OCR by Tesseract).</summary>
public sealed class PageReader(MediaPrograms programs, MediaLimits limits)
{
    // Letters of about 30 pixels are read best; a page this wide has them, and a larger one only takes longer.
    private const int ReadingWidth = 2400;

    /// <summary>Words less sure than this are left out: they are mostly lines and shadows.</summary>
    public const int LeastConfidence = 40;

    private const string Fallback = "eng";

    // Tesseract's names (ISO 639-2/T and a few of its own) for BCP 47 tags that aren't found by their three letters.
    private static readonly Dictionary<string, string> Names = new(StringComparer.OrdinalIgnoreCase)
    {
        ["zh"] = "chi_sim", ["zh-Hans"] = "chi_sim", ["zh-CN"] = "chi_sim", ["zh-Hant"] = "chi_tra", ["zh-TW"] = "chi_tra", ["sr-Latn"] = "srp_latn", ["ku"] = "kmr",
    };

    /// <summary>The languages that are installed, by Tesseract's names.</summary>
    /// <exception cref="MediaException">Tesseract isn't there.</exception>
    public async Task<IReadOnlyList<string>> InstalledAsync(CancellationToken cancel)
    {
        var list = new System.Text.StringBuilder();
        await Programs.RunAsync(programs.Tesseract, ["--list-langs"], TimeSpan.FromSeconds(20), cancel, output: PipeTarget.ToStringBuilder(list));
        return [.. list.ToString().Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Skip(1).Where(l => l != "osd")];
    }

    /// <summary>Reads a picture; boxes are in board units, each word with its confidence.</summary>
    /// <param name="languages">BCP 47 tags in order of weight; those that aren't installed are passed over.</param>
    /// <exception cref="MediaException">Tesseract isn't there or hangs.</exception>
    public async Task<TextLayer> ReadAsync(string picture, IReadOnlyList<string> languages, CancellationToken cancel)
    {
        var installed = await InstalledAsync(cancel);
        var names = languages.Select(NameOf).Where(n => installed.Contains(n, StringComparer.Ordinal)).Distinct(StringComparer.Ordinal).DefaultIfEmpty(Fallback);
        var draft = Path.Combine(Path.GetTempPath(), $"archtalk-read-{Guid.NewGuid():N}.png");
        try
        {
            var width = Shrink(picture, draft);
            var table = new System.Text.StringBuilder();
            string[] arguments = [draft, "stdout", "-l", string.Join('+', names), "--dpi", "300", "--psm", "3", "tsv"];
            await Programs.RunAsync(programs.Tesseract, arguments, TimeSpan.FromSeconds(limits.SecondsPerReading), cancel, output: PipeTarget.ToStringBuilder(table));
            return new TextLayer([.. Words(table.ToString(), (double)Board.Width / width)]);
        }
        finally
        {
            File.Delete(draft);
        }
    }

    /// <summary>Tesseract's name of the language of a BCP 47 tag.</summary>
    public static string NameOf(string tag) =>
        Names.TryGetValue(tag, out var name) ? name : LanguageTag.IsKnown(tag) ? LanguageTag.Culture(tag).ThreeLetterISOLanguageName : Fallback;

    private static int Shrink(string picture, string target)
    {
        using var bitmap = SKBitmap.Decode(picture) ?? throw new MediaException("The picture could not be read.");
        var width = Math.Min(ReadingWidth, bitmap.Width);
        var height = Math.Max(1, (int)((long)bitmap.Height * width / bitmap.Width));
        using var surface = Pictures.Draw(bitmap, new SKImageInfo(width, height, SKColorType.Gray8, SKAlphaType.Opaque));
        using var small = surface.Snapshot();
        using var data = small.Encode(SKEncodedImageFormat.Png, 1);
        using var file = File.Create(target);
        data.SaveTo(file);
        return width;
    }

    // Columns: level, page, block, paragraph, line, word, left, top, width, height, confidence, text. Level 4 is a line, 5 a word.
    private static IEnumerable<TextWord> Words(string table, double scale)
    {
        var line = 0.0;
        foreach (var row in table.Split('\n').Skip(1).Select(r => r.TrimEnd('\r').Split('\t')).Where(r => r.Length >= 12))
        {
            double Number(int column) => double.Parse(row[column], CultureInfo.InvariantCulture);
            if (row[0] == "4")
            {
                line = Number(9);
            }
            else if (row[0] == "5" && Number(10) is >= LeastConfidence and var confidence && row[11].Trim() is { Length: > 0 } text)
            {
                // Writing is as large as its line's letters with their stems, not as "on" or "Of" happen to be.
                var (top, height) = (Number(7), Number(9));
                yield return new TextWord(
                    text, Math.Round(Number(6) * scale, 1), Math.Round(top * scale, 1), Math.Round(Number(8) * scale, 1),
                    Math.Round(Math.Max(height, Math.Min(line, 1.4 * height)) * scale, 1)) { Confidence = (int)confidence };
            }
        }
    }
}
