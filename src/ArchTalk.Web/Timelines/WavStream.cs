using System.Runtime.InteropServices;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Time;

namespace ArchTalk.Web.Timelines;

/// <summary>A voice as the bytes of a WAV file. None is there before it is read.</summary>
/// <param name="voice">What is heard.</param>
/// <param name="source">Given back with the stream.</param>
public sealed class WavStream(IVoice voice, IDisposable source) : Stream
{
    private readonly byte[] header = WavFile.Header(voice.Length);
    private float[] samples = [];
    private short[] rounded = [];

    public override bool CanRead => true;

    public override bool CanSeek => true;

    public override bool CanWrite => false;

    public override long Length => header.Length + (voice.Length.Samples * sizeof(short));

    public override long Position { get; set; }

    public override int Read(Span<byte> buffer)
    {
        var wanted = buffer[..(int)Math.Clamp(Length - Position, 0, buffer.Length)];
        var read = 0;
        if (Position < header.Length)
        {
            read = (int)Math.Min(header.Length - Position, wanted.Length);
            header.AsSpan((int)Position, read).CopyTo(wanted);
            Position += read;
        }

        var sound = wanted[read..];
        if (!sound.IsEmpty)
        {
            ReadSound(Position - header.Length, sound);
            Position += sound.Length;
        }

        return wanted.Length;
    }

    public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

    // Reading a journal takes microseconds: there is nothing to wait for.
    public override ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        cancellationToken.ThrowIfCancellationRequested();
        return ValueTask.FromResult(Read(buffer.Span));
    }

    public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) =>
        ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    public override long Seek(long offset, SeekOrigin origin) => Position = origin switch
    {
        SeekOrigin.Begin => offset,
        SeekOrigin.Current => Position + offset,
        _ => Length + offset,
    };

    public override void Flush()
    {
    }

    public override void SetLength(long value) => throw new NotSupportedException();

    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    protected override void Dispose(bool disposing)
    {
        source.Dispose();
        base.Dispose(disposing);
    }

    // A request may begin and end in the middle of a sample.
    private void ReadSound(long from, Span<byte> bytes)
    {
        var first = from / sizeof(short);
        var count = (int)(((from + bytes.Length + sizeof(short) - 1) / sizeof(short)) - first);
        if (samples.Length < count)
        {
            (samples, rounded) = (new float[count], new short[count]);
        }

        voice.Read(new LessonTime(first), samples.AsSpan(0, count));
        Pcm.To16Bit(samples.AsSpan(0, count), rounded);
        MemoryMarshal.AsBytes(rounded.AsSpan(0, count)).Slice((int)(from % sizeof(short)), bytes.Length).CopyTo(bytes);
    }
}
