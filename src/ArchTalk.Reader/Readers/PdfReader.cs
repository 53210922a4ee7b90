using ArchTalk.Core.Boards;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.DocumentLayoutAnalysis.WordExtractor;
using UglyToad.PdfPig.Exceptions;

namespace ArchTalk.Reader.Readers;

/// <summary>The words of a PDF, by PdfPig.</summary>
internal sealed class PdfReader : IDisposable
{
    private readonly PdfDocument document;

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
            throw new MediaException("The PDF is broken and could not be read. Open it on your computer, save or print it to a new PDF, and add that.", e);
        }

        var fault = opened.NumberOfPages switch
        {
            0 => "The PDF has no pages.",
            var n when n > limits.Pages => $"The PDF has {n} pages; at most {limits.Pages} can be added at once. Save the pages you need as a PDF of their own.",
            _ => null,
        };
        if (fault is not null)
        {
            opened.Dispose();
            throw new MediaException(fault);
        }

        return new PdfReader(opened);
    }

    /// <summary>The words of one page (from 1), in board units as the picture shows them: turned and cropped alike.</summary>
    public TextLayer Words(int page)
    {
        try
        {
            var content = document.GetPage(page);
            var crop = content.CropBox.Bounds;

            // PdfPig turns letters with the page but gives the crop box as written; width and height are of the turned page.
            var sideways = content.Rotation.SwapsAxis;
            var (left, bottom) = (sideways ? 0 : crop.Left, sideways ? 0 : crop.Bottom);
            var width = sideways ? content.Width : crop.Width;
            var height = sideways ? content.Height : crop.Height;
            var scale = Board.Width / width;
            return new TextLayer([.. content.GetWords(NearestNeighbourWordExtractor.Instance).Select(w => ToWord(w, left, bottom, height, scale)).Where(w => w.Text.Length > 0)]);
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // A page whose words can't be read is still a page to be shown.
            return TextLayer.Empty;
        }
    }

    public void Dispose() => document.Dispose();

    private static TextWord ToWord(Word word, double left, double bottom, double height, double scale)
    {
        var corners = new[] { word.BoundingBox.TopLeft, word.BoundingBox.TopRight, word.BoundingBox.BottomLeft, word.BoundingBox.BottomRight };
        var (x, y) = (corners.Min(c => c.X), corners.Max(c => c.Y));
        var boxHeight = y - corners.Min(c => c.Y);

        // The size of the writing, not of the letters that happen to occur: "on" is as large as "Of". Turned words keep their box.
        var size = word.TextOrientation == TextOrientation.Horizontal ? Math.Max(boxHeight, word.Letters.Max(l => l.PointSize)) : boxHeight;
        return new TextWord(
            word.Text.Trim(),
            Math.Round((x - left) * scale, 1),
            Math.Round((height - (y - bottom)) * scale, 1),
            Math.Round((corners.Max(c => c.X) - x) * scale, 1),
            Math.Round(size * scale, 1));
    }
}
