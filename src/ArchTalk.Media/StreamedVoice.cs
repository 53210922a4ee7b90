using System.Runtime.InteropServices;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Time;

namespace ArchTalk.Media;

/// <summary>
/// A voice that comes out of a program: it can be read once, forwards. What was read last can be read again a little way back, as one
/// who looks around each sample needs.
/// </summary>
/// <param name="source">32-bit floats, mono at 48 kHz; what is short of the length is silence.</param>
internal sealed class StreamedVoice(Stream source, Duration length) : IVoice
{
    private readonly float[] kept = new float[2 * Clock.SampleRate];
    private long end;

    public Duration Length => length;

    /// <exception cref="NotSupportedException">It lies farther back than a second.</exception>
    public void Read(LessonTime from, Span<float> samples)
    {
        var last = from.Samples + samples.Length;
        while (end < last)
        {
            // As much at once as the ring takes without losing what is asked for.
            var at = (int)(end % kept.Length);
            var part = kept.AsSpan(at, (int)Math.Min(Math.Min(kept.Length - at, Clock.SampleRate), last - end));
            var bytes = MemoryMarshal.AsBytes(part);
            var read = source.ReadAtLeast(bytes, bytes.Length, throwOnEndOfStream: false);
            bytes[read..].Clear();
            end += part.Length;
        }

        if (end - from.Samples > kept.Length)
        {
            throw new NotSupportedException("A voice that comes out of a program is read forwards.");
        }

        for (var i = 0; i < samples.Length; i++)
        {
            samples[i] = kept[(from.Samples + i) % kept.Length];
        }
    }
}
