using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>
/// A note that is laid on a board where something was said wrong. It shows from a moment on; if that was taken out, so is the note.
/// </summary>
/// <param name="Board">Where it lies.</param>
/// <param name="Note">What it says, and where; its identity is that of the correction.</param>
/// <param name="Until">When it goes; null for never.</param>
public sealed record Correction(TakeId Take, TakeTime At, Guid Board, TextItem Note, TakeTime? Until = null);
