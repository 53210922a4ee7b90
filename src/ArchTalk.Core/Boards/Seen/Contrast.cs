namespace ArchTalk.Core.Boards.Seen;

/// <summary>A colour with 8 bits for each of red, green and blue (sRGB).</summary>
public readonly record struct Rgb(byte R, byte G, byte B)
{
    /// <summary>Reads #RRGGBB.</summary>
    public static Rgb Parse(string hex) => new(Convert.ToByte(hex[1..3], 16), Convert.ToByte(hex[3..5], 16), Convert.ToByte(hex[5..7], 16));
}

/// <summary>Contrast as WCAG 2.2 defines it.</summary>
public static class Contrast
{
    /// <summary>WCAG 2.2, success criterion 1.4.3: writing needs 4.5:1.</summary>
    public const double ForText = 4.5;

    /// <summary>WCAG 2.2, 1.4.3 and 1.4.11: large writing and graphics need 3:1.</summary>
    public const double ForGraphics = 3;

    /// <summary>The relative luminance of WCAG 2.2: 0 for black to 1 for white.</summary>
    public static double Luminance(Rgb color)
    {
        static double Linear(byte channel)
        {
            var share = channel / 255.0;
            return share <= 0.04045 ? share / 12.92 : Math.Pow((share + 0.055) / 1.055, 2.4);
        }

        return (0.2126 * Linear(color.R)) + (0.7152 * Linear(color.G)) + (0.0722 * Linear(color.B));
    }

    /// <summary>From 1 to 21.</summary>
    public static double Ratio(Rgb one, Rgb other) => Ratio(Luminance(one), Luminance(other));

    public static double Ratio(double luminance, double other) => (Math.Max(luminance, other) + 0.05) / (Math.Min(luminance, other) + 0.05);
}
