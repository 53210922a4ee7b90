using System.Text.Json.Serialization;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>Which kind of edit lies over a stretch of a take.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<EditKind>))]
public enum EditKind
{
    TakenOut = 0,
    MadeShort = 1,
    Muted = 2,

    /// <summary>A pause was put in; its stretch is empty.</summary>
    Paused = 3,

    /// <summary>A take was recorded for a place of the lesson; its stretch is the whole of it.</summary>
    SaidAgain = 4,

    /// <summary>A retake took it back while recording; its stretch is the branch.</summary>
    TakenBack = 5,

    /// <summary>It holds only this time.</summary>
    OnlyThisTime = 6,

    /// <summary>A tone lies over it.</summary>
    UnderTone = 7,

    /// <summary>A line was laid on the words it was drawn along; its stretch is from its first point to its last.</summary>
    Settled = 8,
}

/// <summary>What a teacher does on Refine, in one press. <see cref="EditSteps"/> says what becomes of the list of edits.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "do")]
[JsonDerivedType(typeof(TakeOut), "takeOut")]
[JsonDerivedType(typeof(MakeShort), "makeShort")]
[JsonDerivedType(typeof(MuteVoice), "mute")]
[JsonDerivedType(typeof(PutInPause), "pause")]
[JsonDerivedType(typeof(ChangePause), "changePause")]
[JsonDerivedType(typeof(HoldOnlyThisTime), "onlyThisTime")]
[JsonDerivedType(typeof(AddStop), "addStop")]
[JsonDerivedType(typeof(ChangeStop), "changeStop")]
[JsonDerivedType(typeof(RemoveStop), "removeStop")]
[JsonDerivedType(typeof(Accept), "accept")]
[JsonDerivedType(typeof(Leave), "leave")]
[JsonDerivedType(typeof(PutBack), "putBack")]
[JsonDerivedType(typeof(MoveEdges), "moveEdges")]
[JsonDerivedType(typeof(LeaveOutTemporary), "leaveOutTemporary")]
[JsonDerivedType(typeof(MoveStretch), "move")]
public abstract record EditStep;

/// <summary>Takes out a stretch of the lesson.</summary>
/// <param name="KeepsMarks">Whether what was drawn in it stays.</param>
public sealed record TakeOut(double FromMs, double ToMs, bool KeepsMarks = false) : EditStep;

/// <summary>Makes the silences within a stretch of the lesson short.</summary>
/// <param name="RestMs">How long they are to be; what is drawn in them may need more.</param>
public sealed record MakeShort(double FromMs, double ToMs, double RestMs) : EditStep;

/// <summary>Makes the voice silent in a stretch of the lesson, or lays a tone over it; everything else stays.</summary>
public sealed record MuteVoice(double FromMs, double ToMs, bool HasTone = false) : EditStep;

/// <summary>Lets a stretch of the lesson hold only this time.</summary>
public sealed record HoldOnlyThisTime(double FromMs, double ToMs) : EditStep;

/// <summary>Lets the lesson wait.</summary>
public sealed record PutInPause(double AtMs, double LengthMs) : EditStep;

/// <summary>Makes a pause that was put in longer or shorter.</summary>
public sealed record ChangePause(TakeId Take, TakeTime At, double LengthMs) : EditStep;

/// <summary>Puts a thinking stop at the end of the phrase that is heard, or was last heard.</summary>
/// <param name="Id">A new one.</param>
public sealed record AddStop(Guid Id, double AtMs, string Question = "") : EditStep;

/// <summary>Words or moves a thinking stop.</summary>
/// <param name="AtMs">Null for where it is.</param>
public sealed record ChangeStop(Guid Id, StopKind Kind, string Question, double WaitMs, double? AtMs = null) : EditStep;

public sealed record RemoveStop(Guid Id) : EditStep;

/// <summary>A proposal that is accepted.</summary>
/// <param name="Source">As the teacher moved its edges; null as proposed.</param>
/// <param name="RestMs">How long it is to be instead; null as proposed.</param>
/// <param name="Stop">A new one, for the thinking stop of a <see cref="ProposalKind.Question"/>; null for all others.</param>
public sealed record Accepted(ProposalKey Key, TimeRange<TakeTime>? Source = null, double? RestMs = null, Guid? Stop = null);

/// <summary>Does what was proposed.</summary>
public sealed record Accept(IReadOnlyList<Accepted> Proposals) : EditStep;

/// <summary>Leaves what was proposed as it is.</summary>
public sealed record Leave(IReadOnlyList<ProposalKey> Proposals) : EditStep;

/// <summary>
/// Puts back what was taken out, made short, mute or said again, or takes out a pause; puts back what a retake took back, or takes
/// that out again; lets hold always what held only this time; leaves a line as it was drawn.
/// </summary>
public sealed record PutBack(EditKind Kind, TakeId Take, TimeRange<TakeTime> Source) : EditStep;

/// <summary>Moves the edges of what was taken out, made short or mute.</summary>
public sealed record MoveEdges(EditKind Kind, TakeId Take, TimeRange<TakeTime> Source, TimeRange<TakeTime> To) : EditStep;

/// <summary>Leaves out of the lesson what holds only this time, or has it in.</summary>
public sealed record LeaveOutTemporary(bool IsOut) : EditStep;

/// <summary>Moves a stretch of the lesson, a chapter say, before another moment of it.</summary>
/// <param name="BeforeMs">Outside of the stretch; the end of the lesson for behind everything.</param>
public sealed record MoveStretch(double FromMs, double ToMs, double BeforeMs) : EditStep;
