using System.Globalization;
using System.Text.Json;
using ArchTalk.Media.Boxes;
using CliWrap;

namespace ArchTalk.Media;

/// <summary>A film or sound made ready for playing within a lesson.</summary>
/// <param name="HasPicture">Whether it is a film.</param>
/// <param name="Files">The names of its copies.</param>
/// <param name="Preview">Copies of a picture of it, as high as a player of 16:9 shows it at most.</param>
public sealed record Clip(bool HasPicture, int LengthMs, IReadOnlyList<string> Files, IReadOnlyList<PictureFile> Preview);

/// <summary>Makes the copies of films and sounds with ffmpeg.</summary>
public sealed class Clips(Box box, Pictures pictures, MediaLimits limits)
{
    // 720 lines are enough beside a voice, and quick to make. Pixels that aren't square become so.
    private const string Scale = "scale=trunc(iw*sar/2)*2:trunc(ih/2)*2,setsar=1,scale=-2:'min(720,ih)',format=yuv420p";

    private const string Mp4 = "clip.mp4";
    private const string WebM = "clip.webm";

    /// <summary>
    /// Makes the copy that every browser plays (MP4: H.264 and AAC, or AAC alone) and the picture by which the film or sound is
    /// known.
    /// </summary>
    /// <param name="report">Called with parts done of a hundred.</param>
    /// <exception cref="MediaException">It is broken, protected or too long.</exception>
    public async Task<Clip> ImportAsync(string file, string folder, Func<int, Task> report, CancellationToken cancel)
    {
        var form = await FormAsync(file, cancel);
        using var work = new WorkFolder(Directory.CreateDirectory(folder).FullName);
        var (hasPicture, hasSound, seconds) = await ProbeAsync(file, form, cancel);
        if (seconds > limits.ClipSeconds)
        {
            throw new MediaException($"It is {seconds / 60:0} minutes long; at most {limits.ClipSeconds / 60} fit on a media board. Cut out the "
                + $"part you need and add that.");
        }

        var preview = await PreviewAsync(file, form, hasPicture, seconds, work, folder, cancel);
        string[] sound = hasSound ? ["-map", "0:a:0", "-c:a", "aac", "-b:a", "128k", "-ac", "2"] : ["-an"];
        string[] copy = hasPicture
            ? ["-map", "0:v:0", "-vf", Scale, "-c:v", "libx264", "-preset", "veryfast", "-crf", "23", .. sound, "-movflags", "+faststart"]
            : [.. sound, "-vn", "-movflags", "+faststart"];
        await CopyAsync(file, form, work, folder, Mp4, copy, seconds, report, cancel);
        return new Clip(hasPicture, (int)Math.Round(seconds * 1000), [Mp4], preview);
    }

    /// <summary>Makes the copy in open formats (WebM: VP9 and Opus, or Opus alone) beside the first; gives the names of both.</summary>
    /// <param name="report">Called with parts done of a hundred.</param>
    /// <exception cref="MediaException">It could not be made; the first copy is still there.</exception>
    public async Task<IReadOnlyList<string>> AddOpenCopyAsync(string file, string folder, Func<int, Task> report, CancellationToken cancel)
    {
        var form = await FormAsync(file, cancel);
        using var work = new WorkFolder(folder);
        var (hasPicture, hasSound, seconds) = await ProbeAsync(file, form, cancel);
        string[] sound = hasSound ? ["-map", "0:a:0", "-c:a", "libopus", "-b:a", "96k", "-ac", "2"] : ["-an"];
        string[] copy = hasPicture
            ? ["-map", "0:v:0", "-vf", Scale, "-c:v", "libvpx-vp9", "-deadline", "realtime", "-cpu-used", "8", "-row-mt", "1", "-crf", "34", "-b:v",
                "0", .. sound]
            : [.. sound, "-vn"];
        await CopyAsync(file, form, work, folder, WebM, copy, seconds, report, cancel);
        return [Mp4, WebM];
    }

    private async Task CopyAsync(
        string file, string form, WorkFolder work, string folder, string name, string[] how, double seconds, Func<int, Task> report,
        CancellationToken cancel)
    {
        var progress = PipeTarget.ToDelegate(async line =>
        {
            if (line.StartsWith("out_time_us=", StringComparison.Ordinal)
                && long.TryParse(line.AsSpan(12), CultureInfo.InvariantCulture, out var done))
            {
                await report((int)Math.Clamp(done / 10_000.0 / Math.Max(seconds, 0.001), 0, 99));
            }
        });
        await RunAsync(
            "ffmpeg", file, form, work.Path, TimeSpan.FromSeconds(
                120 + (seconds * 6)), (v, input) => ["-v", "error", "-nostdin", "-y", "-progress", "pipe:1", .. input, .. how, v.Out(name)],
                    progress, cancel);
        File.Move(work.Written(name), Path.Combine(folder, name), overwrite: true);
    }

