using System.Runtime.InteropServices;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>Reads any stretch of a take's sound from its journal; silence where sound is missing. Nothing is held.</summary>
/// <param name="journal">The bytes of the journal; it must be able to seek.</param>
/// <param name="sound">Where the sound lies in it, in order.</param>
public sealed class TakeVoice(Stream journal, IReadOnlyList<TakeSound> sound)
{
    /// <summary>Where the sound ends.</summary>
    public TakeTime End => sound.Count == 0 ? TakeTime.Zero : sound[^1].At + sound[^1].Length;

    /// <summary>Fills <paramref name="samples"/> (16-bit mono at 48 kHz) with what is heard from a time on; silence beyond the end.</summary>
    /// <exception cref="EndOfStreamException">The journal is shorter than its log says.</exception>
    public void Read(TakeTime from, Span<short> samples)
    {
        samples.Clear();
        var to = from + new Duration(samples.Length);
        var begun = Search.CountTo(sound.Count, i => sound[i].At <= from);
        for (var i = Math.Max(0, begun - 1); i < sound.Count && sound[i].At < to; i++)
        {
            var part = sound[i];
            var (first, end) = (Math.Max(part.At.Samples, from.Samples), Math.Min((part.At + part.Length).Samples, to.Samples));
            if (!part.IsMissing && first < end)
            {
                journal.Seek(part.Offset + ((first - part.At.Samples) * sizeof(short)), SeekOrigin.Begin);
                journal.ReadExactly(MemoryMarshal.AsBytes(samples.Slice((int)(first - from.Samples), (int)(end - first))));
            }
        }
    }
}
