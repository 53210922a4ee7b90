using ArchTalk.Core.Audio;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Web.Recording;

/// <summary>A phrase heard in a take that is being recorded; each end is named by its segment and the sample in it.</summary>
public readonly record struct HeardPhrase(int FromSegment, long From, int ToSegment, long To);

/// <summary>A take while it is being recorded: where its sound lies and what is heard in it, kept up with what comes.</summary>
public sealed class LiveTake : IDisposable
{
    // A server that was started again in the middle catches up over some uploads, so that none waits for long.
    private static readonly Duration MostAtOnce = Duration.FromSeconds(60);

    private readonly FileStream file;
    private readonly JournalReader journal;
    private readonly SoundIndex index = new();
    private readonly TakeVoice voice;
    private readonly TakeMeter meter = new();

    public LiveTake(string path)
    {
        file = TakeJournals.OpenToRead(path);
        journal = JournalReader.Open(file) ?? throw new InvalidDataException($"{path} is not a journal.");
        voice = new TakeVoice(file, index.Sound);
    }

    /// <summary>Takes in what has been saved since.</summary>
    /// <returns>Whether it is all taken in.</returns>
    public bool Follow()
    {
        // What was drawn is read when the take is; here it would only be held.
        foreach (var entry in journal.Entries().Where(e => e.Record.Kind is not (JournalRecordKind.Events or JournalRecordKind.Anchors)))
        {
            index.Add(entry);
        }

        return !meter.Follow(voice, MostAtOnce);
    }

    /// <summary>Where somebody speaks in the last stretch of what has been followed, in order, as its recorder counts samples.</summary>
    public IReadOnlyList<HeardPhrase> LastPhrases(Duration within)
    {
        var since = TakeTime.Zero + (meter.Length > within ? meter.Length - within : Duration.Zero);
        return [.. meter.PhrasesSince(since).Select(Named)];
    }

    /// <summary>What was measured of all that has been followed.</summary>
    public TakeMeasures Measures() => meter.Measures();

    private HeardPhrase Named(TimeRange<TakeTime> phrase)
    {
        var ((segment, from), (lastSegment, to)) = (index.NameOf(phrase.Start), index.NameOf(phrase.End));
        return new HeardPhrase(segment, from, lastSegment, to);
    }

    public void Dispose() => file.Dispose();
}
