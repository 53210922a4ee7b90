using System.Net.WebSockets;
using System.Text;
using System.Text.Json;
using OpenQA.Selenium.Chrome;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>
/// The page's worker, reached through the browser's DevTools protocol, since the driver's own session knows pages only. It can be
/// held up and killed as a busy or broken computer would.
/// </summary>
public sealed class Worker : IDisposable
{
    private readonly ClientWebSocket socket = new();
    private int number;
    private string session = "";

    private Worker()
    {
    }

    /// <summary>Attaches to the worker of the page at an address.</summary>
    public static async Task<Worker> OfAsync(ChromeDriver driver)
    {
        var chrome = (Dictionary<string, object>)driver.Capabilities.GetCapability("goog:chromeOptions")!;
        using var http = new HttpClient();
        using var version = JsonDocument.Parse(await http.GetStringAsync($"http://{chrome["debuggerAddress"]}/json/version"));
        var worker = new Worker();
        await worker.socket.ConnectAsync(new Uri(version.RootElement.GetProperty("webSocketDebuggerUrl").GetString()!), CancellationToken.None);
        var targets = await worker.AskAsync("Target.getTargets", new { });
        var page = targets.GetProperty("targetInfos").EnumerateArray()
            .Single(t => t.GetProperty("type").GetString() == "page" && t.GetProperty("url").GetString() == driver.Url);
        var attached = await worker.AskAsync("Target.attachToTarget", new { targetId = page.GetProperty("targetId").GetString(), flatten = true });
        await worker.AskAsync(
            "Target.setAutoAttach",
            new { autoAttach = true, waitForDebuggerOnStart = false, flatten = true },
            attached.GetProperty("sessionId").GetString());
        worker.session.ShouldNotBeEmpty("the page has a worker");
        return worker;
    }

    /// <summary>Nothing in the worker happens for so long.</summary>
    public Task HoldAsync(int ms) => RunAsync($"{{ const end = performance.now() + {ms}; while (performance.now() < end); }}");

    /// <summary>It ends in the middle of whatever it does.</summary>
    public Task KillAsync() => RunAsync("self.close()");

    /// <summary>Memory of its scripts that is in use, in bytes, after what nobody needs was collected.</summary>
    public async Task<double> UsedBytesAsync()
    {
        await AskAsync("HeapProfiler.collectGarbage", new { }, session);
        return (await AskAsync("Runtime.getHeapUsage", new { }, session)).GetProperty("usedSize").GetDouble();
    }

    /// <summary>Runs a script in it.</summary>
    public Task RunAsync(string script) => AskAsync("Runtime.evaluate", new { expression = script }, session);

    public void Dispose() => socket.Dispose();

    private async Task<JsonElement> AskAsync(string method, object parameters, string? sessionId = null)
    {
        var id = ++number;
        var message = JsonSerializer.SerializeToUtf8Bytes(
            sessionId is null ? (object)new { id, method, @params = parameters } : new { id, method, @params = parameters, sessionId });
        await socket.SendAsync(message, WebSocketMessageType.Text, endOfMessage: true, CancellationToken.None);
        for (; ; )
        {
            var heard = await HearAsync();
            if (heard.TryGetProperty("id", out var answered) && answered.GetInt32() == id)
            {
                return heard.TryGetProperty("result", out var result) ? result : throw new InvalidOperationException(heard.ToString());
            }

            if (heard.TryGetProperty("method", out var name) && name.GetString() == "Target.attachedToTarget"
                && heard.GetProperty("params").GetProperty("targetInfo").GetProperty("type").GetString() == "worker")
            {
                session = heard.GetProperty("params").GetProperty("sessionId").GetString()!;
            }
        }
    }

    private async Task<JsonElement> HearAsync()
    {
        using var whole = new MemoryStream();
        var part = new byte[1 << 16];
        WebSocketReceiveResult received;
        do
        {
            received = await socket.ReceiveAsync(part, CancellationToken.None);
            whole.Write(part, 0, received.Count);
        }
        while (!received.EndOfMessage);
        using var json = JsonDocument.Parse(Encoding.UTF8.GetString(whole.GetBuffer(), 0, (int)whole.Length));
        return json.RootElement.Clone();
    }
}
