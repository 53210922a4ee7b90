using ArchTalk.Core.Lessons;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Web.Boards;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Jobs;

/// <summary>Clears away files that nothing refers to any more: what killed servers, cancelled uploads and changed references left.</summary>
public sealed class Leftovers(ArchTalkDb db, LessonFiles files, TimeProvider clock)
{
    // A file that was just received may not be referred to yet.
    private static readonly TimeSpan Young = TimeSpan.FromDays(1);

    /// <summary>Called when the server starts, when nobody else is at work.</summary>
    public async Task SweepAsync(CancellationToken cancel)
    {
        var waiting = (await db.Jobs.Where(j => ImportJob.Kinds.Contains(j.Kind) && (j.State == JobState.Waiting || j.State == JobState.Running))
            .Select(j => j.Subject)
            .ToListAsync(cancel))
            .ToHashSet(StringComparer.Ordinal);
        foreach (var lesson in await db.Lessons.Select(l => l.Id).ToListAsync(cancel))
        {
            foreach (var upload in Entries(files.Uploads(lesson)).Where(e => !waiting.Contains(e.Name) && IsOld(e)))
            {
                Delete(upload);
            }

            foreach (var work in Entries(files.Uploads(lesson)).Concat(
                Entries(Path.Combine(files.Lesson(lesson), "boards")).SelectMany(b => Entries(b.FullName)))
                .Where(e => e is DirectoryInfo && (e.Name.StartsWith("work-", StringComparison.Ordinal)
                    || e.Name.StartsWith("draft-", StringComparison.Ordinal)
                    || e.Name.EndsWith(".work", StringComparison.Ordinal))).ToArray())
            {
                Delete(work);
            }

            await SweepPicturesAsync(lesson, cancel);

            // Releases before kept a second copy of the voice, and one of each take.
            LessonFiles.Discard(Path.Combine(files.Lesson(lesson), "preview"));
            foreach (var take in Entries(files.Takes(lesson)))
            {
                File.Delete(Path.Combine(take.FullName, "voice.flac"));
            }

            foreach (var draft in Entries(files.Encoded(lesson)).Where(e => e.Name.StartsWith("draft-", StringComparison.Ordinal)))
            {
                Delete(draft);
            }
        }

        await SweepAttachmentsAsync(cancel);
    }

    // Copies of a picture that was replaced.
    private async Task SweepPicturesAsync(Guid lesson, CancellationToken cancel)
    {
        foreach (var board in await db.Boards.AsNoTracking().Where(b => b.LessonId == lesson).ToListAsync(cancel))
        {
            foreach (var file in Entries(files.Board(lesson, board.Id)).Where(f => f is FileInfo && IsOld(f)
                && BoardPictures.IsCopy(f.Name) && board.Pictures.TrueForAll(p => p.File != f.Name)))
            {
                Delete(file);
            }
        }
    }

    // A reference that was taken away can be brought back by undo, so every state that is kept counts.
    private async Task SweepAttachmentsAsync(CancellationToken cancel)
    {
        var old = clock.GetUtcNow() - Young;
        foreach (var attachments in (await db.Attachments.Where(a => a.CreatedAt < old).ToListAsync(cancel)).GroupBy(a => a.LessonId))
        {
            var states = await db.SectionStates.Where(s => s.LessonId == attachments.Key && s.Kind == SectionKind.References).Select(s => s.Json)
                .ToListAsync(cancel);
            foreach (var attachment in attachments.Where(a => !states.Any(s => s.Contains(a.Id.ToString("N"), StringComparison.Ordinal))))
            {
                File.Delete(files.Attachment(attachment.LessonId, attachment.Id));
                db.Attachments.Remove(attachment);
            }
        }

        await db.SaveChangesAsync(cancel);
    }

    private bool IsOld(FileSystemInfo entry) => entry.LastWriteTimeUtc < clock.GetUtcNow().UtcDateTime - Young;

    private static FileSystemInfo[] Entries(string folder) => Directory.Exists(folder) ? new DirectoryInfo(folder).GetFileSystemInfos() : [];

    private static void Delete(FileSystemInfo entry)
    {
        if (entry is DirectoryInfo folder)
        {
            folder.Delete(recursive: true);
        }
        else
        {
            entry.Delete();
        }
    }
}
