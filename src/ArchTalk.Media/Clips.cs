using System.Globalization;
using System.Text.Json;
using CliWrap;

namespace ArchTalk.Media;

/// <summary>A film or sound made ready for playing within a lesson.</summary>
/// <param name="HasPicture">Whether it is a film.</param>
/// <param name="Files">The names of its copies: MP4 (H.264 and AAC, or AAC alone) first, then WebM (VP9 and Opus, or Opus alone).</param>
public sealed record Clip(bool HasPicture, int LengthMs, IReadOnlyList<string> Files, IReadOnlyList<PictureFile> Preview);

/// <summary>Makes the copies of films and sounds with ffmpeg.</summary>
public static class Clips
{
    // 720 lines are enough beside a voice, and quick to make.
    private const string Scale = "scale=-2:'min(720,ih)',format=yuv420p";

    /// <param name="report">Called with parts done of a hundred.</param>
    /// <exception cref="MediaException">It is broken, protected or too long.</exception>
    public static async Task<Clip> ImportAsync(string file, string folder, MediaLimits limits, Func<int, Task> report, CancellationToken cancel)
    {
        Directory.CreateDirectory(folder);
        var (hasPicture, hasSound, seconds) = await ProbeAsync(file, cancel);
        if (seconds > limits.ClipSeconds)
        {
            throw new MediaException($"It is {seconds / 60:0} minutes long; at most {limits.ClipSeconds / 60} fit on a media board. Cut out the part you need and add that.");
        }

        string[] sound = hasSound ? ["-map", "0:a:0", "-c:a", "aac", "-b:a", "128k", "-ac", "2"] : ["-an"];
        string[] open = hasSound ? ["-map", "0:a:0", "-c:a", "libopus", "-b:a", "96k", "-ac", "2"] : ["-an"];
        string[] mp4 = hasPicture
            ? ["-map", "0:v:0", "-vf", Scale, "-c:v", "libx264", "-preset", "veryfast", "-crf", "23", .. sound, "-movflags", "+faststart", Path.Combine(folder, "clip.mp4")]
            : [.. sound, "-vn", "-movflags", "+faststart", Path.Combine(folder, "clip.mp4")];
        string[] webm = hasPicture
            ? ["-map", "0:v:0", "-vf", Scale, "-c:v", "libvpx-vp9", "-deadline", "realtime", "-cpu-used", "8", "-row-mt", "1", "-crf", "34", "-b:v", "0", .. open, Path.Combine(folder, "clip.webm")]
            : [.. open, "-vn", Path.Combine(folder, "clip.webm")];
        string[] arguments = ["-v", "error", "-nostdin", "-y", "-progress", "pipe:1", "-protocol_whitelist", "file,pipe", "-i", file, .. mp4, .. webm];
        var limit = TimeSpan.FromSeconds(120 + (seconds * 6));
        await Programs.RunAsync("ffmpeg", arguments, limit, cancel, output: PipeTarget.ToDelegate(async line =>
        {
            if (line.StartsWith("out_time_us=", StringComparison.Ordinal) && long.TryParse(line.AsSpan(12), CultureInfo.InvariantCulture, out var done))
            {
                await report((int)Math.Clamp(done / 10_000.0 / Math.Max(seconds, 0.001), 0, 99));
            }
        }));
        var preview = await PreviewAsync(file, hasPicture, seconds, folder, limits, cancel);
        return new Clip(hasPicture, (int)Math.Round(seconds * 1000), ["clip.mp4", "clip.webm"], preview);
    }

    private static async Task<(bool HasPicture, bool HasSound, double Seconds)> ProbeAsync(string file, CancellationToken cancel)
    {
        var text = new System.Text.StringBuilder();
        string[] arguments = ["-v", "error", "-protocol_whitelist", "file", "-show_entries", "format=duration:stream=codec_type:stream_disposition=attached_pic", "-of", "json", file];
        try
        {
            await Programs.RunAsync("ffprobe", arguments, TimeSpan.FromSeconds(30), cancel, output: PipeTarget.ToStringBuilder(text));
        }
        catch (MediaException e) when (e is not ProgramMissingException)
        {
            throw new MediaException("The film or sound is broken or in a form that can't be read. Save it as MP4, WebM, MP3 or WAV and add that.", e);
        }

        using var json = JsonDocument.Parse(text.ToString());
        var streams = json.RootElement.TryGetProperty("streams", out var list) ? list.EnumerateArray().ToArray() : [];
        bool Has(string type) => streams.Any(s => s.GetProperty("codec_type").GetString() == type
            && !(s.TryGetProperty("disposition", out var d) && d.TryGetProperty("attached_pic", out var cover) && cover.GetInt32() == 1));
        var known = json.RootElement.TryGetProperty("format", out var format) && format.TryGetProperty("duration", out var length)
            && double.TryParse(length.GetString(), CultureInfo.InvariantCulture, out var seconds) ? seconds : 0;
        return (Has("video") || Has("audio")) && known > 0
            ? (Has("video"), Has("audio"), known)
            : throw new MediaException("There is no film and no sound in the file, or it doesn't say how long it is. Save it as MP4, WebM, MP3 or WAV and add that.");
    }

    // A film is known by a picture from near its beginning, a sound by its waveform.
    private static async Task<IReadOnlyList<PictureFile>> PreviewAsync(string file, bool hasPicture, double seconds, string folder, MediaLimits limits, CancellationToken cancel)
    {
        var picture = Path.Combine(folder, "preview.png");
        var at = Math.Min(1, seconds / 3).ToString("0.###", CultureInfo.InvariantCulture);
        string[] arguments = hasPicture
            ? ["-v", "error", "-nostdin", "-y", "-protocol_whitelist", "file,pipe", "-ss", at, "-i", file, "-frames:v", "1", "-vf", "scale='min(1600,iw)':-2", picture]
            : ["-v", "error", "-nostdin", "-y", "-protocol_whitelist", "file,pipe", "-i", file, "-filter_complex", "color=c=white:s=1600x900[g];[0:a]aformat=channel_layouts=mono,showwavespic=s=1600x900:colors=#0F4C4A[w];[g][w]overlay=format=auto", "-frames:v", "1", picture];
        await Programs.RunAsync("ffmpeg", arguments, TimeSpan.FromSeconds(60), cancel);
        var copies = Pictures.Import(picture, folder, limits);
        File.Delete(picture);
        return copies;
    }
}
