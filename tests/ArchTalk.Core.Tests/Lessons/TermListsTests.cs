using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Tests.Lessons;

public class TermListsTests
{
    private static Term Word(string word, string language = "", string meaning = "") => new(Guid.NewGuid(), word, "", meaning, language);

    [Theory]
    [InlineData("voussoir /vuːˈswɑː/ (noun): a wedge-shaped stone", "voussoir", "/vuːˈswɑː/", "noun", "a wedge-shaped stone")]
    [InlineData("keystone", "keystone", "", "", "")]
    [InlineData("cross-section = a cut: seen from its end", "cross-section", "", "", "a cut: seen from its end")]
    [InlineData("橋 [はし] – bridge", "橋", "[はし]", "", "bridge")]
    [InlineData("line of thrust - where the push goes", "line of thrust", "", "", "where the push goes")]
    public void A_line_is_a_term(string line, string word, string reading, string part, string meaning)
    {
        var term = QuickTerms.Read($"\n{line}\n\n", "en", Guid.NewGuid).ShouldHaveSingleItem();
        (term.Word, term.Reading, term.PartOfSpeech, term.Meaning, term.Language).ShouldBe((word, reading, part, meaning, "en"));
    }

    [Fact]
    public void A_line_without_end_is_refused_and_not_puzzled_over() =>
        LessonRules.Terms(QuickTerms.Read(new string('(', 200_000), "", Guid.NewGuid)).Fault!.ShouldContain("longer than 2000");

    // Unicode collation through .NET's culture data: Swedish ä comes after z, Spanish ñ after n.
    [Fact]
    public void Words_are_ordered_by_their_own_alphabet_the_lessons_language_first() =>
        TermLists.Sorted(
            [Word("ände", "sv"), Word("zon", "sv"), Word("Beam"), Word("ñu", "es"), Word("nube", "es"), Word("oca", "es"), Word("arch")],
            "en")
            .Select(t => t.Word).ShouldBe(["arch", "Beam", "nube", "ñu", "oca", "zon", "ände"]);

    [Fact]
    public void A_word_that_is_there_is_filled_up_and_never_overwritten()
    {
        var merged = TermLists.Merge(
            [Word("Arch", "en", "typed before")],
            [Word("arch", "", "from a file") with { Example = "An arch stands.", Translations = [new("fr", "arc")] }, Word("beam")]);
        merged.Select(t => t.Word).ShouldBe(["Arch", "beam"]);
        merged[0].Meaning.ShouldBe("typed before");
        merged[0].Example.ShouldBe("An arch stands.");
        merged[0].Translations.ShouldBe([new Translation("fr", "arc")]);
    }

    [Fact]
    public void Translations_need_a_language_and_statuses_are_known_ones()
    {
        LessonRules.Terms([Word("arch") with { Translations = [new("", "arc")] }]).Fault!.ShouldContain("has no language");
        LessonRules.Terms([Word("arch") with { Translations = [new("xx-not real", "arc")] }]).Fault!.ShouldContain("language tag");
        LessonRules.Terms([Word("arch") with { Status = "someday", Translations = [new("fr", " ")] }]).Value![0].ShouldSatisfyAllConditions(
            t => t.Status.ShouldBe(Term.New), t => t.Translations.ShouldBeEmpty());
    }

    [Fact]
    public void Files_and_dates_of_references_are_checked()
    {
        var web = new Reference(Guid.NewGuid(), Reference.Web, "t", "https://example.org", "", "");
        LessonRules.References([web with { Accessed = "2026-11-25" }]).Fault.ShouldBeNull();
        LessonRules.References([web with { Accessed = "25.11.2026" }]).Fault!.ShouldContain("isn't a date");
        LessonRules.References([new(Guid.NewGuid(), Reference.File, "Worksheet", "", "", "")]).Fault!.ShouldContain("has no file");
    }

    [Fact]
    public void A_task_may_differ_for_each_class_and_a_class_needs_a_name()
    {
        var task = LessonTask.Empty with { Classes = [new("9a", "box", "Friday"), new("", "", "")], Choices = [" model ", ""] };
        LessonRules.Task(task).Value!.Classes.ShouldHaveSingleItem().When.ShouldBe("Friday");
        LessonRules.Task(task).Value!.Choices.ShouldBe(["model"]);
        LessonRules.Task(task with { Classes = [new("", "box", "")] }).Fault!.ShouldContain("no name");
        (LessonTask.Empty with { Marking = "m" }).IsEmpty.ShouldBeFalse();
    }

    // Common practice, no source: how teachers write a time behind a part of a lesson.
    [Theory]
    [InlineData("Rings and ribs, 3 min", "Rings and ribs", 3.0)]
    [InlineData("Rings and ribs (2.5 minutes)", "Rings and ribs", 2.5)]
    [InlineData("Ringe und Rippen – 2,5 Min.", "Ringe und Rippen", 2.5)]
    [InlineData("Rings and ribs 10'", "Rings and ribs", 10.0)]
    [InlineData("Rings and ribs", "Rings and ribs", null)]
    [InlineData("3 min", "3 min", null)]
    [InlineData("Exercise 7, number 3", "Exercise 7, number 3", null)]
    [InlineData("Rings, 0 min", "Rings, 0 min", null)]
    public void A_part_of_the_agenda_may_end_with_its_time(string line, string title, double? minutes) =>
        AgendaPart.Of(line).ShouldBe(new(title, minutes));

    [Fact]
    public void Details_are_tidied_and_their_languages_checked()
    {
        LessonRules.Details(new LessonDetails { Language = " ", Agenda = [" one ", ""] }).Value.ShouldSatisfyAllConditions(
            d => d!.Language.ShouldBe("en"), d => d!.Agenda.ShouldBe(["one"]));
        LessonRules.Details(new LessonDetails { OtherLanguages = ["klingonese tongue"] }).Fault!.ShouldContain("language tag");
        LessonRules.Details(new LessonDetails { Aims = [new string('x', 2001)] }).Fault!.ShouldContain("longer than");
    }
}
