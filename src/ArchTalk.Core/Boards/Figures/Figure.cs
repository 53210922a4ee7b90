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

    /// <summary>What the teacher should know of it although it can be drawn; null when there is nothing.</summary>
    public virtual string? Notice() => null;

    /// <summary>Draws the figure within a box, in board units; the drawing may be smaller where its shape asks for it.</summary>
    public abstract Drawing Draw(double width, double height);

    /// <summary>What it shows, in words, for those who hear it.</summary>
    public abstract string Describe();

    /// <summary>The name by which a kind of figure is known in what is stored.</summary>
    public static string NameOf(Figure figure) => figure switch
    {
        ClockFace => "clock",
        NumberLine => "numberLine",
        PlaceValueChart => "placeValue",
        UnitCubes => "cubes",
        _ => "axes",
    };

    /// <summary>Every how many strokes a number has room to be written: 1, 2, 5, 10 and so on.</summary>
    /// <param name="longest">Characters of the longest number.</param>
    /// <param name="letters">The em in board units.</param>
    /// <param name="apart">From one stroke to the next, in board units.</param>
    internal static int RoomEvery(int longest, double letters, double apart)
    {
        // A digit is a little over half an em wide (Atkinson Hyperlegible Next: 0.6).
        var needed = (0.6 * letters * longest) + (0.5 * letters);
        foreach (var every in new[] { 1, 2, 5, 10, 20, 50, 100 })
        {
            if (every * apart >= needed)
            {
                return every;
            }
        }

        return 200;
    }
}
