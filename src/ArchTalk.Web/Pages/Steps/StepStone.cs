namespace ArchTalk.Web.Pages.Steps;

/// <summary>A stone of the arch at the top: a step of the lesson.</summary>
/// <param name="Address">Where it leads; null when the step can't be taken yet.</param>
/// <param name="Hint">What one does there, or why it can't be taken yet.</param>
public sealed record StepStone(string Word, string? Address, bool IsDone, bool IsCurrent, string Hint);
