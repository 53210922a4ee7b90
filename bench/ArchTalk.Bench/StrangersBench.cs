using System.Diagnostics;
using System.Net.Sockets;
using System.Text;
using ArchTalk.Browser.Tests.Support;

namespace ArchTalk.Bench;

/// <summary>
/// What strangers can cost: 150 connections that begin an upload and hold it back, and 1,000 uploads without a right token. The
/// server's memory and the time of a page, before and while.
/// </summary>
internal static class StrangersBench
{
    private const int HeldBack = 150;
    private const int Wrong = 1_000;
    private const int Body = 1_000_000;

    public static async Task RunAsync()
    {
        using var files = new TestFiles();
        await using var server = new Server(files.Path("data"));
        await server.StartAsync();
        using var http = new HttpClient(new HttpClientHandler { AllowAutoRedirect = false });
        using var teacher = await TeacherAtWork.FirstAsync(server);
        await PageAsync(http, server.Address);
        var (before, page) = (teacher.Memory(), await PageAsync(http, server.Address));

        var held = new List<TcpClient>();
        for (var i = 0; i < HeldBack; i++)
        {
            held.Add(await HoldBackAsync(server.Port));
        }

        var (whileHeld, pageHeld) = (teacher.Memory(), await PageAsync(http, server.Address));
        var answered = await AnsweredAsync(held);
        held.ForEach(h => h.Dispose());

        var most = 0L;
        await Parallel.ForEachAsync(Enumerable.Range(0, Wrong), new ParallelOptions { MaxDegreeOfParallelism = 20 }, async (i, _) =>
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"{server.Address}/api/takes/{Guid.NewGuid()}/records")
            {
                Content = new ByteArrayContent(new byte[Body])
            };
            request.Headers.Add("X-Take-Token", "wrong");
            try
            {
                using var answer = await http.SendAsync(request);
            }
            catch (HttpRequestException)
            {
                // Turned away before it was sent whole.
            }

            most = i % 50 == 0 ? Math.Max(most, teacher.Memory()) : most;
        });
        var pageAfter = await PageAsync(http, server.Address);
        Measure.Say($"{HeldBack} held-back connections: memory {before} MB before, {whileHeld} MB while; a page in {page:0.0} ms before, "
            + $"{pageHeld:0.0} ms while (ratio {pageHeld / page:0.00}); {answered} of them were answered and ended at once");
        Measure.Say($"{Wrong} uploads of 1 MB with a wrong token: memory at most {most} MB; a page in {pageAfter:0.0} ms afterwards (ratio "
            + $"{pageAfter / page:0.00})");
    }

    // A stranger who says that a million bytes will come, and sends ten.
    private static async Task<TcpClient> HoldBackAsync(int port)
    {
        var client = new TcpClient();
        await client.ConnectAsync("127.0.0.1", port);
        var head = $"POST /api/takes/{Guid.NewGuid()}/records HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Take-Token: wrong\r\nContent-Length: "
            + $"{Body}\r\n\r\n0123456789";
        await client.GetStream().WriteAsync(Encoding.ASCII.GetBytes(head));
        return client;
    }

    private static async Task<int> AnsweredAsync(List<TcpClient> held)
    {
        await Task.Delay(TimeSpan.FromSeconds(1));
        return held.Count(h => h.Available > 0);
    }

    private static async Task<double> PageAsync(HttpClient http, string address)
    {
        var times = new List<double>();
        for (var i = 0; i < 60; i++)
        {
            var start = Stopwatch.GetTimestamp();
            using var answer = await http.GetAsync($"{address}/");
            times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }

        return Measure.Median(times);
    }
}
