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
            return width > 0 && bytes.Length % (width * 3) == 0 ? new Pixels(width, bytes.Length / (width * 3), bytes) : throw new MediaException("The picture could not be read.");
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
                        TimeSpan.FromSeconds(limits.SecondsPerPage)) { Inputs = [sharp], Output = work.Inner("drawn"), MemoryMegabytes = limits.MemoryMegabytes },
                    cancel);
                work.Written("drawn/drawn.png");
                var copies = work.TakeCopies(await reader.AskAsync(v => new CopyPicture(v.Out("drawn/drawn.png"), v.Out("")), cancel), "", folder);
                File.Move(sharp, Path.Combine(folder, SharpName), overwrite: true);
                var last = copies[^1];
                return [.. copies, new PictureFile(SharpName, SharpWidth, (int)Math.Min(int.MaxValue, (long)last.Height * SharpWidth / last.Width))];
            }, cancel);
    }

    private Task<IReadOnlyList<PictureFile>> WriteAsync(string[] inputs, string folder, Func<BoxView, Question<PictureFile[]>> ask, CancellationToken cancel) => InTurnAsync(
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
