using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Boards.Scans;

/// <summary>How a scan or a photograph of a page is made into a board: first turned, then straightened, then cropped.</summary>
/// <param name="Turn">Quarter turns clockwise: 0 to 3.</param>
/// <param name="Degrees">Straightening, clockwise, from -15 to 15.</param>
/// <param name="Left">What is cropped off at the left, as a share of the width; so are the next three of theirs.</param>
/// <param name="RaisesContrast">Makes paper white and shadows go.</param>
public sealed record ScanSettings(int Turn, double Degrees, double Left, double Top, double Right, double Bottom, bool RaisesContrast)
{
    public const double MostDegrees = 15;

    public static readonly ScanSettings AsItIs = new(0, 0, 0, 0, 0, 0, RaisesContrast: false);

    /// <summary>The settings with angle and shares rounded, or what is wrong with them.</summary>
    public Checked<ScanSettings> Check()
    {
        double[] shares = [Left, Top, Right, Bottom];
        return !double.IsFinite(Degrees) || Math.Abs(Degrees) > MostDegrees ? $"A page can be straightened by up to {MostDegrees} degrees; turn it by a quarter first."
            : shares.Any(s => !double.IsFinite(s) || s is < 0 or > 0.9) || Left + Right > 0.95 || Top + Bottom > 0.95 ? "Nothing would be left of the page. Crop less of it."
            : new Checked<ScanSettings>(
                new ScanSettings(((Turn % 4) + 4) % 4, Math.Round(Degrees, 2), Math.Round(Left, 4), Math.Round(Top, 4), Math.Round(Right, 4), Math.Round(Bottom, 4), RaisesContrast), null);
    }
}
