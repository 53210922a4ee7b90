using System.Globalization;
using System.Text.RegularExpressions;

namespace ArchTalk.Core.Lessons;

/// <summary>A part of a lesson's agenda.</summary>
/// <param name="Minutes">How long it is to take; null when the teacher gave no time.</param>
public sealed partial record AgendaPart(string Title, double? Minutes)
{
    /// <summary>Reads a line; a time stands at its end: "Rings and ribs, 3 min", "Rings and ribs (2.5 min)".</summary>
    public static AgendaPart Of(string line)
    {
        var time = Time().Match(line);
        var written = time.Groups["minutes"].Value.Replace(',', '.');
        _ = double.TryParse(written, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var minutes);
        return time.Index > 0 && minutes > 0
            ? new(line[..time.Index].Trim(), minutes)
            : new(line.Trim(), null);
    }

    [GeneratedRegex(
        @"[\s,;:(–-]+(?<minutes>\d{1,3}([.,]\d)?)\s*(min(utes?)?\.?|′|')\s*\)?\s*$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture,
        1000)]
    private static partial Regex Time();
}
