using System.Text.Json;
using System.Text.Json.Serialization;

namespace ArchTalk.Core.Formats;

/// <summary>
/// A list of rows of whole numbers. In JSON it is flat, row after row, each column as the difference to the row before: small
/// numbers, of which a long path takes little room.
/// </summary>
/// <param name="Columns">How many numbers a row has.</param>
/// <param name="Values">All rows one after another.</param>
[JsonConverter(typeof(RowsJson))]
public readonly record struct Rows(int Columns, IReadOnlyList<int> Values)
{
    /// <summary>Makes rows of what a function adds for each of some things.</summary>
    public static Rows Of<T>(int columns, IEnumerable<T> things, Action<T, List<int>> addRow)
    {
        var values = new List<int>();
        foreach (var thing in things)
        {
            addRow(thing, values);
        }

        return new Rows(columns, values);
    }
}

/// <summary>Writes rows in differences.</summary>
internal sealed class RowsJson : JsonConverter<Rows>
{
    public override Rows Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        throw new NotSupportedException("Players read rows; the server only writes them.");

    public override void Write(Utf8JsonWriter writer, Rows value, JsonSerializerOptions options)
    {
        writer.WriteStartArray();
        for (var i = 0; i < value.Values.Count; i++)
        {
            writer.WriteNumberValue(value.Values[i] - (i < value.Columns ? 0 : value.Values[i - value.Columns]));
        }

        writer.WriteEndArray();
    }
}
