namespace ArchTalk.Core.Lessons;

/// <summary>How far a lesson has come, as one word in lists.</summary>
public enum LessonState
{
    Empty = 0,
    Prepared = 1,
    Recorded = 2,
    Published = 3,
    Withdrawn = 4,
}

/// <summary>The five steps of the work on a lesson, in order.</summary>
public enum LessonStep
{
    Prepare = 0,
    Record = 1,
    Refine = 2,
    Publish = 3,
    Watch = 4,
}

/// <summary>What there is of a lesson, and what follows: which steps are done, and which can be taken.</summary>
/// <param name="Boards">How many boards it has.</param>
/// <param name="IsRecorded">Whether a finished take with sound is in it.</param>
/// <param name="HasChapters">Whether its chapters were saved once.</param>
/// <param name="Publications">How many versions were published.</param>
/// <param name="IsWithdrawn">Whether its link is closed.</param>
public sealed record LessonProgress(int Boards, bool IsRecorded, bool HasChapters, int Publications, bool IsWithdrawn)
{
    /// <summary>Whether students can watch it now.</summary>
    public bool IsOpen => Publications > 0 && !IsWithdrawn;

    public LessonState State =>
        Publications > 0 ? (IsWithdrawn ? LessonState.Withdrawn : LessonState.Published)
        : IsRecorded ? LessonState.Recorded
        : Boards > 0 ? LessonState.Prepared
        : LessonState.Empty;

    /// <summary>Whether the work of a step is done; watching never is.</summary>
    public bool IsDone(LessonStep step) => step switch
    {
        LessonStep.Prepare => Boards > 0,
        LessonStep.Record => IsRecorded,
        LessonStep.Refine => IsRecorded && HasChapters,
        LessonStep.Publish => IsOpen,
        _ => false,
    };

    /// <summary>Whether a step can be taken: a step opens as soon as there is something to do in it.</summary>
    public bool CanTake(LessonStep step) => step switch
    {
        LessonStep.Prepare => true,
        LessonStep.Record => Boards > 0,
        LessonStep.Refine or LessonStep.Publish => IsRecorded,
        _ => IsOpen,
    };

    /// <summary>What one does in a step, or what must come before it.</summary>
    public string Hint(LessonStep step) => (step, CanTake(step)) switch
    {
        (LessonStep.Prepare, _) => "Boards, vocabulary, references and the task",
        (LessonStep.Record, true) => "Talk and draw on the boards",
        (LessonStep.Record, false) => "Add a board first",
        (LessonStep.Refine, true) => "Listen again, set the chapters",
        (LessonStep.Publish, true) => "Make the link for students",
        (LessonStep.Refine or LessonStep.Publish, false) => "Record a take first",
        (_, true) => "See it as students do",
        _ => "Publish the lesson first",
    };
}
