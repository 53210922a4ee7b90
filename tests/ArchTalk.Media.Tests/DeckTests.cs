using System.IO.Compression;
using ArchTalk.Reader.Readers;
using DocumentFormat.OpenXml.Packaging;
using UglyToad.PdfPig;

namespace ArchTalk.Media.Tests;

/// <summary>Decks by a library from npm and by LibreOffice, and files that only pretend to be decks.</summary>
public sealed class DeckTests : IDisposable
{
    private const string Templates = "/usr/lib/libreoffice/share/template/common/presnt";
    private static readonly CancellationToken None = CancellationToken.None;
    private readonly Samples samples = new();
    private readonly MediaLimits limits = new() { Pages = 40 };

    private Deck Read(string file, MediaLimits? within = null) => DeckReader.Read(file, samples.Path($"clean-{Guid.NewGuid():N}"), within ?? limits);

    private Task<DrawnDeck> DrawAsync(string file, string? program = null, MediaLimits? within = null) =>
        new Kit(within ?? limits, new() { LibreOffice = program ?? "soffice" }).Looks.DrawAsync(file, samples.Path("drawn"), None);

    public void Dispose() => samples.Dispose();

    private async Task<string> NpmDeckAsync()
    {
        var file = samples.Path("npm.pptx");
        await samples.RunAsync(
            "node", Path.Combine(Repository.Root, "tests/ArchTalk.Media.Tests/make-deck.mjs"), Path.Combine(Repository.Web, "package.json"), file);
        return file;
    }

    // LibreOffice is the other reader: it reads the deck and writes it in its own format.
    private async Task<string> ByLibreOfficeAsync(string file, string extension)
    {
        var folder = Directory.CreateDirectory(samples.Path($"converted-{Guid.NewGuid():N}")).FullName;
        await samples.RunAsync(
            "soffice", $"-env:UserInstallation={new Uri(samples.Path("profile")).AbsoluteUri}", "--headless", "--convert-to", extension, "--outdir",
            folder, file);
        return Directory.GetFiles(folder).Single();
    }

    private string Zip(string name, params (string Name, string Content)[] entries)
    {
        using var archive = ZipFile.Open(samples.Path(name), ZipArchiveMode.Create);
        foreach (var (entry, content) in entries)
        {
            using var writer = new StreamWriter(archive.CreateEntry(entry).Open());
            writer.Write(content);
        }

        return samples.Path(name);
    }

    [Fact]
    public async Task A_deck_by_a_library_from_npm_is_read_as_another_reader_reads_it()
    {
        var file = await NpmDeckAsync();
        var deck = Read(file);
        deck.HasMacros.ShouldBeFalse();
        deck.Slides.Select(s => s.Title).ShouldBe(["Why a dome stands", "Hoops", "For the teacher only"]);
        deck.Slides[0].Notes.ShouldBe("Begin with the question.\nWait three seconds.");
        deck.Slides[0].Links.ShouldBe([new SlideLink("hanging chain", "https://example.org/chain?a=1&b=2")]);
        deck.Slides[1].AlternativeTexts.ShouldContain("A dome cut in half, its hoops marked");
        deck.Slides.Select(s => s.IsHidden).ShouldBe([false, false, true]);

        var other = Read(await ByLibreOfficeAsync(file, "odp"));
        other.Slides.Select(s => s.Title).ShouldBe(deck.Slides.Select(s => s.Title));
        other.Slides.Select(s => s.Notes).ShouldBe(deck.Slides.Select(s => s.Notes));
        other.Slides.SelectMany(s => s.Links).ShouldBe(deck.Slides.SelectMany(s => s.Links));
        other.Slides.Select(s => s.IsHidden).ShouldBe(deck.Slides.Select(s => s.IsHidden));
    }

