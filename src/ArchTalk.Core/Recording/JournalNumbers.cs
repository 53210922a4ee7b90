namespace ArchTalk.Core.Recording;

/// <summary>The numbers a recorder goes on with when it takes over a journal.</summary>
public static class JournalNumbers
{
    /// <summary>The first segment number and the first action number that the journal hasn't used.</summary>
    public static (int Segment, int Action) Next(Journal journal)
    {
        int segment = 0, action = 1;
        foreach (var record in journal.Records)
        {
            if (record.Kind == JournalRecordKind.Segment && JournalPayloads.ReadSegment(record.Payload.Span) is { } start)
            {
                segment = Math.Max(segment, start.Segment + 1);
            }
            else if (record.Kind == JournalRecordKind.Events && JournalPayloads.ReadEvents(record.Payload.Span) is { } events)
            {
                action = events.Events.Select(NumberOf).Append(action - 1).Max() + 1;
            }
        }

        return (segment, action);
    }

    private static int NumberOf(TakeEvent happened) => happened switch
    {
        StrokeBegun s => s.Stroke,
        Erased e => e.Action,
        _ => 0,
    };
}
