using System.Collections.Concurrent;
using System.Collections.Frozen;
using ArchTalk.Data.Files;
using Microsoft.Net.Http.Headers;

namespace ArchTalk.Web.Publishing;

/// <summary>A file of a publication, which never changes.</summary>
public sealed record PublishedFile(string Path, DateTimeOffset Written, EntityTagHeaderValue Tag);

/// <summary>Which files a publication has. A request names one of them or nothing: no path is made of what it says.</summary>
public sealed class PublicationFiles(LessonFiles files)
{
    // Publications never change; the names of a few are kept.
    private const int MostKept = 64;
    private readonly ConcurrentDictionary<(Guid, int), FrozenDictionary<string, PublishedFile>> kept = new();

    /// <summary>A file by its name within the publication, such as "boards/1/large.jpg"; null when there is none.</summary>
    public PublishedFile? Find(Guid lesson, int number, string name)
    {
        if (!kept.TryGetValue((lesson, number), out var names))
        {
            var folder = files.Publication(lesson, number);
            if (!Directory.Exists(folder))
            {
                return null;
            }

            names = Directory.EnumerateFiles(folder, "*", SearchOption.AllDirectories).ToFrozenDictionary(
                f => Path.GetRelativePath(folder, f).Replace(Path.DirectorySeparatorChar, '/'), f => Describe(number, f), StringComparer.Ordinal);
            if (kept.Count >= MostKept)
            {
                kept.Clear();
            }

            kept[(lesson, number)] = names;
        }

        return names.GetValueOrDefault(name);
    }

    private static PublishedFile Describe(int number, string path)
    {
        var written = new DateTimeOffset(File.GetLastWriteTimeUtc(path));
        return new PublishedFile(path, written, new EntityTagHeaderValue($"\"{number}-{written.UtcTicks:x}\""));
    }
}
