using System.Globalization;
using System.Runtime.InteropServices;
using System.Text.Json;
using System.Text.RegularExpressions;
using ArchTalk.Core.Time;
using ArchTalk.Media.Boxes;
using CliWrap;

namespace ArchTalk.Media;

/// <summary>Voice as files: the copies students hear, and plain WAV.</summary>
public sealed partial class Voice(Box box)
{
    /// <summary>AES TD1008, about -18 LUFS for speech (from memory).</summary>
    public const double TargetLufs = -18;

    /// <summary>AES TD1008: peaks at most -1 dBTP (from memory).</summary>
    public const double HighestPeakDb = -1;

    // AAC and Opus overshoot the peaks they are given, by up to 2 dB as measured on speech: -3 dB leaves room for it.
    private const double LimiterCeiling = 0.708;

    // Beyond this it isn't a quiet voice that would be raised but a room without one.
    private const double HighestGainDb = 30;

    private static readonly string[] RawInput = ["-f", "s16le", "-ar", "48000", "-ac", "1", "-i", "pipe:0"];

    /// <summary>
    /// Writes voice.m4a (AAC, plain MP4 with its edit list) and voice.webm (Opus) into <paramref name="folder"/>, raised or
    /// lowered as a whole to <see cref="TargetLufs"/>, single peaks held so that the decoded copies stay under
    /// <see cref="HighestPeakDb"/>.
    /// </summary>
    public async Task WriteCopiesAsync(short[] samples, string folder, CancellationToken cancel)
    {
        var gain = await GainAsync(samples, cancel);

        // latency=1: the limiter looks ahead, and without it the voice would come later than the ink.
        var filter = string.Create(
            CultureInfo.InvariantCulture, $"volume={gain:0.00}dB,alimiter=limit={LimiterCeiling:0.000}:level=false:latency=true");
        using var work = new WorkFolder(folder);
        await box.RunAsync(
            new BoxedProgram(
                "ffmpeg",
                v =>
                [
                    "-v", "error", "-y", .. RawInput,
                    "-af", filter, "-c:a", "aac", "-b:a", "96k", "-movflags", "+faststart", v.Out("voice.m4a"),
                    "-af", filter, "-c:a", "libopus", "-b:a", "48k", "-application", "voip", v.Out("voice.webm"),
                ],
                Limit(samples))
            { Input = Pipe(samples), Output = work.Path },
            cancel);
        foreach (var name in new[] { "voice.m4a", "voice.webm" })
        {
            File.Move(work.Written(name), Path.Combine(folder, name), overwrite: true);
        }
    }

    /// <summary>Decodes a sound file of ours to 16-bit mono at 48 kHz.</summary>
    public async Task<short[]> DecodeAsync(string file, CancellationToken cancel)
    {
        using var bytes = new MemoryStream();
        await box.RunAsync(
            new BoxedProgram(
                "ffmpeg",
                v => ["-v", "error", "-i", v.Inputs[0], "-f", "s16le", "-ar", "48000", "-ac", "1", "pipe:1"],
                TimeSpan.FromMinutes(5))
            {
                Inputs = [file],
                Said = PipeTarget.ToStream(bytes),
            }, cancel);
        return MemoryMarshal.Cast<byte, short>(bytes.GetBuffer().AsSpan(0, (int)bytes.Length)).ToArray();
    }

    /// <summary>Writes a plain WAV file.</summary>
    public static async Task WriteWavAsync(short[] samples, string target, CancellationToken cancel)
    {
        var draft = $"{target}.{Guid.NewGuid():N}.draft";
        await using (var file = File.Create(draft))
        {
            var length = samples.Length * sizeof(short);
            await using (var header = new BinaryWriter(file, System.Text.Encoding.ASCII, leaveOpen: true))
            {
                header.Write("RIFF"u8);
                header.Write(36 + length);
                header.Write("WAVEfmt "u8);
                header.Write(16);
                header.Write((short)1);
                header.Write((short)1);
                header.Write(Clock.SampleRate);
                header.Write(Clock.SampleRate * sizeof(short));
                header.Write((short)sizeof(short));
                header.Write((short)16);
                header.Write("data"u8);
                header.Write(length);
            }

            await file.WriteAsync(Bytes(samples), cancel);
        }

        File.Move(draft, target, overwrite: true);
    }

    /// <summary>By how many dB the voice is to be raised; 0 for silence.</summary>
    private async Task<double> GainAsync(short[] samples, CancellationToken cancel)
    {
        // loudnorm's first pass measures by ITU-R BS.1770 and prints JSON; dual_mono reads mono as students hear it, on two speakers.
        var report = await box.RunAsync(
            new BoxedProgram(
                "ffmpeg",
                _ => ["-hide_banner", .. RawInput, "-af", "loudnorm=dual_mono=true:print_format=json", "-f", "null", "-"],
                Limit(samples))
            { Input = Pipe(samples) }, cancel);
        var json = MeasuredJson().Match(report);
        if (!json.Success)
        {
            return 0;
        }

        using var measured = JsonDocument.Parse(json.Value);

        // Silence has no loudness: it is printed as "-inf", which is no number.
        return double.TryParse(measured.RootElement.GetProperty("input_i").GetString(), CultureInfo.InvariantCulture, out var loudness)
            && loudness > -70 ? Math.Min(TargetLufs - loudness, HighestGainDb) : 0;
    }

    private static ReadOnlyMemory<byte> Bytes(short[] samples) => MemoryMarshal.AsBytes(samples.AsSpan()).ToArray();

    private static PipeSource Pipe(short[] samples) => PipeSource.FromBytes(Bytes(samples));

    private static TimeSpan Limit(short[] samples) => TimeSpan.FromSeconds(60 + ((double)samples.Length / Clock.SampleRate));

    [GeneratedRegex(@"\{[^{}]*""input_i""[^{}]*\}", RegexOptions.Singleline, matchTimeoutMilliseconds: 1000)]
    private static partial Regex MeasuredJson();
}
