using System.Buffers.Binary;
using System.Runtime.InteropServices;

namespace ArchTalk.Data.Files;

/// <summary>
/// Files that several folders have and that lie on the disk once. Only files that are never changed may be shared: whoever replaces
/// one puts another in its place.
/// </summary>
public static partial class SharedFiles
{
    private const int BufferSize = 1 << 16;

    // statx(2): the same on every machine.
    private const int CurrentFolder = -100;
    private const uint WantsPlace = 0x100;
    private const int SizeOfAnswer = 256;
    private const int PlaceAt = 32;

    /// <summary>Gives a file a second name; where the file system can't, it is copied.</summary>
    /// <param name="target">Replaced when it is there.</param>
    /// <exception cref="FileNotFoundException">There is no such file.</exception>
    public static void Link(string source, string target)
    {
        File.Delete(target);
        if (MakeLink(source, target) != 0)
        {
            File.Copy(source, target);
        }
    }

    /// <summary>What the file of this name lies on the disk as; two names of one file have the same.</summary>
    public static (ulong Place, long Bytes) Identity(string path)
    {
        Span<byte> answer = stackalloc byte[SizeOfAnswer];
        return StatX(CurrentFolder, path, 0, WantsPlace, answer) == 0
            ? (BinaryPrimitives.ReadUInt64LittleEndian(answer[PlaceAt..]), new FileInfo(path).Length)
            : throw new FileNotFoundException("The file is not there.", path);
    }

    /// <summary>Lets a new folder share with an earlier one all files that are the same under the same name.</summary>
    /// <returns>How many bytes need no room of their own.</returns>
    public static long Share(string folder, string earlier)
    {
        var saved = 0L;
        if (!Directory.Exists(earlier))
        {
            return saved;
        }

        foreach (var file in Directory.EnumerateFiles(folder, "*", SearchOption.AllDirectories).ToArray())
        {
            var before = Path.Combine(earlier, Path.GetRelativePath(folder, file));
            if (!File.Exists(before))
            {
                continue;
            }

            // The voice and the pictures were put in as links: they needn't be read to be known as the same.
            var (own, earlierOne) = (Identity(file), Identity(before));
            if (own == earlierOne)
            {
                saved += own.Bytes;
            }
            else if (AreSame(file, before))
            {
                saved += own.Bytes;
                Link(before, file);
            }
        }

        return saved;
    }

    private static bool AreSame(string one, string other)
    {
        using var first = File.OpenRead(one);
        using var second = File.OpenRead(other);
        if (first.Length != second.Length)
        {
            return false;
        }

        var (left, right) = (new byte[BufferSize], new byte[BufferSize]);
        while (true)
        {
            var read = first.ReadAtLeast(left, left.Length, throwOnEndOfStream: false);
            if (read == 0)
            {
                return true;
            }

            second.ReadExactly(right, 0, read);
            if (!left.AsSpan(0, read).SequenceEqual(right.AsSpan(0, read)))
            {
                return false;
            }
        }
    }

    [LibraryImport("libc", EntryPoint = "statx", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    private static partial int StatX(int folder, string path, int flags, uint wants, Span<byte> answer);

    [LibraryImport("libc", EntryPoint = "link", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    private static partial int MakeLink(string source, string target);
}
