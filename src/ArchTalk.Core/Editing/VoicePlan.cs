using ArchTalk.Core.Time;

namespace ArchTalk.Core.Editing;

/// <summary>A stretch of the lesson's voice.</summary>
/// <param name="Target">Where it lies in the lesson.</param>
/// <param name="From">The moment its sound begins with; null for silence.</param>
/// <param name="HasTone">Whether a tone is heard in place of silence.</param>
public readonly record struct VoiceStretch(TimeRange<LessonTime> Target, Moment? From, bool HasTone = false);

/// <summary>
/// What is heard in the lesson: stretches of takes as they were spoken, and silence. <see cref="Audio.LessonVoice"/> reads it.
/// </summary>
/// <param name="Stretches">In order, touching, from the beginning to the end.</param>
public sealed record VoicePlan(IReadOnlyList<VoiceStretch> Stretches)
{
    public Duration Length => Stretches.Count == 0 ? Duration.Zero : Stretches[^1].Target.End - LessonTime.Zero;

    /// <summary>A stretch of one take alone, as it was recorded.</summary>
    public static VoicePlan Of(TakeId take, TimeRange<TakeTime> source) =>
        new([new VoiceStretch(new(LessonTime.Zero, LessonTime.Zero + (source.End - source.Start)), new Moment(take, source.Start))]);

    public static VoicePlan Of(Arrangement arrangement)
    {
        var stretches = new List<VoiceStretch>();
        foreach (var placement in arrangement.Placements)
        {
            var mutes = arrangement.Edits.Mutes.Where(m => m.Take == placement.Take && !m.Source.IsEmpty).ToArray();
            foreach (var piece in placement.Map.Pieces.Where(p => !p.Target.IsEmpty))
            {
                var length = piece.Target.End - piece.Target.Start;
                if (piece.Kind == PieceKind.Pause)
                {
                    stretches.Add(new(piece.Target, null));
                }
                else
                {
                    // Of a shortened silence both ends are heard: the room goes on as it was on either side.
                    var first = new Duration(length.Samples - (piece.Kind == PieceKind.Shortened ? length.Samples / 2 : 0));
                    AddSound(stretches, placement.Take, new(piece.Source.Start, piece.Source.Start + first), piece.Target.Start, mutes);
                    var rest = length - first;
                    var at = new TakeTime(piece.Source.End.Samples - rest.Samples);
                    AddSound(stretches, placement.Take, new(at, piece.Source.End), piece.Target.Start + first, mutes);
                }
            }
        }

        return new VoicePlan(stretches);
    }

    private static void AddSound(List<VoiceStretch> stretches, TakeId take, TimeRange<TakeTime> source, LessonTime start, Mute[] mutes)
    {
        var edges = mutes.SelectMany(m => (TakeTime[])[m.Source.Start, m.Source.End]).Where(source.Contains)
            .Append(source.Start).Append(source.End).Distinct().Order().ToArray();
        for (var i = 0; i + 1 < edges.Length; i++)
        {
            var target = new TimeRange<LessonTime>(start + (edges[i] - source.Start), start + (edges[i + 1] - source.Start));
            var over = mutes.Where(m => m.Source.Contains(edges[i])).ToArray();
            Add(stretches, new(target, over.Length > 0 ? null : new Moment(take, edges[i]), over.Any(m => m.HasTone)));
        }
    }

    // Sound that goes on as it was recorded is one stretch.
    private static void Add(List<VoiceStretch> stretches, VoiceStretch next)
    {
        if (stretches.Count > 0 && stretches[^1] is var last && last.From?.Take == next.From?.Take && last.HasTone == next.HasTone
            && (last.From is not { } from || from.At + (last.Target.End - last.Target.Start) == next.From!.Value.At))
        {
            stretches[^1] = last with { Target = new(last.Target.Start, next.Target.End) };
        }
        else
        {
            stretches.Add(next);
        }
    }
}
