using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Boards.Scans;
using ArchTalk.Core.Boards.Seen;
using ArchTalk.Media.Boxes;

namespace ArchTalk.Media;

/// <summary>Makes the copies of boards' pictures that students and teachers are sent; the picture as it came is never changed.</summary>
public sealed class Pictures(Box box, MediaLimits limits)
{
    /// <summary>The name under which a cleaned SVG picture is kept.</summary>
    public const string SharpName = "sharp.svg";

    // Wider than any copy of pixels is needed, so the painter takes it for every close-up.
    private const int SharpWidth = 100_000;

    // One picture at a time: each takes hundreds of megabytes, however small its file.
    private static readonly SemaphoreSlim Turn = new(1);

    /// <summary>
    /// Reads a picture (turned as its EXIF says), checks the limits before decoding, and writes its copies into
    /// <paramref name="folder"/> from small to large; none is larger than the picture itself.
    /// </summary>
    /// <exception cref="MediaException">It is too large, broken, or not a picture.</exception>
    public Task<IReadOnlyList<PictureFile>> ImportAsync(string file, string folder, CancellationToken cancel) =>
        WriteAsync([file], folder, v => new CopyPicture(v.Inputs[0], v.Out("")), cancel);

    /// <summary>
    /// A picture of any kind that can become one (PNG, JPEG, WebP, HEIC, AVIF, SVG), as PNG, JPEG or WebP: the file itself, or one that it was
    /// converted to in <paramref name="folder"/>.
    /// </summary>
    /// <exception cref="MediaException">It is none of these, or broken.</exception>
    public async Task<string> PlainAsync(string file, string folder, CancellationToken cancel)
    {
        switch (await FileKinds.OfAsync(file, cancel))
        {
            case FileKind.Png or FileKind.Jpeg or FileKind.WebP:
                return file;
            case FileKind.Heif:
                return await ConvertAsync(file, folder, cancel);
            case FileKind.Svg:
                var copies = await ImportSvgAsync(file, folder, cancel);
                return Path.Combine(folder, copies[^2].Name);
            default:
                throw new MediaException("It is not a PNG, JPEG, WebP, HEIC, AVIF or SVG picture, whatever its name says. Save or export it as one "
                    + "of these and add it again.");
        }
    }

    /// <summary>Makes a picture that lies on a board.</summary>
    /// <param name="target">The file that is written.</param>
    /// <exception cref="MediaException">It is too large, broken, or not a picture.</exception>
    public async Task<PictureFile> MakeItemAsync(string file, string target, CancellationToken cancel)
    {
        using var work = new WorkFolder(Directory.CreateDirectory(Path.GetDirectoryName(target)!).FullName);
        var plain = await PlainAsync(file, work.Inner("plain"), cancel);
        return await InTurnAsync(
            async () =>
            {
                await using var reader = new BoxedReader(box, limits, [plain], work.Path, cancel);
                var made = await reader.AskAsync(v => new MakeItemPicture(v.Inputs[0], v.Out("item.webp")), cancel);
                var written = work.Written("item.webp");
                if (await FileKinds.OfAsync(written, cancel) != FileKind.WebP || made.Width is < 1 or > PictureSizes.ItemSide
                    || made.Height is < 1 or > PictureSizes.ItemSide)
                {
                    throw new MediaException("It could not be read: what came of it is no picture. Save or export it anew, and add that.");
                }

                File.Move(written, target, overwrite: true);
                return made with { Name = Path.GetFileName(target) };
            }, cancel);
    }

    private async Task<string> ConvertAsync(string file, string folder, CancellationToken cancel)
    {
        Directory.CreateDirectory(folder);
        using var work = new WorkFolder(folder);
        try
        {
            await InTurnAsync(
                () => box.RunAsync(
                    new BoxedProgram(
                        "heif-convert",
                        v => ["-q", "95", v.Inputs[0], v.Out("converted.jpg")],
                        TimeSpan.FromSeconds(limits.SecondsPerPage))
                    {
                        Inputs = [file],
                        Output = work.Path,
                        MemoryMegabytes = limits.MemoryMegabytes,
                    }, cancel), cancel);
        }
        catch (ProgramMissingException e)
        {
            throw new MediaException("It is a HEIC or AVIF picture, which can't be converted on this server. Save it as JPEG on your telephone or "
                + "computer and add that, or ask whoever runs the server to install heif-convert; ./demo does so.", e);
        }
        catch (MediaException e) when (e is not ProgramStoppedException)
        {
            throw new MediaException(
                "The HEIC or AVIF picture is broken or in a form that can't be read. Save it as JPEG on your telephone or computer, and add that.",
                e);
        }

        // Several pictures in one file are numbered; the first is the one meant.
        var made = Directory.EnumerateFiles(work.Path, "converted*.jpg").Order(StringComparer.Ordinal).FirstOrDefault()
            ?? throw new MediaException("Nothing came of the HEIC or AVIF picture. Save it as JPEG and add that.");
        var target = Path.Combine(folder, "converted.jpg");
        File.Move(work.Written(Path.GetFileName(made)), target, overwrite: true);
        return target;
    }

    /// <summary>Writes the copies of a photographed page as the settings make it.</summary>
    /// <exception cref="MediaException">It is too large, broken, or not a picture.</exception>
    public Task<IReadOnlyList<PictureFile>> ImportScanAsync(string original, ScanSettings settings, string folder, CancellationToken cancel) =>
        WriteAsync([original], folder, v => new MakeScan(v.Inputs[0], settings, v.Out("")), cancel);

