// Each hostile file is written as it is, in one line.
#pragma warning disable RCS0056

using System.Buffers.Binary;
using System.Globalization;
using System.IO.Compression;
using System.Text;

namespace ArchTalk.Media.Tests;

/// <summary>A file that somebody made to harm, or that is broken in a way that harms.</summary>
/// <param name="Name">What it does.</param>
internal sealed record HostileFile(string Name, byte[] Content);

/// <summary>What hostile files try to get at.</summary>
/// <param name="Picture">A picture of one colour that is in nothing else.</param>
/// <param name="Text">A text with a word that is in nothing else.</param>
/// <param name="Address">An address at which somebody listens.</param>
internal sealed record Canaries(string Picture, string Text, string Address);

/// <summary>
/// Hostile files of every kind that is read, made here and kept nowhere. Rows of shared findings are named by their number; the rest
/// are tricks that are commonly known for the formats (common practice, no source).
/// </summary>
internal static class HostileFiles
{
    private const string SvgHead
        = """<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 320 180" width="320" height="180">""";
    private const string Relations = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
    private const string Odf = "urn:oasis:names:tc:opendocument:xmlns";

    public static IEnumerable<HostileFile> Pdfs(Canaries canaries)
    {
        for (var depth = 5; depth <= 12; depth++)
        {
            yield return new($"X3: forms within forms, {depth} deep, ten of each, in a hidden layer", NestedForms(depth));
        }

        foreach (var range in new[] {
            "<0000> <FFFF> <0041>",
            "<00000000> <FFFFFFFF> <0041>",
            "<0000> <7FFFFFFF> <D800DC00>",
            "<FFFF> <0000> <0041>",
            "<00> <FFFFFFFFFFFFFFFF> <00410041>" })
        {
            yield return new($"X3: a character map of {range}", WithCharacterMap($"1 beginbfrange\n{range}\nendbfrange"));
        }

        yield return new("X3: a character map of 100,000 ranges", WithCharacterMap(string.Concat(Enumerable.Range(0, 1000)
            .Select(i => $"100 beginbfrange\n{string.Concat(Enumerable.Range(0, 100).Select(_ => "<0000> <FFFF> <0041>\n"))}endbfrange\n"))));
        foreach (var megabytes in new[] { 32, 200, 500 })
        {
            yield return new($"X3: {megabytes} MB of spaces packed twice", Packed(megabytes, times: 2));
        }

        yield return new("200 MB of spaces packed once", Packed(200, times: 1));
        foreach (var box in new[] {
            "0 0 0 0",
            "0 0 1e9 1e9",
            "0 0 -500 -500",
            "0 0 1 1e7",
            "0 0 1e7 1",
            "0 0 NaN 5",
            "0 0",
            "a b c d",
            "0 0 500 4400",
            "1e308 1e308 1e309 1e309" })
        {
            yield return new($"a page of {box}", RawPdf.Of(["<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>", $"<< /Type /Page /Parent 2 0 R /MediaBox [{box}] /Contents 4 0 R >>", RawPdf.Stream("", "0 0 m 9 9 l S")]));
        }

        yield return new(
            "a page tree that holds itself",
            RawPdf.Of(["<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [2 0 R] /Count 1 >>"]));
        yield return new("two page trees that hold each other", RawPdf.Of(["<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] "
            + "/Count 2 >>", "<< /Type /Pages /Kids [2 0 R] /Parent 2 0 R /Count 2 >>"]));
        yield return new("a catalogue of itself", RawPdf.Of(["1 0 R"]));
        yield return new("two thousand million pages", RawPdf.Of(["<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count "
            + "2147483647 >>", "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 9 9] >>"]));
        yield return new("less than no pages", RawPdf.Of(["<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [] /Count -1 >>"]));
        yield return new("the same page 5,000 times", RawPdf.Of(["<< /Type /Catalog /Pages 2 0 R >>", $"<< /Type /Pages /Kids "
            + $"[{string.Concat(Enumerable.Repeat("3 0 R ", 5000))}] /Count 5000 >>", "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 9 9] >>"]));
        yield return new("100,000 lists in each other", RawPdf.Of($"BT {new string('[', 100_000)} TJ ET"));
        yield return new("100,000 dictionaries in each other", RawPdf.Of(
            ["<< /Type /Catalog /Pages 2 0 R /X " + string.Concat(Enumerable.Repeat("<< /X ", 100_000)), "<< /Type /Pages /Kids [] /Count 0 >>"]));
        yield return new("100,000 saved states", RawPdf.Of(string.Concat(Enumerable.Repeat("q ", 100_000)) + "0 0 m 9 9 l S"));
        foreach (var (width, height) in new[] { (100_000, 100_000), (60_000, 60_000), (1_000_000_000, 1), (-1, -1) })
        {
            yield return new(
                $"an image of {width} × {height}",
                WithImage($"/Width {width} /Height {height} /ColorSpace /DeviceRGB /BitsPerComponent 8"));
        }

        yield return new("an image whose mask is itself", WithImage("/Width 9 /Height 9 /ColorSpace /DeviceGray /BitsPerComponent 8 /SMask 5 0 R"));
        yield return new(
            "a colour space of itself",
            WithImage("/Width 9 /Height 9 /ColorSpace [/Indexed 6 0 R 255 6 0 R] /BitsPerComponent 8", "[/Indexed 6 0 R 255 6 0 R]"));
        foreach (var action in new[] {
            "/S /JavaScript /JS (app.alert\\(1\\))",
            $"/S /Launch /F ({canaries.Text})",
            $"/S /URI /URI ({canaries.Address})",
            $"/S /GoToR /F ({canaries.Text}) /D [0]",
            $"/S /ImportData /F ({canaries.Text})",
            $"/S /SubmitForm /F ({canaries.Address})" })
        {
            yield return new($"opens with {action[..14]}", RawPdf.Of([$"<< /Type /Catalog /Pages 2 0 R /OpenAction << {action} >> >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>", "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 99 99] >>"]));
        }

        yield return new("its content in another file", RawPdf.Of(["<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>", "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 500 500] /Contents 4 0 R >>", RawPdf.Stream($"/F ({canaries.Text})", "")]));
        yield return new(
            "an image in another file",
            WithImage($"/Width 64 /Height 36 /ColorSpace /DeviceRGB /BitsPerComponent 8 /F << /Type /Filespec /F ({canaries.Picture}) >>"));
        yield return new(
            "an image at an address",
            WithImage($"/Width 64 /Height 36 /ColorSpace /DeviceRGB /BitsPerComponent 8 /F << /FS /URL /F ({canaries.Address}) >>"));
        yield return new(
            "cross references in a circle",
            Encoding.Latin1.GetBytes("%PDF-1.7\nxref\n0 1\n0000000000 65535 f \ntrailer\n<< /Size 1 /Root 1 0 R /Prev 9 >>\nstartxref\n9\n%%EOF\n"));
        yield return new(
            "a stream of a negative length",
            Encoding.Latin1.GetBytes(Encoding.Latin1.GetString(RawPdf.Of("0 0 m")).Replace("/Length 5", "/Length -5", StringComparison.Ordinal)));
        yield return new("a stream as long as the world", Encoding.Latin1
            .GetBytes(Encoding.Latin1.GetString(RawPdf.Of("0 0 m")).Replace("/Length 5", "/Length 9999999999", StringComparison.Ordinal)));
        yield return new(
            "a function that is its own part",
            RawPdf.Of("/P sh", "/Shading << /P << /ShadingType 2 /ColorSpace /DeviceRGB /Coords [0 0 9 9] /Function 5 0 R >> >>"));
        yield return new("a pattern that paints with itself", RawPdf.Of(["<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] "
            + "/Count 1 >>", "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 500 500] /Contents 4 0 R /Resources << /Pattern << /P 5 0 R >> >> >>", RawPdf.Stream("", "/Pattern cs /P scn 0 0 500 500 re f"), RawPdf.Stream("/PatternType 1 /PaintType 1 /TilingType 1 /BBox [0 0 1 1] /XStep 0.001 /YStep 0.001 /Resources << /Pattern << /P 5 0 R >> >>", "/Pattern cs /P scn 0 0 1 1 re f")]));
        var whole = RawPdf.Of("BT /F 20 Tf 20 400 Td (arch) Tj ET", "/Font << /F << /Type /Font /Subtype /Type1 /BaseFont /Helvetica >> >>");
        for (var i = 1; i <= 12; i++)
        {
            yield return new($"cut off after {i} thirteenths", whole[..(whole.Length * i / 13)]);
        }

        for (var i = 0; i < 12; i++)
        {
            yield return new($"scrambled, {i}", Scrambled(whole, i));
        }

        yield return new("locked", LockedPdf.Bytes());
        yield return new("nothing but a heading", "%PDF-1.7\n"u8.ToArray());
    }

