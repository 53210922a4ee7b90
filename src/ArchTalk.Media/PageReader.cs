using System.Buffers;
using System.Globalization;
using System.Text;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Lessons;
using ArchTalk.Media.Boxes;

namespace ArchTalk.Media;

/// <summary>Reads the words in a picture (OCR by Tesseract).</summary>
public sealed class PageReader(Box box, MediaPrograms programs, MediaLimits limits)
{
    /// <summary>Words less sure than this are left out: they are mostly lines and shadows.</summary>
    public const int LeastConfidence = 40;

    // A page of upright writing has 5 to 30; what has less may be anything (tried with pages of the tests).
    private const double LeastSureOfUp = 1.5;

    private const string Fallback = "eng";

    // Tesseract's names (ISO 639-2/T and a few of its own) for BCP 47 tags that aren't found by their three letters.
    // Of Latin writing: letters that reach below the line, and how much higher a line is with them.
    private static readonly SearchValues<char> WithTails = SearchValues.Create("gjpqyçQJ,;()[]{}/|");
    private const double RoomOfTails = 1.3;

    // Of what a word sinks its box is higher by about this share: the highest and the lowest letter are seldom at its ends.
    private const double ShareOfSinking = 0.45;

    private static readonly Dictionary<string, string> Names = new(StringComparer.OrdinalIgnoreCase)
    {
        ["zh"] = "chi_sim",
        ["zh-Hans"] = "chi_sim",
        ["zh-CN"] = "chi_sim",
        ["zh-Hant"] = "chi_tra",
        ["zh-TW"] = "chi_tra",
        ["sr-Latn"] = "srp_latn",
        ["ku"] = "kmr",
    };

    /// <summary>The languages that are installed, by Tesseract's names.</summary>
    /// <exception cref="MediaException">Tesseract isn't there.</exception>
    public async Task<IReadOnlyList<string>> InstalledAsync(CancellationToken cancel)
    {
        using var list = new MemoryStream();
        await box.RunAsync(
            new BoxedProgram(programs.Tesseract, _ => ["--list-langs"], TimeSpan.FromSeconds(20)) { Said = Box.Collect(list) },
            cancel);
        return [.. Encoding.UTF8.GetString(list.ToArray()).Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Skip(1)
            .Where(l => l != "osd")];
    }

    /// <summary>The names of those of some languages (BCP 47 tags) that can't be read here, by the packages that would bring them.</summary>
    /// <exception cref="MediaException">Tesseract isn't there.</exception>
    public async Task<IReadOnlyList<string>> MissingAsync(IEnumerable<string> languages, CancellationToken cancel)
    {
        var installed = await InstalledAsync(cancel);
        return [.. languages.Where(l => !installed.Contains(NameOf(l), StringComparer.Ordinal))
            .Select(l => $"{LanguageTag.Name(l)} (tesseract-ocr-{NameOf(l).Replace('_', '-')})")
            .Distinct(StringComparer.Ordinal)];
    }

    /// <summary>Reads a picture; boxes are in board units, each word with its confidence.</summary>
    /// <param name="languages">BCP 47 tags in order of weight; those that aren't installed are passed over.</param>
    /// <exception cref="MediaException">Tesseract isn't there or hangs.</exception>
    public async Task<TextLayer> ReadAsync(string picture, IReadOnlyList<string> languages, CancellationToken cancel)
    {
        var installed = await InstalledAsync(cancel);
        var names = languages.Select(NameOf).Where(n => installed.Contains(n, StringComparer.Ordinal)).Distinct(StringComparer.Ordinal)
            .DefaultIfEmpty(Fallback);
        using var work = new WorkFolder(Path.GetTempPath());
        int width;
        await using (var reader = new BoxedReader(box, limits, [picture], work.Path, cancel))
        {
            width = await reader.AskAsync(v => new DrawForReading(v.Inputs[0], v.Out("page.png")), cancel);
        }

        using var table = new MemoryStream();
        await box.RunAsync(
            new BoxedProgram(
                programs.Tesseract,
                v => [v.Inputs[0], "stdout", "-l", string.Join('+', names), "--dpi", "300", "--psm", "3", "tsv"],
                TimeSpan.FromSeconds(limits.SecondsPerReading))
            {
                Inputs = [work.Written("page.png")],
                Said = Box.Collect(table),
                MemoryMegabytes = limits.MemoryMegabytes,
            }, cancel);
        return new TextLayer([.. Words(Encoding.UTF8.GetString(table.ToArray()), (double)Board.Width / Math.Max(1, width))]);
    }

