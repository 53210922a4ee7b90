using System.Globalization;

namespace ArchTalk.Core.Lessons;

/// <summary>BCP 47 language tags, as far as the culture data knows them.</summary>
public static class LanguageTag
{
    /// <summary>Whether it is empty (the lesson's own language) or a tag of a known language.</summary>
    public static bool IsKnown(string? tag)
    {
        if (string.IsNullOrWhiteSpace(tag))
        {
            return true;
        }

        var plain = tag.Trim();
        try
        {
            // Made-up tags are given a culture too, so the name must look like one: a language of two or three letters comes first.
            return CultureInfo.GetCultureInfo(plain).Name.Length > 0 && plain.Split('-')[0] is { Length: 2 or 3 } language
                && language.All(char.IsAsciiLetter);
        }
        catch (CultureNotFoundException)
        {
            return false;
        }
    }

    /// <summary>What to say of a tag that isn't known.</summary>
    public static string Fault(string tag) =>
        $"“{(tag.Length <= 40 ? tag : string.Concat(tag.AsSpan(0, 40), "…"))}” isn't a language tag. Use one such as en, fr or pt-BR, or leave it "
            + $"empty.";

    /// <summary>The language's name in English: "Portuguese (Brazil)".</summary>
    public static string Name(string tag) => tag.Length > 0 && IsKnown(tag) ? Culture(tag).EnglishName : tag;

    /// <summary>The culture of a tag: how numbers are written, how words are ordered; the invariant one for none or an unknown one.</summary>
    public static CultureInfo Culture(string? tag) =>
        !string.IsNullOrWhiteSpace(tag) && IsKnown(tag) ? CultureInfo.GetCultureInfo(tag.Trim()) : CultureInfo.InvariantCulture;

    /// <summary>The order of words in a language; the invariant one for none.</summary>
    public static StringComparer Collation(string? tag) => StringComparer.Create(Culture(tag), CompareOptions.None);
}
