using ArchTalk.Core.Boards;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Tests.Lessons;

public class LessonRulesTests
{
    private static Term Word(string word, string meaning = "m", string language = "") => new(Guid.NewGuid(), word, "", meaning, language);

    private static Reference Web(string title, string address) => new(Guid.NewGuid(), Reference.Web, title, address, "", "");

    [Fact]
    public void Blanks_are_trimmed_and_empty_entries_left_out() =>
        LessonRules.Terms([Word("  voussoir "), Word(" ", " ")]).Value!.ShouldHaveSingleItem().Word.ShouldBe("voussoir");

    [Theory]
    [InlineData("", "m", "", "has no word")]
    [InlineData("w", "m", "not a language", "isn't a language tag")]
    [InlineData("w", "m", "en--x", "isn't a language tag")]
    public void A_wrong_term_is_named(string word, string meaning, string language, string fault) =>
        LessonRules.Terms([Word(word, meaning, language)]).Fault!.ShouldContain(fault);

    [Theory]
    [InlineData("en")]
    [InlineData("pt-BR")]
    [InlineData("zh-Hant")]
    public void Language_tags_are_those_of_BCP_47(string tag) => LessonRules.Terms([Word("w", language: tag)]).Fault.ShouldBeNull();

    [Theory]
    [InlineData("https://example.org/arch", true)]
    [InlineData("http://example.org", true)]
    [InlineData("javascript:alert(1)", false)]
    [InlineData("example.org", false)]
    [InlineData("", false)]
    public void A_web_reference_needs_a_web_address(string address, bool good) =>
        (LessonRules.References([Web("t", address)]).Fault is null).ShouldBe(good);

    [Fact]
    public void A_reference_needs_a_title_and_a_known_kind()
    {
        LessonRules.References([new(Guid.NewGuid(), Reference.Book, "", "", "12–15", "")]).Fault!.ShouldContain("no title");
        LessonRules.References([new(Guid.NewGuid(), "film", "t", "", "", "")]).Fault.ShouldNotBeNull();
    }

    [Fact]
    public void Steps_of_a_task_are_tidied_and_too_long_ones_are_named()
    {
        LessonRules.Task(new([" Build ", "", "Draw"], "", "", "", "")).Value!.Steps.ShouldBe(["Build", "Draw"]);
        LessonRules.Task(new([new string('x', 2001)], "", "", "", "")).Fault!.ShouldContain("longer than 2000");
        LessonTask.Empty.IsEmpty.ShouldBeTrue();
    }

    [Fact]
    public void A_chapter_needs_a_name_of_reasonable_length()
    {
        LessonRules.Chapters([new(Guid.NewGuid(), " ", null, 0)]).Fault!.ShouldContain("no name");
        LessonRules.Chapters([new(Guid.NewGuid(), new string('x', 121), null, 0)]).Fault!.ShouldContain("longer than 120");
    }

    [Fact]
    public void A_list_has_a_limit() =>
        LessonRules.Terms(Enumerable.Range(0, 501).Select(i => Word($"w{i}"))).Fault!.ShouldContain("at most 500");

    [Fact]
    public void A_board_is_named_by_its_largest_words()
    {
        TextWord At(string text, double size, double x, double y) => new(text, x, y, 80, size);

        // A page number is larger than the heading, which has two lines and a number of its own.
        new TextLayer([At("12", 60, 1500, 800), At("small", 12, 0, 10), At("Lesson", 40, 100, 102), At("12:", 38, 200, 104), At(
            "Why",
            40,
            300,
            102), At("an", 30, 400, 110),
            At("arch", 40, 100, 160), At("stands", 40, 200, 160), At("note", 14, 100, 300), At("Later", 40, 100, 600)])
            .LargestLines().ShouldBe("Lesson 12: Why an arch stands");
        // Words of one line that lie a hair higher or lower come in any order.
        new TextLayer(
            [At("of", 40, 300, 99), At("The", 40, 100, 100), At("thrust", 40, 380, 99.5), At("line", 40, 200, 101), At("beside", 38, 900, 100)])
            .LargestLines().ShouldBe("The line of thrust");
        new TextLayer([At("القوس", 40, 300, 0), At("لماذا", 40, 400, 0)]).LargestLines().ShouldBe("لماذا القوس");
        new TextLayer([.. Enumerable.Range(0, 20).Select(i => At($"word{i}", 40, i * 79, 0))]).LargestLines()!.ShouldEndWith("word11…");
        TextLayer.Empty.LargestLines().ShouldBeNull();
    }

    // Visual and logical order: Unicode Annex 9 (the words and their reversal are our own).
    [Theory]
    [InlineData("سوقلا", "القوس")]
    [InlineData("תשק", "קשת")]
    [InlineData("12א", "א12")]
    [InlineData("arch", "arch")]
    [InlineData("ﬁnal\0 ﬂow", "final flow")]
    [InlineData("ﺱﻮﻘﻟﺍ", "القوس")]
    public void Words_are_kept_as_they_are_written(string shown, string written) =>
        PageWords.Plain(PageWords.Logical([.. shown.Select((c, i) => new ShownLetter(c.ToString(), i))])).ShouldBe(written);

    [Fact]
    public void Letters_that_come_from_the_right_already_stay_in_their_order() =>
        PageWords.Logical([.. "القوس".Select((c, i) => new ShownLetter(c.ToString(), -i))]).ShouldBe("القوس");

    [Theory]
    [InlineData(1920, 1080, 900)]
    [InlineData(2480, 3508, 2263)]
    [InlineData(1, 100_000, Board.MaxHeight)]
    public void A_board_is_as_high_as_its_picture_at_1600_wide(int width, int height, int units) =>
        Board.HeightFor(width, height).ShouldBe(units);
}
