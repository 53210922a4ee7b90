using System.Text;

namespace ArchTalk.Reader.Readers;

/// <summary>Compound files (D0CF11E0): nothing in them is read but whether they are a document behind a password.</summary>
internal static class CompoundFiles
{
    /// <summary>Why it can't be used: encrypted packages hold a stream called EncryptedPackage (MS-OFFCRYPTO, from memory).</summary>
    public static string Refusal(string file)
    {
        var name = Encoding.Unicode.GetBytes("EncryptedPackage");
        var bytes = File.ReadAllBytes(file);
        return bytes.AsSpan().IndexOf(name) >= 0
            ? DeckReader.Protected
            : "It is a document in an old binary format. Open it, save it as PPTX or as a PDF, and add that.";
    }
}
