using System.Text.RegularExpressions;

namespace ArchTalk.Core.Boards.Items;

/// <summary>The files of pictures on boards, and how a picture is cut and turned.</summary>
public static partial class PictureFiles
{
    /// <summary>The least share of a picture's width or height that a cut leaves.</summary>
    public const double LeastCrop = 0.02;

    private const int LongestAlternative = 500;
    private const double MostLong = 40;

    /// <summary>The name of the file of a picture brought in under an identity.</summary>
    public static string Name(Guid id) => $"item-{id:N}.webp";

    /// <summary>Whether a name is one that <see cref="Name"/> gives.</summary>
    public static bool IsName(string name) => Pattern().IsMatch(name);

    /// <summary>Width by height of what is shown, after it is cut and turned.</summary>
    public static double ShownShape(PictureItem picture)
    {
        var shape = picture.Shape * picture.Crop.Width / picture.Crop.Height;
        return picture.Turn % 2 == 0 ? shape : 1 / shape;
    }

    /// <summary>The picture with a cut within it, a turn from 0 to 3, and as high as what is shown asks for.</summary>
    internal static PictureItem Tidy(PictureItem picture)
    {
        var (x, y) = (Math.Clamp(picture.Crop.X, 0, 1 - LeastCrop), Math.Clamp(picture.Crop.Y, 0, 1 - LeastCrop));
        var tidy = picture with
        {
            Shape = Math.Clamp(picture.Shape, 1 / MostLong, MostLong),
            Turn = ((picture.Turn % 4) + 4) % 4,
            Crop = new Crop(x, y, Math.Clamp(picture.Crop.Width, LeastCrop, 1 - x), Math.Clamp(picture.Crop.Height, LeastCrop, 1 - y)),
            AlternativeText = picture.AlternativeText[..Math.Min(picture.AlternativeText.Length, LongestAlternative)],
        };
        return tidy with { Height = Math.Round(Math.Min(tidy.Width / ShownShape(tidy), Board.MaxHeight), 1) };
    }

    [GeneratedRegex("^item-[0-9a-f]{32}\\.webp$", RegexOptions.None, 1000)]
    private static partial Regex Pattern();
}
