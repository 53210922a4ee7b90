using System.Globalization;
using System.Text.Json.Serialization;
using ArchTalk.Core.Boards.Drawings;

namespace ArchTalk.Core.Boards.Figures;

/// <summary>A subject figure that is computed from its parameters, so that it is right and stays right when they change.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "figure")]
[JsonDerivedType(typeof(ClockFace), "clock")]
[JsonDerivedType(typeof(NumberLine), "numberLine")]
[JsonDerivedType(typeof(PlaceValueChart), "placeValue")]
[JsonDerivedType(typeof(UnitCubes), "cubes")]
[JsonDerivedType(typeof(Axes), "axes")]
public abstract record Figure
{
    /// <summary>What is wrong with the parameters, said so that a teacher can mend it; null when they are right.</summary>
    public abstract string? Fault();

    /// <summary>Draws the figure within a box, in board units; the drawing may be smaller where its shape asks for it.</summary>
    public abstract Drawing Draw(double width, double height);

    /// <summary>What it shows, in words, for those who hear it.</summary>
    public abstract string Describe();

    /// <summary>A number as that culture writes it, without needless decimals.</summary>
    internal static string Write(double value, CultureInfo culture) =>
        (value == 0 ? 0 : Math.Round(value, 9)).ToString("#,0.#########", culture).Replace("-", "−", StringComparison.Ordinal);
}
