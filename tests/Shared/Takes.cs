using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Tests;

/// <summary>Takes from the bytes of their journals.</summary>
internal static class Takes
{
    public static TakeLog Log(Journal journal) => TakeLog.Read(journal.Take, journal.Entries);

    public static TakeLog Log(byte[] bytes) =>
        Journal.TryRead(bytes, out var journal) ? Log(journal) : throw new InvalidDataException("It is no journal.");

    public static short[] Samples(Journal journal) => Samples([.. Journal.Header(journal.Take), .. journal.Records.SelectMany(r => r.ToBytes())]);

    /// <summary>All samples of a take, silence where sound is missing.</summary>
    public static short[] Samples(byte[] bytes)
    {
        using var stream = new MemoryStream(bytes);
        var log = Log(bytes);
        var samples = new short[log.Length.Samples];
        new TakeVoice(stream, log.Sound).Read(TakeTime.Zero, samples);
        return samples;
    }
}
