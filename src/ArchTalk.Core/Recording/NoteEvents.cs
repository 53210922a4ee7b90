using System.Text.Json.Serialization;

namespace ArchTalk.Core.Recording;

/// <summary>Something was noted at a moment; noted again under the same number, it says something else about the same moment.</summary>
/// <param name="Number">Counted together with strokes and erasures.</param>
/// <param name="Kind">As <see cref="NoteKinds"/> names it.</param>
/// <param name="Text">A title or a question; may be empty.</param>
/// <param name="WaitMs">For a stop of a set time: how long, in ms.</param>
public sealed record NoteMade(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("n")] int Number,
    [property: JsonPropertyName("k")] string Kind,
    [property: JsonPropertyName("s")] string Text,
    [property: JsonPropertyName("w")] int WaitMs) : TakeEvent;

/// <summary>A term of the vocabulary is said: a note.</summary>
/// <param name="Number">Counted together with strokes and erasures.</param>
/// <param name="Word">As the vocabulary had it.</param>
public sealed record TermNoted(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("n")] int Number,
    [property: JsonPropertyName("i")] Guid Term,
    [property: JsonPropertyName("x")] string Word) : TakeEvent;

/// <summary>What was noted was taken off again.</summary>
public sealed record NoteTakenOff([property: JsonPropertyName("t")] double Time, [property: JsonPropertyName("n")] int Number) : TakeEvent;

/// <summary>The stretch that a note began is over.</summary>
public sealed record NoteOver([property: JsonPropertyName("t")] double Time, [property: JsonPropertyName("n")] int Number) : TakeEvent;
