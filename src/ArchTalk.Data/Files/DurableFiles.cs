using System.Runtime.InteropServices;

namespace ArchTalk.Data.Files;

/// <summary>
/// Makes sure that what was written survives a power cut: a file is on the disk once it was flushed, and its name once its folder
/// was. .NET flushes files only, so folders are flushed by the system's own call.
/// </summary>
public static partial class DurableFiles
{
    private const int ReadOnly = 0;

    /// <summary>Puts a finished file or folder in its place in one step: afterwards there is the old or the new, never half of it.</summary>
    /// <param name="draft">What was written, on the same file system; its content is flushed first.</param>
    /// <param name="target">A file is replaced; a folder must not be there.</param>
    public static void Place(string draft, string target)
    {
        if (Directory.Exists(draft))
        {
            FlushTree(draft);
            Directory.Move(draft, target);
        }
        else
        {
            FlushFile(draft);
            File.Move(draft, target, overwrite: true);
        }

        FlushFolder(Path.GetDirectoryName(target)!);
    }

    /// <summary>Flushes the names in a folder.</summary>
    public static void FlushFolder(string folder)
    {
        var handle = Open(folder, ReadOnly);
        if (handle < 0)
        {
            throw new IOException($"The folder {folder} could not be opened to flush it (error {Marshal.GetLastPInvokeError()}).");
        }

        var result = Sync(handle);
        var error = Marshal.GetLastPInvokeError();
        _ = Close(handle);
        if (result != 0)
        {
            throw new IOException($"The folder {folder} could not be flushed to the disk (error {error}).");
        }
    }

    private static void FlushTree(string folder)
    {
        foreach (var file in Directory.EnumerateFiles(folder))
        {
            FlushFile(file);
        }

        foreach (var below in Directory.EnumerateDirectories(folder))
        {
            FlushTree(below);
        }

        FlushFolder(folder);
    }

    private static void FlushFile(string path)
    {
        using var file = new FileStream(path, FileMode.Open, FileAccess.ReadWrite, FileShare.ReadWrite);
        file.Flush(flushToDisk: true);
    }

    [LibraryImport("libc", EntryPoint = "open", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    private static partial int Open(string path, int flags);

    [LibraryImport("libc", EntryPoint = "fsync", SetLastError = true)]
    private static partial int Sync(int handle);

    [LibraryImport("libc", EntryPoint = "close", SetLastError = true)]
    private static partial int Close(int handle);
}
