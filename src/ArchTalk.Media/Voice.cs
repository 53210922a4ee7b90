using System.IO.Pipelines;
using System.Runtime.InteropServices;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Time;
using ArchTalk.Media.Boxes;
using CliWrap;

namespace ArchTalk.Media;

/// <summary>What became of a voice on its way to students.</summary>
/// <param name="Lufs">Its loudness as it was encoded; null for silence.</param>
public sealed record MadeCopies(double? Lufs);

/// <summary>Voice as files: the copies students hear, and sound files read.</summary>
public sealed class Voice(Box box)
{
    /// <summary>Plain MP4 with AAC and WebM with Opus; every browser plays one of them.</summary>
    public static readonly IReadOnlyList<string> CopyNames = ["voice.m4a", "voice.webm"];

    // What goes to the programs at once.
    private const int Block = Clock.SampleRate / 5;

    // The encoders' settings are those that take least time at a rate at which speech loses nothing that is heard: with both beside each
    // other an hour takes half a minute (bench publish).
    public static readonly IReadOnlyList<string> Aac = ["-c:a", "aac", "-aac_coder", "fast", "-b:a", "96k", "-movflags", "+faststart"];
    public static readonly IReadOnlyList<string> Opus = ["-c:a", "libopus", "-application", "audio", "-compression_level", "5", "-b:a", "48k"];

    /// <summary>
    /// Writes voice.m4a (AAC, plain MP4 with its edit list) and voice.webm (Opus) into <paramref name="folder"/>, both at once. The
    /// voice is read block by block, filtered, raised, and its peaks are held so that the decoded copies stay under
    /// <see cref="VoiceLevel.HighestPeakDb"/>.
    /// </summary>
    /// <param name="gainDb">By how much it is raised after the filters.</param>
    /// <param name="filters">A chain of ffmpeg's filters, or empty.</param>
    /// <param name="progress">Is told the share that is done.</param>
    public async Task<MadeCopies> WriteCopiesAsync(
        IVoice voice, double gainDb, string filters, string folder, Action<double> progress, CancellationToken cancel)
    {
        using var work = new WorkFolder(folder);
        var limit = Limit(voice.Length);
        double? lufs = null;
        await FilteredAsync(voice, filters, async (filtered, stop) =>
        {
            var (aac, opus) = (new Pipe(), new Pipe());
            await TogetherAsync(
                stop,
                inner => EncodeAsync(aac, Aac, "voice.m4a", work, limit, inner),
                inner => EncodeAsync(opus, Opus, "voice.webm", work, limit, inner),
                async inner => lufs = await PumpAsync(
                    new LimitedVoice(filtered, gainDb, VoiceLevel.CeilingDb), [aac.Writer, opus.Writer], progress, inner));
        }, cancel);
        foreach (var name in CopyNames)
        {
            File.Move(work.Written(name), Path.Combine(folder, name), overwrite: true);
        }

        return new MadeCopies(lufs);
    }

    /// <summary>A stretch of a voice as students hear it, 16-bit mono; what comes a little before it is filtered too, to settle.</summary>
    /// <param name="stretch">At most a minute.</param>
    public async Task<short[]> HearAsync(IVoice voice, TimeRange<LessonTime> stretch, double gainDb, string filters, CancellationToken cancel)
    {
        var begin = new LessonTime(Math.Max(0, stretch.Start.Samples - (2 * Clock.SampleRate)));
        var end = new LessonTime(Math.Min(voice.Length.Samples, stretch.End.Samples + (Clock.SampleRate / 10)));
        var heard = new short[(stretch.End - stretch.Start).Samples];
        await FilteredAsync(new PartOfVoice(voice, new(begin, end)), filters, (filtered, stop) => Task.Run(
            () =>
            {
                var samples = new float[heard.Length];
                new LimitedVoice(filtered, gainDb, VoiceLevel.CeilingDb).Read(LessonTime.Zero + (stretch.Start - begin), samples);
                Pcm.To16Bit(samples, heard);
            },
            stop), cancel);
        return heard;
    }

    /// <summary>Decodes a sound file of ours to 16-bit mono at 48 kHz, whole: for what is short.</summary>
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

    private Task EncodeAsync(Pipe input, IReadOnlyList<string> codec, string name, WorkFolder work, TimeSpan limit, CancellationToken cancel) =>
        ReadingAsync(input.Reader, () => box.RunAsync(
            new BoxedProgram(
                "ffmpeg", v => ["-v", "error", "-y", "-f", "s16le", "-ar", "48000", "-ac", "1", "-i", "pipe:0", .. codec, v.Out(name)], limit)
            { Input = PipeSource.FromStream(input.Reader.AsStream()), Output = work.Path },
            cancel));

