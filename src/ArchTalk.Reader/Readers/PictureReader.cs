using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Boards.Scans;
using MetadataExtractor;
using MetadataExtractor.Formats.Exif;
using SkiaSharp;

namespace ArchTalk.Reader.Readers;

/// <summary>Makes the copies of a board's picture that students and teachers are sent.</summary>
internal static class PictureReader
{
    private const int JpegQuality = 88;

    // The share of full light that all of what is seen has on the average.
    private const double NearlyWhite = 0.9;

    // Letters of about 30 pixels are read best; a page this wide has them, and a larger one only takes longer.
    private const int ReadingWidth = 2400;

    /// <summary>
    /// Reads a picture (turned as its EXIF says), checks the limits before decoding, and writes its copies into
    /// <paramref name="folder"/> from small to large; none is larger than the picture itself.
    /// </summary>
    /// <exception cref="MediaException">It is too large, broken, or not a picture.</exception>
    public static PictureFile[] Import(string file, string folder, MediaLimits limits)
    {
        using var upright = Open(file, limits);
        return WriteCopies(upright, folder);
    }

    /// <summary>Reads a picture as it should be looked at: turned as its EXIF says, and checked against the limits before decoding.</summary>
    /// <exception cref="MediaException">It is too large, broken, or not a picture.</exception>
    public static SKBitmap Open(string file, MediaLimits limits, bool keepsTransparency = false)
    {
        using var codec = SKCodec.Create(file)
            ?? throw new MediaException(
                "The picture is broken: it could not be read. Open it on your computer, save it again, and add the new file.");
        var info = codec.Info;
        if ((long)info.Width * info.Height > limits.Pixels || Math.Max(info.Width, info.Height) > limits.Side)
        {
            throw new MediaException(
                $"The picture has {info.Width} × {info.Height} pixels; at most {limits.Pixels / 1_000_000} million, and {limits.Side} on a side, "
                    + $"can be used. Make it smaller and add it again.");
        }

        // Colours of a wider space than screens are sure to show are brought into theirs.
        using var srgb = SKColorSpace.CreateSrgb();
        using var decoded = new SKBitmap(new SKImageInfo(info.Width, info.Height, SKColorType.Rgba8888, SKAlphaType.Premul, srgb));
        if (codec.GetPixels(decoded.Info, decoded.GetPixels()) != SKCodecResult.Success)
        {
            throw new MediaException("The picture is broken: only a part of it could be read. Copy or save it again, and add the new file.");
        }

        return Turn(decoded, Orientation(file), Ground(decoded, keepsTransparency));
    }

