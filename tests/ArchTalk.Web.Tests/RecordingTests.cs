using System.Net;
using System.Text.Json;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Data.Files;
using ArchTalk.Web.Recording;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Tests;

public sealed class RecordingTests : IAsyncLifetime
{
    private readonly App app = new();
    private Client ida = null!;
    private Guid lesson;
    private OpenTake take = null!;

    public async ValueTask InitializeAsync()
    {
        ida = await app.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Arch");
        await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/boards", new { title = "a" });
        using var answer = await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes");
        take = JsonSerializer.Deserialize<OpenTake>(await answer.Content.ReadAsStringAsync(), JsonSerializerOptions.Web)!;
    }

    public ValueTask DisposeAsync()
    {
        app.Dispose();
        return ValueTask.CompletedTask;
    }

    private static JournalBuilder Second() => new JournalBuilder()
        .Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false))
        .Audio(0, 0, new short[24_000]).Audio(0, 24_000, new short[24_000]).Anchors(0, new ClockAnchor(48_000, 1000));

    private async Task<(HttpStatusCode Status, string Problem, uint Next)> SendAsync(IEnumerable<byte> body, string? token = null, int? epoch = null)
    {
        using var http = app.CreateClient();
        using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/takes/{take.Take}/records") { Content = new ByteArrayContent([.. body]) };
        request.Headers.Add("X-Take-Token", token ?? take.Token);
        request.Headers.Add("X-Take-Epoch", (epoch ?? take.Epoch).ToString(System.Globalization.CultureInfo.InvariantCulture));
        using var answer = await http.SendAsync(request);
        using var json = JsonDocument.Parse(await answer.Content.ReadAsStringAsync());
        return (answer.StatusCode, json.RootElement.GetProperty("problem").GetString()!, json.RootElement.GetProperty("next").GetUInt32());
    }

    private static IEnumerable<byte> Bytes(IEnumerable<JournalRecord> records) => records.SelectMany(r => r.ToBytes());

    private string JournalPath => new LessonFiles(app.DataFolder).Journal(lesson, take.Take);

    [Fact]
    public async Task What_is_acknowledged_is_on_the_disk_and_sending_it_again_is_harmless()
    {
        var records = Second().Records;
        (await SendAsync(Bytes(records))).ShouldBe((HttpStatusCode.OK, "saved", 4u));
        var length = new FileInfo(JournalPath).Length;
        (await SendAsync(Bytes(records.Take(2)))).ShouldBe((HttpStatusCode.OK, "saved", 4u));
        (await SendAsync(Bytes(records))).Problem.ShouldBe("saved");
        new FileInfo(JournalPath).Length.ShouldBe(length);
        (await TakeJournals.ReadAsync(JournalPath, CancellationToken.None)).Length.ShouldBe(Duration.FromSeconds(1));
    }

    [Fact]
    public async Task A_gap_is_refused_with_what_is_missing_and_what_came_before_it_is_kept()
    {
        var records = Second().Records;
        (await SendAsync(Bytes([records[0], records[2], records[3]]))).ShouldBe((HttpStatusCode.UnprocessableEntity, "gap", 1u));
        (await SendAsync(Bytes(records.Skip(1)))).ShouldBe((HttpStatusCode.OK, "saved", 4u));
    }

    [Fact]
    public async Task Other_bytes_under_a_used_number_are_a_conflict()
    {
        await SendAsync(Bytes(Second().Records));
        var other = new JournalBuilder().Segment(new SegmentStart(0, 44_100, 0, "Other", false, false, false)).Records;
        (await SendAsync(Bytes(other))).ShouldBe((HttpStatusCode.Conflict, "conflict", 4u));
    }

    [Fact]
    public async Task Damaged_or_meaningless_records_are_refused_and_nothing_is_written()
    {
        var bytes = Bytes(Second().Records).ToArray();
        bytes[40] ^= 1;
        (await SendAsync(bytes)).ShouldBe((HttpStatusCode.BadRequest, "damaged", 0u));
        var nonsense = new JournalRecord(JournalRecordKind.Events, 1, 0, "\0\0\0\0{\"e\":\"board\"}"u8.ToArray());
        (await SendAsync(nonsense.ToBytes())).Problem.ShouldBe("damaged");
        new FileInfo(JournalPath).Length.ShouldBe(Journal.HeaderSize);
    }

    [Fact]
    public async Task Only_the_token_lets_in_and_a_new_epoch_shuts_the_old_one_out()
    {
        (await SendAsync(Bytes(Second().Records), token: "guess")).Status.ShouldBe(HttpStatusCode.Unauthorized);
        using (var http = app.CreateClient())
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/takes/{take.Take}/epochs");
            request.Headers.Add("X-Take-Token", take.Token);
            using var answer = await http.SendAsync(request);
            var resumed = JsonSerializer.Deserialize<OpenTake>(await answer.Content.ReadAsStringAsync(), JsonSerializerOptions.Web)!;
            resumed.Epoch.ShouldBe(2);
        }

        (await SendAsync(Bytes(Second().Records))).ShouldBe((HttpStatusCode.Conflict, "fenced", 0u));
        (await SendAsync(Bytes(Second().Records), epoch: 2)).Problem.ShouldBe("saved");
    }

    [Fact]
    public async Task The_end_closes_the_take_and_brings_its_lossless_master()
    {
        await SendAsync(Bytes(Second().End().Records));
        var ended = await File.ReadAllBytesAsync(JournalPath);
        (await SendAsync(Bytes(Second().End().Pause(0, 1).Records))).ShouldBe((HttpStatusCode.Conflict, "ended", 5u));
        (await SendAsync(Bytes(Second().End().Audio(0, 48_000, new short[24_000]).Records.Skip(5)))).Problem.ShouldBe("ended");
        (await File.ReadAllBytesAsync(JournalPath)).ShouldBe(ended, "what came after the end is not in the journal");
        await app.RunJobsAsync();

        var stored = await app.QueryAsync(db => db.Takes.SingleAsync());
        stored.EndedAt.ShouldNotBeNull();
        stored.Samples.ShouldBe(48_000);
        File.Exists(new LessonFiles(app.DataFolder).Master(lesson, take.Take)).ShouldBeTrue();
        using var refused = await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes/{take.Take}/reopen");
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task An_interrupted_take_is_gone_on_with_or_finished()
    {
        await SendAsync(Bytes(Second().Records));
        using (var answer = await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes/{take.Take}/reopen"))
        {
            var reopened = JsonSerializer.Deserialize<OpenTake>(await answer.Content.ReadAsStringAsync(), JsonSerializerOptions.Web)!;
            (reopened.Next, reopened.SavedMs, reopened.NextSegment, reopened.NextAction).ShouldBe((4u, 1000, 1, 1));
        }

        (await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/publish")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes/{take.Take}/finish")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await app.QueryAsync(db => db.Takes.SingleAsync())).Samples.ShouldBe(48_000);
    }

    [Fact]
    public async Task A_deleted_take_is_not_in_the_lesson_and_comes_back_when_restored()
    {
        await SendAsync(Bytes(Second().End().Records));
        async Task<int> LengthAsync()
        {
            using var json = JsonDocument.Parse(await ida.Http.GetStringAsync($"/lessons/{lesson:N}/timeline.json"));
            return json.RootElement.GetProperty("length").GetInt32();
        }

        (await LengthAsync()).ShouldBe(1000);
        await ida.SendAsync(HttpMethod.Delete, $"/api/lessons/{lesson}/takes/{take.Take}");
        (await LengthAsync()).ShouldBe(0);
        await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes/{take.Take}/restore");
        (await LengthAsync()).ShouldBe(1000);
        (await ida.Http.GetByteArrayAsync($"/lessons/{lesson:N}/voice.wav")).Length.ShouldBe(44 + 96_000);
    }

    [Fact]
    public async Task A_torn_tail_is_cut_off_when_the_journal_is_opened_again()
    {
        var folder = Directory.CreateTempSubdirectory().FullName;
        var path = Path.Combine(folder, "take.journal");
        var records = Second().Records;
        using (var file = JournalFile.Open(path, take.Take))
        {
            file.Append(records).ShouldBe(AppendResult.Saved);
        }

        var whole = new FileInfo(path).Length;
        await File.AppendAllBytesAsync(path, records[1].ToBytes()[..500]);
        using (var file = JournalFile.Open(path, take.Take))
        {
            file.NextSequence.ShouldBe(4u);
            file.SavedSamples.ShouldBe(48_000);
        }

        new FileInfo(path).Length.ShouldBe(whole);
        Should.Throw<InvalidDataException>(() => JournalFile.Open(path, Guid.NewGuid()));
        new FileInfo(path).Length.ShouldBe(whole);
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task A_take_that_was_put_aside_is_listed_and_comes_back()
    {
        await SendAsync(Bytes(Second().End().Records));
        async Task<JsonElement> OnlyAsync() => (await ida.CallAsync(HttpMethod.Get, $"/api/lessons/{lesson}/takes")).EnumerateArray().Single();
        (await OnlyAsync()).GetProperty("isAside").GetBoolean().ShouldBeFalse();
        await ida.SendAsync(HttpMethod.Delete, $"/api/lessons/{lesson}/takes/{take.Take}");
        var aside = await OnlyAsync();
        (aside.GetProperty("isAside").GetBoolean(), aside.GetProperty("number").GetInt32(), aside.GetProperty("lengthMs").GetDouble()).ShouldBe((true, 0, 1000));
        (await ida.Http.GetStringAsync($"/lessons/{lesson:N}/refine")).ShouldContain("Nothing is recorded yet");
        await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes/{take.Take}/restore");
        (await OnlyAsync()).GetProperty("number").GetInt32().ShouldBe(1);
    }

    [Fact]
    public async Task A_bad_event_is_kept_passed_over_and_noted()
    {
        var builder = Second();
        var json = "[{\"e\":\"view\",\"t\":1,\"b\":\"" + Guid.NewGuid() + "\",\"v\":[null,null,16000]},{\"e\":\"of a later release\"}]";
        var bad = new JournalRecord(JournalRecordKind.Events, builder.Records[0].Epoch, 4, new byte[4].Concat(System.Text.Encoding.UTF8.GetBytes(json)).ToArray());
        (await SendAsync(Bytes([.. builder.Records, bad]))).ShouldBe((HttpStatusCode.OK, "saved", 5u));
        app.Log.ShouldContain(l => l.Contains("1 events of record 4 can't be used", StringComparison.Ordinal));
        (await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes/{take.Take}/finish")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await ida.Http.GetStringAsync($"/lessons/{lesson:N}/timeline.json")).ShouldContain("\"length\":1000");
    }
}
