using System.Globalization;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Lessons;

/// <summary>Proposes chapters, and places the teacher's own on the timeline.</summary>
public static class Chapters
{
    /// <summary>Shorter parts are joined to the one before.</summary>
    public static readonly Duration Shortest = Duration.FromSeconds(10);

    /// <summary>A silence at least this long may begin a new part.</summary>
    public static readonly Duration LongSilence = Duration.FromSeconds(3);

    /// <summary>A silence only begins a part when the parts on both sides are at least this long (common practice, no source).</summary>
    public static readonly Duration ShortestBySilence = Duration.FromSeconds(45);

    /// <summary>Nor when they are shorter than so much of the lesson: students look through ten chapters, not through forty.</summary>
    public const double LeastShare = 0.1;

    /// <summary>
    /// Proposes where the parts of a lesson begin: at 0, where the teacher changed to another board and stayed, and after long
    /// silences, the longest first; who draws is in the middle of something. A part is named by the board it begins on; a second part on
    /// the same board says so.
    /// </summary>
    /// <param name="timeline">The lesson.</param>
    /// <param name="silences">Its silences in lesson time.</param>
    public static IReadOnlyList<TimedChapter> Propose(LessonTimeline timeline, IReadOnlyList<TimeRange<LessonTime>> silences)
    {
        if (timeline.Boards.Count == 0 || timeline.Length == Duration.Zero)
        {
            return [];
        }

        var end = LessonTime.Zero + timeline.Length;
        var starts = new List<(LessonTime At, int Board)>();
        for (var i = 0; i < timeline.Shown.Count; i++)
        {
            var at = timeline.Shown[i].At;
            var stays = (i + 1 < timeline.Shown.Count ? timeline.Shown[i + 1].At : end) - at;
            var fits = starts.Count == 0
                || (stays >= Shortest && at - starts[^1].At >= Shortest && timeline.Shown[i].Value.Board != starts[^1].Board);
            if (fits)
            {
                starts.Add((at, timeline.Shown[i].Value.Board));
            }
        }

        var least = Duration.FromSeconds(Math.Max(ShortestBySilence.Seconds, LeastShare * timeline.Length.Seconds));
        var births = timeline.Boards.SelectMany(b => b.Strokes.Select(s => s.Birth).Concat(b.Texts.Select(t => t.Birth))).Order().ToArray();
        bool IsDrawnIn(TimeRange<LessonTime> silence) =>
            Search.CountTo(births.Length, i => births[i] < silence.Start) < Search.CountTo(births.Length, i => births[i] < silence.End);
        foreach (var silence in silences.Where(s => s.End - s.Start >= LongSilence && !IsDrawnIn(s)).OrderByDescending(s => s.End - s.Start))
        {
            var next = starts.FindIndex(s => s.At > silence.End);
            var before = next < 0 ? starts.Count - 1 : next - 1;
            var after = next < 0 ? end : starts[next].At;
            if (silence.End - starts[before].At >= least && after - silence.End >= least)
            {
                starts.Insert(before + 1, (silence.End, starts[before].Board));
            }
        }

        return Name(timeline, starts);
    }

    /// <summary>
    /// The teacher's chapters in order of lesson time. One whose moment was taken out begins at the join; one whose moment is nowhere
    /// in the lesson is left out. The first begins at 0.
    /// </summary>
    public static IReadOnlyList<TimedChapter> Place(IEnumerable<Chapter> chapters, Arrangement arrangement)
    {
        var placed = new List<TimedChapter>();
        foreach (var chapter in chapters)
        {
            IReadOnlyList<LessonTime> places = chapter.Moment() is { } moment ? arrangement.Places(moment, WhenCut.Snap) : [LessonTime.Zero];
            placed.AddRange(places.Select(at => new TimedChapter(at, chapter.Title, chapter.Id)));
        }

        placed.Sort((a, b) => a.At.CompareTo(b.At));
        if (placed.Count > 0)
        {
            placed[0] = placed[0] with { At = LessonTime.Zero };
        }

        // Two chapters at one instant: a student can only be in the later one.
        return [.. placed.Where((c, i) => i + 1 == placed.Count || placed[i + 1].At > c.At)];
    }

    private static List<TimedChapter> Name(LessonTimeline timeline, List<(LessonTime At, int Board)> starts)
    {
        var chapters = new List<TimedChapter>();
        var visits = new Dictionary<string, int>(StringComparer.Ordinal);
        foreach (var (at, board) in starts)
        {
            var title = timeline.Boards[board].Board.Title;
            title = string.IsNullOrWhiteSpace(title) ? string.Create(CultureInfo.InvariantCulture, $"Board {board + 1}") : title.Trim();
            var visit = visits[title] = visits.GetValueOrDefault(title) + 1;
            chapters.Add(new(at, visit == 1 ? title : string.Create(CultureInfo.InvariantCulture, $"{title}, part {visit}"), Guid.Empty));
        }

        return chapters;
    }
}
