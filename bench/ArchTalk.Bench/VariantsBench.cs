using System.Globalization;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using ArchTalk.Media;
using ArchTalk.Media.Boxes;
using ArchTalk.Reader.Contract;
using ArchTalk.Media.Tests;
using ArchTalk.Tests;
using CliWrap;
using SkiaSharp;

namespace ArchTalk.Bench;

/// <summary>
/// Files of every class that teachers bring, varied by a seed, and what comes of them compared with an independent reader: photographs
/// with known words; PDFs with pdftotext; decks with pdftotext of what LibreOffice draws of the deck as it came; pictures and films with ffmpeg.
/// ARCHTALK_VARIANTS says how many of each.
/// </summary>
internal static partial class VariantsBench
{
    private static readonly CancellationToken None = CancellationToken.None;
    private static readonly int Count = int.TryParse(Environment.GetEnvironmentVariable("ARCHTALK_VARIANTS"), CultureInfo.InvariantCulture, out var n)
        ? n
        : 40;
    private static readonly MediaLimits Limits = new();
    private static readonly Box Box = new(new BoxOptions(), Limits);
    private static readonly Pictures Pictures = new(Box, Limits);
    private static readonly PageReader Reader = new(Box, new MediaPrograms(), Limits);

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("archtalk-bench-").FullName;
        await ScansAsync(folder);
        await PdfsAsync(folder);
        await DecksAsync(folder);
        await PicturesAsync(folder);
        await FilmsAsync(folder);
        Directory.Delete(folder, recursive: true);
    }

    private static async Task ScansAsync(string folder)
    {
        var scans = new Scans(Pictures, Reader);
        var (shares, uncropped) = (new List<double>(), 0);
        for (var seed = 100; seed < 100 + Count; seed++)
        {
            var photograph = new Photograph(seed);
            var file = Path.Combine(folder, "photo.jpg");
            photograph.Write(file, seed % 4);
            var settings = await scans.ProposeAsync(file, None);
            uncropped += settings.Corners is null ? 1 : 0;
            var copies = await Pictures.ImportScanAsync(file, settings, Path.Combine(folder, "scan"), None);
            shares.Add(photograph.ShareRight(await Reader.ReadAsync(Path.Combine(folder, "scan", copies[^1].Name), ["en"], None)));
        }

        Measure.Say($"{Count} photographs (tilted to 15°, half in shadow, lying any way up): {shares.Average():P1} of the words right, the worst "
            + $"{shares.Min():P1}, {shares.Count(s => s < 0.98)} below 98 %; corners not found in {uncropped}");
    }

    // A page of a random box, crop and turn with a dozen words at random places.
    private static async Task PdfsAsync(string folder)
    {
        var random = new Random(8);
        var (pages, words, lost, moved) = (new List<string>(), 0, 0, 0);
        for (var i = 0; i < Count; i++)
        {
            var (left, bottom, width, height) = (random.Next(-200, 300), random.Next(-200, 300), random.Next(300, 900), random.Next(300, 900));
            var crop = random.Next(
                2) == 0 ? "" : $"/CropBox [{left + random.Next(0, 60)} {bottom + random.Next(0, 60)} {left + width - random.Next(0, 60)} "
                    + $"{bottom + height - random.Next(0, 60)}]";
            var content = string.Concat(Enumerable.Range(
                0,
                12).Select(w => $"BT /F1 {random.Next(10, 30)} Tf 1 0 0 1 {left + random.Next(70, width - 150)} "
                    + $"{bottom + 70 + (w * (height - 140) / 12)} Tm (word{i}x{w}) Tj ET\n"));
            pages.Add(RawPdf.Page($"/MediaBox [{left} {bottom} {left + width} {bottom + height}] {crop} /Rotate {90 * random.Next(4)}", content));
        }

        var file = Path.Combine(folder, "variants.pdf");
        await File.WriteAllBytesAsync(file, RawPdf.Pages(pages));
        var reference = (await SaidAsync("pdftotext", "-bbox", "-cropbox", file, "-")).Split("<page ").Skip(1).ToArray();
        await using var read = await PdfPages.OpenAsync(Box, file, folder, Limits, None);
        for (var page = 1; page <= read.Count; page++)
        {
            var made = await read.ImportAsync(page, Path.Combine(folder, "page"), None);
            var shown = made.Copies[^1];

            // How many units a point is follows from the picture poppler draws of what is seen, and from two of its words.
            var found = Word().Matches(reference[page - 1]).Select(m => (Text: m.Groups["word"].Value, X: Number(m, "x0"), Y: Number(
                m,
                "y0"), Ours: made.Words.Words.SingleOrDefault(w => w.Text == m.Groups["word"].Value))).ToArray();
            words += found.Length;
            lost += found.Count(f => f.Ours is null);
            var there = found.Where(f => f.Ours is not null).ToArray();
            var (a, b) = (there.MinBy(f => f.X + f.Y), there.MaxBy(f => f.X + f.Y));
            var scale = (b.Ours!.X - a.Ours!.X + b.Ours.Y - a.Ours.Y) / (b.X - a.X + b.Y - a.Y);
            // The two readers begin a box at the top of the capitals or of the line: less than half a line apart.
            moved += there.Count(f => Math.Max(Math.Abs(f.Ours!.X - (f.X * scale)), Math.Abs(f.Ours.Y - (f.Y * scale))) > 0.5 * f.Ours.Height
                || f.Ours.Y > 1600.0 * shown.Height / shown.Width);
        }

        Measure.Say(
            $"{Count} PDF pages of random boxes, offsets, crops and turns: {words} words where pdftotext has them, {lost} lost, {moved} elsewhere");
    }

    private static async Task DecksAsync(string folder)
    {
        var (words, differ, decks) = (0, 0, Math.Max(1, Count / 4));
        for (var seed = 1; seed <= decks; seed++)
        {
            var deck = Path.Combine(folder, $"deck-{seed}.pptx");
            await Cli.Wrap("node").WithArguments(["-e", DeckScript, Path.Combine(Repository.Web, "package.json"), deck, $"{seed}"]).ExecuteAsync();
            await Cli.Wrap("soffice").WithArguments(
                [$"-env:UserInstallation=file://{folder}/profile", "--headless", "--convert-to", "pdf", "--outdir", folder, deck])
                .WithValidation(CommandResultValidation.None)
                .WithStandardErrorPipe(PipeTarget.Null).ExecuteAsync();
            var expected = (await SaidAsync("pdftotext", Path.ChangeExtension(deck, ".pdf"), "-")).Split(
                (char[])['\n', '\f', ' '],
                StringSplitOptions.RemoveEmptyEntries);
            var drawn = await new DeckLooks(Box, new MediaPrograms(), Limits).DrawAsync(deck, Path.Combine(folder, "drawn"), None);
            await using var pages = await PdfPages.OpenAsync(Box, drawn.Pdf, folder, Limits, None);
            var found = new List<string>();
            for (var page = 1; page <= pages.Count; page++)
            {
                found.AddRange((await pages.ImportAsync(page, Path.Combine(folder, "slide"), None)).Words.Words.Select(w => w.Text));
            }

            words += expected.Length;
            differ += expected.Length - expected.GroupBy(w => w).Sum(g => Math.Min(g.Count(), found.Count(f => f == g.Key)));
        }

        Measure.Say($"{decks} decks of random slides: {words} words where pdftotext reads them of the deck as it came, {differ} of them not read");
    }

    private static async Task PicturesAsync(string folder)
    {
        var (random, differ) = (new Random(3), 0);
        for (var i = 0; i < Count; i++)
        {
            var format = new[] { SKEncodedImageFormat.Png, SKEncodedImageFormat.Jpeg, SKEncodedImageFormat.Webp }[random.Next(3)];
            using var bitmap = new SKBitmap(random.Next(40, 2400), random.Next(40, 2400));
            bitmap.Erase(new SKColor((uint)random.Next() | 0xFF00_0000));
            using (var canvas = new SKCanvas(bitmap))
            using (var paint = new SKPaint { Color = new SKColor((uint)random.Next() | 0xFF00_0000) })
            {
                canvas.DrawRect(0, 0, bitmap.Width / 2f, bitmap.Height / 3f, paint);
            }

            var file = Path.Combine(folder, "picture");
            using (var data = bitmap.Encode(format, 92))
            {
                await File.WriteAllBytesAsync(file, data.ToArray());
            }

            var copy = (await Pictures.ImportAsync(file, Path.Combine(folder, "copies"), None))[^1];
            var (ours, theirs) = (await GridAsync(Path.Combine(folder, "copies", copy.Name)), await GridAsync(file));
            differ += ours.Zip(theirs).Average(p => Math.Abs(p.First - p.Second)) > 4 || copy.Width != bitmap.Width ? 1 : 0;
        }

        Measure.Say($"{Count} pictures of random kinds, sizes and colours: {differ} whose largest copy ffmpeg sees otherwise than the file (mean "
            + $"difference over 4 of 255, or another size)");
    }

    private static async Task FilmsAsync(string folder)
    {
        var (random, clips, films, differ) = (new Random(5), new Clips(Box, Pictures, Limits), Math.Max(1, Count / 2), 0);
        for (var i = 0; i < films; i++)
        {
            var (width, height, sar) = (2 * random.Next(60, 500), 2 * random.Next(60, 500), new[] { "1", "64/45", "12/11", "4/3" }[random.Next(4)]);
            var (seconds, codec) = (random.Next(1, 4), new[] { "mpeg4", "libx264", "libvpx" }[random.Next(3)]);
            var file = Path.Combine(folder, "film.mkv");
            await Cli.Wrap(
                "ffmpeg").WithArguments(["-v", "error", "-y", "-f", "lavfi", "-i",
                $"testsrc2=s={width}x{height}:r={random.Next(10, 31)}:d={seconds}", "-vf", $"setsar={sar}", "-c:v", codec, file]).ExecuteAsync();
            await clips.ImportAsync(file, Path.Combine(folder, "clip"), _ => Task.CompletedTask, None);
            var ((w, h, s), (ow, oh, os)) = (await ShapeAsync(file), await ShapeAsync(Path.Combine(folder, "clip", "clip.mp4")));
            differ += Math.Abs((ow / oh / (w / h)) - 1) > 0.03 || Math.Abs(s - os) > 0.15 ? 1 : 0;
        }

        Measure.Say($"{films} films of random sizes, pixel shapes, rates and codecs: {differ} whose copy ffprobe finds of another shape (over 3 %) "
            + $"or length (over 0.15 s)");
    }

    // Width by height as it is shown, and the length in seconds.
    private static async Task<(double Width, double Height, double Seconds)> ShapeAsync(string file)
    {
        using var json = JsonDocument.Parse(await SaidAsync(
            "ffprobe",
            "-v",
            "error",
            "-select_streams",
            "v:0",
            "-show_entries",
            "stream=width,height,sample_aspect_ratio:format=duration",
            "-of",
            "json",
            file));
        var stream = json.RootElement.GetProperty("streams")[0];
        var pixel = stream.TryGetProperty("sample_aspect_ratio", out var ratio) && ratio.GetString()!.Split(':') is [var a, var b]
            ? double.Parse(a, CultureInfo.InvariantCulture) / double.Parse(b, CultureInfo.InvariantCulture)
            : 1;
        return (stream.GetProperty("width").GetInt32() * pixel, stream.GetProperty("height").GetInt32(), double.Parse(
            json.RootElement.GetProperty("format").GetProperty("duration").GetString()!,
            CultureInfo.InvariantCulture));
    }

    // 16 by 16 grey values.
    private static async Task<byte[]> GridAsync(string file)
    {
        using var bytes = new MemoryStream();
        await Cli.Wrap("ffmpeg").WithArguments(
            ["-v", "error", "-i", file, "-vf", "scale=16:16:flags=area,format=gray", "-frames:v", "1", "-f", "rawvideo", "-"])
            .WithStandardOutputPipe(PipeTarget.ToStream(bytes)).ExecuteAsync();
        return bytes.ToArray();
    }

    private static async Task<string> SaidAsync(string program, params string[] arguments)
    {
        var said = new StringBuilder();
        await Cli.Wrap(program).WithArguments(arguments).WithStandardOutputPipe(PipeTarget.ToStringBuilder(said, Encoding.UTF8)).ExecuteAsync();
        return said.ToString();
    }

    private static double Number(Match match, string name) => double.Parse(match.Groups[name].Value, CultureInfo.InvariantCulture);

    [GeneratedRegex("""<word xMin="(?<x0>[-\d.]+)" yMin="(?<y0>[-\d.]+)" xMax="[-\d.]+" yMax="[-\d.]+">(?<word>[^<]+)<""", RegexOptions.None, 1000)]
    private static partial Regex Word();

    private const string DeckScript =
        """
        const Deck = require("node:module").createRequire(process.argv[1])("pptxgenjs");
        let seed = Number(process.argv[3]);
        const random = (n) => ((seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648 * n) | 0;
        const words = "arch keystone thrust Bogen Schlussstein Größe œuvre voûte арка камень αψίδα 12,5 kN = 3/4 “stones” carry".split(" ");
        const line = (n) => Array.from({ length: n }, () => words[random(words.length)]).join(" ");
        const faces = ["Calibri", "Cambria", "Arial", "Times New Roman", "Courier New"];
        const deck = new Deck();
        for (let i = 0; i < 4; i++) {
          const slide = deck.addSlide();
          slide.addText(line(4), { x: 0.4, y: 0.2, w: 9, h: 1, fontSize: 28, fontFace: faces[random(5)], bold: random(2) === 1 });
          slide.addText(Array.from({ length: 4 }, () => ({ text: line(6), options: { bullet: random(2) === 1, breakLine: true } })), { x: 0.4,
            y: 1.3, w: 5, h: 3, fontSize: 14 + random(6), fontFace: faces[random(5)] });
          slide.addTable([[line(1), line(1)], [line(1), line(2)]], { x: 5.6, y: 1.5, w: 4, fontSize: 12, fontFace: faces[random(5)] });
        }
        deck.writeFile({ fileName: process.argv[2] });
        """;
}
