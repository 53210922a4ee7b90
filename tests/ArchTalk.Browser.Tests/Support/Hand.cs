using OpenQA.Selenium;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>What a hand holds.</summary>
public enum Holding
{
    Mouse = 0,
    Pen = 1,
    Finger = 2,
}

/// <summary>
/// A hand on the board, moved event by event, so that one can look while it is down. Places are shares of the board's width and
/// height on the screen.
/// </summary>
/// <param name="over">What it moves over.</param>
public sealed class Hand(Chromium browser, Holding holding, string over = "canvas")
{
    private readonly IWebElement board = browser.Find(over);

    public void Down(double x, double y) => Send("mousePressed", "touchStart", x, y);

    public void Move(double x, double y) => Send("mouseMoved", "touchMove", x, y);

    public void Up(double x, double y) => Send("mouseReleased", "touchEnd", x, y);

    /// <summary>Goes along a straight line in steps, with the hand down.</summary>
    public void Along((double X, double Y) from, (double X, double Y) to, int steps, int pauseMs = 15)
    {
        for (var i = 1; i <= steps; i++)
        {
            var share = (double)i / steps;
            Move(from.X + (share * (to.X - from.X)), from.Y + (share * (to.Y - from.Y)));
            Thread.Sleep(pauseMs);
        }
    }

    /// <summary>A whole stroke.</summary>
    public void Draw((double X, double Y) from, (double X, double Y) to, int steps = 12)
    {
        Down(from.X, from.Y);
        Along(from, to, steps);
        Up(to.X, to.Y);
    }

    private void Send(string mouse, string touch, double x, double y)
    {
        var box = browser.Script<string>("const b = arguments[0].getBoundingClientRect(); return [b.left, b.top, b.width, b.height].join(' ')", board)
            .Split(' ').Select(n => double.Parse(n, System.Globalization.CultureInfo.InvariantCulture)).ToArray();
        var (left, top) = (box[0] + (x * box[2]), box[1] + (y * box[3]));
        if (holding == Holding.Finger)
        {
            var points = touch == "touchEnd"
                ? []
                : new[] { new Dictionary<string, object?> { ["x"] = left, ["y"] = top, ["radiusX"] = 8, ["radiusY"] = 8, ["id"] = 1 } };
            browser.Driver
                .ExecuteCdpCommand("Input.dispatchTouchEvent", new Dictionary<string, object?> { ["type"] = touch, ["touchPoints"] = points });
        }
        else
        {
            browser.Driver.ExecuteCdpCommand("Input.dispatchMouseEvent", new Dictionary<string, object?>
            {
                ["type"] = mouse,
                ["x"] = left,
                ["y"] = top,
                ["button"] = "left",
                ["buttons"] = mouse == "mouseReleased" ? 0 : 1,
                ["clickCount"] = 1,
                ["pointerType"] = holding == Holding.Pen ? "pen" : "mouse",
                ["force"] = 0.6,
            });
        }
    }
}
