using System.IO.Compression;

namespace ArchTalk.Media;

/// <summary>Keeps archives within bounds before anything in them is read.</summary>
internal static class Archives
{
    /// <summary>Unpacks everything into nothing and counts, since what an archive says of its own sizes may be wrong.</summary>
    /// <exception cref="MediaException">It is broken, or more than the limits allow.</exception>
    public static async Task CheckAsync(string file, MediaLimits limits, CancellationToken cancel)
    {
        try
        {
            using var archive = ZipFile.OpenRead(file);
            if (archive.Entries.Count > limits.ArchiveEntries)
            {
                throw new MediaException($"The file holds {archive.Entries.Count} parts; at most {limits.ArchiveEntries} are unpacked. Save the deck anew, or as a PDF.");
            }

            var buffer = new byte[1 << 16];
            long total = 0;
            foreach (var entry in archive.Entries)
            {
                await using var stream = await entry.OpenAsync(cancel);
                for (int read; (read = await stream.ReadAsync(buffer, cancel)) > 0;)
                {
                    total += read;
                    if (total > limits.ArchiveBytes)
                    {
                        throw new MediaException(
                            $"The file grows beyond {limits.ArchiveBytes >> 20} MB when it is unpacked, so it was not opened. Save the deck with smaller pictures, or as a PDF.");
                    }
                }
            }
        }
        catch (InvalidDataException e)
        {
            throw new MediaException("The file is broken: its parts could not be unpacked. It may not have been copied completely; save it again and add the new file.", e);
        }
    }
}
