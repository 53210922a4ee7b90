using System.Globalization;
using System.Text.RegularExpressions;

namespace ArchTalk.Core.Lessons;

/// <summary>Numbers as people of a language write them: their digits, decimal sign and groups (Unicode CLDR through .NET's culture data).</summary>
public static partial class WrittenNumber
{
    private const string Minus = "−";
    private const int LongestTyped = 40;

    /// <summary>A number without needless decimals, with the sign before it.</summary>
    public static string Write(double value, CultureInfo culture) => Write((decimal)(value == 0 ? 0 : Math.Round(value, 9)), culture);

    /// <summary>The same for numbers of up to 28 digits.</summary>
    public static string Write(decimal value, CultureInfo culture)
    {
        // Marks of direction that some languages have in their minus sign would carry it to the other side.
        var format = (NumberFormatInfo)culture.NumberFormat.Clone();
        format.NegativeSign = Minus;
        format.NumberNegativePattern = 1;
        return Native(value.ToString("#,0.#########", format), culture);
    }

    /// <summary>A text whose digits are the language's own.</summary>
    public static string Native(string text, CultureInfo culture)
    {
        var digits = culture.NumberFormat.NativeDigits;
        return digits[0] == "0" ? text : string.Concat(text.Select(c => char.IsAsciiDigit(c) ? digits[c - '0'] : c.ToString()));
    }

    /// <summary>
    /// Reads a number as the language writes it, in its own digits or in 0 to 9. A single point or comma that can't be a group there is a
    /// decimal sign, since both are typed everywhere; spaces and apostrophes may divide groups.
    /// </summary>
    public static bool TryRead(string? text, CultureInfo culture, out double value)
    {
        value = double.NaN;
        return Plain(text, culture) is { } plain
            && double.TryParse(plain, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out value)
            && double.IsFinite(value);
    }

    /// <summary>The same number in digits from 0 to 9 with a point before its decimals, digit by digit as typed; null when it is none.</summary>
    public static string? Plain(string? text, CultureInfo culture)
    {
        var signs = Ascii((text ?? "").Trim());
        if (signs.Length is 0 or > LongestTyped || Grouped(signs, culture.NumberFormat.NumberGroupSizes) is not { } typed)
        {
            return null;
        }

        var (group, point) = DecimalSign(culture) == "," ? ('.', ',') : (',', '.');
        var (whole, part) = Divided(typed, point);
        if (!part.Contains(group, StringComparison.Ordinal)
            && HasRightGroups(whole.TrimStart('-', '+').Split(group), culture.NumberFormat.NumberGroupSizes))
        {
            typed = whole.Replace(group.ToString(), "", StringComparison.Ordinal) + (part.Length > 0 ? "." + part : "");
        }
        else if (typed.Count(c => c is '.' or ',') == 1)
        {
            typed = typed.Replace(',', '.');
        }

        return Whole().IsMatch(typed) ? typed : null;
    }

    /// <summary>The decimal sign that is typed in a language.</summary>
    public static string DecimalSign(CultureInfo culture) => culture.NumberFormat.NumberDecimalSeparator == "," ? "," : ".";

    /// <summary>Digits of every script as 0 to 9, and the signs of numbers as a computer reads them.</summary>
    public static string Ascii(string text) => string.Concat(text.Select(c => c switch
    {
        _ when CharUnicodeInfo.GetUnicodeCategory(c) == UnicodeCategory.DecimalDigitNumber => ((char)('0' + (int)CharUnicodeInfo.GetNumericValue(c)))
            .ToString(),
        '−' or '–' or '﹣' or '－' => "-",
        '٫' => ".",
        '٬' => ",",
        '\u061C' or '\u200E' or '\u200F' => "",
        _ => c.ToString(),
    }));

    // Spaces and apostrophes divide groups in some languages and are understood in all; elsewhere they divide two numbers.
    private static string? Grouped(string text, int[] sizes)
    {
        var point = text.IndexOfAny(['.', ',']);
        var whole = point < 0 ? text : text[..point];
        var parts = Spaces().Split(whole);
        return parts.Length == 1 ? text
            : HasRightGroups(parts, sizes) && parts[0].TrimStart('-', '+').Length > 0 ? string.Concat(parts) + text[whole.Length..]
            : null;
    }

    private static (string Whole, string Part) Divided(string text, char point)
    {
        var at = text.IndexOf(point, StringComparison.Ordinal);
        return at < 0 ? (text, "") : (text[..at], text[(at + 1)..]);
    }

    // "1.234,5" is divided rightly in German; "1,5" is not in English.
    private static bool HasRightGroups(string[] groups, int[] sizes)
    {
        for (var i = groups.Length - 1; i > 0; i--)
        {
            var size = sizes.Length == 0 ? 3 : sizes[Math.Min(groups.Length - 1 - i, sizes.Length - 1)];
            if (groups[i].Length != size && groups[i].Length != 3)
            {
                return false;
            }
        }

        return groups.Length == 1 || groups[0].TrimStart('-', '+').Length is > 0 and <= 3;
    }

    [GeneratedRegex(@"^[-+]?[0-9]*\.?[0-9]+$", RegexOptions.None, 1000)]
    private static partial Regex Whole();

    [GeneratedRegex(@"[\s'’]+", RegexOptions.None, 1000)]
    private static partial Regex Spaces();
}