    // Found in the running application: decks in the usual office typefaces reflowed, and nothing said so.
    [Fact]
    public async Task Usual_typefaces_keep_their_room_and_one_that_is_missing_is_named_with_its_slides()
    {
        var file = samples.Path("faces.pptx");
        await samples.RunAsync("node", "-e", """
            const Deck = require("node:module").createRequire(process.argv[1])("pptxgenjs");
            const deck = new Deck();
            for (const face of ["Calibri", "Futura Nova", "Cambria", "Futura Nova"]) {
              deck.addSlide().addText("Every stone of an arch leans on its neighbour, and none could stand alone.", { x: 0.5, y: 1, w: 9, h: 2,
                fontFace: face, fontSize: 24 });
            }
            deck.addSlide();
            deck.writeFile({ fileName: process.argv[2] });
            """, Path.Combine(Repository.Web, "package.json"), file);
        var drawn = await DrawAsync(file);
        drawn.Remark.ShouldBe("Drawn in other letters, because this typeface is not on the server: Futura Nova (on slides 2, 4). Lines may break "
            + "elsewhere. To keep the look, save the deck as a PDF and add that.");
        var faces = await samples.RunAsync("pdffonts", drawn.Pdf);
        faces.ShouldContain("Carlito");
        faces.ShouldContain("Caladea");

        var odp = await DrawAsync(await ByLibreOfficeAsync(file, "odp"));
        odp.Remark.ShouldContain("Futura Nova (on slides 2, 4)");
    }

    [Fact]
    public async Task Decks_that_LibreOffice_makes_of_its_own_templates_are_read_alike_in_both_formats()
    {
        foreach (var template in Directory.GetFiles(Templates, "*.otp").Order(StringComparer.Ordinal).Take(3))
        {
            var odp = Read(await ByLibreOfficeAsync(template, "odp"));
            var pptx = Read(await ByLibreOfficeAsync(template, "pptx"));
            odp.Slides.Count.ShouldBeGreaterThan(0);
            pptx.Slides.Count.ShouldBe(odp.Slides.Count, template);
            pptx.Slides.Select(s => s.Title).ShouldBe(odp.Slides.Select(s => s.Title), template);
        }
    }

    [Fact]
    public async Task LibreOffice_draws_every_slide_also_the_hidden_ones()
    {
        var (_, pdf, _) = await DrawAsync(await NpmDeckAsync());
        using var document = PdfDocument.Open(pdf);
        document.NumberOfPages.ShouldBe(3);
        document.GetPage(3).Text.ShouldContain("For the teacher only");
    }

    // A chart, and SVG pictures as backgrounds: what may stay in a deck is all that makes its looks.
    [Theory]
    [InlineData("Freshes")]
    [InlineData("Metropolis")]
    public async Task A_deck_that_was_cleaned_looks_as_it_did(string template)
    {
        var deck = await ByLibreOfficeAsync(Path.Combine(Templates, $"{template}.otp"), "odp");
        var (_, clean, _) = await DrawAsync(deck);
        var before = await ByLibreOfficeAsync(deck, "pdf");
        async Task<byte[][]> PagesAsync(string pdf, string name)
        {
            await samples.RunAsync("pdftoppm", "-r", "24", pdf, samples.Path(name));
            return [.. Directory.GetFiles(samples.Folder, $"{name}-*.ppm").Order(StringComparer.Ordinal).Select(File.ReadAllBytes)];
        }

        var (was, now) = (await PagesAsync(before, "before"), await PagesAsync(clean, "after"));
        now.Length.ShouldBe(was.Length);
        now.Length.ShouldBeGreaterThan(0);
        foreach (var (a, b) in was.Zip(now))
        {
            ((double)a.Zip(b).Count(p => Math.Abs(p.First - p.Second) > 40) / a.Length).ShouldBeLessThan(0.005);
        }
    }

    [Fact]
    public async Task A_conversion_that_hangs_is_killed_and_one_that_writes_nothing_is_found_out()
    {
        var deck = await NpmDeckAsync();
        var hanging = samples.Program("hanging", "sleep 600");
        var watch = System.Diagnostics.Stopwatch.StartNew();
        (await Should.ThrowAsync<MediaException>(() => DrawAsync(deck, hanging, new() { SecondsPerDeck = 1 })))
            .Message.ShouldContain("did not finish within 1 seconds");
        watch.Elapsed.TotalSeconds.ShouldBeLessThan(20);
        (await Should.ThrowAsync<MediaException>(() => DrawAsync(deck, samples.Program("idle", "exit 0"))))
            .Message.ShouldContain("PDF");
    }

