using ArchTalk.Core.Boards.Drawings;

namespace ArchTalk.Core.Boards.Items;

/// <summary>Draws the items of a board: one drawing for each, in the item's own coordinates.</summary>
public sealed class ItemDrawings(ITextMeasure measure)
{
    private const double Line = 3;

    // Before the first letter of what is filled in, in ems.
    private const double RoomInBlank = 0.15;

    private readonly TextSetter setter = new(measure);

    /// <summary>The drawing of an item; its size is what the item takes, which for writing, tables and labels follows from their content.</summary>
    /// <remarks>Instead of what is wrong and can't be drawn there is a mark in its place.</remarks>
    public Drawing Draw(Item item) => ItemRules.Fault(item) is null ? DrawRight(item) : Wrong(item);

    private Drawing DrawRight(Item item) => item switch
    {
        TextItem text => setter.Set(text),
        FormulaItem formula => MathSvg.Draw(formula.Svg, TextSizes.Units(formula.Size), TextSetter.Color(formula.Color)),
        TableItem table => Table(table),
        LabelItem label => Label(label),
        CoverItem cover => Cover(cover),
        BlankItem blank => Blank(blank),
        FigureItem figure => figure.Figure.Draw(figure.Width, figure.Height),
        PictureItem picture => new Drawing(
            picture.Width,
            picture.Height,
            [new PictureShape(picture.File, picture.Width, picture.Height, picture.Crop, picture.Turn)]),
        _ => throw new ArgumentOutOfRangeException(nameof(item)),
    };

    /// <summary>The item with the size of its drawing.</summary>
    public Item Sized(Item item)
    {
        var drawing = Draw(item);
        return item with { Width = Math.Round(drawing.Width, 1), Height = Math.Round(drawing.Height, 1) };
    }

    /// <summary>Where something is to be filled in on an item: a blank, or the blank cells of a table.</summary>
    public IReadOnlyList<BlankPlace> Blanks(Item item)
    {
        var places = new List<BlankPlace>();
        if (item is BlankItem blank)
        {
            var size = Math.Min(blank.Height / TextSetter.LineHeight, TextSizes.Units(TextSizes.Heading));
            var room = TextSetter.LineHeight * size;
            places.Add(new(
                blank.X + (RoomInBlank * size), blank.Y + ((blank.Height - room) / (blank.IsBox ? 2 : 1)), blank.Width, room, size, blank.Answers));
        }
        else if (item is TableItem table && ItemRules.Fault(item) is null)
        {
            Table(table, (cell, x, y, width) =>
            {
                var size = TextSizes.Units(table.Size);
                string[] answers = [.. cell.Answers.Prepend(cell.Text).Where(a => a.Length > 0).Distinct()];
                places.Add(new(table.X + x, table.Y + y, width, TextSetter.LineHeight * size, size, answers));
            });
        }

        return places;
    }

    private Drawing Table(TableItem table, Action<TableCell, double, double, double>? blank = null)
    {
        var size = TextSizes.Units(table.Size);
        var padding = 0.35 * size;
        var columns = table.Rows.Count == 0 ? 0 : table.Rows.Max(r => r.Count);
        var widths = ColumnWidths(table, columns, size, padding);
        double[] lefts = [.. widths.Select((_, c) => widths.Take(c).Sum())];
        bool IsHeader(int row, int column) => (table.HasHeaderRow && row == 0) || (table.HasHeaderColumn && column == 0);
        var shapes = new List<Shape>();
        var y = 0.0;
        for (var r = 0; r < table.Rows.Count; r++)
        {
            var row = table.Rows[r];
            var writing = new List<Shape>();
            var height = TextSetter.LineHeight * size;
            for (var c = 0; c < row.Count; c++)
            {
                var (x, right) = (lefts[c] + padding, lefts[c] + widths[c] - padding);
                if (row[c].IsBlank)
                {
                    var line = y + padding + (1.05 * size);
                    blank?.Invoke(row[c], x, y + padding, right - x);
                    writing.Add(new PathShape(Outline.Line(x, line, right, line), null, Palette.Ink, Line, 8));
                }
                else
                {
                    height = Math.Max(
                        height,
                        setter.Set(writing, row[c].Text, x, y + padding, right - x, size, IsHeader(r, c), TextSettings.AlignStart));
                }
            }

            height += 2 * padding;
            for (var c = 0; c < columns; c++)
            {
                shapes.Add(PathShape.Rectangle(lefts[c], y, widths[c], height, IsHeader(r, c) ? Palette.Stone : Palette.Paper, Palette.Edge, 2));
            }

            shapes.AddRange(writing);
            y += height;
        }

        return new Drawing(table.Width, y, shapes);
    }

