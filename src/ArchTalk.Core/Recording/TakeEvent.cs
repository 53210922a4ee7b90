using System.Text.Json.Serialization;

namespace ArchTalk.Core.Recording;

/// <summary>
/// Something done on the boards, as the recorder journals it: with the browser's own time stamp, not yet in take time.
/// Property names are short since a lesson holds many; docs/formats/journal.md lists them.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "e")]
[JsonDerivedType(typeof(StrokeBegun), "stroke")]
[JsonDerivedType(typeof(StrokePoints), "points")]
[JsonDerivedType(typeof(StrokeEnded), "lift")]
[JsonDerivedType(typeof(StrokeCancelled), "cancel")]
[JsonDerivedType(typeof(Erased), "erase")]
[JsonDerivedType(typeof(StrokeSettled), "settle")]
[JsonDerivedType(typeof(SettlingUnanswered), "unsettled")]
[JsonDerivedType(typeof(KeyLineMade), "key")]
[JsonDerivedType(typeof(TextTyped), "type")]
[JsonDerivedType(typeof(Undone), "undo")]
[JsonDerivedType(typeof(Redone), "redo")]
[JsonDerivedType(typeof(BoardShown), "board")]
[JsonDerivedType(typeof(ViewMoved), "view")]
[JsonDerivedType(typeof(PointerMoved), "pointer")]
[JsonDerivedType(typeof(PointerAway), "away")]
[JsonDerivedType(typeof(BoardGrown), "grow")]
[JsonDerivedType(typeof(CoverLifted), "cover")]
[JsonDerivedType(typeof(LitUp), "light")]
[JsonDerivedType(typeof(WentBack), "retake")]
[JsonDerivedType(typeof(PlaceTaken), "place")]
[JsonDerivedType(typeof(NoteMade), "note")]
[JsonDerivedType(typeof(TermNoted), "term")]
[JsonDerivedType(typeof(NoteTakenOff), "unnote")]
[JsonDerivedType(typeof(NoteOver), "over")]
public abstract record TakeEvent;

/// <summary>
/// A retake: what was done since an earlier moment is taken back, and the take goes on from the boards as they were then. That
/// moment is named by its sound, so it is exact.
/// </summary>
/// <param name="Segment">The segment of the moment that is gone back to.</param>
/// <param name="Sample">Its sample, counted from the segment's first.</param>
public sealed record WentBack(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("g")] int Segment,
    [property: JsonPropertyName("n")] long Sample) : TakeEvent;

/// <summary>
/// The take is recorded for a place of the lesson: in the stead of what lies between two moments, or between them where they are one.
/// </summary>
/// <param name="FromTake">The take of the first moment, and its sample.</param>
/// <param name="UntilTake">The take of the moment with which the lesson goes on, and its sample.</param>
public sealed record PlaceTaken(
    [property: JsonPropertyName("t")] double Time,
    [property: JsonPropertyName("a")] Guid FromTake,
    [property: JsonPropertyName("f")] long From,
    [property: JsonPropertyName("b")] Guid UntilTake,
    [property: JsonPropertyName("u")] long Until) : TakeEvent;
