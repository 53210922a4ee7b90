using System.Net;
using System.Net.Sockets;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>A cable between browser and server that can be pulled: while it is, connections break and none are made.</summary>
public sealed class Wire : IDisposable
{
    private readonly TcpListener listener;
    private readonly int target;
    private readonly CancellationTokenSource end = new();
    private readonly List<TcpClient> open = [];
    private readonly Lock turn = new();
    private bool pulled;

    public Wire(int target)
    {
        this.target = target;
        listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        _ = AcceptAsync();
    }

    public string Address => $"http://127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}";

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
            await Task.WhenAny(
                browser.GetStream().CopyToAsync(server.GetStream(), end.Token), server.GetStream().CopyToAsync(browser.GetStream(), end.Token));
        }
        catch (Exception e) when (e is IOException or SocketException or ObjectDisposedException or InvalidOperationException or OperationCanceledException)
        {
            // The cable was pulled.
        }
        finally
        {
            browser.Dispose();
        }
    }
}
