using System.Text;
using System.Xml.Linq;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Tests.Formats;

public class VocabularyFormatsTests
{
    private static readonly Term Full = new(Guid.NewGuid(), "voussoir", "/vuːˈswɑː/", "One wedge-shaped stone,\n\"as cut\"; of an arch", "fr")
    {
        PartOfSpeech = "noun", Example = "Nine voussoirs, one key.", Parts = "vous + soir", Synonym = "arch stone", ConfusedWith = "springer",
        MemoryAid = "V for wedge", Status = Term.Later, Translations = [new("de", "Keilstein"), new("ja", "迫石")],
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
        LessonRules.Terms([new Term(Guid.NewGuid(), "arch", "", "", "") { Translations = [.. Enumerable.Range(0, 30).Select(i => new Translation("fr", $"t{i}"))] }]).Fault!.ShouldContain("30 translations");
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
}
