using System.Globalization;
using ArchTalk.Core.Time;
using ArchTalk.Media;
using ArchTalk.Media.Boxes;
using ArchTalk.Reader.Contract;
using CliWrap;
using SkiaSharp;
using UglyToad.PdfPig.Fonts.Standard14Fonts;
using UglyToad.PdfPig.Writer;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>Files made for one test class, removed at its end.</summary>
public sealed class TestFiles : IDisposable
{
    public static Voice Voice { get; } = new(new Box(new BoxOptions(), new MediaLimits()));

    public string Folder { get; } = Directory.CreateTempSubdirectory("archtalk-story-").FullName;

    public string Path(string name) => System.IO.Path.Combine(Folder, name);

    /// <summary>A PDF with a slide and a tall page.</summary>
    public string Pdf()
    {
        var builder = new PdfDocumentBuilder();
        var font = builder.AddStandard14Font(Standard14Font.Helvetica);
        builder.AddPage(960, 540).AddText("Thrust and weight", 40, new(60, 440), font);
        builder.AddPage(595, 842).AddText("A tall worksheet", 30, new(60, 760), font);
        File.WriteAllBytes(Path("slides.pdf"), builder.Build());
        return Path("slides.pdf");
    }

    /// <summary>A PDF of up to 26 pages that take their time to be drawn.</summary>
    public string LongPdf(int pages)
    {
        var builder = new PdfDocumentBuilder();
        var font = builder.AddStandard14Font(Standard14Font.Helvetica);
        for (var i = 1; i <= pages; i++)
        {
            var page = builder.AddPage(960, 540);
            page.AddText($"Stone{(char)('A' + i - 1)}", 40, new(60, 440), font);
            for (var line = 0; line < 400; line++)
            {
                page.DrawLine(new(60 + (line * 2), 60), new(900 - (line * 2), 400));
            }
        }

        File.WriteAllBytes(Path("long.pdf"), builder.Build());
        return Path("long.pdf");
    }

    public string Picture(string name, SKColor color)
    {
        using var bitmap = new SKBitmap(1600, 900);
        bitmap.Erase(color);
        using var image = SKImage.FromBitmap(bitmap);
        using var data = image.Encode(SKEncodedImageFormat.Jpeg, 90);
        File.WriteAllBytes(Path(name), data.ToArray());
        return Path(name);
    }

    /// <summary>Someone speaking, to be played as the microphone.</summary>
    public async Task<string> SpeechAsync()
    {
        await Cli.Wrap("espeak-ng").WithArguments(
            ["-v", "en-gb", "-s", "150", "-w", Path(
                "speech.wav"), "Every stone of an arch leans on its neighbour. The keystone is set last, and it locks all the others. The thrust "
                    + "goes down to the abutments on either side, which have to be heavy."]).ExecuteAsync();
        Sounds.WriteWav(Path("microphone.wav"), await Voice.DecodeAsync(Path("speech.wav"), CancellationToken.None));
        return Path("microphone.wav");
    }

    /// <summary>A click at each full second over a quiet room.</summary>
    public string Clicks(int seconds)
    {
        var random = new Random(5);
        var samples = Enumerable.Range(0, seconds * Clock.SampleRate).Select(_ => (short)random.Next(-40, 41)).ToArray();
        for (var second = 1; second < seconds; second++)
        {
            Sounds.Click().CopyTo(samples, second * Clock.SampleRate);
        }

        Sounds.WriteWav(Path("clicks.wav"), samples);
        return Path("clicks.wav");
    }

    public static string Number(double value) => value.ToString("0.0", CultureInfo.InvariantCulture);

    public void Dispose() => Directory.Delete(Folder, recursive: true);
}
