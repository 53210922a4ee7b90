using ArchTalk.Core.Boards.Drawings;

namespace ArchTalk.Core.Boards.Items;

/// <summary>Where the words of what was typed stand on a board.</summary>
public static class DrawnWords
{
    // From the baseline to the top of tall letters, in ems.
    private const double Stem = 0.74;

    /// <param name="drawing">The item as it lies on its board.</param>
    /// <param name="measure">Says how wide writing is.</param>
    public static IEnumerable<TextWord> Of(PlacedDrawing drawing, ITextMeasure measure)
    {
        foreach (var line in drawing.Drawing.Shapes.OfType<TextShape>())
        {
            double Width(string text) => measure.Width(text, line.Size, line.IsBold);
            var whole = Width(line.Text);
            var isFromRight = line.IsRightToLeft ? line.Anchor == TextShape.Start : line.Anchor == TextShape.End;
            var left = drawing.X + line.X - (line.Anchor == TextShape.Middle ? whole / 2 : isFromRight ? whole : 0);
            for (var at = 0; at < line.Text.Length;)
            {
                var end = line.Text.IndexOf(' ', at);
                end = end < 0 ? line.Text.Length : end;
                if (end > at)
                {
                    var (before, width) = (Width(line.Text[..at]), Width(line.Text[at..end]));
                    yield return new TextWord(
                        line.Text[at..end], left + (line.IsRightToLeft ? whole - before - width : before), drawing.Y + line.Y - (Stem * line.Size),
                        width, line.Size);
                }

                at = end + 1;
            }
        }
    }
}
