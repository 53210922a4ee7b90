using System.Globalization;
using System.Net.Http.Json;
using System.Runtime.InteropServices;
using System.Text.Json;
using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Bench;

/// <summary>A teacher at a server, without a browser.</summary>
internal sealed class TeacherAtWork : IDisposable
{
    private readonly Server server;
    private string token = "";

    private TeacherAtWork(Server server) => this.server = server;

    public HttpClient Http { get; } = new(new HttpClientHandler { AllowAutoRedirect = false });

    public static async Task<TeacherAtWork> FirstAsync(Server server)
    {
        var teacher = new TeacherAtWork(server);
        await teacher.PageAsync("/first-run");
        await teacher.FormAsync("/first-run", ("name", "Ida"), ("email", "ida@example.org"), ("password", "a long password"));
        await teacher.PageAsync("/");
        return teacher;
    }

    public async Task<Guid> CreateLessonAsync(string title)
    {
        using var answer = await FormAsync("/?handler=Create", ("title", title));
        var lesson = Guid.Parse(answer.Headers.Location!.ToString().Split('/')[2]);
        await CallAsync(HttpMethod.Post, $"/api/lessons/{lesson}/boards", new { title = "One" });
        return lesson;
    }

    /// <summary>Records a take: sound from a file of 16-bit samples, sent as fast as the server takes it.</summary>
    /// <param name="ends">Otherwise it is left as if the tab had been closed.</param>
    public async Task<Guid> RecordAsync(Guid lesson, string samples, double seconds, bool ends = true)
    {
        var open = await CallAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes");
        var (take, takeToken) = (open.GetProperty("take").GetGuid(), open.GetProperty("token").GetString()!);
        using var file = File.OpenRead(samples);
        var buffer = new byte[Clock.SampleRate];
        var sequence = 0u;
        async Task SendAsync(params IEnumerable<JournalRecord> records)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"{server.Address}/api/takes/{take}/records");
            request.Content = new ByteArrayContent([.. records.SelectMany(r => (r with { Sequence = sequence++ }).ToBytes())]);
            request.Headers.Add("X-Take-Token", takeToken);
            (await Http.SendAsync(request)).EnsureSuccessStatusCode();
        }

        await SendAsync(new JournalBuilder().Segment(new SegmentStart(0, Clock.SampleRate, 0, "Bench", false, false, false)).Records);
        for (var at = 0L; at < seconds * Clock.SampleRate;)
        {
            var batch = new JournalBuilder();
            for (var k = 0; k < 16; k++, at += buffer.Length / sizeof(short))
            {
                if (file.ReadAtLeast(buffer, buffer.Length, throwOnEndOfStream: false) < buffer.Length)
                {
                    file.Seek(0, SeekOrigin.Begin);
                    file.ReadExactly(buffer);
                }

                batch.Audio(0, at, MemoryMarshal.Cast<byte, short>(buffer));
            }

            await SendAsync(batch.Records);
        }

        if (ends)
        {
            await SendAsync(new JournalBuilder().End().Records);
        }

        return take;
    }

    public async Task<JsonElement> CallAsync(HttpMethod method, string path, object? body = null)
    {
        using var request = new HttpRequestMessage(method, server.Address + path);
        request.Content = body is null ? null : JsonContent.Create(body);
        request.Headers.Add("X-Antiforgery", token);
        using var answer = await Http.SendAsync(request);
        var text = await answer.Content.ReadAsStringAsync();
        return answer.IsSuccessStatusCode
            ? text.Length == 0 ? default : JsonDocument.Parse(text).RootElement
            : throw new InvalidOperationException($"{method} {path}: {text}");
    }

    /// <summary>Publishes and waits; the seconds it took.</summary>
    /// <param name="whileWaiting">Called again and again.</param>
    public async Task<double> PublishAsync(Guid lesson, Action? whileWaiting = null)
    {
        var start = System.Diagnostics.Stopwatch.GetTimestamp();
        var job = (await CallAsync(HttpMethod.Post, $"/api/lessons/{lesson}/publish")).GetProperty("job").GetGuid();
        while (true)
        {
            var found = (await CallAsync(HttpMethod.Get, $"/api/lessons/{lesson}/publish/jobs")).EnumerateArray()
                .Single(j => j.GetProperty("id").GetGuid() == job);
            whileWaiting?.Invoke();
            switch (found.GetProperty("state").GetString())
            {
                case "done":
                    return System.Diagnostics.Stopwatch.GetElapsedTime(start).TotalSeconds;
                case "failed" or "cancelled":
                    throw new InvalidOperationException(found.GetProperty("message").GetString());
            }

            await Task.Delay(100);
        }
    }

    /// <summary>What the server's process has in memory, in MB.</summary>
    public long Memory()
    {
        var line = File.ReadLines($"/proc/{server.ProcessId}/status").Single(l => l.StartsWith("VmRSS", StringComparison.Ordinal));
        return long.Parse(line.Split(' ', StringSplitOptions.RemoveEmptyEntries)[1], CultureInfo.InvariantCulture) >> 10;
    }

    public void Dispose() => Http.Dispose();

    private async Task PageAsync(string path)
    {
        var page = await Http.GetStringAsync(server.Address + path);
        foreach (var before in new[] { "name=\"antiforgery\" content=\"", "name=\"__RequestVerificationToken\" type=\"hidden\" value=\"" })
        {
            token = page.Contains(before, StringComparison.Ordinal) ? page.Split(before)[1].Split('"')[0] : token;
        }
    }

    private Task<HttpResponseMessage> FormAsync(string path, params (string Name, string Value)[] fields) => Http.PostAsync(
        server.Address + path,
        new FormUrlEncodedContent(fields.Append(("__RequestVerificationToken", token)).Select(f => KeyValuePair.Create(f.Item1, f.Item2))));
}