    /// <summary>
    /// Writes a picture for the top of a board: at most <see cref="PictureSizes.ItemSide"/> pixels on a side, as WebP, what
    /// shows through stays so.
    /// </summary>
    public static PictureFile MakeItem(string file, string target, MediaLimits limits)
    {
        using var bitmap = Open(file, limits, keepsTransparency: true);
        var scale = Math.Min(1.0, (double)PictureSizes.ItemSide / Math.Max(bitmap.Width, bitmap.Height));
        var size = new SKImageInfo(
            Math.Max(1, (int)Math.Round(bitmap.Width * scale)),
            Math.Max(1, (int)Math.Round(bitmap.Height * scale)),
            SKColorType.Rgba8888,
            SKAlphaType.Premul);
        using var surface = SKSurface.Create(size);
        using var image = SKImage.FromBitmap(bitmap);
        surface.Canvas.DrawImage(image, new SKRect(0, 0, size.Width, size.Height), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        using var copy = surface.Snapshot();
        using var data = copy.Encode(SKEncodedImageFormat.Webp, JpegQuality);
        using var output = File.Create(target);
        data.SaveTo(output);
        return new PictureFile(Path.GetFileName(target), size.Width, size.Height);
    }

    // What shows through a picture is paper; where what there is to see is nearly white, it is a dark ground, or nothing would be seen.
    private static SKColor Ground(SKBitmap bitmap, bool keepsTransparency)
    {
        var pixels = bitmap.GetPixelSpan();
        double light = 0, seen = 0;
        var isOpaque = true;
        var step = Math.Max(1, pixels.Length / 4 / 100_000) * 4;
        for (var i = 0; i < pixels.Length; i += step)
        {
            // The colours are multiplied by how much is to be seen of them.
            light += pixels[i] + pixels[i + 1] + pixels[i + 2];
            seen += pixels[i + 3];
            isOpaque &= pixels[i + 3] == 255;
        }

        return !isOpaque && seen > 0 && light / (3 * seen) > NearlyWhite
            ? new SKColor(0x1E, 0x2A, 0x2B)
            : keepsTransparency ? SKColors.Transparent : SKColors.White;
    }

    /// <summary>
    /// Writes the copies of a page that was drawn as JPEG at the largest size, and perhaps at the medium one too; these files
    /// become the copies.
    /// </summary>
    public static PictureFile[] ImportPage(string jpeg, string? medium, string folder)
    {
        System.IO.Directory.CreateDirectory(folder);
        using var codec = OpenPage(jpeg);
        var (width, height) = (codec.Info.Width, codec.Info.Height);
        PictureFile[] copies;
        if (height > width * Board.TallestShape)
        {
            using var whole = Decoded(codec, 1);
            return WriteCopies(whole, folder);
        }

        if (medium is not null)
        {
            // A JPEG decodes to a quarter of its size at next to no cost, and a quarter of the medium copy is the small one.
            using var middle = OpenPage(medium);
            using var small = Decoded(middle, 0.25f);
            copies = [.. WriteCopies(small, folder, 1), Take(medium, folder, "medium", middle.Info)];
        }
        else
        {
            using var half = Decoded(codec, 0.5f);
            copies = WriteCopies(half, folder, 2);
        }

        return [.. copies, Take(jpeg, folder, "large", codec.Info)];
    }

    private static PictureFile Take(string jpeg, string folder, string name, SKImageInfo info)
    {
        File.Move(jpeg, Path.Combine(folder, $"{name}.jpg"), overwrite: true);
        return new PictureFile($"{name}.jpg", info.Width, info.Height);
    }

    private static SKCodec OpenPage(string jpeg) => SKCodec.Create(jpeg) ?? throw new MediaException("A page could not be drawn.");

    private static SKBitmap Decoded(SKCodec codec, float scale)
    {
        var size = codec.GetScaledDimensions(scale);
        var bitmap = new SKBitmap(new SKImageInfo(size.Width, size.Height, SKColorType.Rgba8888, SKAlphaType.Opaque));
        return codec.GetPixels(bitmap.Info, bitmap.GetPixels()) == SKCodecResult.Success
            ? bitmap
            : throw new MediaException("A page could not be drawn.");
    }

    /// <summary>Writes a copy of a board's picture with nothing to be seen where covers lie, and gives its width.</summary>
    public static int Cover(string file, IReadOnlyList<CoveredBox> boxes, string target, MediaLimits limits)
    {
        using var bitmap = Open(file, limits);
        var scale = (float)bitmap.Width / Board.Width;
        using (var canvas = new SKCanvas(bitmap))
        using (var paint = new SKPaint { Color = new SKColor(0xD9, 0xD2, 0xC3) })
        {
            foreach (var box in boxes)
            {
                canvas.DrawRect((float)box.X * scale, (float)box.Y * scale, (float)box.Width * scale, (float)box.Height * scale, paint);
            }
        }

        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, JpegQuality);
        using var output = File.Create(target);
        data.SaveTo(output);
        return bitmap.Width;
    }

    /// <summary>Writes a picture in grey at the size at which words are read best, and gives its width.</summary>
    public static int DrawForReading(string file, string target, MediaLimits limits)
    {
        using var bitmap = Open(file, limits);
        var width = Math.Min(ReadingWidth, bitmap.Width);
        var height = Math.Max(1, (int)((long)bitmap.Height * width / bitmap.Width));
        if (ScanMaker.IsShaded(bitmap))
        {
            PaperWhite.Apply(bitmap.GetPixelSpan(), bitmap.Width, bitmap.Height);
        }

        using var surface = Draw(bitmap, new SKImageInfo(width, height, SKColorType.Gray8, SKAlphaType.Opaque));
        using var small = surface.Snapshot();
        using var data = small.Encode(SKEncodedImageFormat.Png, 1);
        using var output = File.Create(target);
        data.SaveTo(output);
        return width;
    }

