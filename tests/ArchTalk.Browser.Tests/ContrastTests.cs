using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Boards.Seen;
using OpenQA.Selenium;
using SkiaSharp;

namespace ArchTalk.Browser.Tests;

/// <summary>
/// Contrast as it is painted, in both themes: of every piece of writing on a page, also in SVG and on disabled controls, which axe
/// passes over. WCAG 2.2, 1.4.3: 4.5:1, and 3:1 for large writing (24 px, or 18.66 px and bold).
/// </summary>
[Collection(DemoCollection.Name)]
public sealed class ContrastTests(DemoData demo)
{
    private const int Scale = 2;

    private const string Writing =
        """
        const found = [];
        const add = (text, box, style) => {
          const x = box.left + box.width / 2, y = box.top + box.height / 2;
          if (box.width < 3 || box.height < 6 || box.left < 0 || box.top < 0 || box.right > innerWidth || box.bottom > innerHeight) return;
          const top = document.elementFromPoint(x, y);
          if (!top || top.closest('canvas, img')) return;
          found.push({ text: text.trim().slice(0, 40), x: box.left, y: box.top, width: box.width, height: box.height,
            size: Number.parseFloat(style.fontSize), weight: Number(style.fontWeight) });
        };
        const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
        for (let node = walker.nextNode(); node; node = walker.nextNode()) {
          const parent = node.parentElement;
          if (!node.data.trim() || !parent || parent.closest('script, style, template, .hidden-text, .skip, .phone')
            || !parent.checkVisibility({ opacityProperty: true, visibilityProperty: true })) continue;
          const range = document.createRange();
          range.selectNodeContents(node);
          const boxes = parent.closest('svg') ? [parent.getBoundingClientRect()] : [...range.getClientRects()];
          const visible = (b) => parent.closest('svg') || b.width === 0 ? true : [0.25, 0.5,
            0.75].every((s) => { const e = document.elementFromPoint(b.left + b.width * s, b.top + b.height / 2);
            return e && (e === parent || parent.contains(e) || e.contains(parent)); });
          const whole = (b) => { for (let e = parent; e; e = e.parentElement) { const a = e.getBoundingClientRect();
            if (getComputedStyle(e).overflowY !== 'visible' && e !== document.documentElement && (b.top < a.top || b.bottom > a.bottom)) return false; }
            return true; };
          boxes.filter(visible).filter(whole).forEach((b) => add(node.data, b, getComputedStyle(parent)));
        }
        for (const field of document.querySelectorAll('input:not([type=range], [type=checkbox], [type=file]), select, textarea')) {
          const text = field.matches('select') ? field.selectedOptions[0]?.text ?? '' : field.value || field.placeholder;
          const b = field.getBoundingClientRect(), style = getComputedStyle(field);
          if (text.trim() && field.checkVisibility({ opacityProperty: true, visibilityProperty: true })) add(text, { left: b.left + 8,
            top: b.top + 4, width: Math.min(b.width - 40, 60), height: Math.min(b.height - 8, 30), right: b.left + 68, bottom: b.top + 34 }, style);
        }
        return JSON.stringify(found);
        """;

    private sealed record Piece(string Text, double X, double Y, double Width, double Height, double Size, double Weight);

    /// <summary>A second that is waited for lasts twenty, so that a countdown is still there when it has been looked at.</summary>
    private const string SlowSeconds =
        "{ const after = setTimeout; window.setTimeout = (work, ms, ...rest) => after(work, ms === 1000 ? 20_000 : ms, ...rest); }";

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void Everything_written_stands_out_from_its_ground(bool dark)
    {
        using var browser = new Chromium(dark: dark, scale: Scale);
        browser.Before(SlowSeconds);
        var faults = new List<string>();
        var checkedPieces = 0;
        void Check(string page)
        {
            // What is still being loaded moves what is below it.
            browser.Until(() => browser.Driver.FindElements(By.CssSelector(".beat")).All(b => !b.Displayed), "all of the page");
            Thread.Sleep(700);
            checkedPieces += Look(browser, page, faults);
        }

        browser.Go($"{demo.Server.Address}/sign-in");
        Check("sign-in");
        browser.SignIn(demo.Server.Address, DemoData.Email, DemoData.Password);
        Check("lessons");
        var prepared = DemoData.Prepared(browser);
        var lesson = browser.Find("a[href*='/refine']").GetAttribute("href")!.Replace("/refine", "", StringComparison.Ordinal);
        foreach (var step in new[] { "prepare", "refine", "publish" })
        {
            browser.Go($"{lesson}/{step}");
            Check(step);
        }

        browser.Go(prepared);
        Check("prepare, no step done after it");
        browser.Go($"{lesson}/record");
        Check("record");
        browser.Find("#countdown").SendKeys("5");
        browser.Click("Use the test voice");
        browser.Click("Start recording");
        browser.Until(() => browser.Find(".stage-countdown").Displayed, "the countdown");
        Check("counting down");
        browser.Click("Not yet");
        browser.ClickOn("[aria-label='More of Write']");
        Check("members of a family");
        browser.Go(demo.Link);
        Check("watch");
        faults.ShouldBeEmpty();
        checkedPieces.ShouldBeGreaterThan(250, "there was something to check");
    }

    private static int Look(Chromium browser, string page, List<string> faults)
    {
        var pieces = JsonSerializer.Deserialize<Piece[]>(browser.Script<string>(Writing), JsonSerializerOptions.Web)!;
        using var picture = SKBitmap.Decode(browser.Driver.GetScreenshot().AsByteArray);
        foreach (var piece in pieces)
        {
            var needed = piece.Size >= 24 || (piece.Size >= 18.66 && piece.Weight >= 700) ? Contrast.ForGraphics : Contrast.ForText;
            var ratio = Painted(picture, piece);

            // The last hundredths are lost where thin letters are smoothed.
            if (ratio < needed - 0.1)
            {
                faults.Add($"{page}: “{piece.Text}” {ratio:0.00}:1 of {needed}:1");
            }
        }

        return pieces.Length;
    }

    // The ground is what most of the box is; the writing is what differs most from it.
    private static double Painted(SKBitmap picture, Piece piece)
    {
        var colors = new Dictionary<SKColor, int>();
        for (var y = (int)(piece.Y * Scale); y < (int)((piece.Y + piece.Height) * Scale) && y < picture.Height; y++)
        {
            for (var x = (int)(piece.X * Scale); x < (int)((piece.X + piece.Width) * Scale) && x < picture.Width; x++)
            {
                var color = picture.GetPixel(x, y);
                colors[color] = colors.GetValueOrDefault(color) + 1;
            }
        }

        static double Luminance(SKColor c) => Contrast.Luminance(new Rgb(c.Red, c.Green, c.Blue));
        var ground = Luminance(colors.MaxBy(c => c.Value).Key);
        return colors.Keys.Max(c => Contrast.Ratio(Luminance(c), ground));
    }
}
