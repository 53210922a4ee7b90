// Files of others stand here as they come, in long lines.
#pragma warning disable RCS0056

using System.Text;
using System.Xml.Linq;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Lessons;
using CsCheck;

namespace ArchTalk.Core.Tests.Formats;

public class VocabularyFormatsTests
{
    private static readonly Term Full = new(Guid.NewGuid(), "voussoir", "/vuːˈswɑː/", "One wedge-shaped stone,\n\"as cut\"; of an arch", "fr")
    {
        PartOfSpeech = "noun",
        Example = "Nine voussoirs, one key.",
        Parts = "vous + soir",
        Synonym = "arch stone",
        ConfusedWith = "springer",
        MemoryAid = "V for wedge",
        Status = Term.Later,
        Translations = [new("de", "Keilstein"), new("ja", "迫石")],
    };

    private static readonly Term Plain = new(Guid.NewGuid(), "-ist", "", "=a suffix", "");

    private static Checked<IReadOnlyList<Term>> ReadTbx(string xml, string language = "en") =>
        Tbx.Read(new MemoryStream(Encoding.UTF8.GetBytes(xml)), language, Guid.NewGuid);

    private static void ShouldBeSame(IReadOnlyList<Term> read, IReadOnlyList<Term> written)
    {
        read.Count.ShouldBe(written.Count);
        for (var i = 0; i < read.Count; i++)
        {
            (read[i] with { Id = written[i].Id, Translations = written[i].Translations }).ShouldBe(written[i]);
            read[i].Translations.ShouldBe(written[i].Translations);
        }
    }

    [Theory]
    [InlineData(',')]
    [InlineData('\t')]
    public void A_table_round_trips_without_loss(char delimiter) =>
        ShouldBeSame(TermTable.Read(TermTable.Write([Full, Plain], delimiter), Guid.NewGuid).Value!, [Full, Plain]);

    // Found in the running application: 100,000 columns of translations took 112 s.
    [Fact]
    public void Lists_that_are_too_large_are_named_before_they_are_read()
    {
        var wide = "word," + string.Join(',', Enumerable.Range(0, 100_000).Select(i => $"translation l{i}")) + "\narch\n";
        TermTable.Read(wide, Guid.NewGuid).Fault!.ShouldContain("100001 columns");
        TermTable.Read(string.Concat(Enumerable.Range(0, 600).Select(i => $"word {i},meaning\n")), Guid.NewGuid).Fault!.ShouldContain("600 rows");
        var deep = Encoding.UTF8.GetBytes(string.Concat(Enumerable.Repeat("<a>", 50_000)) + string.Concat(Enumerable.Repeat("</a>", 50_000)));
        Tbx.Read(new MemoryStream(deep), "en", Guid.NewGuid).Fault!.ShouldContain("broken near line");
        LessonRules.Terms(
            [new Term(Guid.NewGuid(), "arch", "", "", "") { Translations = [.. Enumerable.Range(0, 30)
            .Select(i => new Translation("fr", $"t{i}"))] }]).Fault!.ShouldContain("30 translations");
    }

    [Fact]
    public void A_cell_that_a_spreadsheet_would_run_is_written_as_text() =>
        TermTable.Write([Plain], ',').ShouldContain("'=a suffix");

    [Theory]
    [InlineData("arch\ta curve\nbeam\ta bar", "arch|a curve;beam|a bar")]
    [InlineData("arch;/ɑːtʃ/;a curve", "arch|a curve")]
    [InlineData("Meaning,Word\na curve,arch\n,\n", "arch|a curve")]
    [InlineData("term\tmeaning\narch\t\"two\nlines\"", "arch|two\nlines")]
    [InlineData("﻿word,meaning\r\narch,a curve\r\n", "arch|a curve")]
    public void Tables_are_read_as_spreadsheets_give_them(string text, string expected) =>
        string.Join(';', TermTable.Read(text, Guid.NewGuid).Value!.Select(t => $"{t.Word}|{t.Meaning}")).ShouldBe(expected);