    /// <summary>
    /// By how many quarters a picture must be turned clockwise for its writing to stand upright; 0 when it stands so already, or when
    /// there is too little writing to tell.
    /// </summary>
    /// <exception cref="MediaException">Tesseract isn't there or hangs.</exception>
    public async Task<int> QuartersAsync(string picture, CancellationToken cancel)
    {
        using var work = new WorkFolder(Path.GetTempPath());
        await using (var reader = new BoxedReader(box, limits, [picture], work.Path, cancel))
        {
            await reader.AskAsync(v => new DrawForReading(v.Inputs[0], v.Out("page.png")), cancel);
        }

        using var said = new MemoryStream();
        try
        {
            await box.RunAsync(
                new BoxedProgram(
                    programs.Tesseract,
                    v => [v.Inputs[0], "stdout", "-l", "osd", "--dpi", "300", "--psm", "0"],
                    TimeSpan.FromSeconds(limits.SecondsPerReading))
                {
                    Inputs = [work.Written("page.png")],
                    Said = Box.Collect(said),
                    MemoryMegabytes = limits.MemoryMegabytes,
                }, cancel);
        }
        catch (MediaException e) when (e is not ProgramMissingException and not ProgramStoppedException)
        {
            // It ends so when there are too few letters.
            return 0;
        }

        var lines = Encoding.UTF8.GetString(said.ToArray()).Split('\n').Select(l => l.Split(':', 2)).Where(l => l.Length == 2)
            .ToDictionary(l => l[0].Trim(), l => l[1].Trim(), StringComparer.Ordinal);
        double Number(string name) =>
            lines.TryGetValue(name, out var text) && double.TryParse(text, CultureInfo.InvariantCulture, out var number) ? number : 0;
        return Number("Orientation confidence") >= LeastSureOfUp ? (int)Number("Rotate") / 90 % 4 : 0;
    }

    /// <summary>Tesseract's name of the language of a BCP 47 tag.</summary>
    public static string NameOf(string tag) =>
        Names.TryGetValue(tag, out var name) ? name : LanguageTag.IsKnown(tag) ? LanguageTag.Culture(tag).ThreeLetterISOLanguageName : Fallback;

    // Columns: level, page, block, paragraph, line, word, left, top, width, height, confidence, text. Level 4 is a line, 5 a word.
    private static IEnumerable<TextWord> Words(string table, double scale)
    {
        var lines = new List<(double Height, List<Found> Words)>();
        foreach (var row in table.Split('\n').Skip(1).Select(r => r.TrimEnd('\r').Split('\t')).Where(r => r.Length >= 12))
        {
            double Number(int column) => double.Parse(row[column], CultureInfo.InvariantCulture);
            if (row[0] == "4")
            {
                lines.Add((Number(9), []));
            }
            else if (row[0] == "5" && Number(10) is >= LeastConfidence and var confidence && row[11].Trim() is { Length: > 0 } text)
            {
                lines[^1].Words.Add(new(text, Number(6), Number(7), Number(8), Number(9), (int)confidence));
            }
        }

        var slope = Math.Abs(TextLines.SlopeOf(lines.Select(l => l.Words.ConvertAll(w => new TextWord(w.Text, w.Left, w.Top, w.Width, w.Height)))));
        return lines.SelectMany(l => Sized(l.Words, l.Height, slope, scale));
    }

    // Tesseract's boxes reach as far as the letters that happen to occur, and on a line that lies aslant farther by what it sinks. Writing
    // is as large as its line's letters with their stems and tails, not as "on" or "Of" are.
    private static IEnumerable<TextWord> Sized(List<Found> line, double height, double slope, double scale)
    {
        double Sinks(Found word) => Math.Min(ShareOfSinking * slope * word.Width, word.Height / 2);
        var lineHeight = slope > 0 && line.Count > 0 ? line.Max(w => w.Height - Sinks(w)) : height;
        if (line.Exists(w => w.Text.Any(char.IsAsciiLetter)) && !line.Exists(w => w.Text.AsSpan().IndexOfAny(WithTails) >= 0))
        {
            lineHeight *= RoomOfTails;
        }

        foreach (var word in line)
        {
            var sinks = Sinks(word);
            var own = word.Height - sinks;
            yield return new TextWord(
                word.Text, Math.Round(word.Left * scale, 1), Math.Round((word.Top + (sinks / 2)) * scale, 1), Math.Round(word.Width * scale, 1),
                Math.Round(Math.Max(own, Math.Min(lineHeight, 1.4 * own)) * scale, 1))
            { Confidence = word.Confidence };
        }
    }

    // In pixels of the picture.
    private sealed record Found(string Text, double Left, double Top, double Width, double Height, int Confidence);
}
