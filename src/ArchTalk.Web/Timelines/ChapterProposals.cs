using ArchTalk.Core.Lessons;
using ArchTalk.Core.Time;

namespace ArchTalk.Web.Timelines;

/// <summary>Chapters proposed from the boards shown and the long silences.</summary>
public sealed class ChapterProposals(LessonCompiler compiler, LessonVoices voices)
{
    public async Task<IReadOnlyList<Chapter>> OfAsync(Guid lesson, CancellationToken cancel)
    {
        var compiled = await compiler.CompileAsync(lesson, cancel);
        return [.. Chapters.Propose(compiled.Timeline, await voices.SilencesAsync(compiled, cancel)).Select(c =>
        {
            var moment = c.At == LessonTime.Zero ? null : compiled.Arrangement.MomentAt(c.At);
            return new Chapter(Guid.CreateVersion7(), c.Title, moment?.Take.Value, moment?.At.Samples ?? 0);
        })];
    }
}
