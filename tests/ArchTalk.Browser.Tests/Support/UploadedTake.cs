using System.Net;
using System.Text.Json;
using ArchTalk.Core.Recording;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>A take that is sent as a recorder sends it, but at once.</summary>
public static class UploadedTake
{
    /// <param name="browser">Signed in as the teacher of the lesson.</param>
    /// <param name="records">All of the take, to its end.</param>
    public static async Task<Guid> SendAsync(string server, Chromium browser, string lesson, IEnumerable<JournalRecord> records)
    {
        using var open = JsonDocument.Parse(browser.Call("POST", $"/api/lessons/{lesson}/takes"));
        var (take, token) = (open.RootElement.GetProperty("take").GetGuid(), open.RootElement.GetProperty("token").GetString()!);
        using var http = new HttpClient();
        foreach (var some in records.Chunk(16))
        {
            byte[] bytes = [.. some.SelectMany(r => r.ToBytes())];
            HttpResponseMessage answer;
            do
            {
                using var request = new HttpRequestMessage(HttpMethod.Post, $"{server}/api/takes/{take}/records");
                request.Content = new ByteArrayContent(bytes);
                request.Headers.Add("X-Take-Token", token);
                answer = await http.SendAsync(request);

                // No recorder sends this fast: a longer take waits for its turn.
                await Task.Delay(answer.StatusCode == HttpStatusCode.TooManyRequests ? 500 : 0);
            }
            while (answer.StatusCode == HttpStatusCode.TooManyRequests);
            answer.EnsureSuccessStatusCode();
        }

        return take;
    }
}