    [Fact]
    public async Task Without_LibreOffice_the_message_offers_the_way_by_PDF() =>
        (await Should.ThrowAsync<MediaException>(async () => await DrawAsync(await NpmDeckAsync(), "no-such-program")))
            .Message.ShouldContain("Save the deck as a PDF");

    [Fact]
    public async Task Macros_are_noticed()
    {
        var file = await NpmDeckAsync();
        using (var document = PresentationDocument.Open(file, isEditable: true))
        {
            document.ChangeDocumentType(DocumentFormat.OpenXml.PresentationDocumentType.MacroEnabledPresentation);
            using var macro = new MemoryStream([1, 2, 3]);
            document.PresentationPart!.AddNewPart<VbaProjectPart>().FeedData(macro);
        }

        (Read(file)).HasMacros.ShouldBeTrue();
    }

    [Fact]
    public async Task A_deck_cut_short_is_named_as_broken()
    {
        var bytes = await File.ReadAllBytesAsync(await NpmDeckAsync());
        await File.WriteAllBytesAsync(samples.Path("cut.pptx"), bytes[..(bytes.Length / 2)]);
        Should.Throw<MediaException>(() => Read(samples.Path("cut.pptx"))).Message.ShouldContain("broken");
    }

    [Fact]
    public void An_archive_that_grows_without_bounds_is_never_unpacked_whole()
    {
        var bomb = Zip("bomb.pptx", ("ppt/presentation.xml", new string('a', 3_000_000)));
        new FileInfo(bomb).Length.ShouldBeLessThan(10_000);
        Should.Throw<MediaException>(() => Read(bomb, new() { ArchiveBytes = 1 << 20 })).Message.ShouldContain("grows beyond 1 MB");
        var many = Zip("many.odp", [.. Enumerable.Range(0, 30).Select(i => ($"part{i}", ""))]);
        Should.Throw<MediaException>(() => Read(many, new() { ArchiveEntries = 20 })).Message.ShouldContain("30 parts");
    }

    [Fact]
    public async Task Other_archives_broken_decks_and_protected_ones_are_told_apart()
    {
        string Refusal(string file) => Should.Throw<MediaException>(() => Read(file)).Message;
        Refusal(Zip("photos.zip", ("a.txt", "x"))).ShouldContain("not a PPTX or ODP deck");
        Refusal(Zip("broken.pptx", ("ppt/presentation.xml", "<x"))).ShouldContain("broken");
        Refusal(Zip(
            "entity.odp",
            ("mimetype", "application/vnd.oasis.opendocument.presentation"),
            ("content.xml", "<!DOCTYPE x [<!ENTITY e SYSTEM 'file:///etc/passwd'>]><x>&e;</x>"))).ShouldContain("broken");
        Refusal(Zip(
            "locked.odp", ("mimetype", "application/vnd.oasis.opendocument.presentation"),
            ("META-INF/manifest.xml", "<m><f><encryption-data/></f></m>"), ("content.xml", "xx"))).ShouldContain("password");
        Refusal(Zip("none.odp", ("mimetype", "application/vnd.oasis.opendocument.presentation"), ("content.xml", "<x/>"))).ShouldContain("no slides");

        // A compound file: an old binary document, or an encrypted new one, which holds a stream of this name.
        byte[] head = [0xD0, 0xCF, 0x11, 0xE0, 0xA1, 0xB1, 0x1A, 0xE1];
        await File.WriteAllBytesAsync(samples.Path("locked.pptx"), [.. head, .. System.Text.Encoding.Unicode.GetBytes("EncryptedPackage")]);
        CompoundFiles.Refusal(samples.Path("locked.pptx")).ShouldContain("password");
        await File.WriteAllBytesAsync(samples.Path("old.ppt"), head);
        CompoundFiles.Refusal(samples.Path("old.ppt")).ShouldContain("old binary format");
    }

    [Fact]
    public async Task Too_many_slides_are_refused() =>
        (await Should.ThrowAsync<MediaException>(async () => await Task.FromResult(Read(await NpmDeckAsync(), new() { Pages = 2 })))).Message
            .ShouldContain("3 slides; at most 2");
}
