using System.Net;
using System.Net.Sockets;
using System.Text;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>A cable between browser and server that can be pulled, be slow, or lose what takes send and are answered.</summary>
public sealed class Wire : IDisposable
{
    private readonly TcpListener listener;
    private readonly int target;
    private readonly CancellationTokenSource end = new();
    private readonly List<TcpClient> open = [];
    private readonly Lock turn = new();
    private readonly Random random;
    private bool pulled;

    public Wire(int target, int seed = 1)
    {
        this.target = target;
        random = new Random(seed);
        listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        _ = AcceptAsync();
    }

    public string Address => $"http://127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}";

    /// <summary>Towards the server; null when as fast as it can be.</summary>
    public int? BytesPerSecond { get; set; }

    /// <summary>The share of uploads that never reach the server.</summary>
    public double LosesUploads { get; set; }

    /// <summary>The share of uploads whose answer is lost after the server wrote them.</summary>
    public double LosesAnswers { get; set; }

    /// <summary>How requests begin whose answers are all lost, though the server did what they ask; null for none.</summary>
    public string? LosesAnswersTo { get; set; }

    /// <summary>Bytes sent towards the server so far.</summary>
    public long Sent { get; private set; }

    public void Pull()
    {
        lock (turn)
        {
            pulled = true;
            open.ForEach(c => c.Close());
            open.Clear();
        }
    }

    public void PlugIn()
    {
        lock (turn)
        {
            pulled = false;
        }
    }

    /// <summary>As good as new.</summary>
    public void Mend()
    {
        PlugIn();
        (BytesPerSecond, LosesUploads, LosesAnswers, LosesAnswersTo) = (null, 0, 0, null);
    }

    public void Dispose()
    {
        end.Cancel();
        listener.Stop();
        Pull();
        end.Dispose();
    }

    private async Task AcceptAsync()
    {
        while (!end.IsCancellationRequested)
        {
            try
            {
                _ = CarryAsync(await listener.AcceptTcpClientAsync(end.Token));
            }
            catch (Exception e) when (e is OperationCanceledException or SocketException or ObjectDisposedException)
            {
                return;
            }
        }
    }

    private async Task CarryAsync(TcpClient browser)
    {
        using var server = new TcpClient();
        try
        {
            lock (turn)
            {
                if (pulled)
                {
                    browser.Close();
                    return;
                }

                open.Add(browser);
            }

            await server.ConnectAsync(IPAddress.Loopback, target);
            var isLost = false;
            await Task.WhenAny(
                PumpAsync(browser, server, async part =>
                {
                    Sent += part.Length;
                    if (BytesPerSecond is { } speed)
                    {
                        await Task.Delay(TimeSpan.FromSeconds((double)part.Length / speed), end.Token);
                    }

                    if (part.Span.StartsWith("POST /api/takes/"u8))
                    {
                        isLost = Chance(LosesAnswers);
                        return !Chance(LosesUploads);
                    }

                    isLost |= LosesAnswersTo is { } lost && part.Span.StartsWith(Encoding.ASCII.GetBytes(lost));
                    return true;
                }),
                PumpAsync(server, browser, _ => Task.FromResult(!isLost)));
        }
        catch (Exception e) when (e is IOException or SocketException or ObjectDisposedException or InvalidOperationException
            or OperationCanceledException)
        {
            // The cable was pulled.
        }
        finally
        {
            browser.Dispose();
        }
    }

    private bool Chance(double share)
    {
        lock (turn)
        {
            return random.NextDouble() < share;
        }
    }

    private async Task PumpAsync(TcpClient from, TcpClient to, Func<ReadOnlyMemory<byte>, Task<bool>> passes)
    {
        // Small parts, so that a slow line is slow evenly.
        var part = new byte[8 << 10];
        for (; ; )
        {
            var length = await from.GetStream().ReadAsync(part, end.Token);
            if (length == 0 || !await passes(part.AsMemory(0, length)))
            {
                return;
            }

            await to.GetStream().WriteAsync(part.AsMemory(0, length), end.Token);
        }
    }
}