    public static IEnumerable<HostileFile> Svgs(Canaries canaries)
    {
        HostileFile Svg(string name, string inner) => new(name, Encoding.UTF8.GetBytes($"{SvgHead}{inner}</svg>"));
        var inside = new Uri(canaries.Picture).AbsoluteUri;
        foreach (var target in new[] { canaries.Picture, inside, canaries.Address, $"//{canaries.Address[7..]}", canaries.Text })
        {
            yield return Svg(
                $"an image from {target[..6]}",
                $"""<image href="{target}" width="320" height="180"/><image xlink:href="{target}" width="320" height="180"/>""");
            yield return Svg($"a part of {target[..6]}", $"""<use href="{target}#a" width="320" height="180"/>""");
            yield return Svg($"a style with {target[..6]}", $"""<style>rect {"{"} fill: url({target}) {"}"}</style><rect width="320" height="180"/><rect style="fill:url('{target}')" width="9" height="9"/>""");
            yield return Svg(
                $"a filter image from {target[..6]}",
                $"""<filter id="f"><feImage href="{target}"/></filter><rect filter="url(#f)" width="320" height="180"/>""");
            yield return Svg(
                $"X14: an import of {target[..6]} in pieces",
                $"<style>@im<!-- -->port url({target});</style><style>@im<![CDATA[port url({target});]]></style><rect width=\"9\" height=\"9\"/>");
        }

        yield return new("an entity of a file", Encoding.UTF8
            .GetBytes($"""<!DOCTYPE svg [<!ENTITY x SYSTEM "file://{canaries.Text}">]>{SvgHead}<text y="50" font-size="40">&x;</text></svg>"""));
        yield return new("an entity of an address", Encoding.UTF8.GetBytes($"""<!DOCTYPE svg SYSTEM "{canaries.Address}">{SvgHead}</svg>"""));
        yield return new("a thousand million laughs", Encoding.UTF8.GetBytes($"<!DOCTYPE svg [<!ENTITY a "
            + $"\"ha\">{string.Concat(Enumerable.Range(1, 9).Select(i => $"<!ENTITY {(char)('a' + i)} \"{string.Concat(Enumerable.Repeat($"&{(char)('a' + i - 1)};", 10))}\">"))}]>{SvgHead}<text>&j;</text></svg>"));
        yield return Svg("an inclusion", $"""<xi:include xmlns:xi="http://www.w3.org/2001/XInclude" href="{canaries.Text}" parse="text"/>""");
        yield return new("a style sheet", Encoding.UTF8
            .GetBytes($"""<?xml version="1.0"?><?xml-stylesheet href="{canaries.Address}"?>{SvgHead}<rect width="9" height="9"/></svg>"""));
        yield return Svg("groups 50,000 deep", string.Concat(Enumerable.Repeat("<g>", 50_000)));
        yield return Svg("300,000 rectangles", string.Concat(Enumerable.Repeat("<rect/>", 300_000)));
        yield return Svg("a use of itself", """<g id="a"><use href="#a"/></g><use href="#a"/>""");
        yield return Svg("uses that double twenty times", string.Concat(
            Enumerable.Range(0, 20).Select(i => $"""<g id="a{i}"><use href="#a{i + 1}"/><use href="#a{i + 1}"/></g>""")) + """<rect id="a20" width="9" height="9"/><use href="#a0"/>""");
        yield return Svg("patterns within patterns", string.Concat(Enumerable.Range(
            0,
            12).Select(i => $"""<pattern id="p{i}" width="1" height="1" patternUnits="userSpaceOnUse"><rect width="9" height="9" fill="url(#p{i + 1})"/></pattern>""")) + """<rect width="320" height="180" fill="url(#p0)"/>""");
        yield return Svg(
            "a mask of itself",
            """<mask id="m" mask="url(#m)"><rect width="320" height="180" mask="url(#m)"/></mask><rect mask="url(#m)" width="320" height="180"/>""");
        foreach (var blur in new[] { "100000", "1e30", "-5", "NaN" })
        {
            yield return Svg($"X7: a blur of {blur}", $"""<filter id="f" x="-100000%" y="-100000%" width="200000%" height="200000%"><feGaussianBlur stdDeviation="{blur}"/></filter><rect filter="url(#f)" width="320" height="180"/>""");
        }

        foreach (var box in new[] { "0 0 1e9 1e9", "0 0 0 0", "0 0 1 100000", "NaN 0 1 1", "0 0 1e-9 1e-9", "0 0 1e308 1e308", "0 0 100000 1" })
        {
            yield return new(
                $"X7: a view box of {box}",
                Encoding.UTF8.GetBytes($"""<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}"><rect width="9" height="9"/></svg>"""));
        }

        yield return Svg(
            "a path of a million points",
            $"""<path stroke="red" d="M0 0{string.Concat(Enumerable.Range(0, 1_000_000).Select(i => $"L{i % 320} {i % 180}"))}"/>""");
        yield return Svg("X7: dashes of nothing", """<path stroke="red" stroke-dasharray="0.00001" d="M0 0L320 180"/>""");
        yield return Svg("letters as high as a house", """<text font-size="1e7" y="100">arch</text>""");
        yield return Svg("a script", "<script>fetch('x')</script><rect onload=\"x()\" width=\"9\" height=\"9\"/>");
        yield return Svg("a picture in a picture in a picture", $"""<image width="9" height="9" href="data:image/svg+xml;base64,{Convert.ToBase64String(Encoding.UTF8.GetBytes($"{SvgHead}<image href=\"{inside}\" width=\"9\" height=\"9\"/></svg>"))}"/>""");
        yield return Svg(
            "a packed picture of 60,000 × 60,000",
            $"""<image width="9" height="9" href="data:image/png;base64,{Convert.ToBase64String(Png(60_000, 60_000, []))}"/>""");
        yield return new("cut off", Encoding.UTF8.GetBytes(SvgHead + "<rect"));
        yield return new("in UTF-16 with a wrong mark", [0xFE, 0xFF, .. Encoding.Unicode.GetBytes($"{SvgHead}</svg>")]);
    }

    public static IEnumerable<HostileFile> Pictures()
    {
        foreach (var (width, height) in new[] {
            (100_000, 100_000),
            (30_000, 30_000),
            (7_700, 7_700),
            (1, 60_000),
            (60_000, 1),
            (0, 0),
            (int.MaxValue, int.MaxValue),
            (-1, 5) })
        {
            yield return new($"a PNG that says {width} × {height} and holds nothing", Png(width, height, []));
        }

        foreach (var megabytes in new[] { 50, 400 })
        {
            yield return new(
                $"X3: a PNG with {megabytes} MB of packed text",
                Png(64, 36, Rows(64, 36), ("zTXt", [.. "Comment\0\0"u8, .. Packed(new byte[1 << 20], megabytes)])));
            yield return new(
                $"a PNG with {megabytes} MB of packed international text",
                Png(64, 36, Rows(64, 36), ("iTXt", [.. "XML:com.adobe.xmp\0\u0001\0\0\0"u8, .. Packed(new byte[1 << 20], megabytes)])));
            yield return new(
                $"a PNG with a {megabytes} MB colour profile",
                Png(64, 36, Rows(64, 36), ("iCCP", [.. "icc\0\0"u8, .. Packed(new byte[1 << 20], megabytes)])));
            yield return new($"a PNG with {megabytes} MB of rows too many", Png(64, 36, Packed(new byte[1 << 20], megabytes)));
        }

        yield return new("a PNG with XMP that has entities", Png(
            64,
            36,
            Rows(64, 36),
            ("iTXt", [.. "XML:com.adobe.xmp\0\0\0\0\0"u8, .. "<!DOCTYPE x [<!ENTITY a SYSTEM 'file:///etc/passwd'>]><x>&a;</x>"u8])));
        yield return new("a PNG of a thousand frames that aren't there", Png(64, 36, Rows(64, 36), ("acTL", [0, 0, 3, 0xE8, 0, 0, 0, 0])));
        yield return new("a PNG whose part is longer than the file", [.. Png(64, 36, Rows(64, 36))[..50], 0x7F, 0xFF, 0xFF, 0xFF, .. "tEXt"u8]);
        foreach (var kind in new[] { SkiaSharp.SKEncodedImageFormat.Png, SkiaSharp.SKEncodedImageFormat.Jpeg, SkiaSharp.SKEncodedImageFormat.Webp })
        {
            var whole = Picture(kind);
            for (var i = 1; i <= 4; i++)
            {
                yield return new($"a {kind} cut off after {i} fifths", whole[..(whole.Length * i / 5)]);
            }

            for (var i = 0; i < 6; i++)
            {
                yield return new($"a scrambled {kind}, {i}", Scrambled(whole, i, keep: 24));
            }
        }

        var jpeg = Picture(SkiaSharp.SKEncodedImageFormat.Jpeg);
        foreach (var (name, exif) in new (string, byte[])[]
        {
            ("an EXIF directory that follows itself", [.. "MM\0*"u8, 0, 0, 0, 8, 0, 1, 1, 0x12, 0, 3, 0, 0, 0, 1, 0, 6, 0, 0, 0, 0, 0, 8]),
            ("an EXIF of four thousand million values", [.. "MM\0*"u8, 0, 0, 0, 8, 0, 1, 1, 0x12, 0, 3, 0xFF, 0xFF, 0xFF, 0xFF, 0, 6, 0, 0, 0, 0, 0, 0]),
            ("an EXIF beyond the file", [.. "MM\0*"u8, 0x7F, 0xFF, 0xFF, 0xFF]),
            ("an EXIF orientation of 200", [.. "MM\0*"u8, 0, 0, 0, 8, 0, 1, 1, 0x12, 0, 3, 0, 0, 0, 1, 0, 200, 0, 0, 0, 0, 0, 0]),
        })
        {
            yield return new(
                name,
                [.. jpeg[..2], 0xFF, 0xE1, (byte)((exif.Length + 8) >> 8), (byte)(exif.Length + 8), .. "Exif\0\0"u8, .. exif, .. jpeg[2..]]);
        }

        yield return new(
            "a JPEG with four thousand comments",
            [.. jpeg[..2], .. Enumerable.Repeat<byte[]>([0xFF, 0xFE, 0, 4, 1, 2], 4000).SelectMany(c => c), .. jpeg[2..]]);
        yield return new(
            "a WebP of 16,383 × 16,383",
            [.. "RIFF"u8, 30, 0, 0, 0, .. "WEBPVP8 "u8, 18, 0, 0, 0, 0x10, 0, 0, 0x9D, 1, 0x2A, 0xFF, 0x3F, 0xFF, 0x3F, 0, 0, 0, 0, 0, 0, 0, 0]);
    }

    public static IEnumerable<HostileFile> Clips(Canaries canaries, byte[] sound)
    {
        string[] lists =
        [
            $"#EXTM3U\n#EXT-X-TARGETDURATION:9\n#EXTINF:9,\n{canaries.Text}\n#EXT-X-ENDLIST\n", $"#EXTM3U\n#EXTINF:9,\n{canaries.Address}\n#EXT-X-ENDLIST\n",
            $"ffconcat version 1.0\nfile '{canaries.Picture}'\n", $"ffconcat version 1.0\nfile '{canaries.Address}'\n", $"[playlist]\nFile1={canaries.Address}\n",
            $"v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nc=IN IP4 127.0.0.1\nt=0 0\nm=audio {new Uri(canaries.Address).Port} RTP/AVP 0\n",
            $"<MPD xmlns=\"urn:mpeg:dash:schema:mpd:2011\"><Period><AdaptationSet><Representation><BaseURL>{canaries.Address}</BaseURL></Representation></AdaptationSet></Period></MPD>",
        ];
        foreach (var list in lists)
        {
            // A tag of no length before it, as X6 had it; and after the first bytes of other forms.
            yield return new($"X6: a list behind a mark: {list[..8].Trim()}", [.. "ID3\u0004\0\0\0\0\0\0"u8, .. Encoding.UTF8.GetBytes(list)]);
            yield return new($"a list behind an MP3 frame: {list[..8].Trim()}", [0xFF, 0xFB, 0x90, 0, (byte)'\n', .. Encoding.UTF8.GetBytes(list)]);
            yield return new($"a list as an MP4: {list[..8].Trim()}", [0, 0, 0, 16, .. "ftypisom"u8, 0, 0, 0, 0, .. Encoding.UTF8.GetBytes(list)]);
        }

        for (var i = 1; i <= 4; i++)
        {
            yield return new($"a sound cut off after {i} fifths", sound[..(sound.Length * i / 5)]);
            yield return new($"a scrambled sound, {i}", Scrambled(sound, i, keep: 12));
        }

        yield return new("a WAV of four thousand million bytes", [.. "RIFF"u8, 0xFF, 0xFF, 0xFF, 0xFF, .. "WAVEfmt "u8, 16, 0, 0, 0, 1, 0, 1, 0, 0x80, 0xBB, 0, 0, 0, 0x77, 1, 0, 2, 0, 16, 0, .. "data"u8, 0xF0, 0xFF, 0xFF, 0xFF, 0, 0]);
        yield return new("a WAV of 65,535 channels", [.. "RIFF"u8, 44, 0, 0, 0, .. "WAVEfmt "u8, 16, 0, 0, 0, 1, 0, 0xFF, 0xFF, 0x80, 0xBB, 0, 0, 0, 0x77, 1, 0, 2, 0, 16, 0, .. "data"u8, 8, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]);
        yield return new("an Ogg of no packets", [.. "OggS"u8, .. new byte[200]]);
        yield return new("a Matroska of elements in each other", [0x1A, 0x45, 0xDF, 0xA3, .. Enumerable.Repeat<byte>(0x81, 4000)]);
        yield return new("an AVI of nothing", [.. "RIFF"u8, 4, 0, 0, 0, .. "AVI LIST"u8, 0xFF, 0xFF, 0xFF, 0x7F]);
        yield return new("an MP4 with its sound elsewhere", [0, 0, 0, 16, .. "ftypisom"u8, 0, 0, 0, 0, 0, 0, 0, 40, .. "moov"u8, 0, 0, 0, 32, .. "url "u8, 0, 0, 0, 0, .. Encoding.ASCII.GetBytes(canaries.Text)[..Math.Min(20, canaries.Text.Length)]]);
        yield return new("an MP4 box of no length", [0, 0, 0, 16, .. "ftypisom"u8, 0, 0, 0, 0, .. Enumerable.Repeat<byte[]>(
            [0, 0, 0, 0, (byte)'m', (byte)'o', (byte)'o', (byte)'v'],
            500).SelectMany(b => b)]);
    }

    /// <summary>Decks that are refused before they are drawn.</summary>
    public static IEnumerable<HostileFile> BrokenDecks(byte[] pptx)
    {
        for (var i = 1; i <= 6; i++)
        {
            yield return new($"a deck cut off after {i} sevenths", pptx[..(pptx.Length * i / 7)]);
        }

        for (var i = 0; i < 6; i++)
        {
            yield return new($"a scrambled deck, {i}", Scrambled(pptx, i, keep: 4));
        }

        yield return new("X3: a slide of groups 50,000 deep", Changed(
            pptx,
            "ppt/slides/slide1.xml",
            _ => Slide(string.Concat(Enumerable.Repeat("<p:grpSp>", 50_000)) + string.Concat(Enumerable.Repeat("</p:grpSp>", 50_000)))));
        yield return new(
            "X3: a slide of 120 MB",
            Changed(pptx, "ppt/slides/slide1.xml", _ => Slide(string.Concat(Enumerable.Repeat("<p:sp/>", 17_000_000)))));
        yield return new("a slide with entities", Changed(
            pptx,
            "ppt/slides/slide1.xml",
            s => "<!DOCTYPE x [<!ENTITY e SYSTEM 'file:///etc/passwd'>]>" + s[(s.IndexOf("?>", StringComparison.Ordinal) + 2)..]));
        yield return new(
            "X3: an ODP of groups 50,000 deep",
            Odp(string.Concat(Enumerable.Repeat("<draw:g>", 50_000)) + string.Concat(Enumerable.Repeat("</draw:g>", 50_000))));
        yield return new("a locked ODP", Zip(
            ("mimetype", "application/vnd.oasis.opendocument.presentation"),
            ("META-INF/manifest.xml", "<m><encryption-data/></m>"),
            ("content.xml", "x")));
        yield return new("20,000 parts", Zip([.. Enumerable.Range(0, 20_000).Select(i => ($"ppt/presentation{i}.xml", ""))]));
        yield return new(
            "a part named to lie elsewhere",
            Zip(("../../ppt/presentation.xml", "<x/>"), ("/etc/ppt/presentation.xml", "<x/>"), ("ppt\\presentation.xml", "<x/>")));
        yield return new("an archive of anything", Zip(("a.txt", "x")));
        yield return new("an empty archive", Zip());
        yield return new("two parts of one name", Zip(("ppt/presentation.xml", "<x/>"), ("ppt/presentation.xml", "<y/>")));
        yield return new("a slide that isn't there", Changed(pptx, "ppt/slides/slide1.xml", _ => ""));
        yield return new("1.2 GB in one picture", Changed(pptx, "ppt/media/bomb.png", null, new byte[1 << 20], 1200));
        byte[] compound = [0xD0, 0xCF, 0x11, 0xE0, 0xA1, 0xB1, 0x1A, 0xE1];
        yield return new("an old binary document", [.. compound, .. new byte[4000]]);
        yield return new("a locked document", [.. compound, .. Encoding.Unicode.GetBytes("EncryptedPackage"), .. new byte[900]]);
    }

    /// <summary>Decks that can be drawn and reach for something else; each shows it if it gets it.</summary>
    public static IEnumerable<HostileFile> ReachingDecks(byte[] pptx, Canaries canaries)
    {
        var inside = new Uri(canaries.Picture).AbsoluteUri;
        HostileFile Pptx(string name, string relationType, string target, string drawn, string mode = "External") => new(name, Changed(
            Changed(pptx, "ppt/slides/slide1.xml", _ => Slide(drawn)), "ppt/slides/_rels/slide1.xml.rels",
            s => s.Replace(
                "</Relationships>",
                $"""<Relationship Id="rIdX" Type="{Relations}/{relationType}" Target="{target}" TargetMode="{mode}"/></Relationships>""",
                StringComparison.Ordinal)));
        const string Linked = """<p:pic><p:nvPicPr><p:cNvPr id="9" name="p"/><p:cNvPicPr/><p:nvPr/></p:nvPicPr><p:blipFill><a:blip r:link="rIdX"/><a:stretch><a:fillRect/></a:stretch></p:blipFill><p:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="9144000" cy="5143500"/></a:xfrm><a:prstGeom prst="rect"><a:avLst/></a:prstGeom></p:spPr></p:pic>""";
        var embedded = Linked.Replace("r:link", "r:embed", StringComparison.Ordinal);
        const string Object = """<p:graphicFrame><p:nvGraphicFramePr><p:cNvPr id="9" name="o"/><p:cNvGraphicFramePr/><p:nvPr/></p:nvGraphicFramePr><p:xfrm><a:off x="0" y="0"/><a:ext cx="9144000" cy="5143500"/></p:xfrm><a:graphic><a:graphicData uri="http://schemas.openxmlformats.org/presentationml/2006/ole"><p:oleObj name="x" r:id="rIdX" imgW="9" imgH="9" progId="Package"><p:link updateAutomatic="1"/></p:oleObj></a:graphicData></a:graphic></p:graphicFrame>""";
        yield return Pptx("X1: a picture linked by a hyperlink's identity", "hyperlink", inside, Linked);
        yield return Pptx("a linked picture", "image", inside, Linked);
        yield return Pptx("an embedded picture that lies outside", "image", inside, embedded);
        yield return Pptx("an embedded picture at an address", "image", canaries.Address, embedded);
        yield return Pptx("a picture said to lie inside", "image", inside, embedded, "Internal");
        yield return Pptx("a picture up many folders", "image", "../../../../../../../.." + canaries.Picture, embedded, "Internal");
        yield return Pptx("X1: a linked object", "oleObject", new Uri(canaries.Text).AbsoluteUri, Object);
        yield return Pptx("X1: an object linked by a hyperlink's identity", "hyperlink", inside, Object);

        string Frame(string inner) => $"""<draw:frame svg:x="0cm" svg:y="0cm" svg:width="25cm" svg:height="14cm">{inner}</draw:frame>""";
        yield return new("an ODP picture outside", Odp(Frame($"""<draw:image xlink:href="{inside}"/>""")));
        yield return new("an ODP picture up many folders", Odp(Frame($"""<draw:image xlink:href="../../../../../../../..{canaries.Picture}"/>""")));
        yield return new("an ODP picture at an address", Odp(Frame($"""<draw:image xlink:href="{canaries.Address}/a.png"/>""")));
        yield return new("an ODP frame of a page", Odp(Frame($"""<draw:floating-frame xlink:href="{canaries.Address}"/>""")));
        yield return new("X1: an ODP object whose content reaches outside", Odp(
            Frame("""<draw:object xlink:href="./Object 1"/>"""),
            ("Object 1/content.xml", OdpContent(Frame($"""<draw:image xlink:href="{inside}"/>"""))),
            ("Object 1/mimetype", "application/vnd.oasis.opendocument.graphics")));
        yield return new("an ODP chart with a picture outside", Odp(Frame(
            """<draw:object xlink:href="./Object 1"/>"""), ("Object 1/content.xml", OdpContent(Frame($"""<draw:image xlink:href="{inside}"/>""")).Replace("<draw:page", $"""<c:chart xmlns:c="{Odf}:chart:1.0" xlink:href="{inside}"/><draw:page""", StringComparison.Ordinal))));
        yield return new("an ODP with an SVG that reaches outside", Odp(
            Frame("""<draw:image xlink:href="Pictures/a.svg"/>"""),
            ("Pictures/a.svg", $"""{SvgHead}<image href="{inside}" xlink:href="{inside}" width="320" height="180"/></svg>""")));
        yield return new("X1: ODP settings with tables elsewhere", Odp("", ("settings.xml", $"""<office:document-settings xmlns:office="{Odf}:office:1.0" xmlns:config="{Odf}:config:1.0"><office:settings><config:config-item-set config:name="ooo:configuration-settings"><config:config-item config:name="ColorTableURL" config:type="string">{canaries.Address}/c.soc</config:config-item><config:config-item config:name="BitmapTableURL" config:type="string">{canaries.Address}/b.sob</config:config-item></config:config-item-set></office:settings></office:document-settings>""")));
        yield return new("X3: an ODP of 900 million spaces", Odp(Frame(
            """<draw:text-box><text:p><text:s text:c="300000000"/><text:s text:c="300000000"/><text:s text:c="300000000"/></text:p></draw:text-box>""")));
    }

    public static IEnumerable<HostileFile> Others()
    {
        for (var i = 0; i < 8; i++)
        {
            var noise = new byte[5000];
            new Random(i).NextBytes(noise);
            yield return new($"noise, {i}", noise);
        }

        yield return new("nothing", []);
        yield return new("a program", [0x7F, .. "ELF"u8, .. new byte[300]]);
        yield return new("a page", "<html><script>alert(1)</script></html>"u8.ToArray());
        yield return new("a script", "#!/bin/sh\ntouch /tmp/here\n"u8.ToArray());
        yield return new("a PostScript file", "%!PS\n(/etc/passwd) run\n"u8.ToArray());
    }

    private static byte[] NestedForms(int depth)
    {
        var objects = new List<string>
        {
            "<< /Type /Catalog /Pages 2 0 R /OCProperties << /OCGs [4 0 R] /D << /OFF [4 0 R] >> >> >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
            "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 500 500] /Contents 5 0 R /Resources << /XObject << /F 6 0 R >> /Properties << /L 4 0 R >> "
                + ">> >>", "<< /Type /OCG /Name (hidden) >>",
            RawPdf.Stream("", "/OC /L BDC /F Do EMC"),
        };
        for (var i = 0; i < depth; i++)
        {
            objects.Add(RawPdf.Stream(
                $"/Type /XObject /Subtype /Form /BBox [0 0 9 9] /Resources << /XObject << /F {7 + i} 0 R >> >>",
                string.Concat(Enumerable.Repeat("/F Do ", 10))));
        }

        objects.Add(RawPdf.Stream("/Type /XObject /Subtype /Form /BBox [0 0 9 9]", "0 0 m 9 9 l S"));
        return RawPdf.Of(objects);
    }

    private static byte[] WithCharacterMap(string ranges) => RawPdf.Of(
    [
        "<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
        "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 500 500] /Contents 4 0 R /Resources << /Font << /F 5 0 R >> >> >>", RawPdf.Stream(
            "",
            "BT /F 20 Tf 20 400 Td (arch) Tj ET"),
        "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /ToUnicode 6 0 R >>",
        RawPdf.Stream("", $"/CIDInit /ProcSet findresource begin 12 dict begin begincmap /CMapType 2 def 1 begincodespacerange <00> <FFFFFFFF> "
            + $"endcodespacerange\n{ranges}\nendcmap end end"),
    ]);

    private static byte[] WithImage(string entries, string other = "null") => RawPdf.Of(
    [
        "<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
        "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 500 500] /Contents 4 0 R /Resources << /XObject << /I 5 0 R >> >> >>", RawPdf.Stream(
            "",
            "500 0 0 500 0 0 cm /I Do"),
        RawPdf.Stream($"/Type /XObject /Subtype /Image {entries}", new string('x', 243)), other,
    ]);

    private static byte[] Packed(int megabytes, int times)
    {
        var spaces = new byte[1 << 20];
        Array.Fill(spaces, (byte)' ');
        var packed = Packed(spaces, megabytes);
        for (var i = 1; i < times; i++)
        {
            packed = Packed(packed, 1);
        }

        return RawPdf.Of(
        [
            "<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>", "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 500 "
                + "500] /Contents 4 0 R >>",
            RawPdf.Stream($"/Filter [{string.Concat(Enumerable.Repeat("/FlateDecode ", times))}]", Encoding.Latin1.GetString(packed)),
        ]);
    }

    private static byte[] Packed(byte[] block, int times)
    {
        using var target = new MemoryStream();
        using (var packing = new ZLibStream(target, CompressionLevel.Fastest, leaveOpen: true))
        {
            for (var i = 0; i < times; i++)
            {
                packing.Write(block);
            }
        }

        return target.ToArray();
    }

    private static byte[] Rows(int width, int height) => Packed(new byte[(1 + (width * 3)) * height], 1);

    // PNG (W3C), chunk by chunk.
    private static byte[] Png(int width, int height, byte[] rows, params (string Type, byte[] Data)[] others)
    {
        var header = new byte[13];
        BinaryPrimitives.WriteInt32BigEndian(header, width);
        BinaryPrimitives.WriteInt32BigEndian(header.AsSpan(4), height);
        (header[8], header[9]) = (8, 2);
        using var png = new MemoryStream();
        png.Write([0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]);
        foreach (var (type, data) in others.Prepend(("IHDR", header)).Append(("IDAT", rows)).Append(("IEND", [])))
        {
            var number = new byte[4];
            BinaryPrimitives.WriteInt32BigEndian(number, data.Length);
            png.Write(number);
            byte[] covered = [.. Encoding.ASCII.GetBytes(type), .. data];
            png.Write(covered);
            BinaryPrimitives.WriteUInt32BigEndian(number, Crc(covered));
            png.Write(number);
        }

        return png.ToArray();
    }

    private static uint Crc(byte[] bytes)
    {
        var crc = 0xFFFF_FFFFu;
        foreach (var b in bytes)
        {
            crc ^= b;
            for (var i = 0; i < 8; i++)
            {
                crc = (crc & 1) != 0 ? 0xEDB8_8320 ^ (crc >> 1) : crc >> 1;
            }
        }

        return ~crc;
    }

    private static byte[] Picture(SkiaSharp.SKEncodedImageFormat format)
    {
        using var bitmap = new SkiaSharp.SKBitmap(120, 80);
        for (var i = 0; i < 120 * 80; i++)
        {
            bitmap.SetPixel(i % 120, i / 120, new SkiaSharp.SKColor((byte)(i * 7), (byte)(i * 13), (byte)(i / 50)));
        }

        using var image = SkiaSharp.SKImage.FromBitmap(bitmap);
        return image.Encode(format, 90).ToArray();
    }

    private static byte[] Scrambled(byte[] whole, int seed, int keep = 8)
    {
        var (random, bytes) = (new Random(seed), whole.ToArray());
        for (var i = 0; i < Math.Max(3, whole.Length / 100); i++)
        {
            bytes[random.Next(keep, bytes.Length)] = (byte)random.Next(256);
        }

        return bytes;
    }

    private static byte[] Zip(params (string Name, string Content)[] entries)
    {
        using var stream = new MemoryStream();
        using (var archive = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, content) in entries)
            {
                using var writer = new StreamWriter(archive.CreateEntry(name, CompressionLevel.Fastest).Open());
                writer.Write(content);
            }
        }

        return stream.ToArray();
    }

    private static byte[] Changed(byte[] pptx, string part, Func<string, string>? change, byte[]? block = null, int times = 0)
    {
        using var stream = new MemoryStream();
        stream.Write(pptx);
        using (var archive = new ZipArchive(stream, ZipArchiveMode.Update, leaveOpen: true))
        {
            var before = "";
            if (archive.GetEntry(part) is { } entry)
            {
                using (var reader = new StreamReader(entry.Open()))
                {
                    before = reader.ReadToEnd();
                }

                entry.Delete();
            }

            using var target = archive.CreateEntry(part, CompressionLevel.Fastest).Open();
            if (change is not null)
            {
                target.Write(Encoding.UTF8.GetBytes(change(before)));
            }

            for (var i = 0; i < times; i++)
            {
                target.Write(block!);
            }
        }

        return stream.ToArray();
    }

    private static string Slide(string inner) =>
        $"""<?xml version="1.0" encoding="UTF-8"?><p:sld xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" xmlns:r="{Relations}" xmlns:p="http://schemas.openxmlformats.org/presentationml/2006/main"><p:cSld><p:spTree><p:nvGrpSpPr><p:cNvPr id="1" name=""/><p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr/>{inner}</p:spTree></p:cSld></p:sld>""";

    private static string OdpContent(string inner) =>
        $"""<?xml version="1.0" encoding="UTF-8"?><office:document-content xmlns:office="{Odf}:office:1.0" xmlns:draw="{Odf}:drawing:1.0" xmlns:svg="{Odf}:svg-compatible:1.0" xmlns:text="{Odf}:text:1.0" xmlns:xlink="http://www.w3.org/1999/xlink" office:version="1.2"><office:body><office:presentation><draw:page draw:name="one">{inner}</draw:page></office:presentation></office:body></office:document-content>""";

    private static byte[] Odp(string inner, params (string Name, string Content)[] others) => Zip(
    [
        ("mimetype", "application/vnd.oasis.opendocument.presentation"), ("content.xml", OdpContent(inner)),
        ("META-INF/manifest.xml", $"""<manifest:manifest xmlns:manifest="{Odf}:manifest:1.0" manifest:version="1.2"><manifest:file-entry manifest:full-path="/" manifest:media-type="application/vnd.oasis.opendocument.presentation"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/>{string.Concat(others.Select(o => string.Create(CultureInfo.InvariantCulture, $"<manifest:file-entry manifest:full-path=\"{o.Name}\" manifest:media-type=\"text/xml\"/>")))}</manifest:manifest>"""),
        .. others,
    ]);
}
