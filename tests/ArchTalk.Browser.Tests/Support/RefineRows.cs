using System.Text.Json;
using ArchTalk.Core.Time;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>What Refine shows.</summary>
public sealed class RefineRows(Chromium browser, Holding holding)
{
    private string Lesson => new Uri(browser.Driver.Url).Segments[2].TrimEnd('/');

    public string Timeline() => browser.Call("GET", $"/lessons/{Lesson}/timeline.json");

    /// <summary>All that Refine asks for.</summary>
    public JsonElement Edits()
    {
        using var edits = JsonDocument.Parse(browser.Call("GET", $"/api/lessons/{Lesson}/edits"));
        return edits.RootElement.Clone();
    }

    /// <summary>How many marks the lesson has.</summary>
    public int Marks() => (int)browser.ScriptAsync<double>(
        "const [address, done] = arguments; fetch(address).then((a) => a.arrayBuffer()).then((b) => done(b.byteLength / 12));",
        $"/lessons/{Lesson}/marks");

    /// <summary>The moment that is shown, in seconds.</summary>
    public double Time() => browser.Script<double>("return document.querySelector('audio').currentTime");

    public double Seconds() => Edits().GetProperty("lengthMs").GetDouble() / 1000;

    /// <summary>Undoes the last edit.</summary>
    public void Undo()
    {
        var before = Edits().GetProperty("version").GetInt32();
        browser.Until(() => browser.Find("[aria-label='Undo the last edit']").Enabled, "something to undo");
        browser.ClickOn("[aria-label='Undo the last edit']");
        browser.Until(() => Edits().GetProperty("version").GetInt32() == before - 1, "the state before");
    }

    /// <summary>Does something that changes the lesson, and waits until the page shows it.</summary>
    public void Once(Action work)
    {
        string Shown() => browser.Script<string>("return document.querySelector('audio').currentSrc || document.querySelector('audio').src");
        var before = Shown();
        work();
        browser.Until(() => Shown() != before, "the lesson as it has become");
        browser.Until(
            () => browser.Script<bool>("return !document.querySelector('#panel-todo button.button-primary').disabled"), "the page at rest");
    }

    /// <summary>Where what was recorded at a time is now, in seconds.</summary>
    public double PlaceOf(double second)
    {
        using var file = JsonDocument.Parse(Timeline());
        var placements = file.RootElement.GetProperty("placements").EnumerateArray();
        foreach (var piece in placements.SelectMany(p => p.GetProperty("pieces").EnumerateArray()))
        {
            var (source, target) = (piece.GetProperty("source"), piece.GetProperty("target"));
            var at = second * Clock.SampleRate;
            if (source[0].GetDouble() <= at && at < source[1].GetDouble())
            {
                return (target[0].GetDouble() + at - source[0].GetDouble()) / Clock.SampleRate;
            }
        }

        throw new InvalidOperationException($"{second} s is nowhere.");
    }

    /// <summary>Chooses a stretch: dragged over the rows; a finger, which moves them, presses where it begins and ends.</summary>
    public void Choose(double from, double to)
    {
        var hand = new Hand(browser, holding, ".refine-canvas");
        double Share(double second) => second / Seconds();
        if (holding != Holding.Finger)
        {
            hand.Draw((Share(from), 0.3), (Share(to), 0.3));
            return;
        }

        foreach (var (second, words) in new[] { (from, "Start here"), (to, "End here") })
        {
            hand.Down(Share(second), 0.05);
            hand.Up(Share(second), 0.05);
            browser.Until(() => Math.Abs(Time() - second) < 0.2, "the playhead there");
            browser.Press(words, holding);
        }
    }
}
