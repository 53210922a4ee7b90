using ArchTalk.Core.Lessons;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Lessons;

/// <summary>
/// The files that students can download. Which there are is known by the database alone: what a page says of one is looked up and
/// never made into a path.
/// </summary>
public sealed class AttachmentService(ArchTalkDb db, LessonFiles files, TimeProvider clock)
{
    /// <summary>Keeps a file that was received in the lesson's folder for them.</summary>
    /// <returns>The name under which references know it.</returns>
    public async Task<string> AddAsync(Guid lesson, string path, string fileName, CancellationToken cancel)
    {
        var attachment = new Attachment
        {
            Id = Guid.CreateVersion7(),
            LessonId = lesson,
            FileName = LessonService.Tidy(fileName, "file"),
            CreatedAt = clock.GetUtcNow()
        };
        File.Move(path, files.Attachment(lesson, attachment.Id));
        db.Attachments.Add(attachment);
        await db.SaveChangesAsync(cancel);
        return attachment.Id.ToString("N");
    }

    /// <summary>The attachment that a reference names, and where it lies; null when the lesson has none such.</summary>
    public async Task<(Attachment Attachment, string Path)?> FindAsync(Guid lesson, string stored, CancellationToken cancel) =>
        Guid.TryParseExact(stored, "N", out var id)
            && await db.Attachments.AsNoTracking().SingleOrDefaultAsync(a => a.Id == id && a.LessonId == lesson, cancel) is { } found
            && files.Attachment(lesson, found.Id) is var path
            && File.Exists(path) ? (found, path) : null;

    /// <exception cref="Refusal">A reference names a file that the lesson doesn't have.</exception>
    public async Task CheckAsync(Guid lesson, IEnumerable<Reference> references, CancellationToken cancel)
    {
        foreach (var reference in references.Where(r => r.Kind == Reference.File))
        {
            if (await FindAsync(lesson, reference.Stored, cancel) is null)
            {
                throw new Refusal($"The file of “{reference.Title}” is not there. Choose it again.");
            }
        }
    }

    /// <summary>Gives rows to the files that an earlier release kept without any.</summary>
    public async Task AdoptAsync(CancellationToken cancel)
    {
        var known = (await db.Attachments.Select(a => a.Id).ToListAsync(cancel)).ToHashSet();
        foreach (var lesson in await db.Lessons.Select(l => l.Id).ToListAsync(cancel))
        {
            foreach (var file in Directory.Exists(files.Attachments(lesson)) ? new DirectoryInfo(files.Attachments(lesson)).EnumerateFiles() : [])
            {
                if (Guid.TryParseExact(file.Name, "N", out var id) && known.Add(id))
                {
                    db.Attachments
                        .Add(new Attachment { Id = id, LessonId = lesson, FileName = "file", CreatedAt = new DateTimeOffset(file.LastWriteTimeUtc) });
                }
            }
        }

        await db.SaveChangesAsync(cancel);
    }
}
