using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>Something was noted, or said otherwise about the moment of an earlier note of the same number.</summary>
public sealed record Noted(TakeTime At, int Number, NoteKind Kind, string Text, Duration Wait, Guid? Term = null) : TakeAction(At);

public sealed record NoteRemoved(TakeTime At, int Number) : TakeAction(At);

/// <summary>The stretch that a note began ends.</summary>
public sealed record NoteEnded(TakeTime At, int Number) : TakeAction(At);
