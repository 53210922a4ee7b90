using System.Globalization;
using ArchTalk.Core.Boards.Drawings;

namespace ArchTalk.Core.Boards.Figures;

/// <summary>A box built of unit cubes, seen isometrically: edges at 30° to the level (geometry).</summary>
public sealed record UnitCubes : Figure
{
    private const int MostOnASide = 12;
    private static readonly double Cos30 = Math.Sqrt(3) / 2;

    public int Length { get; init; } = 4;

    public int Depth { get; init; } = 3;

    public int Height { get; init; } = 2;

    /// <summary>All cubes, also those that aren't seen.</summary>
    public int Count => Length * Depth * Height;

    /// <summary>Squares to be seen: the top and two sides.</summary>
    public int VisibleSquares => (Length * Depth) + (Length * Height) + (Depth * Height);

    public override string? Fault() =>
        new[] { Length, Depth, Height }.All(n => n is >= 1 and <= MostOnASide)
            ? null
            : $"A box of unit cubes is from 1 to {MostOnASide} cubes long, deep and high.";

    public override Drawing Draw(double width, double height)
    {
        var across = (Length + Depth) * Cos30;
        var up = ((Length + Depth) * 0.5) + Height;
        var edge = Math.Min((width - 6) / across, (height - 6) / up);

        // Length runs right and down, depth left and down, height up; the back corner of the top is the origin.
        (double X, double Y) At(int l, int d, int h) => (3 + ((Depth + l - d) * Cos30 * edge), 3 + ((((l + d) * 0.5) + Height - h) * edge));
        var shapes = new List<Shape>();
        void Square((double, double) a, (double, double) b, (double, double) c, (double, double) d, string fill) =>
            shapes.Add(new PathShape(Outline.Polygon(a, b, c, d), fill, Palette.Ink, 3));
        for (var l = 0; l < Length; l++)
        {
            for (var d = 0; d < Depth; d++)
            {
                Square(At(l, d, Height), At(l + 1, d, Height), At(l + 1, d + 1, Height), At(l, d + 1, Height), Palette.LitSide);
            }
        }

        for (var h = 0; h < Height; h++)
        {
            for (var l = 0; l < Length; l++)
            {
                Square(At(l, Depth, h), At(l + 1, Depth, h), At(l + 1, Depth, h + 1), At(l, Depth, h + 1), Palette.ShadedSide);
            }

            for (var d = 0; d < Depth; d++)
            {
                Square(At(Length, d, h), At(Length, d + 1, h), At(Length, d + 1, h + 1), At(Length, d, h + 1), Palette.DarkSide);
            }
        }

        return new Drawing(6 + (across * edge), 6 + (up * edge), shapes);
    }

    public override string Describe() =>
        string.Create(CultureInfo.InvariantCulture, $"A box of unit cubes, {Length} long, {Depth} deep and {Height} high.");
}
