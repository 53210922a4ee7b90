using ArchTalk.Core.Recording;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>What the server has on its disk of a take, also while it writes.</summary>
public static class Journals
{
    /// <summary>The one take of a data folder.</summary>
    public static Journal ReadOnly(string dataFolder) =>
        Read(Directory.EnumerateFiles(dataFolder, "take.journal", SearchOption.AllDirectories).Single());

    /// <summary>The takes of a data folder in the order in which they were begun.</summary>
    public static IReadOnlyList<Journal> ReadAll(string dataFolder) =>
        [.. Directory.EnumerateFiles(dataFolder, "take.journal", SearchOption.AllDirectories).OrderBy(Path.GetDirectoryName, StringComparer.Ordinal)
            .Select(Read)];

    private static Journal Read(string path)
    {
        using var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
        var bytes = new byte[file.Length];
        file.ReadExactly(bytes);
        Journal.TryRead(bytes, out var journal).ShouldBeTrue();
        return journal!;
    }
}
