using System.Collections.Concurrent;
using ArchTalk.Core.Boards;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Jobs;

/// <summary>
/// Turns an uploaded file into boards: one for a picture or a clip, one for each page of a PDF or slide of a deck. The boards are
/// made under identities that follow from the job, and appear all together at the end, so a server that is killed leaves no half of
/// a file.
/// </summary>
public sealed class ImportJob(
    ArchTalkDb db, BoardService boards, JobService jobs, Importers importers, LessonFiles files, MediaLimits limits) : IJobHandler
{
    private const int Percent = 100;
    private const int PagesAtOnce = 10;

    private sealed record MadeBoard(BoardRow Board, IReadOnlyList<PictureFile> Copies, TextLayer Words);

    /// <summary>The kinds of jobs that bring in files.</summary>
    public static readonly IReadOnlyList<JobKind> Kinds = [JobKind.Import, JobKind.Film];

    /// <summary>
    /// The identity of the board that a job makes of a page (from 1): the job's own with the page in its last bytes, so the same
    /// whenever the job begins again.
    /// </summary>
    public static Guid BoardId(Guid job, int page)
    {
        Span<byte> bytes = stackalloc byte[16];
        job.TryWriteBytes(bytes, bigEndian: true, out _);
        bytes[14] ^= (byte)(page >> 8);
        bytes[15] ^= (byte)page;
        return new Guid(bytes, bigEndian: true);
    }

    public async Task RunAsync(Job job, JobProgress progress, CancellationToken cancel)
    {
        var upload = Path.Combine(files.Uploads(job.LessonId), job.Subject);
        if (!File.Exists(upload))
        {
            // Killed after its boards were added and before it was marked as done.
            return;
        }

        var possible = Enumerable.Range(1, Math.Max(limits.Pages, 1)).Select(page => BoardId(job.Id, page)).ToArray();
        if (await db.Boards.AnyAsync(b => b.LessonId == job.LessonId && possible.Contains(b.Id), cancel))
        {
            // Killed a moment earlier: the boards are in the lesson, and their files must stay.
            await AddOpenCopyAsync(job, upload, progress, cancel);
            File.Delete(upload);
            return;
        }

        if (new FileInfo(upload).Length > limits.FileBytes)
        {
            throw new Refusal($"The file is larger than {limits.FileBytes >> 20} MB. Save it in parts, or with smaller pictures.");
        }

        // What a killed server left of an earlier attempt must not be taken for this one's.
        LessonFiles.Discard(Work(job));
        var (areIn, isTriedAgain) = (false, false);
        try
        {
            var (made, remark) = await MakeAsync(job, upload, progress, cancel);
            await using var transaction = await db.Database.BeginTransactionAsync(cancel);
            foreach (var board in made)
            {
                await boards.AddPictureAsync(job.LessonId, board.Board, board.Copies, board.Words, cancel);
                if (board.Board.Clip is not null)
                {
                    await boards.PlaceByTimeAsync(board.Board, cancel);
                }
            }

            await transaction.CommitAsync(cancel);
            areIn = true;
            await progress.ReportAsync(made.Count, made.Count);
            progress.Remark = remark;
            await AddOpenCopyAsync(job, upload, progress, cancel);
            foreach (var board in made.Where(b => b.Words.Words.Count == 0 && b.Board.Clip is null))
            {
                await jobs.AddAsync(JobKind.Read, job.LessonId, board.Board.Id.ToString("N"), board.Board.Title, CancellationToken.None);
            }
        }
        catch (Exception e) when (!areIn)
        {
            isTriedAgain = e is ProgramStoppedException && job.Attempts < JobRunner.MostStopped;
            DeleteFolders(job);
            throw;
        }
        finally
        {
            LessonFiles.Discard(Work(job));
            if (!isTriedAgain && (!cancel.IsCancellationRequested || await IsCancelledAsync(job.Id)))
            {
                File.Delete(upload);
            }
        }
    }

    private static BoardRow NewBoard(Job job, int page, BoardKind kind, string title) =>
        new() { Id = BoardId(job.Id, page), Kind = kind, Title = title, Source = job.Title };

    private async Task<(IReadOnlyList<MadeBoard> Boards, string Remark)> MakeAsync(
        Job job,
        string upload,
        JobProgress progress,
        CancellationToken cancel)
    {
        var kind = await FileKinds.OfAsync(upload, cancel);
        return kind switch
        {
            FileKind.Pdf => await PdfAsync(job, upload, progress, cancel),
            FileKind.Archive => await DeckAsync(job, upload, progress, cancel),
            FileKind.Svg => ([await SvgAsync(job, upload, cancel)], ""),
            FileKind.Clip => ([await ClipAsync(job, upload, progress, cancel)], ""),
            FileKind.Compound => throw new Refusal(await importers.Looks.RefuseCompoundAsync(upload, cancel)),
            FileKind.Unknown or FileKind.Empty => throw new Refusal(FileKinds.Refusal(kind)),
            _ => ([await PictureAsync(job, upload, cancel)], ""),
        };
    }

    private async Task<MadeBoard> PictureAsync(Job job, string upload, CancellationToken cancel)
    {
        var board = NewBoard(job, 1, BoardKind.Picture, Path.GetFileNameWithoutExtension(job.Title));
        var folder = files.Board(job.LessonId, board.Id);
        var plain = await importers.Pictures.PlainAsync(upload, Path.Combine(Work(job), "plain"), cancel);
        var copies = await importers.Pictures.ImportAsync(plain, folder, cancel);
        board.Original = BoardPictures.OriginalName;
        File.Copy(plain, Path.Combine(folder, board.Original), overwrite: true);
        return new(board, copies, TextLayer.Empty);
    }

    private async Task<MadeBoard> SvgAsync(Job job, string upload, CancellationToken cancel)
    {
        var board = NewBoard(job, 1, BoardKind.Picture, Path.GetFileNameWithoutExtension(job.Title));
        return new(board, await importers.Pictures.ImportSvgAsync(upload, files.Board(job.LessonId, board.Id), cancel), TextLayer.Empty);
    }

    private async Task<MadeBoard> ClipAsync(Job job, string upload, JobProgress progress, CancellationToken cancel)
    {
        var board = NewBoard(job, 1, BoardKind.Clip, Path.GetFileNameWithoutExtension(job.Title));
        var clip = await importers.Clips
            .ImportAsync(upload, files.Board(job.LessonId, board.Id), done => progress.ReportAsync(done, Percent), cancel);
        board.Clip = new BoardClip(clip.HasPicture, clip.LengthMs, 0, clip.LengthMs, clip.Files);
        return new(board, clip.Preview, TextLayer.Empty);
    }

    // The board can be used with its first copy; the second one, in open formats, is made while the teacher goes on.
    private async Task AddOpenCopyAsync(Job job, string upload, JobProgress progress, CancellationToken cancel)
    {
        var board = await db.Boards.SingleOrDefaultAsync(b => b.Id == BoardId(job.Id, 1), cancel);
        if (board?.Clip is not { Files.Count: 1 })
        {
            return;
        }

        await progress.SayAsync("it is there and can be used; a second copy is being made");
        try
        {
            var names = await importers.Clips
                .AddOpenCopyAsync(upload, files.Board(job.LessonId, board.Id), done => progress.ReportAsync(done, Percent), cancel);

            // Start and end may have been set meanwhile.
            await db.Entry(board).ReloadAsync(cancel);
            board.Clip = board.Clip with { Files = names };
            await db.SaveChangesAsync(cancel);
        }
        catch (MediaException)
        {
            progress.Remark = "It is there and can be played; only its copy in open formats could not be made.";
        }

        await progress.ReportAsync(Percent, Percent);
    }

    private async Task<(IReadOnlyList<MadeBoard> Boards, string Remark)> DeckAsync(
        Job job,
        string upload,
        JobProgress progress,
        CancellationToken cancel)
    {
        await progress.SayAsync("the slides are being drawn");
        var (deck, pdf, looks) = await importers.Looks.DrawAsync(upload, Work(job), cancel);
        await progress.SayAsync("");
        var (pages, remark) = await PagesAsync(job, pdf, progress, cancel);
        if (pages.Count != deck.Slides.Count)
        {
            throw new MediaException(
                $"The deck has {deck.Slides.Count} slides but LibreOffice drew {pages.Count}, so notes and slides would not match. Save it as a "
                    + $"PDF in the program it was made with, and add that.");
        }

        foreach (var (page, slide) in pages.Zip(deck.Slides).Where(p => p.First is not null).Select(p => (p.First!, p.Second)))
        {
            page.Board.Title = slide.Title.Length > 0 ? slide.Title : page.Board.Title;
            page.Board.Notes = slide.Notes;
            page.Board.AlternativeText = string.Join('\n', slide.AlternativeTexts);
            page.Board.IsOffered = slide.IsHidden;
            page.Board.Links = [.. slide.Links.Select(l => new BoardLink(l.Title.Length > 0 ? l.Title : slide.Title, l.Address, IsDismissed: false))];
        }

        return ([.. pages.OfType<MadeBoard>()], string.Join(' ', new[] {
            deck.HasMacros ? "The deck holds macros. They were not run and are not kept; what the slides show and say is here." : "",
            looks,
            remark }.Where(r => r.Length > 0)));
    }

    private async Task<(IReadOnlyList<MadeBoard> Boards, string Remark)> PdfAsync(Job job, string pdf, JobProgress progress, CancellationToken cancel)
    {
        var (pages, remark) = await PagesAsync(job, pdf, progress, cancel);
        return ([.. pages.OfType<MadeBoard>()], remark);
    }

    // The first page alone, so that it is seen at once; then several at a time, which is quicker. A page that can't be drawn doesn't keep
    // the others out.
    private async Task<(IReadOnlyList<MadeBoard?> Pages, string Remark)> PagesAsync(
        Job job,
        string pdf,
        JobProgress progress,
        CancellationToken cancel)
    {
        await using var pages = await importers.OpenPdfAsync(pdf, Work(job), cancel);
        await progress.ReportAsync(0, pages.Count);
        var (made, faults) = (new MadeBoard?[pages.Count], new ConcurrentDictionary<int, MediaException>());
        var done = 0;
        using var reporting = new SemaphoreSlim(1);
        var ranges = Enumerable.Range(0, ((pages.Count - 2) / PagesAtOnce) + 1)
            .Select(r => (First: 2 + (r * PagesAtOnce), Last: Math.Min(pages.Count, 1 + ((r + 1) * PagesAtOnce))));
        await Parallel.ForEachAsync(
            pages.Count == 1 ? [(1, 1)] : ranges.Prepend((First: 1, Last: 1)),
            new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount, CancellationToken = cancel },
            async (range, token) =>
            {
                if (range.Last > range.First)
                {
                    await pages.DrawAsync(range.First, range.Last, token);
                }

                for (var page = range.First; page <= range.Last; page++)
                {
                    try
                    {
                        made[page - 1] = await PageAsync(job, pages, page, token);
                    }
                    catch (MediaException e) when (e is not ProgramMissingException)
                    {
                        faults[page] = e;
                        LessonFiles.Discard(files.Board(job.LessonId, BoardId(job.Id, page)));
                    }

                    await reporting.WaitAsync(token);
                    try
                    {
                        await progress.ReportAsync(++done, pages.Count);
                    }
                    finally
                    {
                        reporting.Release();
                    }
                }
            });
        return faults.Count == pages.Count ? throw faults[1]
            : (made, faults.IsEmpty ? "" : $"{(faults.Count == 1 ? "Page" : "Pages")} {string.Join(", ", faults.Keys.Order())} could not be drawn "
                + $"and {(faults.Count == 1 ? "is" : "are")} left out; the others are here. {faults[faults.Keys.Min()].Message}");
    }

    private async Task<MadeBoard> PageAsync(Job job, PdfPages pages, int page, CancellationToken cancel)
    {
        var board = NewBoard(job, page, BoardKind.Page, "");
        var read = await pages.ImportAsync(page, files.Board(job.LessonId, board.Id), cancel);
        board.Title = read.Name ?? read.Words.LargestLines() ?? BoardService.PageTitle(page);
        if (read.Words.Words.Count == 0)
        {
            // A scanned page can be put right like a photograph.
            var folder = files.Board(job.LessonId, board.Id);
            board.Original = BoardPictures.OriginalName;
            File.Copy(Path.Combine(folder, read.Copies[^1].Name), Path.Combine(folder, board.Original), overwrite: true);
        }

        board.Links = [.. read.Links.Select(l => new BoardLink(l.Title.Length > 0 ? l.Title : board.Title, l.Address, IsDismissed: false))];
        return new(board, read.Copies, read.Words);
    }

    private string Work(Job job) => Path.Combine(files.Uploads(job.LessonId), $"{job.Subject}.work");

    private async Task<bool> IsCancelledAsync(Guid job) => await db.Jobs.AsNoTracking().AnyAsync(j => j.Id == job && j.CancelRequested);

    private void DeleteFolders(Job job)
    {
        for (var page = 1; page <= Math.Max(limits.Pages, 1); page++)
        {
            LessonFiles.Discard(files.Board(job.LessonId, BoardId(job.Id, page)));
        }
    }
}
