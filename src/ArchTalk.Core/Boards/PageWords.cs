using System.Globalization;
using System.Text;
using ArchTalk.Core.Boards.Items;

namespace ArchTalk.Core.Boards;

/// <summary>A letter as a page shows it: what it stands for, and its left edge in any unit.</summary>
public readonly record struct ShownLetter(string Text, double Left);

/// <summary>Words as they are shown on pages, made into words as they are written.</summary>
public static class PageWords
{
    /// <summary>
    /// The word that letters make, in the order in which it is written: pages hold Arabic and Hebrew as they are seen, from the left.
    /// Numbers within such words keep their own order (Unicode Annex 9, rules W4 to W7 and L2).
    /// </summary>
    /// <param name="letters">In the order of the page.</param>
    public static string Logical(IReadOnlyList<ShownLetter> letters)
    {
        var word = string.Concat(letters.Select(l => l.Text));
        if (TextSetter.Direction(word) is not true || letters.Count < 2)
        {
            return word;
        }

        // Letters that are already written from the right come in order; only those that lie from the left are turned round.
        var fromLeft = letters.Zip(letters.Skip(1)).Count(p => p.Second.Left > p.First.Left);
        var ordered = fromLeft * 2 >= letters.Count - 1 ? letters.Reverse().ToArray() : [.. letters];
        var text = new StringBuilder();
        for (var i = 0; i < ordered.Length; i++)
        {
            var end = i;
            while (end < ordered.Length && IsNumber(ordered[end].Text))
            {
                end++;
            }

            if (end > i)
            {
                text.Append(string.Concat((fromLeft * 2 >= letters.Count - 1 ? ordered[i..end].Reverse() : ordered[i..end]).Select(l => l.Text)));
                i = end - 1;
            }
            else
            {
                text.Append(ordered[i].Text);
            }
        }

        return text.ToString();
    }

    /// <summary>A text without what only fonts need: ligatures and presentation forms are taken apart, and what isn't writing is gone.</summary>
    public static string Plain(string text)
    {
        var plain = new StringBuilder(text.Length);
        foreach (var rune in text.EnumerateRunes())
        {
            if (rune.Value is (>= 0xFB00 and <= 0xFB4F) or (>= 0xFB50 and <= 0xFDFF) or (>= 0xFE70 and <= 0xFEFC))
            {
                plain.Append(rune.ToString().Normalize(NormalizationForm.FormKC));
            }
            else if (rune.Value is not (0xAD or 0xFFFD or 0xFEFF)
                && Rune.GetUnicodeCategory(rune) is not (UnicodeCategory.Control or UnicodeCategory.PrivateUse or UnicodeCategory.Surrogate))
            {
                plain.Append(rune.ToString());
            }
        }

        return plain.ToString().Trim();
    }

    private static bool IsNumber(string text) =>
        text.Length > 0 && text.EnumerateRunes().All(r => Rune.IsDigit(r) || r.Value is '.' or ',' or '٫' or '٬');
}
