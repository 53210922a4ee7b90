using System.Text;
using CliWrap;
using SkiaSharp;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.Fonts.Standard14Fonts;
using UglyToad.PdfPig.Writer;

namespace ArchTalk.Media.Tests;

/// <summary>A folder for one test, and files made for it.</summary>
public sealed class Samples : IDisposable
{
    public string Folder { get; } = Directory.CreateTempSubdirectory("archtalk-media-").FullName;

    public string Path(string name) => System.IO.Path.Combine(Folder, name);

    /// <summary>A PDF whose pages each carry one word at a known place: 72 points from the left, baseline 144 from the top.</summary>
    public string Pdf(string name, params (double Width, double Height, int Rotation)[] pages)
    {
        var builder = new PdfDocumentBuilder();
        var font = builder.AddStandard14Font(Standard14Font.Helvetica);
        for (var i = 0; i < pages.Length; i++)
        {
            var page = builder.AddPage(pages[i].Width, pages[i].Height);
            page.AddText($"Vault{i + 1}", 36, new(72, pages[i].Height - 144), font);
            if (pages[i].Rotation != 0)
            {
                page.SetRotation(new PageRotationDegrees(pages[i].Rotation));
            }
        }

        File.WriteAllBytes(Path(name), builder.Build());
        return Path(name);
    }

    /// <summary>A picture that is red in its top left quarter and white elsewhere.</summary>
    public string Picture(string name, int width, int height, SKEncodedImageFormat format, int? orientation = null)
    {
        using var bitmap = new SKBitmap(width, height);
        using (var canvas = new SKCanvas(bitmap))
        {
            canvas.Clear(SKColors.White);
            using var red = new SKPaint { Color = SKColors.Red };
            canvas.DrawRect(0, 0, width / 2f, height / 2f, red);
        }

        using var image = SKImage.FromBitmap(bitmap);
        using var data = image.Encode(format, 95);
        var bytes = data.ToArray();
        File.WriteAllBytes(Path(name), orientation is { } turn ? WithExif(bytes, (byte)turn) : bytes);
        return Path(name);
    }

    public string Program(string name, string lines) => StandIn.Program(Folder, name, lines);

    public async Task<string> RunAsync(string program, params string[] arguments)
    {
        var output = new StringBuilder();
        var target = PipeTarget.ToStringBuilder(output);
        await Cli.Wrap(program).WithArguments(arguments).WithWorkingDirectory(Folder)
            .WithStandardOutputPipe(target).WithStandardErrorPipe(target).ExecuteAsync();
        return output.ToString();
    }

    public void Dispose() => Directory.Delete(Folder, recursive: true);

    // An APP1 segment with one IFD entry: tag 0x0112, type short, count 1.
    private static byte[] WithExif(byte[] jpeg, byte orientation)
    {
        byte[] exif =
        [
            0xFF, 0xE1, 0, 34, .. "Exif\0\0"u8, .. "MM\0*"u8, 0, 0, 0, 8, 0, 1,
            0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, orientation, 0, 0, 0, 0, 0, 0,
        ];
        return [.. jpeg[..2], .. exif, .. jpeg[2..]];
    }
}
