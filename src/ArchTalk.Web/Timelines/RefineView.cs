using ArchTalk.Core.Editing;

namespace ArchTalk.Web.Timelines;

/// <summary>The lesson as Refine shows it, beside timeline.json: what is proposed, what was done, and where somebody speaks. Times in ms.</summary>
/// <param name="Version">Of the edits: a step says which state it starts from.</param>
/// <param name="Revision">Of the lesson: another one sounds and looks otherwise.</param>
/// <param name="WholeMs">How long it would be with nothing taken out.</param>
/// <param name="Phrases">Where somebody speaks: from and to by turns.</param>
/// <param name="Edits">What was taken out, made short or mute, and where a pause was put in, in order of the lesson.</param>
/// <param name="LeavesOutTemporary">Whether what holds only this time is out of the lesson.</param>
/// <param name="Steps">What was done, from the first to the last; also what was undone and can be redone.</param>
public sealed record RefineView(
    int Version,
    bool CanUndo,
    bool CanRedo,
    long Revision,
    double LengthMs,
    double WholeMs,
    IReadOnlyList<long> Phrases,
    IReadOnlyList<ProposalView> Proposals,
    IReadOnlyList<EditView> Edits,
    IReadOnlyList<StopView> Stops,
    bool LeavesOutTemporary,
    IReadOnlyList<StepView> Steps);

/// <summary>A proposal and where it lies in the lesson.</summary>
/// <param name="Source">Its stretch of the take, in samples.</param>
/// <param name="RestMs">How long it becomes; null when it is to be taken out.</param>
public sealed record ProposalView(
    ProposalKey Key, long[] Source, double FromMs, double ToMs, double? RestMs, bool KeepsMarks, string Text);

/// <summary>An edit and where it lies in the lesson.</summary>
/// <param name="AtMs">Where it is; that of the join for what was taken out.</param>
/// <param name="LengthMs">How long the stretch was; of a pause, how long it is.</param>
/// <param name="RestMs">How long it is now.</param>
public sealed record EditView(EditKind Kind, Guid Take, long[] Source, double AtMs, double LengthMs, double RestMs);

/// <summary>A thinking stop and where it lies.</summary>
public sealed record StopView(Guid Id, double AtMs, StopKind Kind, string Question, double WaitMs);

/// <summary>Something that was done.</summary>
/// <param name="Number">Of the state that it led to.</param>
public sealed record StepView(int Number, string Said, DateTimeOffset At);
