using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>A stretch of a take as a part of the lesson.</summary>
/// <param name="Take">Passed over when the lesson has no such take.</param>
/// <param name="Source">Half-open; an end beyond that of the take is its end.</param>
/// <param name="As">
/// Of when the take is looked at: what a retake had taken back by then is not in it. Null for its end. A branch that a retake took
/// back is put back by naming the end of the branch.
/// </param>
public sealed record SequenceRange(TakeId Take, TimeRange<TakeTime> Source, TakeTime? As = null);

/// <summary>A stretch is taken out. What was drawn wholly inside goes with it, unless the teacher keeps it.</summary>
public sealed record Cut(TakeId Take, TimeRange<TakeTime> Source, bool KeepsMarks = false);

/// <summary>A silence is made as short as <paramref name="Length"/>; what is drawn in it is drawn faster.</summary>
public sealed record ShortenedSilence(TakeId Take, TimeRange<TakeTime> Source, Duration Length);

/// <summary>The lesson waits before a moment.</summary>
public sealed record InsertedPause(TakeId Take, TakeTime At, Duration Length);

/// <summary>The voice isn't heard; everything else stays.</summary>
/// <param name="HasTone">Whether a tone is heard instead: a name, say, that isn't for all.</param>
public sealed record Mute(TakeId Take, TimeRange<TakeTime> Source, bool HasTone = false);

/// <summary>A stretch that holds only this time; without it, it is as if it had been taken out.</summary>
public sealed record TemporaryStretch(TakeId Take, TimeRange<TakeTime> Source);