    // The form is the one that its own first bytes show: what only calls itself a sound could be a list of other files.
    private static async Task<string> FormAsync(string file, CancellationToken cancel) =>
        await FileKinds.DemuxerAsync(file, cancel) ?? throw Unreadable();

    private static MediaException Unreadable(Exception? e = null) =>
        new(
            "The film or sound is broken or in a form that can't be read. Save it as MP4, WebM, MP3 or WAV and add that.",
            e ?? new InvalidDataException());

    private Task<string> RunAsync(
        string program, string file, string form, string? output, TimeSpan limit, Func<BoxView, string[], IEnumerable<string>> arguments,
        PipeTarget said, CancellationToken cancel) =>
        box.RunAsync(
            new BoxedProgram(program, v => arguments(v, ["-protocol_whitelist", "file,pipe", "-f", form, "-i", v.Inputs[0]]), limit)
            {
                Inputs = [file],
                Output = output,
                Said = said,
                MemoryMegabytes = limits.MemoryMegabytes,
            }, cancel);

    private async Task<(bool HasPicture, bool HasSound, double Seconds)> ProbeAsync(string file, string form, CancellationToken cancel)
    {
        using var text = new MemoryStream();
        try
        {
            await RunAsync(
                "ffprobe", file, form, null, TimeSpan.FromSeconds(30),
                (_, input) => ["-v", "error", "-show_entries", "format=duration:stream=codec_type:stream_disposition=attached_pic", "-of", "json",
                .. input], Box.Collect(text), cancel);
        }
        catch (MediaException e) when (e is not ProgramMissingException)
        {
            throw Unreadable(e);
        }

        using var json = JsonDocument.Parse(text.ToArray());
        var streams = json.RootElement.TryGetProperty("streams", out var list) ? list.EnumerateArray().ToArray() : [];
        bool Has(string type) => streams.Any(s => s.GetProperty("codec_type").GetString() == type
            && !(s.TryGetProperty("disposition", out var d) && d.TryGetProperty("attached_pic", out var cover) && cover.GetInt32() == 1));
        var known = json.RootElement.TryGetProperty("format", out var format) && format.TryGetProperty("duration", out var length)
            && double.TryParse(length.GetString(), CultureInfo.InvariantCulture, out var seconds) ? seconds : 0;
        return (Has("video") || Has("audio")) && known > 0
            ? (Has("video"), Has("audio"), known)
            : throw new MediaException(
                "There is no film and no sound in the file, or it doesn't say how long it is. Save it as MP4, WebM, MP3 or WAV and add that.");
    }

    // As a player of 16:9 shows it: a film that is higher stands in the middle of black.
    private const string Shown =
        "scale=trunc(iw*sar/2)*2:trunc(ih/2)*2,setsar=1,pad='if(gt(ih*16,iw*9),trunc(ih*16/9/2)*2,iw)':ih:(ow-iw)/2:0:black,scale='min(1600,iw)':-2";

    // A film is known by a picture from near its beginning, a sound by its waveform.
    private async Task<IReadOnlyList<PictureFile>> PreviewAsync(
        string file,
        string form,
        bool hasPicture,
        double seconds,
        WorkFolder work,
        string folder,
        CancellationToken cancel)
    {
        var at = Math.Min(1, seconds / 3).ToString("0.###", CultureInfo.InvariantCulture);
        string[] before = hasPicture ? ["-ss", at] : [];
        string[] drawing = hasPicture
            ? ["-vf", Shown]
            : ["-filter_complex", "color=c=white:s=1600x900[g];"
                + "[0:a]aformat=channel_layouts=mono,showwavespic=s=1600x900:colors=#0F4C4A[w];[g][w]overlay=format=auto"];
        await RunAsync(
            "ffmpeg", file, form, work.Path, TimeSpan.FromSeconds(60),
            (v, input) => ["-v", "error", "-nostdin", "-y", .. before, .. input, .. drawing, "-frames:v", "1", v.Out("preview.png")], PipeTarget
                .Null, cancel);
        return await pictures.ImportAsync(work.Written("preview.png"), folder, cancel);
    }
}
