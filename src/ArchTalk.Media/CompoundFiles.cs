using System.Text;

namespace ArchTalk.Media;

/// <summary>Compound files (D0CF11E0): nothing in them is read but whether they are a document behind a password.</summary>
public static class CompoundFiles
{
    /// <summary>Why it can't be used: encrypted packages hold a stream called EncryptedPackage (MS-OFFCRYPTO, from memory).</summary>
    public static async Task<string> RefusalAsync(string file, CancellationToken cancel)
    {
        var name = Encoding.Unicode.GetBytes("EncryptedPackage");
        var bytes = await File.ReadAllBytesAsync(file, cancel);
        return bytes.AsSpan().IndexOf(name) >= 0
            ? Deck.Protected
            : "It is a document in an old binary format. Open it, save it as PPTX or as a PDF, and add that.";
    }
}
