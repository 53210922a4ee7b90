using System.Text.Json;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using CsCheck;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>What holds of every lesson, tried on made-up ones.</summary>
public class ArrangementPropertyTests
{
    private static void Sample(Action<MadeLesson, Random> check) =>
        Gen.Int.Sample(seed => check(RandomLessons.Make(seed), new Random(seed)), iter: 200);

    private static LessonTimeline Compile(IReadOnlyList<TakeLog> logs, EditList edits) =>
        TimelineCompiler.Compile(RandomLessons.Boards, Arrangement.Resolve(logs, edits));

    // Everything that players are sent.
    private static string Bytes(LessonTimeline timeline)
    {
        var file = TimelineFiles.Timeline(timeline, [.. timeline.Boards.Select(_ => Array.Empty<BoardPicture>())], []);
        return JsonSerializer.Serialize(new
        {
            file,
            boards = timeline.Boards.Select(b => TimelineFiles.Board(b, [])),
            pointer = file.PointerMinutes.Select(m => TimelineFiles.Pointer(timeline, m)),
        });
    }

    private static string Bytes(MadeLesson lesson, EditList edits) => Bytes(Compile(lesson.Logs, edits));

    [Fact]
    public void Splitting_ranges_and_removing_nothing_changes_no_byte() => Sample((lesson, random) =>
    {
        var whole = lesson.Logs.Select(l => new SequenceRange(l.Id, new(TakeTime.Zero, l.End)));
        var sequence = lesson.Edits.Sequence.Count > 0 ? lesson.Edits.Sequence : [.. whole];
        SequenceRange[] Split(SequenceRange range)
        {
            var middle = new TakeTime(random.NextInt64(range.Source.Start.Samples, range.Source.End.Samples + 1));
            return [range with { Source = new(range.Source.Start, middle) }, range with { Source = new(middle, range.Source.End) }];
        }

        Bytes(lesson, lesson.Edits with { Sequence = [.. sequence.SelectMany(Split).SelectMany(Split)] }).ShouldBe(
            Bytes(lesson, lesson.Edits with { Sequence = sequence }));
    });

    [Fact]
    public void Edits_that_do_nothing_change_no_byte() => Sample((lesson, _) =>
    {
        var (edits, log) = (lesson.Edits, lesson.Logs[0]);
        var gone = new TakeId(Guid.NewGuid());
        Bytes(lesson, edits with
        {
            Cuts = [.. edits.Cuts, new(log.Id, new(TakeTime.Zero, TakeTime.Zero)), new(gone, new(TakeTime.Zero, log.End))],
            Silences = [.. edits.Silences, new(log.Id, new(TakeTime.Zero, log.End), log.Length)],
            Pauses = [.. edits.Pauses, new(log.Id, TakeTime.Zero, Duration.Zero)],
            Marks = [new(gone, 1) { IsGone = true }, .. edits.Marks],
            Mutes = [new(log.Id, new(TakeTime.Zero, log.End))],
        }).ShouldBe(Bytes(lesson, edits));
    });

    [Fact]
    public void An_edit_list_comes_back_from_its_json_and_an_edit_undone_leaves_no_trace() => Sample((lesson, _) =>
    {
        var before = Bytes(lesson, lesson.Edits);
        Bytes(lesson, lesson.Edits with { Cuts = [.. lesson.Edits.Cuts, new(lesson.Logs[0].Id, new(TakeTime.Zero, lesson.Logs[0].End))] });
        var json = JsonSerializer.Serialize(lesson.Edits, JsonSerializerOptions.Web);
        Bytes(lesson, JsonSerializer.Deserialize<EditList>(json, JsonSerializerOptions.Web)!).ShouldBe(before);
    });

    [Fact]
    public void Every_stroke_of_a_shortened_silence_is_there_and_complete_at_its_end() => Sample((lesson, random) =>
    {
        var log = Plain(lesson.Logs[0]);
        var silence = new ShortenedSilence(log.Id, new(new TakeTime(48_000), new TakeTime(96_000)), Duration.FromMilliseconds(random.Next(1, 800)));
        var arrangement = Arrangement.Resolve([log], new EditList { Silences = [silence] });
        var timeline = TimelineCompiler.Compile(RandomLessons.Boards, arrangement);
        var end = new LessonTime(48_000 + silence.Length.Samples);
        var inside = log.Actions.OfType<StrokeDrawn>().Where(s => silence.Source.Contains(s.At) && s.End < silence.Source.End && Known(s)).ToArray();
        foreach (var stroke in inside)
        {
            var compiled = timeline.Boards.SelectMany(b => b.Strokes).Single(s => s.Key.Stroke == stroke.Stroke);
            compiled.IsAliveAt(end).ShouldBeTrue();
            compiled.DrawnBy(end).ShouldBe(compiled.Points.Count);
        }
    });

