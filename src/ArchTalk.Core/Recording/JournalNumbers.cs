namespace ArchTalk.Core.Recording;

/// <summary>What a recorder must know of a journal that it takes over.</summary>
/// <param name="NextSegment">The first segment number that wasn't used.</param>
/// <param name="NextAction">The first number of a stroke or an action that wasn't used.</param>
/// <param name="IsTestVoice">Whether the test voice was recorded; null when nothing was.</param>
/// <param name="HasRetakes">Whether something in it was taken back.</param>
public readonly record struct JournalNumbers(int NextSegment, int NextAction, bool? IsTestVoice, bool HasRetakes)
{
    public static JournalNumbers Of(IEnumerable<JournalEntry> journal)
    {
        int segment = 0, action = 1;
        bool? isTestVoice = null;
        var hasRetakes = false;
        foreach (var record in journal.Select(e => e.Record))
        {
            if (record.Kind == JournalRecordKind.Segment && JournalPayloads.ReadSegment(record.Payload.Span) is { } start)
            {
                segment = Math.Max(segment, start.Segment + 1);
                isTestVoice = start.IsTestVoice;
            }
            else if (record.Kind == JournalRecordKind.Events && JournalPayloads.ReadEvents(record.Payload.Span) is { } events)
            {
                hasRetakes |= events.Events.Any(e => e is WentBack);
                action = events.Events.Select(NumberOf).Append(action - 1).Max() + 1;
            }
        }

        return new(segment, action, isTestVoice, hasRetakes);
    }

    private static int NumberOf(TakeEvent happened) => happened switch
    {
        StrokeBegun s => s.Stroke,
        Erased e => e.Action,
        StrokeSettled s => s.Action,
        TextTyped t => t.Number,
        NoteMade n => n.Number,
        _ => 0,
    };
}
