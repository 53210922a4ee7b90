using System.Text.RegularExpressions;

namespace ArchTalk.Core.Lessons;

/// <summary>
/// Terms typed quickly, one line each: the word, then how it is said between slashes or brackets, its part of speech in
/// parentheses, and after a colon, an equals sign or a dash its meaning; all but the word may be missing. The full-width signs of Chinese
/// and Japanese are read too; there, what stands in parentheses after a word is its reading.
/// </summary>
public static partial class QuickTerms
{
    /// <summary>Reads the lines; empty ones are left out.</summary>
    /// <param name="newId">Gives each term its identity.</param>
    public static IReadOnlyList<Term> Read(string lines, string language, Func<Guid> newId) =>
        [.. lines.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Select(l => ReadLine(l, language, newId()))
            .OfType<Term>()];

    private static Term? ReadLine(string line, string language, Guid id)
    {
        if (line.Length > LessonRules.LongestText)
        {
            // Too long for a term however it is divided; the rules of the list say so.
            return new Term(id, line, "", "", language);
        }

        var wide = WideLine().Match(line);
        if (wide.Success)
        {
            return new Term(id, wide.Groups["word"].Value.Trim(), wide.Groups["reading"].Value.Trim(), wide.Groups["meaning"].Value.Trim(), language);
        }

        var match = Line().Match(line.Replace('：', ':').Replace('＝', '='));
        var word = match.Groups["word"].Value.Trim();
        return word.Length == 0 ? null : new Term(id, word, match.Groups["reading"].Value.Trim(), match.Groups["meaning"].Value.Trim(), language)
        {
            PartOfSpeech = match.Groups["part"].Value.Trim(),
        };
    }

    [GeneratedRegex(@"^(?<word>[^（）「」【】：＝]+?)\s*[（【「](?<reading>[^）】」]+)[）】」]\s*(?:[：:＝=]\s*(?<meaning>.*))?$", RegexOptions.CultureInvariant, 1000)]
    private static partial Regex WideLine();

    // A dash divides only between spaces, so that words with a hyphen stay whole.
    [GeneratedRegex(
        @"^(?<word>.+?)\s*(?<reading>/[^/]+/|\[[^\]]+\])?\s*(?:\((?<part>[^)]*)\))?\s*(?:(?:[:=]|\s[-–—]\s)\s*(?<meaning>.*))?$",
        RegexOptions.CultureInvariant, 1000)]
    private static partial Regex Line();
}
