using ArchTalk.Core.Boards.Drawings;

namespace ArchTalk.Core.Tests.Boards;

/// <summary>Against Unicode Annex 9 (its rules from memory); PaintedScenesTests compares what comes of it with a browser.</summary>
public sealed class WritingRunsTests
{
    // The Hebrew letters stand in the order in which they are read.
    [Theory]
    [InlineData("keystone 12", false, "keystone 12")]
    [InlineData("אבן 12.5% ראש", true, " ראש|12.5%|אבן ")]
    [InlineData("אבן keystone ראש", true, " ראש|keystone|אבן ")]
    [InlineData("the אבן ראש there", false, "the |אבן ראש| there")]
    [InlineData("the אבן 12 ראש", false, "the | ראש|12|אבן ")]
    [InlineData("אבן, keystone.", true, ".|keystone|אבן, ")]
    [InlineData("1, 2", true, "2|, |1")]
    [InlineData("", true, "")]
    public void Stretches_stand_as_they_are_read_from_the_left(string text, bool isRightToLeft, string expected)
    {
        var runs = WritingRuns.FromTheLeft(text, isRightToLeft);
        string.Join('|', runs.Select(r => r.Text)).ShouldBe(expected);
        runs.Where(r => r.Text.Any(char.IsLetterOrDigit)).ShouldAllBe(r => r.IsRightToLeft == r.Text.Any(c => c >= 'א' && c <= 'ת'));
    }
}
