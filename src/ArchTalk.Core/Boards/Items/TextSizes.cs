using ArchTalk.Core.Boards.Seen;

namespace ArchTalk.Core.Boards.Items;

/// <summary>
/// The three sizes of writing. They follow from what the eye needs: on a phone held upright, where the board is smallest, the
/// capitals of the small size reach the 16 minutes of arc that ISO 9241-303 asks for at least, those of the reading size the
/// 20 to 22 it prefers (figures of the standard from memory).
/// </summary>
public static class TextSizes
{
    public const string Small = "small";
    public const string Reading = "reading";
    public const string Heading = "heading";

    /// <summary>Height of a capital of Atkinson Hyperlegible Next as a share of the em (OS/2 table, sCapHeight 668 of 1000).</summary>
    public const double CapitalShare = 0.668;

    public static readonly IReadOnlyList<string> All = [Small, Reading, Heading];

    /// <summary>The em in board units; an unknown name is the reading size.</summary>
    public static double Units(string size) => size switch
    {
        Small => EmFor(VisualAngle.LeastMinutes),
        Heading => 1.5 * EmFor(VisualAngle.PreferredMinutes),
        _ => EmFor(VisualAngle.PreferredMinutes),
    };

    private static double EmFor(double minutes) => Math.Ceiling(VisualAngle.HeightFor(minutes, SeenOn.Phone) / CapitalShare);
}
