using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Recording;

namespace ArchTalk.Web.Jobs;

/// <summary>Writes the lossless master of an ended take beside its journal.</summary>
public sealed class MasterJob(LessonFiles files) : IJobHandler
{
    public async Task RunAsync(Job job, JobProgress progress, CancellationToken cancel)
    {
        var take = Guid.Parse(job.Subject);
        var read = await TakeJournals.ReadAsync(files.Journal(job.LessonId, take), cancel);
        await Voice.WriteMasterAsync(read.ToSamples(), files.Master(job.LessonId, take), cancel);
    }
}
