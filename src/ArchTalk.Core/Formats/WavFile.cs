using System.Text;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Formats;

/// <summary>WAV files of 16-bit mono at 48 kHz (RIFF, Microsoft 1991, from memory; read back by ffmpeg in the tests).</summary>
public static class WavFile
{
    public const int HeaderSize = 44;

    private const int ChunkHead = 8;
    private const short PlainPcm = 1;

    /// <summary>What stands before the samples.</summary>
    /// <param name="length">At most about 12 hours: the format counts bytes in 32 bits.</param>
    public static byte[] Header(Duration length)
    {
        var bytes = checked((uint)(length.Samples * sizeof(short)));
        using var header = new MemoryStream(HeaderSize);
        using var writer = new BinaryWriter(header, Encoding.ASCII);
        writer.Write("RIFF"u8);
        writer.Write(bytes + HeaderSize - ChunkHead);
        writer.Write("WAVEfmt "u8);
        writer.Write(16);
        writer.Write(PlainPcm);
        writer.Write((short)1);
        writer.Write(Clock.SampleRate);
        writer.Write(Clock.SampleRate * sizeof(short));
        writer.Write((short)sizeof(short));
        writer.Write((short)16);
        writer.Write("data"u8);
        writer.Write(bytes);
        return header.ToArray();
    }
}