    /// <summary>Writes all the copies that are smaller than the bitmap, and one of its own size when the largest is wanted.</summary>
    public static PictureFile[] WriteCopies(SKBitmap bitmap, string folder, int? sizes = null)
    {
        System.IO.Directory.CreateDirectory(folder);
        if (bitmap.Height > Math.Ceiling(bitmap.Width * Board.TallestShape))
        {
            using var wider = WithSides(bitmap);
            return WriteCopies(wider, folder, sizes);
        }

        var files = new List<PictureFile>();
        foreach (var (name, wanted) in PictureSizes.All.Take(sizes ?? PictureSizes.All.Count))
        {
            var width = Math.Min(wanted, bitmap.Width);
            var height = Math.Max(1, (int)Math.Round((double)bitmap.Height * width / bitmap.Width));
            if (height > PictureSizes.TallestCopy)
            {
                width = Math.Max(1, (int)((double)width * PictureSizes.TallestCopy / height));
                height = PictureSizes.TallestCopy;
            }

            files.Add(WriteCopy(bitmap, folder, name, width, height));
            if (width == bitmap.Width)
            {
                break;
            }
        }

        return [.. files];
    }

    // White at the right, so that a picture many times as high as wide stays in its shape on a board that has an end.
    private static SKBitmap WithSides(SKBitmap bitmap)
    {
        var wider = new SKBitmap(
            new SKImageInfo((int)Math.Ceiling(bitmap.Height / Board.TallestShape), bitmap.Height, SKColorType.Rgba8888, SKAlphaType.Premul));
        using var canvas = new SKCanvas(wider);
        canvas.Clear(SKColors.White);
        using var image = SKImage.FromBitmap(bitmap);
        canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Nearest));
        return wider;
    }

    /// <summary>Draws a picture at another size on white: what shows through a picture is paper.</summary>
    public static SKSurface Draw(SKBitmap bitmap, SKImageInfo size)
    {
        var surface = SKSurface.Create(size);
        surface.Canvas.Clear(SKColors.White);
        using var image = SKImage.FromBitmap(bitmap);
        surface.Canvas.DrawImage(image, new SKRect(0, 0, size.Width, size.Height), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        return surface;
    }

    private static PictureFile WriteCopy(SKBitmap bitmap, string folder, string name, int width, int height)
    {
        // JPEG will do for every copy, since none lets anything show through.
        using var surface = Draw(bitmap, new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Premul));
        using var copy = surface.Snapshot();
        using var data = copy.Encode(SKEncodedImageFormat.Jpeg, JpegQuality);
        using var output = File.Create(Path.Combine(folder, $"{name}.jpg"));
        data.SaveTo(output);
        return new PictureFile($"{name}.jpg", width, height);
    }

    // EXIF 2.3, tag 0x0112: 1 is upright, 2 to 8 are the mirrored and turned ways to hold a camera (from memory).
    private static int Orientation(string file)
    {
        try
        {
            var exif = ImageMetadataReader.ReadMetadata(file).OfType<ExifIfd0Directory>().FirstOrDefault();
            return exif is not null && exif.TryGetInt32(ExifDirectoryBase.TagOrientation, out var value) ? value : 1;
        }
        catch (Exception e) when (e is ImageProcessingException or IOException)
        {
            return 1;
        }
    }

    private static SKBitmap Turn(SKBitmap bitmap, int orientation, SKColor ground)
    {
        var sideways = orientation is >= 5 and <= 8;
        var (width, height) = sideways ? (bitmap.Height, bitmap.Width) : (bitmap.Width, bitmap.Height);
        var turned = new SKBitmap(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Premul));
        using var canvas = new SKCanvas(turned);
        var matrix = orientation switch
        {
            2 => new SKMatrix(-1, 0, width, 0, 1, 0, 0, 0, 1),
            3 => new SKMatrix(-1, 0, width, 0, -1, height, 0, 0, 1),
            4 => new SKMatrix(1, 0, 0, 0, -1, height, 0, 0, 1),
            5 => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
            6 => new SKMatrix(0, -1, width, 1, 0, 0, 0, 0, 1),
            7 => new SKMatrix(0, -1, width, -1, 0, height, 0, 0, 1),
            8 => new SKMatrix(0, 1, 0, -1, 0, height, 0, 0, 1),
            _ => SKMatrix.Identity,
        };
        canvas.Clear(ground);
        canvas.SetMatrix(matrix);
        using var image = SKImage.FromBitmap(bitmap);
        canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Nearest));
        return turned;
    }
}