    [Theory]
    [InlineData("", "empty")]
    [InlineData("word,meaning\n,only a meaning", "No words")]
    public void A_table_without_words_says_so(string text, string fault) => TermTable.Read(text, Guid.NewGuid).Fault!.ShouldContain(fault);

    // ISO 30042:2019 (TBX v3, DCA style); names of elements and categories from memory.
    [Fact]
    public void TBX_round_trips_without_loss()
    {
        var document = Tbx.Write("Arches", "en", [Full with { Language = "" }, Plain]);
        var root = document.Root!;
        root.Name.ShouldBe(XName.Get("tbx", "urn:iso:std:iso:30042:ed-2"));
        root.Attribute("style")!.Value.ShouldBe("dca");
        root.Descendants(Tbx.Namespace + "conceptEntry").Count().ShouldBe(2);
        root.Descendants(Tbx.Namespace + "langSec").Select(l => l.Attribute(XNamespace.Xml + "lang")!.Value).ShouldBe(["en", "de", "ja", "en"]);
        ShouldBeSame(ReadTbx(document.ToString()).Value!, [Full with { Language = "" }, Plain]);
    }

    [Fact]
    public void Older_TBX_files_are_read()
    {
        var terms = ReadTbx("""
            <?xml version="1.0"?><!DOCTYPE martif SYSTEM "TBXcoreStructV02.dtd">
            <martif type="TBX" xml:lang="en"><text><body><termEntry id="c1"><descrip type="definition">A curve of stones.</descrip>
            <langSet xml:lang="fr"><tig><term>arc</term></tig></langSet>
            <langSet xml:lang="en-GB"><ntig><termGrp><term>arch</term><termNote type="partOfSpeech">noun</termNote></termGrp></ntig></langSet></termEntry></body></text></martif>
            """).Value!;
        var term = terms.ShouldHaveSingleItem();
        (term.Word, term.Meaning, term.PartOfSpeech).ShouldBe(("arch", "A curve of stones.", "noun"));
        term.Translations.ShouldBe([new Translation("fr", "arc")]);
    }

    [Fact]
    public void The_style_that_names_categories_as_elements_is_read() =>
        ReadTbx("""
            <tbx xmlns="urn:iso:std:iso:30042:ed-2" xmlns:min="http://www.tbxinfo.net/ns/min" xmlns:basic="http://www.tbxinfo.net/ns/basic" style="dct" type="TBX-Basic"><text><body>
            <conceptEntry id="1"><langSec xml:lang="en"><basic:definition>A bar.</basic:definition><termSec><term>beam</term><min:partOfSpeech>noun</min:partOfSpeech></termSec></langSec></conceptEntry></body></text></tbx>
            """).Value!.Select(t => (t.Word, t.Meaning, t.PartOfSpeech)).ShouldBe([("beam", "A bar.", "noun")]);

    [Theory]
    [InlineData("<tbx", "broken near line 1")]
    [InlineData("<tbx/>", "No terms")]
    public void A_bad_TBX_file_says_what_is_wrong(string xml, string fault) => ReadTbx(xml).Fault!.ShouldContain(fault);

    [Fact]
    public void An_outside_entity_is_never_followed() =>
        ReadTbx("""<!DOCTYPE tbx [<!ENTITY x SYSTEM "file:///etc/hostname">]><tbx><conceptEntry><langSec xml:lang="en"><termSec><term>&x;</term></termSec></langSec></conceptEntry></tbx>""")
            .Fault.ShouldNotBeNull();

