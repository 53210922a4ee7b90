namespace ArchTalk.Core.Ink;

/// <summary>How a stroke looks.</summary>
/// <param name="Tool">"pen" or "highlighter".</param>
/// <param name="Ink">The ink's name, for instance "blue-black".</param>
/// <param name="Width">"fine", "medium" or "broad".</param>
/// <param name="Color">#RRGGBB.</param>
/// <param name="Units">Width at full pressure in board units.</param>
public sealed record InkStyle(string Tool, string Ink, string Width, string Color, double Units)
{
    public const string Pen = "pen";

    public const string Highlighter = "highlighter";

    /// <summary>How far from its middle the eraser reaches, in tenths of a board unit.</summary>
    public const int EraserRadius = 90;

    /// <summary>
    /// All styles a teacher can choose. The writing inks are hues of the Okabe–Ito palette darkened until they reach 4.5:1
    /// on white (WCAG 2.2); the pale ones exist only as highlighters.
    /// </summary>
    public static readonly IReadOnlyList<InkStyle> All =
    [
        .. Make(Pen, [("fine", 3), ("medium", 5), ("broad", 9)],
            ("blue-black", "#1E2A2B"), ("vermilion", "#AD4C00"), ("green", "#007B59"), ("blue", "#00568A"), ("purple", "#8F4E72")),
        .. Make(Highlighter, [("fine", 18), ("medium", 30), ("broad", 48)],
            ("yellow", "#F0E442"), ("orange", "#F3B95F"), ("sky", "#9AD4F5"), ("mint", "#8FD9BF"), ("rose", "#E9BCD6")),
    ];

    /// <summary>The index in <see cref="All"/> of a style; an unknown one becomes the first of its tool.</summary>
    public static int IndexOf(string tool, string ink, string width)
    {
        var fallback = 0;
        for (var i = 0; i < All.Count; i++)
        {
            if (All[i].Tool == tool)
            {
                if (All[i].Ink == ink && All[i].Width == width)
                {
                    return i;
                }

                fallback = fallback == 0 ? i : fallback;
            }
        }

        return fallback;
    }

    private static IEnumerable<InkStyle> Make(string tool, (string Name, double Units)[] widths, params (string Name, string Color)[] inks) =>
        from ink in inks from width in widths select new InkStyle(tool, ink.Name, width.Name, ink.Color, width.Units);
}
