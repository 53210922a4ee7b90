using System.Diagnostics;
using System.Net;
using System.Net.Sockets;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>The application as its own process, so that it can be killed as a power cut would.</summary>
public sealed class Server : IAsyncDisposable
{
    private Process? process;

    public Server(string dataFolder, int? port = null)
    {
        DataFolder = dataFolder;
        Port = port ?? FreePort();
    }

    public string DataFolder { get; }

    public int Port { get; }

    public int ProcessId => process!.Id;

    public bool IsRunning => process is { HasExited: false };

    public string Address => $"http://127.0.0.1:{Port}";

    public static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    /// <summary>A server on a data folder of its own that answers.</summary>
    public static async Task<Server> StartedAsync(string dataFolder)
    {
        var server = new Server(dataFolder);
        await server.StartAsync();
        return server;
    }

    public async Task StartAsync()
    {
        Launch();
        using var http = new HttpClient();
        for (var attempt = 0; attempt < 900; attempt++)
        {
            try
            {
                await http.GetAsync($"{Address}/mark.svg");
                return;
            }
            catch (HttpRequestException) when (!process!.HasExited)
            {
                await Task.Delay(100);
            }
        }

        throw new TimeoutException("The server did not start within 90 seconds.");
    }

    /// <summary>Starts the process and doesn't wait until it answers.</summary>
    public void Launch()
    {
        var start = new ProcessStartInfo("dotnet")
        {
            WorkingDirectory = Repository.Web,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            UseShellExecute = false
        };
        foreach (var argument in new[] {
            typeof(ArchTalk.Web.Setup.ArchTalkOptions).Assembly.Location,
            "--urls",
            Address,
            "--contentRoot",
            Repository.Web })
        {
            start.ArgumentList.Add(argument);
        }

        start.Environment["ArchTalk__DataFolder"] = DataFolder;
        start.Environment["ASPNETCORE_ENVIRONMENT"] = "Production";
        process = Process.Start(start)!;
        process.OutputDataReceived += (_, _) => { };
        process.ErrorDataReceived += (_, _) => { };
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
    }

    /// <summary>kill -9: no chance to finish anything.</summary>
    public async Task KillAsync()
    {
        if (process is { HasExited: false })
        {
            process.Kill();
            await process.WaitForExitAsync();
        }

        process?.Dispose();
        process = null;
    }

    public async ValueTask DisposeAsync() => await KillAsync();
}