    // Found in the running application: a header in other words became a term, and a fourth column was dropped.
    [Fact]
    public void A_table_is_taken_in_as_the_teacher_says_what_its_columns_hold()
    {
        const string Table = "Bedeutung;Wort;Nr;Französisch\nGewölbestein oben;Schlussstein;1;clé de voûte\nSeitenkraft;Schub;2;poussée\n;;3;\n";
        var look = TermTable.Look(Table).Value!;
        (look.HasHeader, look.Rows, look.Sample[0][3]).ShouldBe((false, 4, "Französisch"));
        string[] columns = ["meaning", "word", "", "translation fr"];
        var terms = TermTable.Read(Table, Guid.NewGuid, columns, hasHeader: true).Value!;
        terms.Select(t => (t.Word, t.Meaning, t.Translations[0])).ShouldBe(
            [("Schlussstein", "Gewölbestein oben", new Translation("fr", "clé de voûte")), ("Schub", "Seitenkraft", new Translation(
                "fr",
                "poussée"))]);
        TermTable.Read(Table, Guid.NewGuid, ["meaning", ""], hasHeader: true).Fault!.ShouldContain("No column holds the words");
        TermTable.Look("Definition,Term,translation (de)\na,b,c").Value!.ShouldSatisfyAllConditions(
            l => l.HasHeader.ShouldBeTrue(),
            l => l.Columns.ShouldBe(["meaning", "word", "translation (de)"]),
            l => l.Rows.ShouldBe(1));
        TermTable.Look("").Fault!.ShouldContain("empty");
    }

    // What is written in any order of columns is read back; reference: what went in.
    [Fact]
    public void Vocabulary_comes_back_whatever_the_order_of_its_columns()
    {
        var text = TermTable.Write([new Term(Guid.NewGuid(), "arch", "ɑːtʃ", "a curve, of “stones”", "en") {
            Synonym = "vault",
            Translations = [new("fr", "arc")],
            PartOfSpeech = "noun" }], '\t');
        string[][] rows = [.. text.Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(l => l.TrimEnd('\r').Split('\t'))];
        Gen.Shuffle(Enumerable.Range(0, rows[0].Length).ToArray()).Sample(order =>
        {
            var shuffled = string.Join('\n', rows.Select(r => string.Join('\t', order.Select(i => r[i]))));
            var term = TermTable.Read(shuffled, Guid.NewGuid).Value!.ShouldHaveSingleItem();
            (term.Word, term.Reading, term.Meaning, term.Synonym, term.PartOfSpeech).ShouldBe(
                ("arch", "ɑːtʃ", "a curve, of “stones”", "vault", "noun"));
            term.Translations.ShouldBe([new Translation("fr", "arc")]);
        });
    }

    [Theory]
    [InlineData("拱（gǒng）：弯曲的结构", "拱", "gǒng", "弯曲的结构")]
    [InlineData("要石【かなめいし】：アーチの頂上の石", "要石", "かなめいし", "アーチの頂上の石")]
    [InlineData("拱心石（gǒngxīnshí）", "拱心石", "gǒngxīnshí", "")]
    [InlineData("鎖：つながった輪", "鎖", "", "つながった輪")]
    public void Lines_in_full_width_signs_are_read(string line, string word, string reading, string meaning)
    {
        var term = QuickTerms.Read(line, "", Guid.NewGuid).ShouldHaveSingleItem();
        (term.Word, term.Reading, term.Meaning).ShouldBe((word, reading, meaning));
    }

    [Fact]
    public void What_became_of_words_that_were_brought_in_is_told()
    {
        Term Word(string word, string meaning = "") => new(Guid.NewGuid(), word, "", meaning, "");
        Term[] before = [Word("arch"), Word("thrust", "a push")];
        Term[] brought = [Word("arch", "a curve"), Word("thrust", "a push"), Word("dome"), Word("vault")];
        TermLists.Account(before, TermLists.Merge(before, brought), brought.Length).ShouldBe("4 words taken in: 2 new, 1 filled up, 1 there already");
        TermLists.Account([], TermLists.Merge([], [Word("dome")]), 1).ShouldBe("1 word taken in: 1 new");
    }
}
