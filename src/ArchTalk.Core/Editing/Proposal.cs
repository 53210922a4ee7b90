using System.Text.Json.Serialization;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>Why something is proposed.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<ProposalKind>))]
public enum ProposalKind
{
    /// <summary>Nobody has spoken yet.</summary>
    Beginning = 0,

    /// <summary>A few words, a long silence, and then the lesson begins.</summary>
    FalseStart = 1,

    /// <summary>Nobody speaks any more.</summary>
    Ending = 2,

    /// <summary>A long silence behind the lesson, and then a few words more.</summary>
    Afterword = 3,

    /// <summary>The teacher noted while recording that something here is to be seen to.</summary>
    FixLater = 4,

    /// <summary>Nobody speaks and nothing happens.</summary>
    Silence = 5,

    /// <summary>Nobody speaks while something is drawn or typed.</summary>
    WritingSilence = 6,

    /// <summary>The teacher waited after a thinking stop: students wait there by themselves.</summary>
    Waiting = 7,

    /// <summary>The teacher waited and then uncovered something, and there is no thinking stop: one is offered.</summary>
    Question = 8,

    /// <summary>Somebody speaks far quieter than in the rest of the take: it is offered to be said again.</summary>
    Quiet = 9,

    /// <summary>A short sound by itself: a cough, a knock, a hesitation, but also a single word.</summary>
    ShortSound = 10,

    /// <summary>A line was drawn along words and nobody answered on which: it can be laid on them now.</summary>
    Unsettled = 11,
}

/// <summary>A stretch of a take.</summary>
public readonly record struct TakeStretch(TakeId Take, TimeRange<TakeTime> Source);

/// <summary>By what a proposal is known again: it is found anew after every edit.</summary>
/// <param name="Start">Where its stretch begins.</param>
public sealed record ProposalKey(ProposalKind Kind, TakeId Take, TakeTime Start);

/// <summary>Something that might be taken out, made shorter or better; the teacher decides.</summary>
/// <param name="Source">Half-open. Its edges lie in silence or at the ends of the take, never in a word.</param>
/// <param name="Rest">How long the stretch is to be afterwards; null when it isn't to be made shorter.</param>
/// <param name="KeepsMarks">Whether what was drawn in it stays.</param>
/// <param name="Text">
/// What the teacher noted, of a <see cref="ProposalKind.FixLater"/>; the words that an <see cref="ProposalKind.Unsettled"/> line lies on; else empty.
/// </param>
public sealed record Proposal(ProposalKind Kind, TakeId Take, TimeRange<TakeTime> Source, Duration? Rest, bool KeepsMarks, string Text = "")
{
    /// <summary>What becomes of the stroke; null for all but <see cref="ProposalKind.Unsettled"/>.</summary>
    public MarkChange? Change { get; init; }

    public ProposalKey Key => new(Kind, Take, Source.Start);
}
