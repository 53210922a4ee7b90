using System.Text;
using System.Text.Json;
using ArchTalk.Web.Setup;

namespace ArchTalk.Web.Lessons;

/// <summary>
/// What a page sends of what a teacher typed, before anything is made of it: bounded in how much it is, without characters that
/// nobody can see or type, and without holes.
/// </summary>
public static class TypedContent
{
    private const int MostValues = 100_000;
    private const int MostDepth = 40;

    /// <exception cref="Refusal">It is too much, or built in no way that a page builds it.</exception>
    public static JsonElement Clean(JsonElement content)
    {
        using var bytes = new MemoryStream();
        using (var writer = new Utf8JsonWriter(bytes))
        {
            var values = 0;
            Write(content, writer, 0, ref values);
        }

        using var document = JsonDocument.Parse(bytes.ToArray());
        return document.RootElement.Clone();
    }

    /// <summary>A text as it is kept: control characters are gone, except line ends and tabs, and so are halves of characters.</summary>
    public static string Clean(string text) => text.All(c => !IsUnseen(c)) ? text : string.Concat(Runes(text));

    private static void Write(JsonElement from, Utf8JsonWriter to, int depth, ref int values)
    {
        if (++values > MostValues || depth > MostDepth)
        {
            throw new Refusal("There is more in it than can be kept, so nothing was changed. Divide it.");
        }

        switch (from.ValueKind)
        {
            case JsonValueKind.Object:
                to.WriteStartObject();
                foreach (var property in from.EnumerateObject())
                {
                    to.WritePropertyName(property.Name);
                    Write(property.Value, to, depth + 1, ref values);
                }

                to.WriteEndObject();
                break;
            case JsonValueKind.Array:
                to.WriteStartArray();
                foreach (var value in from.EnumerateArray())
                {
                    Write(value.ValueKind == JsonValueKind.Null ? throw Unreadable() : value, to, depth + 1, ref values);
                }

                to.WriteEndArray();
                break;
            case JsonValueKind.String:
                to.WriteStringValue(Clean(Text(from)));
                break;
            case JsonValueKind.Undefined:
                throw Unreadable();
            default:
                from.WriteTo(to);
                break;
        }
    }

    private static Refusal Unreadable(Exception? e = null) =>
        new("The list could not be read, so nothing was changed. Reload the page and try again.", e ?? new JsonException());

    private static string Text(JsonElement value)
    {
        try
        {
            return value.GetString()!;
        }
        catch (InvalidOperationException e)
        {
            // Half a character, written as an escape.
            throw Unreadable(e);
        }
    }

    private static bool IsUnseen(char c) => char.IsSurrogate(c) || c is '\uFFFE' or '\uFFFF' || (char.IsControl(c) && c is not '\n' and not '\t');

    private static IEnumerable<string> Runes(string text)
    {
        foreach (var rune in text.EnumerateRunes())
        {
            if (rune != Rune.ReplacementChar && !(rune.IsBmp && IsUnseen((char)rune.Value)))
            {
                yield return rune.ToString();
            }
        }
    }
}
