using System.Diagnostics;
using System.Globalization;
using System.Net.Sockets;
using System.Text;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Time;

namespace ArchTalk.Bench;

/// <summary>Forty students' connections that ask again and again: a publication's file and its page against a static file.</summary>
internal static class WatchBench
{
    private const int Connections = 40;
    private const int Rounds = 3;
    private static readonly TimeSpan Round = TimeSpan.FromSeconds(3);

    public static async Task RunAsync()
    {
        using var files = new TestFiles();
        await using var server = new Server(files.Path("data"));
        await server.StartAsync();
        using var teacher = await TeacherAtWork.FirstAsync(server);
        var lesson = await teacher.CreateLessonAsync("Watched");
        await File.WriteAllBytesAsync(files.Path("sound.raw"), new byte[Clock.SampleRate * 10]);
        await teacher.RecordAsync(lesson, files.Path("sound.raw"), 20);
        await teacher.PublishAsync(lesson);
        var page = await teacher.Http.GetStringAsync($"{server.Address}/lessons/{lesson}/publish");
        var link = "/w/" + page.Split("/w/")[1].Split('"')[0];
        var rates = new Dictionary<string, List<double>>(StringComparer.Ordinal);
        for (var round = 0; round < Rounds; round++)
        {
            foreach (var (name, path, compression) in new[]
            {
                ("static file", "/mark.svg", "identity"), ("a publication's timeline.json", $"{link}/1/timeline.json", "identity"),
                ("the page, compressed", link, "br"),
            })
            {
                (rates.TryGetValue(name, out var list) ? list : rates[name] = []).Add(await RateAsync(server.Port, path, compression));
            }
        }

        var reference = Measure.Median(rates["static file"]);
        Measure.Say($"{Connections} connections: " + string.Join(", ", rates.Select(r =>
            $"{r.Key} {Measure.Median(r.Value):0} a second (ratio {Measure.Median(r.Value) / reference:0.00})")));
    }

    private static async Task<double> RateAsync(int port, string path, string compression)
    {
        var request = Encoding.ASCII.GetBytes($"GET {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nAccept-Encoding: {compression}\r\n\r\n");
        var end = Stopwatch.GetTimestamp() + (long)(Round.TotalSeconds * Stopwatch.Frequency);
        var counts = await Task.WhenAll(Enumerable.Range(0, Connections).Select(async _ =>
        {
            using var client = new TcpClient { NoDelay = true };
            await client.ConnectAsync("127.0.0.1", port);
            var stream = client.GetStream();
            var buffer = new byte[1 << 17];
            var count = 0;
            for (; Stopwatch.GetTimestamp() < end; count++)
            {
                await stream.WriteAsync(request);
                await AnswerAsync(stream, buffer);
            }

            return count;
        }));
        return counts.Sum() / Round.TotalSeconds;
    }

    // Head and body, by the length the head says or to the last chunk.
    private static async Task AnswerAsync(NetworkStream stream, byte[] buffer)
    {
        const string Length = "Content-Length: ";
        var (filled, wanted) = (0, 0);
        bool IsWhole() => wanted > 0 ? filled >= wanted : wanted < 0 && buffer.AsSpan(0, filled).EndsWith("0\r\n\r\n"u8);
        while (!IsWhole())
        {
            filled += await stream.ReadAsync(buffer.AsMemory(filled)) is > 0 and var read ? read : throw new IOException("The connection ended.");
            if (wanted == 0 && buffer.AsSpan(0, filled).IndexOf("\r\n\r\n"u8) is > 0 and var head)
            {
                var text = Encoding.ASCII.GetString(buffer, 0, head);
                if (!text.StartsWith("HTTP/1.1 200", StringComparison.Ordinal))
                {
                    throw new InvalidDataException(text);
                }

                var at = text.IndexOf(Length, StringComparison.OrdinalIgnoreCase);
                wanted = at < 0 ? -1 : head + 4 + int.Parse(text[(at + Length.Length)..].Split('\r')[0], CultureInfo.InvariantCulture);
            }
        }
    }
}
