using System.Text.Json.Serialization;

namespace ArchTalk.Core.Boards.Items;

/// <summary>Something placed on a board before recording. Later items lie over earlier ones.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(TextItem), "text")]
[JsonDerivedType(typeof(FormulaItem), "formula")]
[JsonDerivedType(typeof(TableItem), "table")]
[JsonDerivedType(typeof(LabelItem), "label")]
[JsonDerivedType(typeof(CoverItem), "cover")]
[JsonDerivedType(typeof(BlankItem), "blank")]
[JsonDerivedType(typeof(FigureItem), "figure")]
[JsonDerivedType(typeof(PictureItem), "picture")]
public abstract record Item
{
    public required Guid Id { get; init; }

    /// <summary>Left edge in board units.</summary>
    public double X { get; init; }

    /// <summary>Top edge in board units.</summary>
    public double Y { get; init; }

    /// <summary>In board units.</summary>
    public double Width { get; init; }

    /// <summary>In board units. Writing and tables are as high as what is in them, whatever is asked for.</summary>
    public double Height { get; init; }

    /// <summary>Whether it is held in its place.</summary>
    public bool IsLocked { get; init; }

    /// <summary>What was typed into fields and could not be read as what they hold, by the field's path; see <see cref="TypedFields"/>.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyDictionary<string, string>? Typed { get; init; }
}
