using System.Buffers.Binary;
using System.Numerics;

namespace ArchTalk.Core.Recording;

/// <summary>CRC-32C (Castagnoli) as in RFC 3720: reflected, starting from and finished by all ones.</summary>
public static class Crc32C
{
    public static uint Compute(ReadOnlySpan<byte> bytes)
    {
        var crc = uint.MaxValue;
        while (bytes.Length >= sizeof(ulong))
        {
            crc = BitOperations.Crc32C(crc, BinaryPrimitives.ReadUInt64LittleEndian(bytes));
            bytes = bytes[sizeof(ulong)..];
        }

        foreach (var value in bytes)
        {
            crc = BitOperations.Crc32C(crc, value);
        }

        return ~crc;
    }
}
