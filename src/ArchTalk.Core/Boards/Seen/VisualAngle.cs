namespace ArchTalk.Core.Boards.Seen;

/// <summary>A screen on which a whole board's width is seen.</summary>
/// <param name="Name">As the teacher reads it.</param>
/// <param name="WidthMm">Width of the board on it.</param>
/// <param name="DistanceMm">From the eye.</param>
public sealed record SeenOn(string Name, double WidthMm, double DistanceMm)
{
    /// <summary>A phone held upright.</summary>
    public static readonly SeenOn Phone = new("phone", 65, 300);

    public static readonly SeenOn Laptop = new("laptop", 310, 550);

    public static readonly IReadOnlyList<SeenOn> All = [Phone, Laptop];
}

/// <summary>How large something looks: 2·atan(h / 2d), in minutes of arc (ISO 9241-303).</summary>
public static class VisualAngle
{
    /// <summary>ISO 9241-303: characters need at least this (from memory).</summary>
    public const double LeastMinutes = 16;

    /// <summary>ISO 9241-303: 20 to 22 are preferred (from memory).</summary>
    public const double PreferredMinutes = 20;

    private const double MinutesPerRadian = 180 * 60 / Math.PI;

    /// <summary>The angle of a height at a distance, both in the same unit.</summary>
    public static double Minutes(double height, double distance) => 2 * Math.Atan(height / (2 * distance)) * MinutesPerRadian;

    /// <summary>The angle of a height in board units on a screen.</summary>
    public static double Minutes(double units, SeenOn screen) => Minutes(units * screen.WidthMm / Board.Width, screen.DistanceMm);

    /// <summary>The height in board units that looks as large as an angle.</summary>
    public static double HeightFor(double minutes, SeenOn screen) =>
        2 * screen.DistanceMm * Math.Tan(minutes / MinutesPerRadian / 2) * Board.Width / screen.WidthMm;
}
