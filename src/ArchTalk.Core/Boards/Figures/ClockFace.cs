using System.Globalization;
using ArchTalk.Core.Boards.Drawings;

namespace ArchTalk.Core.Boards.Figures;

/// <summary>A clock face.</summary>
public sealed record ClockFace : Figure
{
    /// <summary>0 to 23.</summary>
    public int Hour { get; init; } = 10;

    /// <summary>0 to 59.</summary>
    public int Minute { get; init; } = 10;

    public bool ShowsDigits { get; init; } = true;

    public bool ShowsHands { get; init; } = true;

    public bool ShowsMinutes { get; init; } = true;

    /// <summary>Degrees from twelve, clockwise: 30 an hour and half a degree a minute (geometry).</summary>
    public static double HourAngle(int hour, int minute) => (30 * (hour % 12)) + (0.5 * minute);

    /// <summary>Degrees from twelve, clockwise: 6 a minute (geometry).</summary>
    public static double MinuteAngle(int minute) => 6 * minute;

    public override string? Fault() =>
        Hour is < 0 or > 23 ? "The hour of a clock is from 0 to 23." : Minute is < 0 or > 59 ? "The minutes of a clock are from 0 to 59." : null;

    public override Drawing Draw(double width, double height)
    {
        var size = Math.Min(width, height);
        var middle = size / 2;
        var radius = middle - 4;
        (double X, double Y) At(double degrees, double share) =>
            (middle + (radius * share * Math.Sin(degrees * Math.PI / 180)), middle - (radius * share * Math.Cos(degrees * Math.PI / 180)));
        PathShape Stroke(double degrees, double from, double to, double thick)
        {
            var ((x0, y0), (x1, y1)) = (At(degrees, from), At(degrees, to));
            return new PathShape(Outline.Line(x0, y0, x1, y1), null, Palette.Ink, thick);
        }

        var shapes = new List<Shape> { PathShape.Circle(middle, middle, radius, Palette.Paper, Palette.Ink, Math.Max(3, size / 80)) };
        for (var minute = 0; minute < 60; minute++)
        {
            var isHour = minute % 5 == 0;
            if (isHour || ShowsMinutes)
            {
                shapes.Add(Stroke(MinuteAngle(minute), isHour ? 0.9 : 0.94, 0.98, Math.Max(2, isHour ? size / 100 : size / 200)));
            }
        }

        if (ShowsDigits)
        {
            var letters = size * 0.095;
            for (var hour = 1; hour <= 12; hour++)
            {
                var (x, y) = At(HourAngle(hour, 0), 0.76);
                shapes.Add(new TextShape(
                    hour.ToString(CultureInfo.InvariantCulture),
                    x,
                    y + (0.34 * letters),
                    letters,
                    Palette.Ink,
                    TextShape.Middle,
                    IsBold: true));
            }
        }

        if (ShowsHands)
        {
            shapes.Add(Stroke(HourAngle(Hour, Minute), -0.08, 0.48, Math.Max(5, size / 40)));
            shapes.Add(Stroke(MinuteAngle(Minute), -0.08, 0.82, Math.Max(3, size / 65)));
            shapes.Add(PathShape.Circle(middle, middle, Math.Max(6, size / 40), Palette.Ink));
        }

        return new Drawing(size, size, shapes);
    }

    public override string Describe() =>
        ShowsHands ? string.Create(CultureInfo.InvariantCulture, $"A clock face showing {Hour % 12:0}:{Minute:00}.") : "A clock face without hands.";
}
