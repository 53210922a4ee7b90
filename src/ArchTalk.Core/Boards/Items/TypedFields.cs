using System.Globalization;
using System.Text.Json.Nodes;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Boards.Items;

/// <summary>How what is typed into a field is read.</summary>
public enum FieldType
{
    Text = 0,

    /// <summary>A whole number.</summary>
    Int = 1,

    Number = 2,

    /// <summary>Numbers with semicolons between them.</summary>
    Numbers = 3,

    /// <summary>A point a line: x; y; name.</summary>
    Points = 4,

    Bool = 5,
}

/// <summary>A parameter of a figure as the page asks for it.</summary>
/// <param name="Figure">The name of the figure.</param>
/// <param name="Path">The member that holds it.</param>
public sealed record FigureField(string Figure, string Path, string Label, FieldType Type, string Hint = "");

/// <summary>
/// Fields that hold numbers, read as the lesson's language writes them. What can't be read stays with its item as it was typed, and the
/// value keeps what it was.
/// </summary>
public static class TypedFields
{
    private const int MostTyped = 30;
    private const int LongestTyped = 20_000;
    private const string Prefix = "figure.";

    /// <summary>The parameters of the figures.</summary>
    public static readonly IReadOnlyList<FigureField> Figures =
    [
        new("clock", "hour", "Hour", FieldType.Int),
        new("clock", "minute", "Minute", FieldType.Int),
        new("clock", "showsDigits", "Digits", FieldType.Bool),
        new("clock", "showsHands", "Hands", FieldType.Bool),
        new("clock", "showsMinutes", "Minute strokes", FieldType.Bool),
        new("numberLine", "from", "From", FieldType.Number),
        new("numberLine", "to", "To", FieldType.Number),
        new("numberLine", "step", "Step", FieldType.Number),
        new("numberLine", "numberEvery", "A number at every … stroke", FieldType.Int, "0 for none"),
        new("numberLine", "marked", "Marked values", FieldType.Numbers, "3; 7"),
        new("numberLine", "locale", "Numbers written as in", FieldType.Text, "en, de, hi-IN"),
        new("placeValue", "number", "Number", FieldType.Text, "305020"),
        new("placeValue", "places", "Places at least", FieldType.Int),
        new("placeValue", "locale", "Digit groups as in", FieldType.Text, "en, hi-IN"),
        new("placeValue", "showsDigits", "Digits", FieldType.Bool),
        new("cubes", "length", "Cubes long", FieldType.Int),
        new("cubes", "depth", "Cubes deep", FieldType.Int),
        new("cubes", "height", "Cubes high", FieldType.Int),
        new("axes", "xFrom", "x from", FieldType.Number),
        new("axes", "xTo", "x to", FieldType.Number),
        new("axes", "xStep", "x step", FieldType.Number),
        new("axes", "yFrom", "y from", FieldType.Number),
        new("axes", "yTo", "y to", FieldType.Number),
        new("axes", "yStep", "y step", FieldType.Number),
        new("axes", "xName", "Name across", FieldType.Text),
        new("axes", "yName", "Name up", FieldType.Text),
        new("axes", "curve", "Curve y =", FieldType.Text, "2x^2 - 3x + 1"),
        new("axes", "points", "Points, one a line", FieldType.Points, "1; 2; A"),
        new("axes", "locale", "Numbers written as in", FieldType.Text, "en, de"),
        new("axes", "showsGrid", "Grid", FieldType.Bool),
    ];

    /// <summary>Reads what was typed into the fields of an item, in place; what can't be read stays in its "typed".</summary>
    public static void Read(JsonObject item, string language)
    {
        if (item["typed"] is not JsonObject typed)
        {
            return;
        }

        var culture = LanguageTag.Culture(Text(item["figure"]?["locale"]) is { Length: > 0 } own ? own : language);
        foreach (var (path, node) in typed.ToArray())
        {
            var field = Field(Text(item["figure"]?["figure"]), path);
            if (field is null || Text(node) is not { } text || text.Length > LongestTyped || typed.Count > MostTyped)
            {
                typed.Remove(path);
            }
            else if (Value(text, field.Type, culture) is { } value)
            {
                item["figure"]![field.Path] = value;
                typed.Remove(path);
            }
        }

        if (typed.Count == 0)
        {
            item.Remove("typed");
        }
    }

    /// <summary>What is wrong with what was typed; null when all could be read.</summary>
    public static string? Fault(Item item)
    {
        if (item is not FigureItem figure || item.Typed is not { Count: > 0 } typed)
        {
            return null;
        }

        var (path, text) = typed.First();
        var name = Core.Boards.Figures.Figure.NameOf(figure.Figure);
        var field = Field(name, path);
        var example = field?.Type switch
        {
            FieldType.Int => "a whole number such as 7",
            FieldType.Numbers => "numbers with semicolons between them, such as 3; 7",
            FieldType.Points => "a point a line, such as 1; 2; A",
            _ => "a number such as 7",
        };
        return $"“{Short(text)}” under “{field?.Label ?? path}” can't be read. Type {example}. Until then the figure keeps what it had there.";
    }

    private static FigureField? Field(string? figure, string path) =>
        path.StartsWith(Prefix, StringComparison.Ordinal) ? Figures.FirstOrDefault(f => f.Figure == figure && f.Path == path[Prefix.Length..]) : null;

    private static JsonNode? Value(string text, FieldType type, CultureInfo culture)
    {
        switch (type)
        {
            case FieldType.Int:
                return WrittenNumber.TryRead(text, culture, out var whole) && whole == Math.Floor(whole) && Math.Abs(whole) <= int.MaxValue
                    ? JsonValue.Create((int)whole)
                    : null;
            case FieldType.Number:
                return WrittenNumber.TryRead(text, culture, out var number) ? JsonValue.Create(number) : null;
            case FieldType.Numbers:
                return All(
                    Parts(text, ';', '\n').SelectMany(t => WrittenNumber.Plain(t, culture) is null ? Parts(t, ' ') : [t]),
                    t => Value(t, FieldType.Number, culture));
            case FieldType.Points:
                return All(Parts(text, '\n'), t => Point(t, culture));
            default:
                return JsonValue.Create(text);
        }
    }

    private static JsonObject? Point(string line, CultureInfo culture)
    {
        var parts = line.Split(';', 3);
        return parts.Length >= 2 && WrittenNumber.TryRead(parts[0], culture, out var x) && WrittenNumber.TryRead(parts[1], culture, out var y)
            ? new JsonObject { ["x"] = x, ["y"] = y, ["name"] = parts.Length > 2 ? parts[2].Trim() : "" } : null;
    }

    private static string[] Parts(string text, params char[] between) =>
        text.Split(between, StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    private static JsonArray? All(IEnumerable<string> parts, Func<string, JsonNode?> read)
    {
        JsonNode?[] values = [.. parts.Select(read)];
        return values.Contains(null) ? null : new JsonArray(values);
    }

    private static string? Text(JsonNode? node) => node is JsonValue value && value.TryGetValue<string>(out var text) ? text : null;

    private static string Short(string text) => text.Length <= 30 ? text : string.Concat(text.AsSpan(0, 30), "…");
}
