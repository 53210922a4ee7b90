using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Tests;

/// <summary>Takes from the bytes of their journals.</summary>
internal static class Takes
{
    public static TakeLog Log(Journal journal) => TakeLog.Read(journal.Take, journal.Entries);

    public static TakeLog Log(byte[] bytes) =>
        Journal.TryRead(bytes, out var journal) ? Log(journal) : throw new InvalidDataException("It is no journal.");

    /// <summary>The sound of a take, a second at a time; silence where sound is missing.</summary>
    public static IEnumerable<short[]> Blocks(byte[] bytes)
    {
        using var stream = new MemoryStream(bytes);
        var voice = new TakeVoice(stream, Log(bytes).Sound);
        for (var at = TakeTime.Zero; at < voice.End; at += new Duration(Clock.SampleRate))
        {
            var block = new short[Math.Min(Clock.SampleRate, (voice.End - at).Samples)];
            voice.Read(at, block);
            yield return block;
        }
    }

    public static byte[] Bytes(Journal journal) => [.. Journal.Header(journal.Take), .. journal.Records.SelectMany(r => r.ToBytes())];
}
