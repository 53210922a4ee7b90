using ArchTalk.Core.Lessons;
using ArchTalk.Core.Publishing;

namespace ArchTalk.Core.Tests.Lessons;

public class LessonProgressTests
{
    private static LessonStep[] Open(LessonProgress progress) => [.. Enum.GetValues<LessonStep>().Where(progress.CanTake)];

    private static LessonStep[] Done(LessonProgress progress) => [.. Enum.GetValues<LessonStep>().Where(progress.IsDone)];

    [Fact]
    public void A_step_opens_as_soon_as_there_is_something_to_do_in_it()
    {
        var empty = new LessonProgress(0, false, false, 0, false);
        Open(empty).ShouldBe([LessonStep.Prepare]);
        Open(empty with { Boards = 1 }).ShouldBe([LessonStep.Prepare, LessonStep.Record]);
        var recorded = empty with { Boards = 1, IsRecorded = true };
        Open(recorded).ShouldBe([LessonStep.Prepare, LessonStep.Record, LessonStep.Refine, LessonStep.Publish]);
        Open(recorded with { Publications = 1 }).ShouldBe(Enum.GetValues<LessonStep>());
        Open(recorded with { Publications = 1, IsWithdrawn = true }).ShouldNotContain(LessonStep.Watch);
    }

    [Fact]
    public void What_is_done_follows_from_what_there_is()
    {
        var all = new LessonProgress(3, true, true, 2, false);
        Done(all).ShouldBe([LessonStep.Prepare, LessonStep.Record, LessonStep.Refine, LessonStep.Publish]);
        Done(all with { HasChapters = false }).ShouldNotContain(LessonStep.Refine);
        Done(all with { IsWithdrawn = true }).ShouldNotContain(LessonStep.Publish);
        all.State.ShouldBe(LessonState.Published);
        (all with { IsWithdrawn = true }).State.ShouldBe(LessonState.Withdrawn);
        new LessonProgress(1, false, false, 0, false).State.ShouldBe(LessonState.Prepared);
        new LessonProgress(1, true, false, 0, false).State.ShouldBe(LessonState.Recorded);
    }

    [Fact]
    public void A_step_that_is_closed_says_what_opens_it()
    {
        var empty = new LessonProgress(0, false, false, 0, false);
        empty.Hint(LessonStep.Record).ShouldBe("Add a board first");
        empty.Hint(LessonStep.Publish).ShouldBe("Record a take first");
        empty.Hint(LessonStep.Watch).ShouldBe("Publish the lesson first");
    }

    [Fact]
    public void The_summary_counts_what_there_is_and_says_what_follows_from_what_is_missing()
    {
        var lines = PublishSummary.Of("3:07", 1, 0, 2, 1, LessonTask.Empty with { Steps = ["Hang a chain."] }, 0);
        lines.Select(l => (l.IsThere, l.Text)).ShouldBe(
        [
            (true, "3:07 of narration on 1 board"), (false, "No chapters: students can't jump to a part"), (true, "2 terms in the vocabulary"),
            (true, "1 reference"), (true, "A task of 1 step"),
        ]);
        PublishSummary.Of(null, 4, 1, 0, 0, LessonTask.Empty, 0).Select(l => l.IsThere).ShouldBe([false, true, false, false, false]);
    }
}
