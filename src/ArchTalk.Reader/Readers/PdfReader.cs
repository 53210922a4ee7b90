using ArchTalk.Core.Lessons;
using ArchTalk.Core.Boards;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.DocumentLayoutAnalysis.WordExtractor;
using UglyToad.PdfPig.Exceptions;
using UglyToad.PdfPig.Geometry;
using UglyToad.PdfPig.Outline;

namespace ArchTalk.Reader.Readers;

/// <summary>What a PDF says: its words, what its outline calls its pages, and its links, by PdfPig.</summary>
internal sealed class PdfReader : IDisposable
{
    private const int MostNames = 5_000;
    private const int MostLinks = 200;

    private readonly PdfDocument document;
    private Dictionary<int, string>? names;

    private PdfReader(PdfDocument document) => this.document = document;

    public int Count => document.NumberOfPages;

    /// <exception cref="MediaException">It is encrypted, broken, has no pages or too many.</exception>
    public static PdfReader Open(string file, MediaLimits limits)
    {
        PdfDocument opened;
        try
        {
            opened = PdfDocument.Open(file);
        }
        catch (PdfDocumentEncryptedException e)
        {
            throw new MediaException("The PDF is protected by a password. Open it, save a copy without the password, and add the copy.", e);
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            throw new MediaException(
                "The PDF is broken and could not be read. Open it on your computer, save or print it to a new PDF, and add that.",
                e);
        }

        var fault = opened.NumberOfPages switch
        {
            0 => "The PDF has no pages.",
            var n when n > limits
                .Pages => $"The PDF has {n} pages; at most {limits.Pages} can be added at once. Save the pages you need as a PDF of their own.",
            _ => null,
        };
        if (fault is not null)
        {
            opened.Dispose();
            throw new MediaException(fault);
        }

        return new PdfReader(opened);
    }

    /// <summary>What the outline calls a page (from 1): its first and outermost entry there; null when it has none.</summary>
    public string? NameOf(int page)
    {
        names ??= Names();
        return names.GetValueOrDefault(page);
    }

    /// <summary>How many times as high as wide a page (from 1) is seen; 1 when it can't be said.</summary>
    public double Shape(int page)
    {
        try
        {
            return new PageFrame(document.GetPage(page)).Shape;
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            return 1;
        }
    }

    /// <summary>What is written on one page (from 1), in board units as the picture shows it, and the web addresses it leads to.</summary>
    public (TextLayer Words, SlideLink[] Links) Read(int page)
    {
        try
        {
            var content = document.GetPage(page);
            var frame = new PageFrame(content);
            var words = content.GetWords(NearestNeighbourWordExtractor.Instance).Select(w => ToWord(w, frame))
                .Where(w => w.Text.Length > 0 && frame.Shows(w));
            return (new TextLayer([.. words]), Links(content));
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // A page whose words can't be read is still a page to be shown.
            return (TextLayer.Empty, []);
        }
    }

    public void Dispose() => document.Dispose();

    private Dictionary<int, string> Names()
    {
        var found = new Dictionary<int, string>();
        try
        {
            if (document.TryGetBookmarks(out var bookmarks))
            {
                foreach (var node in bookmarks.GetNodes().OfType<DocumentBookmarkNode>().OrderBy(n => n.Level).Take(MostNames))
                {
                    found.TryAdd(node.PageNumber, node.Title);
                }
            }
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // An outline that can't be read names nothing.
        }

        return found;
    }

    private static SlideLink[] Links(Page page)
    {
        try
        {
            return [.. page.GetHyperlinks().Where(l => WebAddress.Is(l.Uri))
                .Select(l => new SlideLink(l.Text, new Uri(l.Uri).AbsoluteUri)).DistinctBy(l => l.Address).Take(MostLinks)];
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            return [];
        }
    }

    private static TextWord ToWord(Word word, PageFrame frame)
    {
        // As far as its letters take room: another face that stands in for one that isn't embedded may fill all of it.
        PdfPoint[] corners =
        [
            word.BoundingBox.TopLeft, word.BoundingBox.TopRight, word.BoundingBox.BottomLeft, word.BoundingBox.BottomRight, .. word.Letters
                .SelectMany(l => new[] { l.StartBaseLine, l.EndBaseLine }),
        ];
        var (left, top) = (corners.Min(c => c.X), corners.Max(c => c.Y));
        var height = top - corners.Min(c => c.Y);

        // The size of the writing, not of the letters that happen to occur: "on" is as large as "Of". Turned words keep their box.
        var isLevel = word.TextOrientation == TextOrientation.Horizontal;
        var size = isLevel ? Math.Max(height, word.Letters.Max(l => l.PointSize)) : height;
        var (x, y) = frame.Place(left, top);
        return new TextWord(
            isLevel ? PageWords.Logical([.. word.Letters.Select(l => new ShownLetter(l.Value, l.BoundingBox.Left))]) : word.Text.Trim(),
            x, y, Math.Round((corners.Max(c => c.X) - left) * frame.Scale, 1), Math.Round(size * frame.Scale, 1));
    }

    /// <summary>
    /// Where places of a page are on its board. What is seen of a page is its crop box within its media box (ISO 32000-1, 14.11.2); PdfPig
    /// gives letters from the lower left corner of that, turned as the page is, and poppler draws the same part of it.
    /// </summary>
    private readonly struct PageFrame
    {
        private readonly double height;

        public PageFrame(Page page)
        {
            var (media, crop) = (page.MediaBox.Bounds.Normalise(), page.CropBox.Bounds.Normalise());
            var seen = media.Intersect(crop) ?? media;
            (var width, height) = page.Rotation.SwapsAxis ? (seen.Height, seen.Width) : (seen.Width, seen.Height);
            Scale = Board.Width / Math.Max(width, height / Board.TallestShape);
            Shape = height / width;
        }

        public double Shape { get; }

        public double Scale { get; }

        public (double X, double Y) Place(double x, double y) => (Math.Round(x * Scale, 1), Math.Round((height - y) * Scale, 1));

        // What lies outside of what is seen isn't on the board, not even in part enough to be read.
        public bool Shows(TextWord word) =>
            word.X + (word.Width / 2) is >= 0 and <= Board.Width && word.Y + (word.Height / 2) >= 0 && word.Y + (word.Height / 2) <= height * Scale;
    }
}