    /// <summary>Writes the copies of a board that shows two pictures beside each other, alike in height, on white.</summary>
    /// <exception cref="MediaException">One of them can't be read.</exception>
    public Task<IReadOnlyList<PictureFile>> JoinAsync(string left, string right, string folder, CancellationToken cancel) =>
        WriteAsync([left, right], folder, v => new JoinPictures(v.Inputs[0], v.Inputs[1], v.Out("")), cancel);

    /// <summary>Writes copies of a board's pictures, under their own names, with nothing to be seen where covers lie.</summary>
    /// <exception cref="MediaException">One of them can't be read.</exception>
    public Task CoverAsync(IReadOnlyList<string> copies, IReadOnlyList<CoveredBox> boxes, string folder, CancellationToken cancel) => InTurnAsync(
        async () =>
        {
            using var work = new WorkFolder(Directory.CreateDirectory(folder).FullName);
            await using var reader = new BoxedReader(box, limits, copies, work.Path, cancel);
            for (var i = 0; i < copies.Count; i++)
            {
                var (index, name) = (i, Path.GetFileName(copies[i]));
                await reader.AskAsync(v => new CoverPicture(v.Inputs[index], [.. boxes], v.Out(name)), cancel);
                File.Move(work.Written(name), Path.Combine(folder, name), overwrite: true);
            }

            return true;
        }, cancel);

    /// <summary>What would put a photographed page right: its angle, its borders, and contrast where the paper isn't white.</summary>
    /// <exception cref="MediaException">It is too large, broken, or not a picture.</exception>
    public Task<ScanSettings> ProposeScanAsync(string original, CancellationToken cancel) => InTurnAsync(
        async () =>
        {
            await using var reader = new BoxedReader(box, limits, [original], null, cancel);
            var proposed = await reader.AskAsync(v => new ProposeScan(v.Inputs[0]), cancel);
            return proposed.Check().Value ?? ScanSettings.AsItIs;
        }, cancel);

    /// <summary>Where the page as the settings make it is divided into two, as a share of its width.</summary>
    /// <exception cref="MediaException">It is too large, broken, or not a picture.</exception>
    public Task<double> GutterAsync(string original, ScanSettings settings, CancellationToken cancel) => InTurnAsync(
        async () =>
        {
            await using var reader = new BoxedReader(box, limits, [original], null, cancel);
            return Math.Clamp(await reader.AskAsync(v => new FindGutter(v.Inputs[0], settings), cancel), 0.1, 0.9);
        }, cancel);

    /// <summary>A picture's colours.</summary>
    /// <exception cref="MediaException">It is too large, broken, or not a picture.</exception>
    public Task<Pixels> PixelsAsync(string file, CancellationToken cancel) => InTurnAsync(
        async () =>
        {
            using var work = new WorkFolder(Path.GetTempPath());
            await using var reader = new BoxedReader(box, limits, [file], work.Path, cancel);
            var width = await reader.AskAsync(v => new ReadPixels(v.Inputs[0], v.Out("pixels")), cancel);
            var bytes = await File.ReadAllBytesAsync(work.Written("pixels"), cancel);
            return width > 0 && bytes.Length % (width * 3) == 0
                ? new Pixels(width, bytes.Length / (width * 3), bytes)
                : throw new MediaException("The picture could not be read.");
        }, cancel);

    /// <summary>Cleans and draws an SVG picture: copies in pixels for small views, the cleaned picture itself for large ones.</summary>
    /// <exception cref="MediaException">It is broken, hostile, or larger than the limits.</exception>
    public async Task<IReadOnlyList<PictureFile>> ImportSvgAsync(string file, string folder, CancellationToken cancel)
    {
        await box.RequireAsync();
        return await InTurnAsync<IReadOnlyList<PictureFile>>(
            async () =>
            {
                using var work = new WorkFolder(Directory.CreateDirectory(folder).FullName);
                await using var reader = new BoxedReader(box, limits, [file], work.Path, cancel);
                await reader.AskAsync(v => new CleanSvg(v.Inputs[0], v.Out(SharpName)), cancel);
                var sharp = work.Written(SharpName);
                await box.RunAsync(
                    new BoxedProgram(
                        "rsvg-convert",
                        v => ["--width", "1600", "--keep-aspect-ratio", "--background-color", "white", "--output", v.Out("drawn.png"), v.Inputs[0]],
                        TimeSpan.FromSeconds(limits.SecondsPerPage))
                    {
                        Inputs = [sharp],
                        Output = work.Inner("drawn"),
                        MemoryMegabytes = limits.MemoryMegabytes
                    },
                    cancel);
                work.Written("drawn/drawn.png");
                var copies = work.TakeCopies(await reader.AskAsync(v => new CopyPicture(v.Out("drawn/drawn.png"), v.Out("")), cancel), "", folder);
                File.Move(sharp, Path.Combine(folder, SharpName), overwrite: true);
                var last = copies[^1];
                return [.. copies, new PictureFile(SharpName, SharpWidth, (int)Math.Min(int.MaxValue, (long)last.Height * SharpWidth / last.Width))];
            }, cancel);
    }

    private Task<IReadOnlyList<PictureFile>> WriteAsync(
        string[] inputs,
        string folder,
        Func<BoxView, Question<PictureFile[]>> ask,
        CancellationToken cancel) => InTurnAsync(
        async () =>
        {
            using var work = new WorkFolder(Directory.CreateDirectory(folder).FullName);
            await using var reader = new BoxedReader(box, limits, inputs, work.Path, cancel);
            return work.TakeCopies(await reader.AskAsync(ask, cancel), "", folder);
        }, cancel);

    private static async Task<T> InTurnAsync<T>(Func<Task<T>> work, CancellationToken cancel)
    {
        await Turn.WaitAsync(cancel);
        try
        {
            return await work();
        }
        finally
        {
            Turn.Release();
        }
    }
}
