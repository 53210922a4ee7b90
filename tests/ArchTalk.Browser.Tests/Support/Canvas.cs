using System.Text.Json;
using SkiaSharp;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>Reads what is painted on the page's board.</summary>
public sealed class Canvas(Chromium browser)
{
    // Two frames: what came in before is painted in the first, and the second begins after it was.
    private const string AfterAFrame = "const done = arguments[0]; requestAnimationFrame(() => requestAnimationFrame(() => done(1)))";

    private const string Around =
        """
        const [places, radius, over] = arguments;
        const canvas = document.querySelectorAll('canvas')[over ? 1 : 0];
        const context = canvas.getContext('2d');
        return JSON.stringify(places.map(([x, y]) => [...context.getImageData(Math.round(x * canvas.width) - radius,
          Math.round(y * canvas.height) - radius, 2 * radius + 1, 2 * radius + 1).data]));
        """;

    private const string Small =
        """
        const canvas = document.querySelector('canvas');
        const small = document.createElement('canvas');
        [small.width, small.height] = [320, 180];
        const context = small.getContext('2d');
        context.imageSmoothingQuality = 'high';
        context.drawImage(canvas, 0, 0, 320, 180);
        return JSON.stringify([...context.getImageData(0, 0, 320, 180).data].filter((_, i) => i % 4 === 1));
        """;

    /// <summary>Waits for the frame in which what was done so far is painted.</summary>
    public void NextFrame() => browser.ScriptAsync<double>(AfterAFrame);

    /// <summary>Whether a colour is found near each place (shares of the board on the screen).</summary>
    public bool[] Has(SKColor color, IEnumerable<(double X, double Y)> places, int radius = 3, int tolerance = 45, bool overlay = false)
    {
        var found = browser.Script<string>(Around, places.Select(p => new object[] { p.X, p.Y }).ToArray(), radius, overlay);
        return [.. JsonSerializer.Deserialize<int[][]>(found)!.Select(square => square.Chunk(4).Any(p =>
            p[3] > 100 && Math.Abs(p[0] - color.Red) < tolerance && Math.Abs(p[1] - color.Green) < tolerance
                && Math.Abs(p[2] - color.Blue) < tolerance))];
    }

    /// <summary>Waits until a colour is found near all places: on a busy machine the hand's last move is painted some frames later.</summary>
    public void UntilSeen(SKColor color, IReadOnlyCollection<(double X, double Y)> places, string what, bool overlay = false) =>
        browser.Until(() => Has(color, places, overlay: overlay).All(seen => seen), what);

    /// <summary>Waits until a colour is found near none of the places.</summary>
    public void UntilGone(SKColor color, IReadOnlyCollection<(double X, double Y)> places, string what, bool overlay = false) =>
        browser.Until(() => Has(color, places, overlay: overlay).All(seen => !seen), what);

    /// <summary>The whole picture as 320 by 180 grey values, to be compared with one of another size.</summary>
    public int[] Picture() => JsonSerializer.Deserialize<int[]>(browser.Script<string>(Small))!;

    /// <summary>
    /// How two pictures differ: the mean of their grey values, and the most of any block of 8 by 8. Lines may differ by antialiasing
    /// and by the half unit that simplification is allowed, never by a stroke.
    /// </summary>
    public static (double Mean, double Worst) Difference(int[] one, int[] other)
    {
        var blocks = new double[40, 23];
        for (var i = 0; i < one.Length; i++)
        {
            blocks[i % 320 / 8, i / 320 / 8] += Math.Abs(one[i] - other[i]) / 64.0;
        }

        return (one.Zip(other, (a, b) => (double)Math.Abs(a - b)).Average(), blocks.Cast<double>().Max());
    }
}
