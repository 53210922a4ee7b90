using ArchTalk.Core.Boards.Figures;

namespace ArchTalk.Core.Boards.Items;

/// <summary>The items as they begin when a teacher puts them on a board; the pages copy these and give each an identity and a place.</summary>
public static class NewItems
{
    /// <summary>The widest a new table becomes, and how wide each of its columns is, in board units.</summary>
    public const double WidestTable = 1400;
    public const double TableColumn = 340;

    public static readonly TextItem Text = new() { Id = Guid.Empty, Width = 700, Height = 90 };

    public static readonly FormulaItem Formula = new() { Id = Guid.Empty, Width = 300, Height = 90 };

    public static readonly TableItem Table = new() { Id = Guid.Empty, Width = 2 * TableColumn, Height = 200 };

    public static readonly LabelItem Label = new() { Id = Guid.Empty, Width = 160, Height = 80, Text = "part" };

    public static readonly CoverItem Cover = new() { Id = Guid.Empty, Width = 360, Height = 120 };

    public static readonly BlankItem Blank = new() { Id = Guid.Empty, Width = 300, Height = 80 };

    /// <summary>By the name of the figure.</summary>
    public static readonly IReadOnlyDictionary<string, FigureItem> Figures = new Dictionary<string, FigureItem>
    {
        ["clock"] = Figure(new ClockFace(), 420, 420),
        ["numberLine"] = Figure(new NumberLine(), 1200, 130),
        ["placeValue"] = Figure(new PlaceValueChart(), 1000, 220),
        ["cubes"] = Figure(new UnitCubes(), 480, 420),
        ["axes"] = Figure(new Axes(), 760, 620),
    };

    private static FigureItem Figure(Figure figure, double width, double height) =>
        new() { Id = Guid.Empty, Figure = figure, Width = width, Height = height };
}
