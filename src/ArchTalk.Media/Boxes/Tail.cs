using System.Text;
using CliWrap;

namespace ArchTalk.Media.Boxes;

/// <summary>The last of what a program says; the rest is let go as it comes.</summary>
internal sealed class Tail
{
    private const int Kept = 1 << 14;
    private readonly StringBuilder text = new();

    public PipeTarget Target => PipeTarget.Create(async (source, cancel) =>
    {
        using var reader = new StreamReader(source, Encoding.UTF8, detectEncodingFromByteOrderMarks: false, 4096, leaveOpen: true);
        var buffer = new char[4096];
        for (int read; (read = await reader.ReadAsync(buffer, cancel)) > 0;)
        {
            text.Append(buffer, 0, read);
            if (text.Length > 2 * Kept)
            {
                text.Remove(0, text.Length - Kept);
            }
        }
    });

    public string Text => text.ToString();
}
