using System.Globalization;
using ArchTalk.Core.Boards;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Jobs;

/// <summary>
/// Turns an uploaded file into boards: one for a picture, one for each page of a PDF. The boards are made under identities
/// that follow from the job, and appear all together at the end, so a server that is killed leaves no half of a file.
/// </summary>
public sealed class ImportJob(ArchTalkDb db, BoardService boards, LessonFiles files, MediaLimits limits) : IJobHandler
{
    private sealed record MadeBoard(Guid Id, string Title, IReadOnlyList<PictureFile> Copies, TextLayer Words);

    public async Task RunAsync(Job job, JobProgress progress, CancellationToken cancel)
    {
        var upload = Path.Combine(files.Uploads(job.LessonId), job.Subject);
        if (!File.Exists(upload))
        {
            // Killed after its boards were added and before it was marked as done.
            return;
        }

        if (new FileInfo(upload).Length > limits.FileBytes)
        {
            throw new Refusal($"The file is larger than {limits.FileBytes >> 20} MB. Save it in parts, or with smaller pictures.");
        }

        try
        {
            var kind = await KindOfAsync(upload, cancel);
            var made = kind switch
            {
                FileKind.Pdf => await PagesAsync(job, upload, progress, cancel),
                FileKind.Unknown or FileKind.Empty => throw new Refusal(FileKinds.Refusal(kind)),
                _ => [await Task.Run(() => Picture(job, upload), cancel)],
            };
            await using var transaction = await db.Database.BeginTransactionAsync(cancel);
            foreach (var board in made)
            {
                await boards.AddPictureAsync(
                    job.LessonId, board.Id, kind == FileKind.Pdf ? BoardKind.Page : BoardKind.Picture, board.Title, job.Title, board.Copies, board.Words, cancel);
            }

            await transaction.CommitAsync(cancel);
            await progress.ReportAsync(made.Count, made.Count);
        }
        catch
        {
            DeleteFolders(job);
            throw;
        }
        finally
        {
            if (!cancel.IsCancellationRequested || await IsCancelledAsync(job.Id))
            {
                File.Delete(upload);
            }
        }
    }

    private static async Task<FileKind> KindOfAsync(string file, CancellationToken cancel)
    {
        var start = new byte[FileKinds.Needed];
        await using var stream = File.OpenRead(file);
        var length = await stream.ReadAtLeastAsync(start, start.Length, throwOnEndOfStream: false, cancel);
        return FileKinds.Of(start.AsSpan(0, length));
    }

    private MadeBoard Picture(Job job, string upload)
    {
        var id = BoardId(job, 1);
        var copies = Pictures.Import(upload, files.Board(job.LessonId, id), limits);
        return new(id, Path.GetFileNameWithoutExtension(job.Title), copies, TextLayer.Empty);
    }

    private async Task<IReadOnlyList<MadeBoard>> PagesAsync(Job job, string upload, JobProgress progress, CancellationToken cancel)
    {
        using var pages = PdfPages.Open(upload, limits);
        await progress.ReportAsync(0, pages.Count);
        var made = new MadeBoard[pages.Count];
        var done = 0;
        using var reporting = new SemaphoreSlim(1);
        using var reading = new SemaphoreSlim(1);
        await Parallel.ForEachAsync(
            Enumerable.Range(1, pages.Count),
            new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount, CancellationToken = cancel },
            async (page, token) =>
            {
                made[page - 1] = await PageAsync(job, pages, page, reading, token);
                await reporting.WaitAsync(token);
                try
                {
                    await progress.ReportAsync(++done, pages.Count);
                }
                finally
                {
                    reporting.Release();
                }
            });
        return made;
    }

    private async Task<MadeBoard> PageAsync(Job job, PdfPages pages, int page, SemaphoreSlim reading, CancellationToken cancel)
    {
        var id = BoardId(job, page);
        var folder = Directory.CreateDirectory(files.Board(job.LessonId, id)).FullName;
        var drawn = Path.Combine(folder, "drawn.jpg");
        await pages.DrawAsync(page, Pictures.PageWidth, drawn, TimeSpan.FromSeconds(limits.SecondsPerPage), cancel);
        var copies = Pictures.ImportPage(drawn, folder);

        // The reader of words is not made for several threads.
        await reading.WaitAsync(cancel);
        try
        {
            var words = pages.Words(page);
            return new(id, words.LargestWords() ?? string.Create(CultureInfo.InvariantCulture, $"Page {page}"), copies, words);
        }
        finally
        {
            reading.Release();
        }
    }

    private async Task<bool> IsCancelledAsync(Guid job) => await db.Jobs.AsNoTracking().AnyAsync(j => j.Id == job && j.CancelRequested);

    private void DeleteFolders(Job job)
    {
        for (var page = 1; Directory.Exists(files.Board(job.LessonId, BoardId(job, page))) || page <= 2; page++)
        {
            var folder = files.Board(job.LessonId, BoardId(job, page));
            if (Directory.Exists(folder))
            {
                Directory.Delete(folder, recursive: true);
            }
        }
    }

    // The job's own identity with the page in its last bytes: the same board whenever the job begins again.
    private static Guid BoardId(Job job, int page)
    {
        Span<byte> bytes = stackalloc byte[16];
        job.Id.TryWriteBytes(bytes, bigEndian: true, out _);
        bytes[14] ^= (byte)(page >> 8);
        bytes[15] ^= (byte)page;
        return new Guid(bytes, bigEndian: true);
    }
}
