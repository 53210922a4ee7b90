namespace ArchTalk.Media.Boxes;

/// <summary>A new folder in which programs write. What is wanted is taken out of it after a look; the rest goes with it.</summary>
public sealed class WorkFolder : IDisposable
{
    public WorkFolder(string parent) => Path = Directory.CreateDirectory(System.IO.Path.Combine(parent, $"work-{Guid.NewGuid():N}")).FullName;

    public string Path { get; }

    /// <summary>A folder within it.</summary>
    public string Inner(string name) => Directory.CreateDirectory(System.IO.Path.Combine(Path, name)).FullName;

    /// <summary>The path of a file in it that has a content of its own: not a link, not a pipe, not empty.</summary>
    /// <exception cref="MediaException">There is no such file.</exception>
    public string Written(string name)
    {
        var file = new FileInfo(System.IO.Path.Combine(Path, name));
        return file is { Exists: true, LinkTarget: null, Length: > 0 } && Above(file.Directory!).All(d => d.LinkTarget is null)
            ? file.FullName
            : throw new MediaException("It could not be read: nothing came of it. Save or export it anew, in another form if you can, and add that.");
    }

    /// <summary>Moves the copies of a picture out of a folder in it, after checking that they are what they are said to be.</summary>
    /// <exception cref="MediaException">They are not.</exception>
    public IReadOnlyList<PictureFile> TakeCopies(IReadOnlyList<PictureFile> copies, string from, string target)
    {
        Directory.CreateDirectory(target);
        foreach (var copy in copies)
        {
            var file = Written(System.IO.Path.Combine(from, copy.Name));
            if (!PictureSizes.All.Any(s => copy.Name == $"{s.Name}.jpg") || copy.Width is < 1 or > 30_000 || copy.Height is < 1 or > 30_000
                || !IsJpeg(file))
            {
                throw new MediaException("It could not be read: what came of it is no picture. Save or export it anew, and add that.");
            }
        }

        foreach (var copy in copies)
        {
            File.Move(System.IO.Path.Combine(Path, from, copy.Name), System.IO.Path.Combine(target, copy.Name), overwrite: true);
        }

        return copies;
    }

    public void Dispose()
    {
        try
        {
            Directory.Delete(Path, recursive: true);
        }
        catch (UnauthorizedAccessException)
        {
            // A program may have shut its folders.
            foreach (var folder in Directory.EnumerateDirectories(Path, "*", SearchOption.TopDirectoryOnly))
            {
#pragma warning disable CA1416
                File.SetUnixFileMode(folder, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
#pragma warning restore CA1416
            }

            Directory.Delete(Path, recursive: true);
        }
        catch (DirectoryNotFoundException)
        {
            // Gone with the folder it was in.
        }
    }

    private IEnumerable<DirectoryInfo> Above(DirectoryInfo folder)
    {
        for (var d = folder; d is not null && d.FullName.Length > Path.Length; d = d.Parent)
        {
            yield return d;
        }
    }

    private static bool IsJpeg(string file)
    {
        using var stream = File.OpenRead(file);
        Span<byte> start = stackalloc byte[3];
        return stream.ReadAtLeast(start, start.Length, throwOnEndOfStream: false) == start.Length && start is [0xFF, 0xD8, 0xFF];
    }
}
