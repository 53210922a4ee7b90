// Files of others stand here as they come, in long lines.
#pragma warning disable RCS0056

using System.Text;
using ArchTalk.Reader.Readers;
using SkiaSharp;

namespace ArchTalk.Media.Tests;

public sealed class SvgPicturesTests : IDisposable
{
    private const string Head = """<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 320 180">""";
    private readonly Samples samples = new();
    private readonly MediaLimits limits = new() { SvgElements = 500 };

    public void Dispose() => samples.Dispose();

    private string Clean(string svg) => SvgCleaner.Clean(new MemoryStream(Encoding.UTF8.GetBytes(svg)), limits).ToString();

    [Theory]
    [InlineData("<script>alert(1)</script>", "alert")]
    [InlineData("""<rect width="9" height="9" onclick="alert(1)"/>""", "onclick")]
    [InlineData("""<image href="https://example.org/spy.png" width="9" height="9"/>""", "example.org")]
    [InlineData("""<image xlink:href="file:///etc/passwd" width="9" height="9"/>""", "passwd")]
    [InlineData("""<use href="other.svg#x"/>""", "other.svg")]
    [InlineData("""<foreignObject><body xmlns="http://www.w3.org/1999/xhtml"><iframe src="x"/></body></foreignObject>""", "iframe")]
    [InlineData("""<style>@import url(https://example.org/a.css);</style>""", "example.org")]
    [InlineData("""<rect style="fill:url( 'https://example.org/a#b')" width="1" height="1"/>""", "example.org")]
    [InlineData("""<rect style="fill:u\rl(https://example.org)" width="1" height="1"/>""", "example.org")]
    [InlineData("""<a xlink:href="javascript:alert(1)"><rect width="1" height="1"/></a>""", "javascript")]
    [InlineData("""<set attributeName="href" to="javascript:alert(1)"/>""", "javascript")]
    [InlineData("""<image href="data:image/svg+xml;base64,PHN2Zz4=" width="9" height="9"/>""", "svg+xml")]
    public void What_acts_or_reaches_outside_is_left_out(string inner, string trace)
    {
        var clean = Clean($"{Head}{inner}<circle r=\"5\"/></svg>");
        clean.ShouldNotContain(trace, Case.Insensitive);
        clean.ShouldContain("circle");
    }

    [Fact]
    public void What_draws_is_kept()
    {
        var clean = Clean($"{Head}<defs><linearGradient id=\"g\"><stop offset=\"0\" stop-color=\"red\"/></linearGradient></defs><rect "
            + $"fill=\"url(#g)\" style=\"stroke:#000\" width=\"9\" height=\"9\"/><use xlink:href=\"#g\"/><text x=\"1\" y=\"2\">arch</text></svg>");
        clean.ShouldContain("url(#g)");
        clean.ShouldContain("href=\"#g\"");
        clean.ShouldContain(">arch<");
        clean.ShouldContain("width=\"1600\"");
        clean.ShouldContain("height=\"900\"");
    }

    [Theory]
    [InlineData("""<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><text>&x;</text></svg>""", "document type")]
    [InlineData("<svg", "broken near line 1")]
    [InlineData("""<html xmlns="http://www.w3.org/1999/xhtml"/>""", "not an SVG")]
    [InlineData("""<svg xmlns="http://www.w3.org/2000/svg"><rect/></svg>""", "how large")]
    public void Broken_and_hostile_pictures_are_named(string svg, string reason) =>
        Should.Throw<MediaException>(() => Clean(svg)).Message.ShouldContain(reason);

    [Fact]
    public void Huge_recursion_in_every_form_is_stopped()
    {
        var deep = new StringBuilder(Head).Insert(Head.Length, "<g>", 100_000).ToString();
        Should.Throw<MediaException>(() => Clean(deep)).Message.ShouldContain("nested");

        // Each level uses the one before ten times: a thousand million parts when drawn.
        var levels = string.Concat(
            Enumerable.Range(1, 9).Select(i => $"<g id=\"l{i}\">{string.Concat(Enumerable.Repeat($"<use href=\"#l{i - 1}\"/>", 10))}</g>"));
        Should.Throw<MediaException>(() => Clean($"{Head}<rect id=\"l0\" width=\"1\" height=\"1\"/>{levels}<use href=\"#l9\"/></svg>")).Message
            .ShouldContain("repeats itself");
        Should.Throw<MediaException>(() => Clean($"{Head}<g id=\"a\"><use href=\"#a\"/></g></svg>")).Message.ShouldContain("without end");
        Should.Throw<MediaException>(() => Clean($"{Head}{string.Concat(Enumerable.Repeat("<path/>", 600))}</svg>")).Message
            .ShouldContain("more than 500 parts");
    }

    [Fact]
    public async Task A_picture_gets_copies_in_pixels_and_stays_sharp_as_itself()
    {
        await File.WriteAllTextAsync(samples.Path("a.svg"), $"{Head}<rect width=\"160\" height=\"180\" fill=\"red\"/></svg>");
        var copies = await new Kit(limits).Pictures.ImportSvgAsync(samples.Path("a.svg"), samples.Folder, CancellationToken.None);
        copies.Select(c => c.Name).ShouldBe(["small.jpg", "medium.jpg", "sharp.svg"]);
        copies[^1].Width.ShouldBeGreaterThan(7680);
        ((double)copies[^1].Width / copies[^1].Height).ShouldBe(16.0 / 9, 0.01);
        using var medium = SKBitmap.Decode(samples.Path("medium.jpg"));
        (medium.Width, medium.Height).ShouldBe((1600, 900));
        medium.GetPixel(400, 450).Red.ShouldBeGreaterThan((byte)240);
        medium.GetPixel(1200, 450).Blue.ShouldBeGreaterThan((byte)240);
    }
}
