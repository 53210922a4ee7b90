using System.Text.Json.Serialization;
using ArchTalk.Core.Boards.Drawings;

namespace ArchTalk.Core.Formats;

/// <summary>What lies on one board.</summary>
/// <param name="Id">The board's.</param>
/// <param name="Description">What there is to see on it, in words; may be empty.</param>
/// <param name="Items">From back to front.</param>
/// <param name="Strokes">Ordered by when they first appear.</param>
/// <param name="Blanks">What is to be filled in, line by line; without what lies under a cover, and without what is right.</param>
public sealed record BoardFile(Guid Id, string Description, IReadOnlyList<PlacedDrawing> Items, IReadOnlyList<StrokeEntry> Strokes,
    IReadOnlyList<TextEntry> Texts, IReadOnlyList<BlankEntry> Blanks);

/// <summary>A blank on a board.</summary>
/// <param name="Box">Left, top, width and height in tenths of a board unit.</param>
/// <param name="FilledAt">When the teacher begins to fill it; null for never.</param>
/// <param name="WholeAt">When all of it is there.</param>
public sealed record BlankEntry(IReadOnlyList<int> Box, int? FilledAt, int? WholeAt);

/// <summary>What was typed.</summary>
/// <param name="Key">As of a stroke.</param>
/// <param name="Size">Of the letters (the em) in tenths of a board unit.</param>
/// <param name="Color">#RRGGBB.</param>
/// <param name="Lives">Pairs of times: there from, gone from; -1 for never.</param>
/// <param name="Steps">The whole text from each time on.</param>
public sealed record TextEntry(string Key, int X, int Y, int Size, string Color, IReadOnlyList<int> Lives, IReadOnlyList<TextStep> Steps);

/// <summary>What a text says from a time on.</summary>
/// <param name="Looks">A character for each UTF-16 unit of the text (docs/formats/timeline.md); none when all are plain.</param>
public sealed record TextStep(
    int At, string Text, [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)] string? Looks = null);

/// <summary>A stroke.</summary>
/// <param name="Key">The stroke as the takes know it; a range that is used twice draws it twice.</param>
/// <param name="Style">Index in the timeline's styles.</param>
/// <param name="Lives">Pairs of times: there from, gone from; -1 for never.</param>
/// <param name="Points">X, y, pressure (0 to 255), time.</param>
/// <param name="LineHeight">Of the line of words it settled on, in tenths of a board unit; a highlighter is as broad, with square ends.</param>
public sealed record StrokeEntry(
    string Key, int Style, IReadOnlyList<int> Lives, Rows Points,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)] int LineHeight);

/// <summary>What lies on several boards, for one request.</summary>
public sealed record BoardsFile(IReadOnlyList<BoardFile> Boards);

/// <summary>What lies under the covers of a board: its items as they are, and its pictures without anything over them.</summary>
/// <param name="Description">What there is to see on the board without its covers, in words.</param>
public sealed record UnderFile(string Description, IReadOnlyList<PlacedDrawing> Items, IReadOnlyList<BoardPicture> Pictures);

/// <summary>The pointer within one minute of the lesson.</summary>
public sealed record PointerFile(IReadOnlyList<PointerEntry> Runs);

/// <summary>An unbroken presence of the pointer on one board, or the part of it within a minute.</summary>
/// <param name="From">When it is there from.</param>
/// <param name="To">When it leaves, or the minute is over; -1 for never.</param>
/// <param name="Path">Time, x, y. It moves straight from row to row and rests after the last.</param>
public sealed record PointerEntry(int Board, int From, int To, Rows Path);
