using System.Buffers.Binary;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>A note that still counts.</summary>
/// <param name="Id">The same however often it is read.</param>
/// <param name="Term">The term of the vocabulary that is said.</param>
/// <param name="Until">For what holds only this time: its end, that of the take when the teacher ended it nowhere.</param>
public sealed record TakeNote(Guid Id, TakeTime At, NoteKind Kind, string Text, Duration Wait, TakeTime Until, Guid? Term);

/// <summary>
/// What was noted in a take, and what becomes of it in the lesson: chapters, thinking stops and stretches that hold only this time.
/// What was taken off or taken back by a retake is none of it.
/// </summary>
public static class TakeNotes
{
    /// <summary>In order of time.</summary>
    public static IReadOnlyList<TakeNote> Of(TakeLog log) => Of(log, log.Live);

    /// <summary>Those on one way through a take, in order of time.</summary>
    public static IReadOnlyList<TakeNote> Of(TakeLog log, TakePath path)
    {
        var notes = new SortedDictionary<int, TakeNote>();
        foreach (var action in path.Actions)
        {
            switch (action)
            {
                case Noted n:
                    // Said otherwise, it keeps its moment.
                    notes[n.Number] = notes.TryGetValue(n.Number, out var known)
                        ? known with { Kind = n.Kind, Text = n.Text, Wait = n.Wait, Term = n.Term }
                        : new(IdOf(log.Id, n.Number), n.At, n.Kind, n.Text, n.Wait, log.End, n.Term);
                    break;
                case NoteRemoved n:
                    notes.Remove(n.Number);
                    break;
                case NoteEnded n when notes.TryGetValue(n.Number, out var begun):
                    notes[n.Number] = begun with { Until = n.At };
                    break;
            }
        }

        return [.. notes.Values.OrderBy(n => n.At)];
    }

    /// <summary>Chapters with those added that were begun in a take, unless they are there.</summary>
    public static IReadOnlyList<Chapter> AddTo(IReadOnlyList<Chapter> chapters, TakeLog log) =>
    [
        .. chapters,
        .. Of(log).Where(n => n.Kind == NoteKind.Chapter && chapters.All(c => c.Id != n.Id))
            .Select(n => new Chapter(n.Id, TitleOf(n.Text.Trim()), log.Id.Value, n.At.Samples)),
    ];

    /// <summary>Edits with the stops and the stretches of a take added, unless they are there.</summary>
    /// <param name="phrases">Where somebody speaks in the take; a stop sits at the end of the phrase that it was pressed in or after.</param>
    public static EditList AddTo(EditList edits, TakeLog log, IReadOnlyList<TimeRange<TakeTime>> phrases)
    {
        var notes = Of(log);
        var stops = notes.Where(n => KindOf(n.Kind) is not null && edits.Stops.All(s => s.Id != n.Id))
            .Select(n => new ThinkingStop(n.Id, log.Id, PlaceOf(n.At, log, phrases), KindOf(n.Kind)!.Value, n.Text) { Wait = n.Wait });
        var stretches = notes.Where(n => n.Kind == NoteKind.OnlyThisTime && n.At < n.Until)
            .Select(n => new TemporaryStretch(log.Id, new(n.At, n.Until))).Except(edits.Temporary);
        return edits with { Stops = [.. edits.Stops, .. stops], Temporary = [.. edits.Temporary, .. stretches] };
    }

    private static string TitleOf(string text) =>
        text.Length == 0 ? "Chapter" : text.Length > Chapter.LongestTitle ? text[..Chapter.LongestTitle] : text;

    // A take's own name has enough by chance that its notes can be counted within it.
    private static Guid IdOf(TakeId take, int number)
    {
        var bytes = take.Value.ToByteArray();
        BinaryPrimitives.WriteInt32LittleEndian(bytes.AsSpan(12), BinaryPrimitives.ReadInt32LittleEndian(bytes.AsSpan(12)) ^ number);
        return new Guid(bytes);
    }

    private static StopKind? KindOf(NoteKind kind) => kind switch
    {
        NoteKind.Ask => StopKind.UntilStudentGoesOn,
        NoteKind.SayAfterMe => StopKind.SetTime,
        NoteKind.AskAndShow => StopKind.UntilAnswerShown,
        _ => null,
    };

    // A phrase that a retake cut off ends where what counts goes over it.
    internal static TakeTime PlaceOf(TakeTime pressed, TakeLog log, IReadOnlyList<TimeRange<TakeTime>> phrases)
    {
        var count = Search.CountTo(phrases.Count, i => phrases[i].Start <= pressed);
        if (count == 0)
        {
            return pressed;
        }

        var end = phrases[count - 1].End;
        var stretch = log.Live.Stretches.First(s => s.Range.Contains(pressed)).Range;
        return end < stretch.Start ? pressed : end > stretch.End ? stretch.End : end;
    }
}
