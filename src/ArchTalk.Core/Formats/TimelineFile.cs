using System.Text.Json.Serialization;
using ArchTalk.Core.Ink;

namespace ArchTalk.Core.Formats;

/// <summary>
/// timeline.json: what players read first (docs/formats/timeline.md). Times are whole milliseconds of lesson time, places tenths of
/// a board unit.
/// </summary>
/// <param name="Shown">Time, board, and the board beside it or -1.</param>
/// <param name="PointerMinutes">The minutes in which the pointer is there; each has a file of its own.</param>
public sealed record TimelineFile(
    int Length, IReadOnlyList<InkStyle> Styles, IReadOnlyList<BoardEntry> Boards, Rows Shown, IReadOnlyList<int> PointerMinutes,
    IReadOnlyList<PlacementEntry> Placements, IReadOnlyList<ChapterEntry> Chapters, IReadOnlyList<StopEntry> Stops,
    IReadOnlyList<KeyLineEntry> KeyLines, IReadOnlyList<TermEntry> Terms)
{
    public string Format => TimelineFiles.Format;

    public int Version => TimelineFiles.Version;
}

/// <summary>A copy of a board's picture at one size.</summary>
/// <param name="Src">Its address, relative to the timeline.</param>
/// <param name="Width">In pixels.</param>
/// <param name="Height">In pixels.</param>
public sealed record BoardPicture(string Src, int Width, int Height);

/// <summary>A board of the lesson.</summary>
/// <param name="Height">At the end, in units.</param>
/// <param name="Heights">Time, height.</param>
/// <param name="Views">For each pane: time, left, top, width.</param>
/// <param name="Pictures">From small to large.</param>
/// <param name="Ink">The address of its <see cref="BoardFile"/>.</param>
/// <param name="Under">The address of what lies under its covers, on a published board that has any.</param>
/// <param name="Strokes">How many there are.</param>
public sealed record BoardEntry(
    Guid Id, string Title, int Height, Rows Heights, IReadOnlyList<Rows> Views, IReadOnlyList<BoardPicture> Pictures,
    IReadOnlyList<ItemEntry> Items, IReadOnlyList<ParameterEntry> Parameters, IReadOnlyList<LightEntry> Lights, string Ink,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? Under, int Strokes);

/// <summary>When an item shows.</summary>
/// <param name="Shows">Time, and 1 for showing.</param>
public sealed record ItemEntry(Guid Item, Rows Shows);

/// <summary>The values of an item's parameter.</summary>
/// <param name="Values">Time, 1 when it is set and 0 when it is as the item was placed, value.</param>
public sealed record ParameterEntry(Guid Item, string Name, Rows Values);

/// <summary>Where a stretch of a take is in the lesson.</summary>
/// <param name="InsteadOf">The stretches in whose stead the take was recorded: what was there is where this begins.</param>
public sealed record PlacementEntry(
    Guid Take, IReadOnlyList<PieceEntry> Pieces,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyList<StretchEntry>? InsteadOf = null);

/// <summary>A stretch of a take: from and to in samples.</summary>
public sealed record StretchEntry(Guid Take, IReadOnlyList<long> Source);

/// <summary>A piece of it, in samples at 48 kHz, so that a moment is found exactly.</summary>
/// <param name="Kind">straight, cut, shortened, pause or takenBack.</param>
/// <param name="Source">From and to in the take.</param>
/// <param name="Target">From and to in the lesson.</param>
public sealed record PieceEntry(string Kind, IReadOnlyList<long> Source, IReadOnlyList<long> Target);

/// <summary>A chapter and when it begins.</summary>
public sealed record ChapterEntry(int At, string Title, Guid Id);

/// <summary>A term of the vocabulary is said.</summary>
public sealed record TermEntry(int At, Guid Term);

/// <summary>A thinking stop.</summary>
/// <param name="Kind">untilStudentGoesOn, setTime or untilAnswerShown.</param>
/// <param name="Wait">For a set time: how long, in ms.</param>
/// <param name="AnswerAt">When its answer is uncovered.</param>
public sealed record StopEntry(
    int At, string Kind, string Question, int Wait, [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] int? AnswerAt);

/// <summary>What of a board is lit up from a time on.</summary>
/// <param name="Outline">X, y; empty when the light is put out.</param>
public sealed record LightEntry(int At, Rows Outline);

/// <summary>A key line.</summary>
/// <param name="WholeAt">When all of it is there.</param>
/// <param name="Stroke">The first of its strokes, as the takes know it.</param>
/// <param name="Kind">write, mark or look: what students do with it.</param>
/// <param name="Text">Empty when it is only to be seen.</param>
/// <param name="Box">Left, top, width and height in board units.</param>
public sealed record KeyLineEntry(int At, int WholeAt, int Board, string Stroke, string Kind, string Text, bool Must, IReadOnlyList<int> Box);
