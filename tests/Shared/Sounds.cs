using System.Runtime.InteropServices;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Time;

namespace ArchTalk.Tests;

/// <summary>Sound that a test has made, as a voice and as files.</summary>
public static class Sounds
{
    public static void WriteWav(string path, ReadOnlySpan<short> samples)
    {
        using var file = File.Create(path);
        file.Write(WavFile.Header(new Duration(samples.Length)));
        file.Write(MemoryMarshal.AsBytes(samples));
    }

    public static IVoice AsVoice(short[] samples) =>
        new MadeVoice(samples.Length, at => at >= 0 && at < samples.Length ? samples[at] / 32768f : 0);

    /// <summary>A voice of any length that lies nowhere: each sample is worked out from its number.</summary>
    public static IVoice Made(double seconds, Func<long, float> sample) => new MadeVoice((long)(seconds * Clock.SampleRate), sample);

    public static float[] Read(IVoice voice, int? block = null)
    {
        var samples = new float[voice.Length.Samples];
        for (var at = 0; at < samples.Length; at += block ?? samples.Length)
        {
            voice.Read(new LessonTime(at), samples.AsSpan(at, Math.Min(block ?? samples.Length, samples.Length - at)));
        }

        return samples;
    }

    public static short[] To16Bit(ReadOnlySpan<float> samples)
    {
        var rounded = new short[samples.Length];
        Pcm.To16Bit(samples, rounded);
        return rounded;
    }

    /// <summary>Syllables of a buzzing voice over a quiet room, with pauses of 0.8 s after every 2.2 s.</summary>
    public static short[] Speech(double seconds, double level = 0.1, int seed = 1)
    {
        var random = new Random(seed);
        const int Period = Clock.SampleRate / 160;
        double[] buzz = [.. Enumerable.Range(0, Period).Select(i => Enumerable.Range(1, 8).Sum(k => Math.Sin(2 * Math.PI * k * i / Period) / k))];
        return [.. Enumerable.Range(0, (int)(seconds * Clock.SampleRate)).Select(i =>
        {
            var t = (double)i / Clock.SampleRate;
            var voice = t % 3 > 2.2 ? 0 : level * (0.6 + (0.4 * Math.Sin(2 * Math.PI * 4 * t))) * buzz[i % Period];
            return (short)(32767 * Math.Clamp(voice + (0.0005 * ((2 * random.NextDouble()) - 1)), -1, 1));
        })];
    }

    /// <summary>A click of 5 ms that dies away.</summary>
    public static short[] Click() => [.. Enumerable.Range(0, 240).Select(i => (short)((i / 24 % 2 == 0 ? 20_000 : -20_000) * (1 - (i / 240.0))))];

    private sealed class MadeVoice(long length, Func<long, float> sample) : IVoice
    {
        public Duration Length => new(length);

        public void Read(LessonTime from, Span<float> samples)
        {
            for (var i = 0; i < samples.Length; i++)
            {
                samples[i] = from.Samples + i < length ? sample(from.Samples + i) : 0;
            }
        }
    }
}