    [Fact]
    public void Nothing_wholly_inside_a_cut_remains() => Sample((lesson, _) =>
    {
        var log = lesson.Logs[0];
        var cut = new Cut(log.Id, new(new TakeTime(33_600), new TakeTime(81_600)));
        var timeline = Compile([log], new EditList { Cuts = [cut] });
        var inside = log.Actions.OfType<StrokeDrawn>().Where(s => cut.Source.Contains(s.At) && s.End < cut.Source.End).Select(s => s.Stroke)
            .ToHashSet();
        timeline.Boards.SelectMany(b => b.Strokes).ShouldAllBe(s => !inside.Contains(s.Key.Stroke));
    });

    [Fact]
    public void A_retake_equals_the_same_take_recorded_without_the_slip() => Sample((lesson, random) =>
    {
        var clean = Plain(lesson.Logs[0], keepsAll: true);
        var back = new TakeTime(random.NextInt64(clean.Length.Samples / 2, clean.Length.Samples));
        if (clean.Actions.OfType<StrokeDrawn>().Any(s => s.At < back && back <= s.End))
        {
            // A retake lifts the pen.
            return;
        }

        var length = new Duration(random.Next(1, 200_000));
        var slip = lesson.Logs[^1].Actions.Where(a => a is not (Retaken or PointerChanged) && a.At < TakeTime.Zero + length)
            .Select(a => Later(a, back - TakeTime.Zero, new(clean.Id, 5000)));
        List<TakeAction> actions = [.. clean.Actions.Where(a => a.At < back), .. slip.Where(a => a.At < back
            + length), new Retaken(back + length, back)];
        actions.AddRange(clean.Actions.Where(a => a.At >= back).Select(a => Later(a, length, null)));
        var slipped = new TakeLog(clean.Id, clean.Length + length, actions);
        var (with, without) = (Compile([slipped], EditList.Empty), Compile([clean], EditList.Empty));
        with.Length.ShouldBe(without.Length);
        Bytes(with with { Placements = [] }).ShouldBe(Bytes(without with { Placements = [] }));
    });

    [Fact]
    public void Places_and_the_painted_page_agree() => Sample((lesson, random) =>
    {
        var arrangement = Arrangement.Resolve(lesson.Logs, lesson.Edits with { Marks = [], AddedInk = [] });
        var timeline = TimelineCompiler.Compile(RandomLessons.Boards, arrangement);
        foreach (var stroke in timeline.Boards.SelectMany(b => b.Strokes))
        {
            // Where Places says the moment is at which it was begun, there it appears, unless it came with a set-back or was revived.
            var drawn = lesson.Logs.SelectMany(l => l.Actions).OfType<StrokeDrawn>().Single(s => s.Stroke == stroke.Key.Stroke);
            var place = arrangement.Placements[stroke.Key.Placement].Map.ToLesson(drawn.At);
            arrangement.Places(new Moment(drawn.Stroke.Take, drawn.At), WhenCut.Snap).ShouldContain(place);
            stroke.Birth.ShouldBeGreaterThanOrEqualTo(place);
            stroke.IsAliveAt(new LessonTime(Math.Max(0, place.Samples - 1))).ShouldBe(place == LessonTime.Zero && stroke.Birth == place);
        }

        var joins = timeline.Placements.SelectMany(p => p.Map.Pieces)
            .SelectMany(p => (long[])[p.Target.Start.Samples - 1, p.Target.Start.Samples, p.Target.End.Samples - 1]);
        foreach (var time in joins.Where(t => t >= 0 && t < timeline.Length.Samples).Append(random.NextInt64(timeline.Length.Samples + 1)))
        {
            if (arrangement.MomentAt(new LessonTime(time)) is { } moment)
            {
                var nearest = arrangement.Places(moment, WhenCut.Drop).Select(p => Math.Abs(p.Samples - time)).DefaultIfEmpty(long.MaxValue).Min();
                var waits = timeline.Placements.SelectMany(p => p.Map.Pieces)
                    .Any(p => p.Kind == PieceKind.Pause && p.Target.Contains(new LessonTime(time)));
                (nearest <= 1 || waits || time >= timeline.Length.Samples - 1).ShouldBeTrue($"{time} is {moment}, {nearest} samples away");
            }
        }
    });

    private static bool Known(StrokeDrawn stroke) => RandomLessons.Boards.Any(b => b.Id == stroke.Board);

    // Without retakes and the pointer; and, unless all is kept, without anything that takes strokes away.
    private static TakeLog Plain(TakeLog log, bool keepsAll = false) => new(
        log.Id, log.Length, [.. log.Actions.Where(a => a is not (Retaken or PointerChanged) && (keepsAll || a is StrokeDrawn or BoardChanged))]);

    private static TakeAction Later(TakeAction action, Duration by, StrokeKey? rename) => action switch
    {
        StrokeDrawn s => s with
        {
            At = s.At + by,
            Stroke = rename is { } key ? key with { Number = key.Number + s.Stroke.Number } : s.Stroke,
            Points = [.. s.Points.Select(p => p with { At = p.At + by })],
        },
        StrokesErased e when rename is not null => e with { At = e.At + by, Action = 6000 + e.Action },
        _ => action with { At = action.At + by },
    };
}
