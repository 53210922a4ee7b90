using System.Runtime.InteropServices;
using ArchTalk.Core.Time;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>
/// Noise whose every sample is known, as the microphone of a browser: Chromium's stand-in for a device runs at 44.1 kHz and plays
/// the file over and over. What the recorder must make of it at 48 kHz is computed here, from the description of its filter.
/// </summary>
public sealed class KnownMicrophone
{
    public const int Seconds = 60;
    private const int DeviceRate = 44_100;
    private const int HalfTaps = 24;

    // Both rates meet every 147 samples of the device and 160 of the journal.
    private const int Up = 160;
    private const int Down = 147;

    // A run of this many signs is found nowhere else in the noise.
    private const int Key = 64;

    private readonly short[] given;
    private readonly short[] heard;
    private readonly Dictionary<ulong, int> places = [];

    public KnownMicrophone(int seed)
    {
        var random = new Random(seed);
        given = [.. Enumerable.Range(0, Seconds * DeviceRate).Select(_ => (short)random.Next(-9000, 9001))];
        heard = Resample();
        ulong key = 0;
        for (var i = 0; i < heard.Length; i++)
        {
            key = (key << 1) | (heard[i] < 0 ? 0UL : 1UL);
            if (i >= Key - 1)
            {
                places[key] = i - Key + 1;
            }
        }
    }

    /// <summary>Samples in one round, at 48 kHz.</summary>
    public int Length => heard.Length;

    /// <summary>Writes what the device plays: 16-bit mono at 44.1 kHz.</summary>
    public void WriteWav(string path)
    {
        using var file = new BinaryWriter(File.Create(path));
        var bytes = given.Length * sizeof(short);
        file.Write("RIFF"u8);
        file.Write(36 + bytes);
        file.Write("WAVEfmt "u8);
        file.Write(16);
        file.Write((short)1);
        file.Write((short)1);
        file.Write(DeviceRate);
        file.Write(DeviceRate * sizeof(short));
        file.Write((short)sizeof(short));
        file.Write((short)16);
        file.Write("data"u8);
        file.Write(bytes);
        file.Write(MemoryMarshal.AsBytes<short>(given));
    }

    /// <summary>Where in a round of the noise these samples begin; null when they are not from it.</summary>
    public int? Locate(ReadOnlySpan<short> samples)
    {
        ulong key = 0;
        for (var i = 0; i < samples.Length; i++)
        {
            key = (key << 1) | (samples[i] < 0 ? 0UL : 1UL);
            if (i >= Key - 1 && places.TryGetValue(key, out var found))
            {
                var begin = (found - (i - Key + 1) + Length) % Length;
                if (Differing(samples[(i - Key + 1)..], found) * 20 < samples.Length - (i - Key + 1))
                {
                    return begin;
                }
            }
        }

        return null;
    }

    /// <summary>How many samples differ from the noise at a place; rounding on both sides may make one of two.</summary>
    public int Differing(ReadOnlySpan<short> samples, int at)
    {
        var differing = 0;
        for (var i = 0; i < samples.Length; i++)
        {
            differing += Math.Abs(samples[i] - heard[(at + i) % Length]) > 2 ? 1 : 0;
        }

        return differing;
    }

    /// <summary>Samples at the beginning of a segment that still hear the silence before it.</summary>
    public const int Settling = 2 * HalfTaps;

    // Windowed sinc (Crochiere and Rabiner 1983): output n lies exactly at input time n · 44100 / 48000.
    private short[] Resample()
    {
        var rows = Enumerable.Range(0, Up).Select(phase => Row((double)phase / Up)).ToArray();
        var output = new short[(long)given.Length * Up / Down];
        for (var n = 0; n < output.Length; n++)
        {
            var (whole, phase) = Math.DivRem((long)n * Down, Up);
            var taps = rows[phase];
            var sum = 0.0;
            for (var k = 0; k < taps.Length; k++)
            {
                sum += taps[k] * given[(whole - HalfTaps + 1 + k + given.Length) % given.Length];
            }

            output[n] = (short)Math.Round(sum * 32767 / 32768);
        }

        return output;
    }

    private static double[] Row(double fraction)
    {
        const double Cutoff = 0.96;
        var taps = Enumerable.Range(0, 2 * HalfTaps).Select(k =>
        {
            var x = k - HalfTaps + 1 - fraction;
            var window = 0.42 + (0.5 * Math.Cos(Math.PI * x / HalfTaps)) + (0.08 * Math.Cos(2 * Math.PI * x / HalfTaps));
            return x == 0 ? Cutoff : Math.Sin(Math.PI * Cutoff * x) / (Math.PI * x) * Math.Max(0, window);
        }).ToArray();
        var total = taps.Sum();
        return [.. taps.Select(t => t / total)];
    }
}
