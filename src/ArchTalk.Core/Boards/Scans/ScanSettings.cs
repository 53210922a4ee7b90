using System.Text.Json.Serialization;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Boards.Scans;

/// <summary>How a scan or a photograph of a page is made into a board: turned, its corners pulled straight, straightened, then cropped.</summary>
/// <param name="Turn">Quarter turns clockwise: 0 to 3.</param>
/// <param name="Degrees">Straightening, clockwise, from -15 to 15.</param>
/// <param name="Left">What is cropped off at the left, as a share of the width; so are the next three of theirs.</param>
/// <param name="RaisesContrast">Makes paper white and shadows go.</param>
public sealed record ScanSettings(int Turn, double Degrees, double Left, double Top, double Right, double Bottom, bool RaisesContrast)
{
    public const double MostDegrees = 15;

    public static readonly ScanSettings AsItIs = new(0, 0, 0, 0, 0, 0, RaisesContrast: false);

    /// <summary>Where the page's corners are in the turned picture; null for the whole picture.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public Corners? Corners { get; init; }

    /// <summary>The settings of the same page when the picture is turned by further quarters, clockwise.</summary>
    public ScanSettings Turned(int quarters) => (((quarters % 4) + 4) % 4) switch
    {
        1 => this with { Turn = Turn + 1, Corners = Corners?.Turned(1), Left = Bottom, Top = Left, Right = Top, Bottom = Right },
        2 => Turned(1).Turned(1),
        3 => Turned(1).Turned(1).Turned(1),
        _ => this,
    };

    /// <summary>The settings of the two pages of a double page, divided at a share of its width.</summary>
    public (ScanSettings Left, ScanSettings Right) Divided(double at)
    {
        var width = 1 - Left - Right;
        return (this with { Right = 1 - Left - (width * at) }, this with { Left = Left + (width * at) });
    }

    /// <summary>The settings with angle and shares rounded, or what is wrong with them.</summary>
    public Checked<ScanSettings> Check()
    {
        double[] shares = [Left, Top, Right, Bottom];
        return !double.IsFinite(Degrees) || Math.Abs(Degrees) > MostDegrees
            ? $"A page can be straightened by up to {MostDegrees} degrees; turn it by a quarter first."
            : shares.Any(s => !double.IsFinite(s) || s is < 0 or > 0.9) || Left + Right > 0.95 || Top + Bottom > 0.95
                ? "Nothing would be left of the page. Crop less of it."
                : Corners is { IsPage: false } ? "The four corners don't make a page: one lies beyond the others. Drag them to the corners of the "
                    + "paper."
            : new Checked<ScanSettings>(
                new ScanSettings(
                    ((Turn % 4) + 4) % 4,
                    Math.Round(Degrees, 2),
                    Math.Round(Left, 4),
                    Math.Round(Top, 4),
                    Math.Round(Right, 4),
                    Math.Round(Bottom, 4),
                    RaisesContrast)
                { Corners = Corners?.Rounded() }, null);
    }
}