    // Reads the whole voice forwards and gives it to all who encode it, no faster than the slowest takes it.
    private static Task<double?> PumpAsync(IVoice voice, PipeWriter[] targets, Action<double> progress, CancellationToken cancel) => Task.Run(
        async () =>
        {
            var meter = new LoudnessMeter();
            var samples = new float[Block];
            try
            {
                for (var at = 0L; at < voice.Length.Samples; at += Block)
                {
                    cancel.ThrowIfCancellationRequested();
                    var part = samples.AsMemory(0, (int)Math.Min(Block, voice.Length.Samples - at));
                    voice.Read(new LessonTime(at), part.Span);
                    meter.Add(part.Span);
                    foreach (var target in targets)
                    {
                        Pcm.To16Bit(part.Span, MemoryMarshal.Cast<byte, short>(target.GetSpan(part.Length * sizeof(short)))[..part.Length]);
                        target.Advance(part.Length * sizeof(short));
                        await target.FlushAsync(cancel);
                    }

                    progress((double)at / voice.Length.Samples);
                }
            }
            finally
            {
                foreach (var target in targets)
                {
                    await target.CompleteAsync();
                }
            }

            return meter.Integrated;
        },
        cancel);

    // Lets a voice go through ffmpeg's filters; without any it is given as it is.
    private async Task FilteredAsync(IVoice voice, string filters, Func<IVoice, CancellationToken, Task> use, CancellationToken cancel)
    {
        if (filters.Length == 0)
        {
            await use(voice, cancel);
            return;
        }

        var (raw, filtered) = (new Pipe(), new Pipe());
        await TogetherAsync(
            cancel,
            stop => PumpFloatsAsync(voice, raw.Writer, stop),
            stop => WritingAsync(filtered.Writer, () => ReadingAsync(raw.Reader, () => box.RunAsync(
                new BoxedProgram(
                    "ffmpeg",
                    _ =>
                    [
                        "-v", "error", "-f", "f32le", "-ar", "48000", "-ac", "1", "-i", "pipe:0", "-af", filters, "-f", "f32le", "pipe:1",
                    ],
                    Limit(voice.Length))
                {
                    Input = PipeSource.FromStream(raw.Reader.AsStream()),
                    Said = PipeTarget.ToStream(filtered.Writer.AsStream()),
                }, stop))),
            stop => ReadingAsync(filtered.Reader, () => use(new StreamedVoice(filtered.Reader.AsStream(), voice.Length), stop)));
    }

    private static Task PumpFloatsAsync(IVoice voice, PipeWriter target, CancellationToken cancel) => Task.Run(
        () => WritingAsync(target, async () =>
        {
            for (var at = 0L; at < voice.Length.Samples; at += Block)
            {
                var count = (int)Math.Min(Block, voice.Length.Samples - at);
                voice.Read(new LessonTime(at), MemoryMarshal.Cast<byte, float>(target.GetSpan(count * sizeof(float)))[..count]);
                target.Advance(count * sizeof(float));
                if ((await target.FlushAsync(cancel)).IsCompleted)
                {
                    return;
                }
            }
        }),
        cancel);

    private static async Task WritingAsync(PipeWriter writer, Func<Task> work)
    {
        try
        {
            await work();
        }
        finally
        {
            await writer.CompleteAsync();
        }
    }

    private static async Task ReadingAsync(PipeReader reader, Func<Task> work)
    {
        try
        {
            await work();
        }
        finally
        {
            await reader.CompleteAsync();
        }
    }

    // Runs what hangs together: when one fails, the others are stopped, and what failed first is what is told.
    private static async Task TogetherAsync(CancellationToken cancel, params Func<CancellationToken, Task>[] parts)
    {
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        Exception? first = null;
        await Task.WhenAll(parts.Select(async part =>
        {
            try
            {
                await part(stop.Token);
            }
            catch (Exception e)
            {
                Interlocked.CompareExchange(ref first, e, null);
                await stop.CancelAsync();
            }
        }));
        if (first is not null)
        {
            cancel.ThrowIfCancellationRequested();
            System.Runtime.ExceptionServices.ExceptionDispatchInfo.Throw(first);
        }
    }

    private static TimeSpan Limit(Duration length) => TimeSpan.FromSeconds(60 + length.Seconds);
}
