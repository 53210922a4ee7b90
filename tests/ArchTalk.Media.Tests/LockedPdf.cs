using System.Text;

namespace ArchTalk.Media.Tests;

/// <summary>
/// A PDF that asks for a password: the standard security handler's dictionary (ISO 32000-1, 7.6.3) with keys that no empty
/// password fits.
/// </summary>
internal static class LockedPdf
{
    public static byte[] Bytes()
    {
        var key = string.Concat(Enumerable.Repeat("5A", 32));
        string[] objects =
        [
            "<< /Type /Catalog /Pages 2 0 R >>",
            "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
            "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 200] >>",
            $"<< /Filter /Standard /V 2 /R 3 /Length 128 /O <{key}> /U <{key}> /P -44 >>",
        ];
        var text = new StringBuilder("%PDF-1.6\n");
        var places = new List<int>();
        for (var i = 0; i < objects.Length; i++)
        {
            places.Add(text.Length);
            text.Append(i + 1).Append(" 0 obj\n").Append(objects[i]).Append("\nendobj\n");
        }

        var table = text.Length;
        text.Append("xref\n0 ").Append(objects.Length + 1).Append("\n0000000000 65535 f \n");
        places.ForEach(p => text.Append(p.ToString("0000000000", System.Globalization.CultureInfo.InvariantCulture)).Append(" 00000 n \n"));
        text.Append("trailer << /Size 5 /Root 1 0 R /Encrypt 4 0 R /ID [<00><00>] >>\nstartxref\n").Append(table).Append("\n%%EOF");
        return Encoding.Latin1.GetBytes(text.ToString());
    }
}
