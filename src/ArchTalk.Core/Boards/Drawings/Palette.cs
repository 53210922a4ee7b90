namespace ArchTalk.Core.Boards.Drawings;

/// <summary>The colours of drawn items: those of the writing inks and of the boards' stone.</summary>
internal static class Palette
{
    public const string Ink = "#1E2A2B";
    public const string Vermilion = "#AD4C00";
    public const string Blue = "#00568A";
    public const string Paper = "#FFFFFF";

    /// <summary>Borders of plates, cells and covers.</summary>
    public const string Edge = "#8A8170";

    /// <summary>Covers, and the heads of tables and charts; the paler ones stand beside it.</summary>
    public const string Stone = "#E3D7BD";
    public const string PaleStone = "#F5F1E8";
    public const string Hairline = "#D9D2C3";

    /// <summary>The sides of solid bodies, from light to dark.</summary>
    public const string LitSide = "#FBF9F4";
    public const string ShadedSide = "#D9D2C3";
    public const string DarkSide = "#B9AF9A";
}
