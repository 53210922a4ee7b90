using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Lessons;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Jobs;

/// <summary>Reads the words in the picture of a board that came without any.</summary>
public sealed class ReadJob(ArchTalkDb db, BoardService boards, SectionService sections, PageReader reader, LessonFiles files) : IJobHandler
{
    public async Task RunAsync(Job job, JobProgress progress, CancellationToken cancel)
    {
        var board = await db.Boards.AsNoTracking().SingleOrDefaultAsync(b => b.Id == Guid.Parse(job.Subject) && b.LessonId == job.LessonId, cancel);
        if (board?.InPixels.LastOrDefault() is not { } picture)
        {
            return;
        }

        var details = await sections.DetailsAsync(job.LessonId, cancel);
        string[] languages = [details.Language, .. details.OtherLanguages];
        var words = await reader.ReadAsync(Path.Combine(files.Board(job.LessonId, board.Id), picture.File), languages, cancel);
        if (await reader.MissingAsync(languages, cancel) is { Count: > 0 } missing)
        {
            progress.Remark = $"The reading of {string.Join(" and ", missing)} is not installed on this server, so words in it may be wrong. Ask "
                + $"whoever runs it to install it.";
        }

        await boards.WriteWordsAsync(job.LessonId, board.Id, words, cancel);
        await boards.NameAsync(job.LessonId, board.Id, words, cancel);
        await progress.ReportAsync(1, 1);
    }
}
