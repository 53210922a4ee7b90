using System.Text.Json;
using ArchTalk.Core.Ink;

namespace ArchTalk.Core.Recording;

/// <summary>
/// Reads the list of events in a journal record, each by itself: one that can't be used is passed over and the others hold. Kinds
/// that a later release has brought in are passed over too, and stay in the journal.
/// </summary>
public static class TakeEvents
{
    // What System.Text.Json asks for before it knows the kind.
    private const string Kind = "e";

    // Places are tenths of a board unit; nothing lies farther off than this, and stamps are tenths of a millisecond of a page that
    // is open for less than a year.
    private const long FarthestPlace = 10_000_000;
    private const int GreatestHeight = 20_000;
    private const int GreatestNumber = 100_000_000;
    private const int LongestNote = 2000;
    private const int SmallestEm = 50;
    private const int MostOfOutline = 2000;
    private const int MostStrokesOfLine = 400;
    private const int LongestWaitMs = 600_000;
    private const double LongestMs = 366.0 * 24 * 3600 * 1000;

    // Recorders name the kind first; then nothing has to be looked for.
    private static readonly JsonSerializerOptions InOrder = new(JournalPayloads.Json) { AllowOutOfOrderMetadataProperties = false };

    private static readonly HashSet<string> Kinds =
        [.. typeof(TakeEvent).GetCustomAttributes(typeof(System.Text.Json.Serialization.JsonDerivedTypeAttribute), inherit: false)
            .Cast<System.Text.Json.Serialization.JsonDerivedTypeAttribute>().Select(a => (string)a.TypeDiscriminator!)];

    /// <param name="json">A JSON array.</param>
    /// <param name="bad">How many events are of a known kind and yet can't be used.</param>
    /// <returns>The usable events in order; null when this is no array at all.</returns>
    public static IReadOnlyList<TakeEvent>? Read(ReadOnlySpan<byte> json, out int bad)
    {
        bad = 0;
        if (ReadWhole(json) is { } all)
        {
            return all;
        }

        try
        {
            var reader = new Utf8JsonReader(json);
            using var document = JsonDocument.ParseValue(ref reader);
            if (document.RootElement.ValueKind != JsonValueKind.Array)
            {
                return null;
            }

            var events = new List<TakeEvent>(document.RootElement.GetArrayLength());
            foreach (var element in document.RootElement.EnumerateArray())
            {
                if (!IsKnown(element))
                {
                    continue;
                }

                if (ReadOne(element) is { } found)
                {
                    events.Add(found);
                }
                else
                {
                    bad++;
                }
            }

            return events;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    // Most records hold only what can be used: they are read at one go, which is several times as fast.
    private static TakeEvent[]? ReadWhole(ReadOnlySpan<byte> json)
    {
        try
        {
            var events = JsonSerializer.Deserialize<TakeEvent?[]>(json, InOrder);
            return events is not null && Array.TrueForAll(events, e => e is not null && IsSound(e)) ? [.. events.OfType<TakeEvent>()] : null;
        }
        catch (Exception e) when (e is JsonException or NotSupportedException or InvalidOperationException)
        {
            return null;
        }
    }

    // What has no kind at all counts as known, so that it is noticed.
    private static bool IsKnown(JsonElement element) =>
        element.ValueKind != JsonValueKind.Object || !element.TryGetProperty(Kind, out var kind)
        || kind.ValueKind != JsonValueKind.String || Kinds.Contains(kind.GetString()!);

    private static TakeEvent? ReadOne(JsonElement element)
    {
        try
        {
            return element.Deserialize<TakeEvent>(JournalPayloads.Json) is { } found && IsSound(found) ? found : null;
        }
        catch (Exception e) when (e is JsonException or NotSupportedException or InvalidOperationException)
        {
            return null;
        }
    }

    private static bool IsSound(TakeEvent happened) => happened switch
    {
        StrokeBegun s => s is { Tool: not null, Ink: not null, Width: not null, Stroke: >= 0 and <= GreatestNumber },
        StrokePoints p => Rows(p.Data, 4),
        PointerMoved p => Rows(p.Data, 3),
        Erased e => IsStamp(e.Time) && e.Action is >= 0 and <= GreatestNumber && e.Strokes is not null
            && Array.TrueForAll(e.Strokes, s => s is not null),
        StrokeSettled s => IsStamp(s.Time) && s.Action is >= 0 and <= GreatestNumber && s.Height is >= 0 and <= GreatestHeight && s.Text is not null
            && s.Line is { Length: 4 } line && Array.TrueForAll(line, n => Math.Abs(n) <= FarthestPlace),
        SettlingUnanswered s => IsStamp(s.Time) && s is { Stroke: >= 0 and <= GreatestNumber, Kind: not null },
        TextTyped t => IsStamp(t.Time) && t is { Number: >= 0 and <= GreatestNumber, Size: >= SmallestEm and <= GreatestHeight, Ink: not null }
            && t.Text is { Length: <= LongestNote } && Writing.AreLooks(t.Looks, t.Text)
            && t.Place is { Length: 2 } place && Array.TrueForAll(place, n => Math.Abs((long)n) <= FarthestPlace),
        KeyLineMade k => IsStamp(k.Time) && k is { Kind: not null, Text.Length: <= LongestNote, Strokes.Length: > 0 and <= MostStrokesOfLine },
        ViewMoved v => IsStamp(v.Time) && v.View is { Length: 3 } view && view[2] > 0
            && Array.TrueForAll(view, n => Math.Abs((long)n) <= FarthestPlace),
        StrokeEnded l => IsStamp(l.Time),
        Undone u => IsStamp(u.Time),
        Redone r => IsStamp(r.Time),
        BoardShown b => IsStamp(b.Time),
        PointerAway a => IsStamp(a.Time),
        BoardGrown g => IsStamp(g.Time) && g.Height > 0,
        CoverLifted c => IsStamp(c.Time),
        NoteMade n => IsStamp(n.Time)
            && n is { Number: >= 0 and <= GreatestNumber, Kind: not null, Text.Length: <= LongestNote, WaitMs: >= 0 and <= LongestWaitMs },
        TermNoted n => IsStamp(n.Time) && n is { Number: >= 0 and <= GreatestNumber, Word.Length: <= LongestNote },
        NoteTakenOff n => IsStamp(n.Time),
        NoteOver n => IsStamp(n.Time),
        LitUp l => IsStamp(l.Time) && l.Outline is { Length: 0 or (>= 6 and <= MostOfOutline) } outline && outline.Length % 2 == 0
            && Array.TrueForAll(outline, n => Math.Abs((long)n) <= FarthestPlace),
        PlaceTaken p => IsStamp(p.Time) && p is { From: >= 0 and <= JournalPayloads.LastSample, Until: >= 0 and <= JournalPayloads.LastSample },
        WentBack w => IsStamp(w.Time) && w.Segment >= 0 && w.Sample is >= 0 and <= JournalPayloads.LastSample,
        _ => true,
    };

    // Whole rows that end with a stamp.
    private static bool Rows(long[]? data, int columns)
    {
        if (data is not { Length: > 0 } || data.Length % columns != 0)
        {
            return false;
        }

        for (var i = 0; i < data.Length; i++)
        {
            var isStamp = i % columns == columns - 1;
            if (isStamp ? !IsStamp(data[i] / 10.0) : Math.Abs(data[i]) > FarthestPlace)
            {
                return false;
            }
        }

        return true;
    }

    private static bool IsStamp(double ms) => double.IsFinite(ms) && ms is >= 0 and < LongestMs;
}
