using System.Globalization;

namespace ArchTalk.Web.Setup;

/// <summary>Numbers as pages say them.</summary>
public static class Words
{
    private const double Kilo = 1000;
    private static readonly string[] Units = ["kB", "MB", "GB", "TB"];

    /// <summary>"12 MB", "1.4 GB"; bytes as disks count them, in thousands.</summary>
    public static string Bytes(long bytes)
    {
        var value = bytes / Kilo;
        var unit = 0;
        for (; value >= Kilo && unit < Units.Length - 1; unit++)
        {
            value /= Kilo;
        }

        return $"{value.ToString(value < 10 && unit > 0 ? "0.#" : "0", CultureInfo.InvariantCulture)} {Units[unit]}";
    }

    /// <summary>"1 take", "3 takes".</summary>
    public static string Count(int count, string what) => string.Create(CultureInfo.InvariantCulture, $"{count} {what}{(count == 1 ? "" : "s")}");

    public static string Day(DateTimeOffset time) => time.ToString("d MMMM yyyy, HH:mm", CultureInfo.InvariantCulture) + " UTC";
}
