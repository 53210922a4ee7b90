using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Timelines;

/// <summary>A term of the vocabulary is said.</summary>
public sealed record TermSaid(Guid Term, LessonTime At);

/// <summary>Finds where the terms of the vocabulary are said.</summary>
internal static class TermsSaid
{
    /// <summary>As it was noted while recording, in order of time. What was taken out is said nowhere.</summary>
    public static IReadOnlyList<TermSaid> Of(Arrangement arrangement) =>
    [
        .. arrangement.Placements.SelectMany(p => TakeNotes.Of(p.Log, p.Path), (p, note) => (p.Map, Note: note))
            .Where(n => n.Note.Term is not null && n.Map.PieceAt(n.Note.At) is { IsCut: false, Kind: not PieceKind.TakenBack })
            .Select(n => new TermSaid(n.Note.Term!.Value, n.Map.ToLesson(n.Note.At))).Distinct()
            .OrderBy(t => t.At).ThenBy(t => t.Term),
    ];
}
