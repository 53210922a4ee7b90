using System.Text.Json;
using System.Text.Json.Serialization;

namespace ArchTalk.Core.Time;

/// <summary>The identity of a take.</summary>
[JsonConverter(typeof(TakeIdJson))]
public readonly record struct TakeId(Guid Value)
{
    public override string ToString() => Value.ToString("N");
}

/// <summary>
/// A point in what was recorded: a take and a time in it. Chapters, stops, resume positions and questions hold moments,
/// so that no edit ever moves them; <c>Arrangement.Places</c> says where a moment is now.
/// </summary>
public readonly record struct Moment(TakeId Take, TakeTime At);

/// <summary>A take's identity in JSON.</summary>
internal sealed class TakeIdJson : JsonConverter<TakeId>
{
    public override TakeId Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => new(reader.GetGuid());

    public override void Write(Utf8JsonWriter writer, TakeId value, JsonSerializerOptions options) => writer.WriteStringValue(value.Value);
}
