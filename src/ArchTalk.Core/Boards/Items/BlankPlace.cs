namespace ArchTalk.Core.Boards.Items;

/// <summary>Where something is to be filled in on a board, in board units.</summary>
/// <param name="X">Where the letters begin.</param>
/// <param name="Y">The upper edge of their line.</param>
/// <param name="Size">Of the letters (the em).</param>
/// <param name="Answers">What counts as right; may be empty.</param>
public sealed record BlankPlace(double X, double Y, double Width, double Height, double Size, IReadOnlyList<string> Answers);