    // Each column as wide as its longest line needs, all stretched alike to the table's width; where there is less room, lines are broken
    // before words are.
    private double[] ColumnWidths(TableItem table, int columns, double size, double padding)
    {
        var (natural, least) = (new double[columns], new double[columns]);
        for (var c = 0; c < columns; c++)
        {
            string[] cells = [.. table.Rows.Where(r => c < r.Count).Select(r => r[c].IsBlank ? r[c].Text + "nn" : r[c].Text)];
            double Widest(IEnumerable<string> texts) => (2 * padding) + texts.Max(t => Math.Max(2 * size, setter.Width(t, size, isBold: true)));
            natural[c] = Widest(cells);
            least[c] = Widest(cells.SelectMany(t => t.Split(' ')));
        }

        var (spare, words) = (table.Width - least.Sum(), natural.Sum() - least.Sum());
        return natural.Sum() <= table.Width || words <= 0 ? Stretched(natural, table.Width)
            : spare >= 0 ? [.. least.Select((w, c) => w + (spare * (natural[c] - w) / words))]
            : Stretched(least, table.Width);
    }

    private static double[] Stretched(double[] widths, double room) => [.. widths.Select(w => w * room / Math.Max(1, widths.Sum()))];

    private Drawing Label(LabelItem label)
    {
        var size = TextSizes.Units(TextSizes.Small);
        var text = label.Number > 0 ? label.Number.ToString(System.Globalization.CultureInfo.InvariantCulture) : label.Text;
        var padding = 0.3 * size;
        var height = (TextSetter.LineHeight * size) + padding;
        var width = Math.Max(height, setter.Width(text, size, isBold: label.Number > 0) + (2 * padding));
        var (tipX, tipY) = (label.TipX - label.X, label.TipY - label.Y);
        var shapes = new List<Shape>();
        var isOutside = tipX < 0 || tipX > width || tipY < 0 || tipY > height;
        if (isOutside)
        {
            var (fromX, fromY) = LineStart(width, height, tipX, tipY);

            // A light line under the dark one is seen on dark pictures too.
            shapes.Add(new PathShape(Outline.Line(fromX, fromY, tipX, tipY), null, Palette.Paper, 8));
            shapes.Add(new PathShape(Outline.Line(fromX, fromY, tipX, tipY), null, Palette.Ink, Line));
            shapes.Add(PathShape.Circle(tipX, tipY, 8, Palette.Ink, Palette.Paper, Line));
        }

        shapes.Add(label.Number > 0
            ? PathShape.Circle(width / 2, height / 2, height / 2, Palette.Paper, Palette.Ink, Line)
            : PathShape.Rectangle(0, 0, width, height, Palette.Paper, Palette.Edge, 2));
        shapes.Add(new TextShape(
            text, width / 2, (height / 2) + (0.34 * size), size, Palette.Ink, TextShape.Middle, label.Number > 0,
            TextSetter.Direction(text) ?? false, label.Language.Length > 0 ? label.Language : null));
        return new Drawing(width, height, shapes);
    }

    // The line leaves from the middle of the side that faces the tip.
    private static (double X, double Y) LineStart(double width, double height, double tipX, double tipY)
    {
        var (dx, dy) = (tipX - (width / 2), tipY - (height / 2));
        return Math.Abs(dx) * height > Math.Abs(dy) * width
            ? (dx > 0 ? width : 0, height / 2)
            : (width / 2, dy > 0 ? height : 0);
    }

    private Drawing Cover(CoverItem cover)
    {
        var size = TextSizes.Units(TextSizes.Small);
        var shapes = new List<Shape> { PathShape.Rectangle(0, 0, cover.Width, cover.Height, Palette.Stone, Palette.Edge, Line) };
        if (cover.Text.Length > 0)
        {
            shapes.Add(
                new TextShape(cover.Text, cover.Width / 2, (cover.Height / 2) + (0.34 * size), size, Palette.Ink, TextShape.Middle, IsBold: true));
        }

        return new Drawing(cover.Width, cover.Height, shapes);
    }

    private Drawing Wrong(Item item)
    {
        var size = TextSizes.Units(TextSizes.Small);
        var (width, height) = (Math.Max(item.Width, 2 * size), Math.Max(item.Height, 1.5 * size));
        var room = width - (2 * size);
        var text = ItemWords.Typed(item) is { Length: > 0 } typed ? typed : ItemWords.Kind(item);
        var shapes = new List<Shape>
        {
            PathShape.Rectangle(0, 0, width, height, Palette.Paper) with { Stroke = Palette.Edge, StrokeWidth = Line },
            new TextShape("!", 0.5 * size, (height / 2) + (0.34 * size), size, Palette.Vermilion, TextShape.Middle, IsBold: true),
        };
        if (room > size)
        {
            var fits = Math.Min(text.Length, (int)(room / (0.55 * size)));
            shapes.Add(new TextShape(
                fits < text.Length ? string.Concat(text.AsSpan(0, fits), "…") : text,
                size,
                (height / 2) + (0.34 * size),
                size,
                Palette.Ink));
        }

        return new Drawing(width, height, shapes);
    }

    private static Drawing Blank(BlankItem blank) => new(blank.Width, blank.Height,
    [
        blank.IsBox
            ? PathShape.Rectangle(0, 0, blank.Width, blank.Height, Palette.Paper, Palette.Ink, Line)
            : new PathShape(Outline.Line(0, blank.Height - Line, blank.Width, blank.Height - Line), null, Palette.Ink, Line),
    ]);
}
