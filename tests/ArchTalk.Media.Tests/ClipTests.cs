using System.Text.Json;

namespace ArchTalk.Media.Tests;

public sealed class ClipTests : IDisposable
{
    private readonly Samples samples = new();
    private readonly Kit kit = new(new() { ClipSeconds = 20 });

    public void Dispose() => samples.Dispose();

    private Task<Clip> ImportAsync(string name) =>
        kit.Clips.ImportAsync(samples.Path(name), samples.Path("made"), _ => Task.CompletedTask, CancellationToken.None);

    private async Task<(string[] Codecs, double Seconds)> ProbeAsync(string file)
    {
        using var json = JsonDocument.Parse(
            await samples.RunAsync("ffprobe", "-v", "error", "-show_entries", "stream=codec_name:format=duration", "-of", "json", file));
        return ([.. json.RootElement.GetProperty("streams").EnumerateArray().Select(s => s.GetProperty("codec_name").GetString()!)
            .Order(StringComparer.Ordinal)],
            double.Parse(
                json.RootElement.GetProperty("format").GetProperty("duration").GetString()!,
                System.Globalization.CultureInfo.InvariantCulture));
    }

    [Fact]
    public async Task A_film_becomes_MP4_and_WebM_with_a_preview()
    {
        await samples.RunAsync(
            "ffmpeg",
            "-v",
            "error",
            "-f",
            "lavfi",
            "-i",
            "testsrc2=s=640x360:d=2",
            "-f",
            "lavfi",
            "-i",
            "sine=d=2",
            "-c:v",
            "mpeg4",
            "-shortest",
            "film.mkv");
        var clip = await ImportAsync("film.mkv");
        clip.Files.ShouldBe(["clip.mp4"]);
        (await OpenCopyAsync("film.mkv")).ShouldBe(["clip.mp4", "clip.webm"]);
        clip.HasPicture.ShouldBeTrue();
        ((double)clip.LengthMs).ShouldBe(2000, 60);
        (await ProbeAsync(samples.Path("made/clip.mp4"))).ShouldSatisfyAllConditions(
            p => p.Codecs.ShouldBe(["aac", "h264"]),
            p => p.Seconds.ShouldBe(2, 0.1));
        (await ProbeAsync(samples.Path("made/clip.webm"))).ShouldSatisfyAllConditions(
            p => p.Codecs.ShouldBe(["opus", "vp9"]),
            p => p.Seconds.ShouldBe(2, 0.1));
        clip.Preview.Select(p => p.Name).ShouldBe(["small.jpg", "medium.jpg"]);
        clip.Preview[^1].Width.ShouldBe(640);
    }

    private Task<IReadOnlyList<string>> OpenCopyAsync(string name) =>
        kit.Clips.AddOpenCopyAsync(samples.Path(name), samples.Path("made"), _ => Task.CompletedTask, CancellationToken.None);

    // Found in the running application: a portrait film got a board 2,844 units high, and films with oblong pixels were squeezed.
    [Theory]
    [InlineData("360x640", "1", 1136, 640, 360, 640)]
    [InlineData("720x576", "64/45", 1024, 576, 1024, 576)]
    [InlineData("640x272", "1", 640, 272, 640, 272)]
    public async Task A_film_keeps_its_shape_and_its_board_is_no_higher_than_a_screen(
        string size,
        string pixel,
        int previewWidth,
        int previewHeight,
        int width,
        int height)
    {
        await samples.RunAsync(
            "ffmpeg",
            "-v",
            "error",
            "-f",
            "lavfi",
            "-i",
            $"testsrc2=s={size}:d=1",
            "-vf",
            $"setsar={pixel}",
            "-c:v",
            "mpeg4",
            "film.mkv");
        var clip = await ImportAsync("film.mkv");
        (clip.Preview[^1].Width, clip.Preview[^1].Height).ShouldBe((previewWidth, previewHeight));
        using var json = JsonDocument.Parse(await samples.RunAsync(
            "ffprobe",
            "-v",
            "error",
            "-show_entries",
            "stream=width,height,sample_aspect_ratio",
            "-of",
            "json",
            "made/clip.mp4"));
        var stream = json.RootElement.GetProperty("streams")[0];
        (stream.GetProperty("width").GetInt32(), stream.GetProperty("height").GetInt32(), stream.GetProperty("sample_aspect_ratio").GetString())
            .ShouldBe((width, height, "1:1"));
    }

    [Fact]
    public async Task A_sound_becomes_both_and_is_known_by_its_waveform()
    {
        await samples.RunAsync("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=d=1", "sound.mp3");
        FileKinds.Of(await File.ReadAllBytesAsync(samples.Path("sound.mp3"))).ShouldBe(FileKind.Clip);
        var clip = await ImportAsync("sound.mp3");
        await OpenCopyAsync("sound.mp3");
        clip.HasPicture.ShouldBeFalse();
        (await ProbeAsync(samples.Path("made/clip.mp4"))).Codecs.ShouldBe(["aac"]);
        (await ProbeAsync(samples.Path("made/clip.webm"))).Codecs.ShouldBe(["opus"]);
        clip.Preview[^1].Width.ShouldBe(1600);
    }

    [Fact]
    public async Task Broken_and_overlong_clips_are_named()
    {
        await File.WriteAllBytesAsync(samples.Path("cut.mp4"), [0, 0, 0, 24, .. "ftypisom"u8, 0, 0, 0, 0]);
        (await Should.ThrowAsync<MediaException>(() => ImportAsync("cut.mp4"))).Message.ShouldContain("MP4, WebM, MP3 or WAV");
        await samples.RunAsync("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "anullsrc", "-t", "25", "long.wav");
        (await Should.ThrowAsync<MediaException>(() => ImportAsync("long.wav"))).Message.ShouldContain("Cut out the part");
    }
}
