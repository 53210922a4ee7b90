using System.Text;

namespace ArchTalk.Media.Tests;

/// <summary>PDFs written by hand, object by object (ISO 32000-1), for what no library would write.</summary>
internal static class RawPdf
{
    /// <summary>One page of 500 by 500 points with this content.</summary>
    public static byte[] Of(string content, string resources = "") => Of(
    [
        "<< /Type /Catalog /Pages 2 0 R >>",
        "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
        $"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 500 500] /Contents 4 0 R /Resources << {resources} >> >>",
        Stream("", content),
    ]);

    /// <summary>A page for <see cref="Pages"/>: its entries, and its content, in which /F1 is Helvetica.</summary>
    public static string Page(string entries, string content) => entries + "\0" + content;

    /// <summary>A file of such pages.</summary>
    public static byte[] Pages(IReadOnlyList<string> pages)
    {
        var objects = new List<string> {
            "<< /Type /Catalog /Pages 2 0 R >>",
            $"<< /Type /Pages /Kids [{string.Join(' ', pages.Select((_, i) => $"{4 + (2 * i)} 0 R"))}] /Count {pages.Count} >>",
            "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>" };
        foreach (var page in pages.Select(p => p.Split('\0')))
        {
            objects.Add($"<< /Type /Page /Parent 2 0 R {page[0]} /Contents {objects.Count + 2} 0 R /Resources << /Font << /F1 3 0 R >> >> >>");
            objects.Add(Stream("", page[1]));
        }

        return Of(objects);
    }

    public static string Stream(string entries, string content) => $"<< {entries} /Length {content.Length} >>\nstream\n{content}\nendstream";

    /// <summary>A file of these objects, numbered from 1; the first is the catalogue.</summary>
    public static byte[] Of(IReadOnlyList<string> objects)
    {
        var text = new StringBuilder("%PDF-1.7\n");
        var places = new List<int>();
        for (var i = 0; i < objects.Count; i++)
        {
            places.Add(text.Length);
            text.Append(System.Globalization.CultureInfo.InvariantCulture, $"{i + 1} 0 obj\n{objects[i]}\nendobj\n");
        }

        var start = text.Length;
        text.Append(System.Globalization.CultureInfo.InvariantCulture, $"xref\n0 {objects.Count + 1}\n0000000000 65535 f \n");
        places.ForEach(p => text.Append(System.Globalization.CultureInfo.InvariantCulture, $"{p:0000000000} 00000 n \n"));
        text.Append(
            System.Globalization.CultureInfo.InvariantCulture,
            $"trailer\n<< /Size {objects.Count + 1} /Root 1 0 R >>\nstartxref\n{start}\n%%EOF\n");
        return Encoding.Latin1.GetBytes(text.ToString());
    }
}
