using System.Text;
using System.Text.Json;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Publishing;
using ArchTalk.Core.Time;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Publishing;
using ArchTalk.Web.Setup;
using ArchTalk.Web.Timelines;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Jobs;

/// <summary>
/// Writes a publication: everything its viewers load, in one folder that is never changed afterwards. It is written beside
/// its place and moved there when complete.
/// </summary>
public sealed class PublishJob(
    ArchTalkDb db, LessonFiles files, LessonCompiler compiler, SectionService sections, ItemService items, AttachmentService attachments,
    Pictures pictures, VoiceCopies voices, WatchIndex index, ArchTalkOptions options, TimeProvider clock) : IJobHandler
{
    // How far it is, in hundredths.
    private const int Whole = 100;
    private static readonly TimeSpan ReportEvery = TimeSpan.FromMilliseconds(500);

    public async Task RunAsync(Job job, JobProgress progress, CancellationToken cancel)
    {
        if (await db.Publications.AnyAsync(p => p.JobId == job.Id, cancel))
        {
            // The server was killed between the publication and the end of its job.
            return;
        }

        var lesson = await db.Lessons.Include(l => l.Teacher).Include(l => l.Unit).SingleAsync(l => l.Id == job.LessonId, cancel);
        var number = 1 + (await db.Publications.Where(p => p.LessonId == lesson.Id).MaxAsync(p => (int?)p.Number, cancel) ?? 0);
        var place = files.Publication(lesson.Id, number);
        var draft = place + ".draft";
        LessonFiles.Discard(draft);
        Directory.CreateDirectory(draft);
        try
        {
            await progress.SayAsync("Compiling the lesson and its boards");
            var compiled = await compiler.CompileAsync(lesson.Id, cancel);
            var chapters = Chapters.Place(await sections.ChaptersAsync(lesson.Id, cancel), compiled.Arrangement);
            var covered = await WriteTimelineAsync(draft, compiled, chapters, cancel);
            await PutVoiceAsync(compiled, draft, progress, cancel);
            await progress.SayAsync("Writing chapters and words");
            var details = await sections.DetailsAsync(lesson.Id, cancel);
            var published = await DescribeAsync(lesson, number, compiled, covered, chapters, details, cancel);
            await CopyAttachmentsAsync(lesson.Id, draft, published.References, cancel);
            await WriteDescriptionAsync(draft, lesson, published, compiled.Timeline.Length, chapters, cancel);
            SharedFiles.Share(draft, files.Publication(lesson.Id, number - 1));
            LessonFiles.Discard(place);
            DurableFiles.Place(draft, place);
            db.Publications.Add(new Publication
            {
                Id = Guid.CreateVersion7(),
                LessonId = lesson.Id,
                Number = number,
                JobId = job.Id,
                Revision = compiled.Key.Revision,
                PublishedAt = published.PublishedAt,
                LengthMs = published.LengthMs,
            });
            lesson.IsWithdrawn = false;
            await db.SaveChangesAsync(CancellationToken.None);
            index.Forget(lesson.Id);
        }
        catch
        {
            LessonFiles.Discard(draft);
            throw;
        }
    }

    // What was made in the background is there at once.
    private async Task PutVoiceAsync(CompiledLesson compiled, string folder, JobProgress progress, CancellationToken cancel)
    {
        await progress.SayAsync("Bringing the voice to one level and encoding it");
        var done = 0.0;
        var put = voices.PutAsync(compiled, folder, share => Volatile.Write(ref done, share), cancel);
        while (await Task.WhenAny(put, Task.Delay(ReportEvery, clock, cancel)) != put)
        {
            await progress.ReportAsync((int)(Volatile.Read(ref done) * Whole), Whole);
        }

        await put;
    }

    // A board with covers is published twice: as it is seen before a cover is lifted, and what lies under them.
    private async Task<IReadOnlySet<int>> WriteTimelineAsync(
        string folder, CompiledLesson compiled, IReadOnlyList<TimedChapter> chapters, CancellationToken cancel)
    {
        var (timeline, boards) = (compiled.Timeline, compiled.Boards);
        var all = await sections.ItemsAsync(compiled.Key.Lesson, cancel);
        var shown = compiled.Pictures(b => $"boards/{b.Id:N}/").ToArray();
        var covered = new HashSet<int>();
        for (var i = 0; i < boards.Count; i++)
        {
            var board = boards[i];
            var seen = items.DescribeForStudents(board, all, compiled.Arrangement.Edits.Corrections);
            await WriteAsync(
                folder, TimelineFiles.InkName(i), TimelineFiles.Board(timeline.Boards[i], seen.Drawings, seen.Description, seen.Blanks), cancel);

            // Names of pictures among the items can't be guessed: who hasn't lifted a cover doesn't know of what lies under it.
            Copy(board, folder, $"boards/{board.Id:N}", PicturesAmong(seen.Drawings.Concat(seen.Under)).Concat(board.Clip?.Files ?? []));
            var isCovered = seen.Boxes.Count > 0;
            var under = $"boards/{board.Id:N}{(isCovered ? "/under" : "")}";
            Copy(board, folder, under, board.Pictures.Select(p => p.File));
            if (isCovered)
            {
                covered.Add(i);
                shown[i] = await CoverPicturesAsync(board, folder, seen.Boxes, cancel);
                await WriteAsync(
                    folder, TimelineFiles
                        .UnderName(i), new UnderFile(seen.DescriptionUnder, seen.Under, CompiledLesson.PicturesOf(board, under + "/")), cancel);
            }
        }

        var file = TimelineFiles.Timeline(timeline, shown, chapters, covered);
        foreach (var minute in file.PointerMinutes)
        {
            await WriteAsync(folder, TimelineFiles.PointerName(minute), TimelineFiles.Pointer(timeline, minute), cancel);
        }

        await WriteAsync(folder, "timeline.json", file, cancel);
        await File.WriteAllTextAsync(
            Path.Combine(folder, "chapters.vtt"),
            WebVtt.Chapters(chapters, timeline.Length),
            new UTF8Encoding(false),
            cancel);
        return covered;
    }

    private static async Task WriteAsync<T>(string folder, string name, T file, CancellationToken cancel)
    {
        var target = Path.Combine(folder, name);
        Directory.CreateDirectory(Path.GetDirectoryName(target)!);
        await File.WriteAllBytesAsync(target, TimelineFiles.ToBytes(file), cancel);
    }

    private static IEnumerable<string> PicturesAmong(IEnumerable<PlacedDrawing> drawings) =>
        drawings.SelectMany(d => d.Drawing.Shapes).OfType<PictureShape>().Select(p => Path.GetFileName(p.Src)).Where(PictureFiles.IsName);

    private void Copy(BoardRow board, string folder, string place, IEnumerable<string> names)
    {
        foreach (var name in names.Distinct(StringComparer.Ordinal))
        {
            var target = Directory.CreateDirectory(Path.Combine(folder, place)).FullName;
            SharedFiles.Link(Path.Combine(files.Board(board.LessonId, board.Id), name), Path.Combine(target, name));
        }
    }

    // Only copies in pixels: in an outline picture what is painted over could still be read.
    private async Task<IReadOnlyList<BoardPicture>> CoverPicturesAsync(
        BoardRow board,
        string folder,
        IReadOnlyList<CoveredBox> boxes,
        CancellationToken cancel)
    {
        var copies = board.InPixels.ToArray();
        if (copies.Length > 0)
        {
            await pictures.CoverAsync(
                [.. copies.Select(p => Path.Combine(files.Board(board.LessonId, board.Id), p.File))],
                boxes,
                Path.Combine(folder, "boards", board.Id.ToString("N")),
                cancel);
        }

        return [.. copies.Select(p => new BoardPicture($"boards/{board.Id:N}/{p.File}", p.Width, p.Height))];
    }

    private async Task CopyAttachmentsAsync(Guid lesson, string folder, IReadOnlyList<Reference> references, CancellationToken cancel)
    {
        foreach (var reference in references.Where(r => r.Kind == Reference.File))
        {
            if (await attachments.FindAsync(lesson, reference.Stored, cancel) is { } found)
            {
                var target = Path.Combine(folder, PublishedLesson.FileOf(found.Attachment.Id));
                Directory.CreateDirectory(Path.GetDirectoryName(target)!);
                SharedFiles.Link(found.Path, target);
            }
        }
    }

    private static PublishedBoard Describe(BoardRow board, bool isCovered, LessonDetails details)
    {
        string Address(PictureCopy picture) => $"boards/{board.Id:N}/{picture.File}";
        var published = board.Pictures.Count == 0 ? new PublishedBoard(board.Title, null)
            : new(
                board.Title,
                Address(board.Pictures[0]),
                board.Id == details.OrganiserBoard ? Address(isCovered ? board.InPixels.Last() : board.Pictures[^1]) : null);
        return published with
        {
            Id = board.Id,
            Clip = board.Clip is { } clip
                ? new PublishedClip(clip.HasPicture, clip.StartMs, clip.EndMs, [.. clip.Files.Select(f => $"boards/{board.Id:N}/{f}")])
                : null,
        };
    }

    private async Task<PublishedLesson> DescribeAsync(
        Lesson lesson, int number, CompiledLesson compiled, IReadOnlySet<int> covered, IReadOnlyList<TimedChapter> chapters, LessonDetails details,
        CancellationToken cancel) => new(
        lesson.Title,
        lesson.Teacher!.DisplayName,
        lesson.Unit?.Title,
        number,
        clock.GetUtcNow(),
        (LessonTime.Zero + compiled.Timeline.Length).WholeMilliseconds,
        details.Language,
        [.. chapters.Select(c => new PublishedChapter(c.At.WholeMilliseconds, c.Title))],
        await sections.TermsAsync(lesson.Id, cancel),
        await sections.ReferencesAsync(lesson.Id, cancel),
        await sections.TaskAsync(lesson.Id, cancel),
        [.. compiled.Boards.Select((b, i) => Describe(b, covered.Contains(i), details))],
        details);

    private async Task WriteDescriptionAsync(
        string folder, Lesson lesson, PublishedLesson published, Duration length, IReadOnlyList<TimedChapter> chapters, CancellationToken cancel)
    {
        var address = $"{options.PublicBaseUrl.TrimEnd('/')}/w/{lesson.WatchToken}";
        var linked = LessonJsonLd.Write(published.Title, published.Teacher, address, published.PublishedAt, length, chapters, published.Terms);
        await File.WriteAllTextAsync(Path.Combine(folder, "lesson.jsonld"), linked.ToJsonString(), new UTF8Encoding(false), cancel);
        await File.WriteAllBytesAsync(
            Path.Combine(folder, "lesson.json"), JsonSerializer.SerializeToUtf8Bytes(published, JsonSerializerOptions.Web), cancel);
    }
}
