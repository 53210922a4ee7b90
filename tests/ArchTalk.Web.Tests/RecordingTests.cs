using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Data.Files;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Recording;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

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

    private async Task<(HttpStatusCode Status, string Problem, uint Next)> SendAsync(IEnumerable<byte> body, string? token = null)
    {
        using var http = app.CreateClient();
        using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/takes/{take.Take}/records") { Content = new ByteArrayContent([.. body]) };
        request.Headers.Add("X-Take-Token", token ?? take.Token);
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
        (TakeJournals.Read(JournalPath)).Length.ShouldBe(Duration.FromSeconds(1));
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
    public async Task Only_the_token_lets_in_and_a_new_writer_shuts_the_old_one_out()
    {
        (await SendAsync(Bytes(Second().Records), token: "guess")).Status.ShouldBe(HttpStatusCode.Unauthorized);
        var first = Bytes(Second().Records.Take(2)).ToArray();
        await SendAsync(first);
        var reopened = await ReopenAsync();
        reopened.ShouldNotBeNull().Epoch.ShouldBe(2);
        (await SendAsync(Bytes(Second().Records))).ShouldBe((HttpStatusCode.Unauthorized, "wrongtoken", 0u));

        // With the new token, what the old writer recorded is refused by its number, and what is there already is acknowledged.
        (await SendAsync(Bytes(Second().Records.Skip(2)), reopened.Token)).ShouldBe((HttpStatusCode.Conflict, "fenced", 2u));
        (await SendAsync(first, reopened.Token)).Problem.ShouldBe("saved");
        (await SendAsync(Bytes(new JournalBuilder(epoch: 2, firstSequence: 2).Pause(0, 24_000).Records), reopened.Token)).ShouldBe(
            (HttpStatusCode.OK, "saved", 3u));
    }

    [Fact]
    public async Task Of_forty_tabs_that_take_a_take_over_at_once_each_is_a_writer_of_its_own()
    {
        var opened = await Task.WhenAll(Enumerable.Range(0, 40).Select(_ => ReopenAsync()));
        opened.Select(o => o!.Epoch).Order().ShouldBe(Enumerable.Range(2, 40));

        // Only the last one may write.
        var last = opened.MaxBy(o => o!.Epoch)!;
        foreach (var other in opened.Where(o => o != last).Take(5))
        {
            (await SendAsync(Bytes(new JournalBuilder((ushort)other!.Epoch).Pause(0, 0).Records), other.Token)).Problem.ShouldBe("wrongtoken");
        }

        (await SendAsync(Bytes(new JournalBuilder((ushort)last.Epoch).Pause(0, 0).Records), last.Token)).Problem.ShouldBe("saved");
    }

    private async Task<OpenTake?> ReopenAsync()
    {
        using var answer = await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes/{take.Take}/reopen");
        return answer.IsSuccessStatusCode
            ? JsonSerializer.Deserialize<OpenTake>(await answer.Content.ReadAsStringAsync(), JsonSerializerOptions.Web)
            : null;
    }

    [Fact]
    public async Task Killed_between_the_end_and_its_row_a_take_is_finished_all_the_same()
    {
        await SendAsync(Bytes(Second().Records));
        await app.Services.GetRequiredService<TakeJournals>().UseAsync(
            lesson, take.Take, j => Task.FromResult(j.Append([new JournalRecord(JournalRecordKind.End, 1, 4, default)], 1)), CancellationToken.None);
        (await app.QueryAsync(db => db.Takes.SingleAsync())).EndedAt.ShouldBeNull();

        // The end is sent again, since its answer never came.
        (await SendAsync(Bytes(Second().End().Records.Skip(4)))).Problem.ShouldBe("saved");
        (await app.QueryAsync(db => db.Takes.SingleAsync())).Samples.ShouldBe(48_000);
        (await ReopenAsync()).ShouldBeNull();
    }

    [Fact]
    public async Task A_take_whose_end_has_no_row_yet_is_shown_as_finished()
    {
        await SendAsync(Bytes(Second().Records));
        await app.Services.GetRequiredService<TakeJournals>().UseAsync(
            lesson, take.Take, j => Task.FromResult(j.Append([new JournalRecord(JournalRecordKind.End, 1, 4, default)], 1)), CancellationToken.None);
        (await ReopenAsync()).ShouldBeNull("it can't be gone on with");
        var shown = (await ida.CallAsync(HttpMethod.Get, $"/api/lessons/{lesson}/takes")).EnumerateArray().Single();
        (shown.GetProperty("isOpen").GetBoolean(), shown.GetProperty("lengthMs").GetDouble()).ShouldBe((false, 1000));
    }

    [Fact]
    public async Task Absurd_numbers_are_refused_and_the_take_stays_readable()
    {
        await SendAsync(Bytes(Second().Records));
        (await SendAsync(Bytes(new JournalBuilder(firstSequence: 4).Audio(0, long.MaxValue - 10, new short[100]).Records))).Problem
            .ShouldBe("damaged");
        (await SendAsync(Bytes(new JournalBuilder(firstSequence: 4).Anchors(0, new ClockAnchor(long.MaxValue, 1)).Records))).Problem
            .ShouldBe("damaged");
        (TakeJournals.Read(JournalPath)).Length.ShouldBe(Duration.FromSeconds(1));
    }

    [Fact]
    public async Task What_a_later_release_wrote_stays_when_the_journal_is_opened_by_this_one()
    {
        await SendAsync(Bytes(Second().Records));
        app.Services.GetRequiredService<TakeJournals>().Dispose();
        byte[] later = [.. new JournalRecord((JournalRecordKind)99, 1, 4, new byte[] {
            7 }).ToBytes(), .. new JournalBuilder(firstSequence: 5).Audio(0, 48_000, new short[480]).Records[0].ToBytes()];
        await File.AppendAllBytesAsync(JournalPath, later);
        var length = new FileInfo(JournalPath).Length;
        using var journal = JournalFile.Open(JournalPath, take.Take);
        (journal.NextSequence, journal.SavedSamples, new FileInfo(JournalPath).Length).ShouldBe((6u, 48_480, length));
    }

    [Fact]
    public async Task A_journal_without_a_row_is_found_and_can_be_put_back()
    {
        await SendAsync(Bytes(Second().Records));
        await app.QueryAsync(db => db.Takes.ExecuteDeleteAsync());
        (await ida.CallAsync(HttpMethod.Get, $"/api/lessons/{lesson}/takes")).GetArrayLength().ShouldBe(0);
        await FindLostAsync();
        await FindLostAsync();
        var found = (await ida.CallAsync(HttpMethod.Get, $"/api/lessons/{lesson}/takes")).EnumerateArray().Single();
        (found.GetProperty("isFound").GetBoolean(), found.GetProperty("isAside").GetBoolean(), found.GetProperty("lengthMs").GetDouble()).ShouldBe(
            (true, true, 1000));
        await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes/{found.GetProperty("id").GetGuid()}/restore");
        (await ida.Http.GetStringAsync($"/lessons/{lesson:N}/timeline.json")).ShouldContain("\"length\":1000");
    }

    private Task<bool> FindLostAsync() => app.WithAsync(async s =>
    {
        await s.GetRequiredService<RecordingService>().FindLostAsync(CancellationToken.None);
        return true;
    });

    [Fact]
    public async Task An_open_take_is_compiled_as_far_as_it_is_saved()
    {
        var board = (await ida.CallAsync(HttpMethod.Get, $"/api/lessons/{lesson}/boards")).GetProperty("boards")[0].GetProperty("id").GetGuid();
        var written = Second().Events(
            0,
            new StrokeBegun(1, board, "pen", "blue", "medium"),
            new StrokePoints(1, [100, 100, 128, 2000, 5000, 3000, 200, 6000]));
        await SendAsync(Bytes(written.Records));
        (await ida.Http.GetStringAsync($"/lessons/{lesson:N}/timeline.json")).ShouldContain("\"length\":1000");
        await SendAsync(Bytes(written.Audio(0, 48_000, new short[48_000]).Records.Skip(5)));
        (await ida.Http.GetStringAsync($"/lessons/{lesson:N}/timeline.json")).ShouldContain("\"length\":2000");
        var reopened = (await ReopenAsync())!;
        (reopened.Next, reopened.NextSegment, reopened.NextAction, reopened.IsTestVoice).ShouldBe((6u, 1, 2, false));
    }

    [Fact]
    public async Task A_stranger_is_turned_away_before_the_body_is_read()
    {
        async Task<(int Status, long Read)> SendAsync(string token, int length)
        {
            using var body = new MemoryStream(new byte[length]);
            var answered = await app.Server.SendAsync(context =>
            {
                context.Request.Method = "POST";
                context.Request.Path = $"/api/takes/{take.Take}/records";
                context.Request.Headers["X-Take-Token"] = token;
                context.Request.ContentLength = length;
                context.Request.Body = body;
            });
            return (answered.Response.StatusCode, body.Position);
        }

        (await SendAsync("guess", 1000)).ShouldBe((401, 0));
        (await SendAsync(take.Token, 3 << 20)).ShouldBe((413, 0));
        (await SendAsync(take.Token, 1000)).ShouldBe((400, 1000));
    }

    [Fact]
    public async Task Guessing_tokens_is_slowed_down()
    {
        // So few that a busy machine asks faster, too.
        using var strict = new App(("UploadsPerSecond", "2"));
        await strict.SignInAsync("ida@example.org");
        using var http = strict.CreateClient();
        var answers = new Dictionary<HttpStatusCode, int>();
        for (var i = 0; i < 3000 && !answers.ContainsKey(HttpStatusCode.TooManyRequests); i++)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/takes/{take.Take}/records") { Content = new ByteArrayContent([]) };
            request.Headers.Add("X-Take-Token", "guess");
            using var answer = await http.SendAsync(request);
            answers[answer.StatusCode] = answers.GetValueOrDefault(answer.StatusCode) + 1;
        }

        answers.Keys.Order().ShouldBe([HttpStatusCode.Unauthorized, HttpStatusCode.TooManyRequests]);
    }

    [Fact]
    public async Task A_disk_that_fails_is_named_and_nothing_counts_as_saved()
    {
        var id = Guid.CreateVersion7();
        await app.QueryAsync(async db =>
        {
            db.Takes.Add(new()
            {
                Id = id,
                LessonId = lesson,
                Order = 9,
                Epoch = 1,
                TokenHash = Convert.ToHexString(System.Security.Cryptography.SHA256.HashData("t"u8))
            });
            return await db.SaveChangesAsync();
        });
        await File.WriteAllTextAsync(new LessonFiles(app.DataFolder).Take(lesson, id), "where the folder should be");
        using var http = app.CreateClient();
        using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/takes/{id}/records")
        {
            Content = new ByteArrayContent([.. Bytes(Second().Records)])
        };
        request.Headers.Add("X-Take-Token", "t");
        using var answer = await http.SendAsync(request);
        answer.StatusCode.ShouldBe(HttpStatusCode.InsufficientStorage);
        (await answer.Content.ReadAsStringAsync()).ShouldContain("\"problem\":\"disk\"");
    }

    [Fact]
    public async Task The_end_closes_the_take()
    {
        await SendAsync(Bytes(Second().End().Records));
        var ended = await File.ReadAllBytesAsync(JournalPath);
        (await SendAsync(Bytes(Second().End().Pause(0, 1).Records))).ShouldBe((HttpStatusCode.Conflict, "ended", 5u));
        (await SendAsync(Bytes(Second().End().Audio(0, 48_000, new short[24_000]).Records.Skip(5)))).Problem.ShouldBe("ended");

        // It acknowledges what it has, and nothing else under the same numbers.
        (await SendAsync(Bytes(Second().End().Records))).Problem.ShouldBe("saved");
        (await SendAsync(Bytes(new JournalBuilder().Segment(new SegmentStart(0, 44_100, 0, "Other", false, false, false)).Records))).Problem
            .ShouldBe("ended");
        (await File.ReadAllBytesAsync(JournalPath)).ShouldBe(ended, "what came after the end is not in the journal");

        var stored = await app.QueryAsync(db => db.Takes.SingleAsync());
        stored.EndedAt.ShouldNotBeNull();
        stored.Samples.ShouldBe(48_000);
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
            file.Append(records, epoch: 1).ShouldBe(AppendResult.Saved);
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
        (aside.GetProperty("isAside").GetBoolean(), aside.GetProperty("number").GetInt32(), aside.GetProperty("lengthMs").GetDouble()).ShouldBe(
            (true, 0, 1000));
        (await ida.Http.GetStringAsync($"/lessons/{lesson:N}/refine")).ShouldContain("Nothing is recorded yet");
        await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes/{take.Take}/restore");
        (await OnlyAsync()).GetProperty("number").GetInt32().ShouldBe(1);
    }

    [Fact]
    public async Task Phrases_are_heard_while_it_is_recorded_and_named_as_the_recorder_counts()
    {
        // Four seconds of a segment with a word in its middle, paused and gone on with after ten; then a second microphone.
        static short[] Word(double seconds, double from, double to) => [.. Enumerable.Range(0, (int)(seconds * Clock.SampleRate)).Select(i =>
            i >= from * Clock.SampleRate && i < to * Clock.SampleRate
                ? (short)(9000 * Math.Sin(2 * Math.PI * 440 * i / Clock.SampleRate) * Math.Sin(2 * Math.PI * 1300 * i / Clock.SampleRate))
                : (short)((i * 7919 % 11) - 5))];
        const int Second = Clock.SampleRate;
        var journal = new JournalBuilder()
            .Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false))
            .Audio(0, 0, Word(4, 1, 2)).Pause(0, 4 * Second).Resume(0, 10 * Second).Audio(0, 10 * Second, Word(3, 1, 2))
            .Segment(new SegmentStart(1, 48_000, 0, "Other", false, false, false))
            .Audio(1, 0, Word(3, 0.5, 1.5));
        (await SendAsync(Bytes(journal.Records))).Problem.ShouldBe("saved");
        async Task<HttpResponseMessage> AskAsync(string token)
        {
            using var http = app.CreateClient();
            using var request = new HttpRequestMessage(HttpMethod.Get, $"/api/takes/{take.Take}/phrases");
            request.Headers.Add("X-Take-Token", token);
            return await http.SendAsync(request);
        }

        (await AskAsync("another")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        var answer = await (await AskAsync(take.Token)).Content.ReadAsStringAsync();
        var phrases = JsonSerializer.Deserialize<HeardPhrase[]>(answer, JsonSerializerOptions.Web)!;
        phrases.Select(p => (p.FromSegment, p.ToSegment)).ShouldBe([(0, 0), (0, 0), (1, 1)]);
        foreach (var (phrase, from) in phrases.Zip([1.0, 11, 0.5]))
        {
            ((double)phrase.From / Second).ShouldBe(from, tolerance: 0.03);
            ((double)phrase.To / Second).ShouldBe(from + 1, tolerance: 0.03);
        }
    }

    [Fact]
    public async Task A_stroke_along_words_is_answered_with_where_it_settles_by_sign_in_or_by_token()
    {
        var board = await app.QueryAsync(db => db.Boards.Where(b => b.LessonId == lesson).Select(b => b.Id).SingleAsync());
        var words = new TextLayer([new("the", 200, 100, 60, 40), new("keystone", 280, 100, 160, 40), new("locks", 460, 100, 100, 40)]);
        await app.WithAsync(async s =>
        {
            await s.GetRequiredService<BoardService>().WriteWordsAsync(lesson, board, words, CancellationToken.None);
            return true;
        });

        const string Nothing = """{"settled":null}""";
        int[] points = [2850, 1220, 3300, 1200, 3900, 1210, 4350, 1190];
        var stroke = new { board, isHighlighter = true, points };
        using var answer = await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/settle", stroke);
        using var json = JsonDocument.Parse(await answer.Content.ReadAsStringAsync());
        var settled = json.RootElement.GetProperty("settled");
        settled.GetProperty("text").GetString().ShouldBe("keystone");
        settled.GetProperty("from").GetProperty("x").GetInt32().ShouldBe(2800);
        settled.GetProperty("height").GetInt32().ShouldBe(448);

        async Task<(HttpStatusCode Status, string Body)> AskAsync(string token, object asked)
        {
            using var http = app.CreateClient();
            using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/takes/{take.Take}/settle") { Content = JsonContent.Create(asked) };
            request.Headers.Add("X-Take-Token", token);
            using var said = await http.SendAsync(request);
            return (said.StatusCode, await said.Content.ReadAsStringAsync());
        }

        (await AskAsync("another", stroke)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await AskAsync(take.Token, stroke)).Body.ShouldContain("keystone");
        (await AskAsync(take.Token, new { board, isHighlighter = true, points = new[] { 2850, 4220, 4350, 4190 } }))
            .ShouldBe((HttpStatusCode.OK, Nothing));
        (await AskAsync(take.Token, new { board, isHighlighter = true, points = new[] { 1 } })).ShouldBe((HttpStatusCode.OK, Nothing));
        (await AskAsync(take.Token, new { board, isHighlighter = true })).ShouldBe((HttpStatusCode.OK, Nothing));
        (await AskAsync(take.Token, new { board = Guid.NewGuid(), isHighlighter = true, points })).Status
            .ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task A_sound_check_answers_with_figures_and_too_little_sound_is_refused()
    {
        async Task<(HttpStatusCode Status, string Body)> CheckAsync(int quiet, int speech)
        {
            var samples = Enumerable.Range(0, quiet + speech)
                .Select(i => (short)(i < quiet ? i % 7 : 3000 * Math.Sin(2 * Math.PI * 1000 * i / Clock.SampleRate)));
            using var content = new ByteArrayContent([.. samples.SelectMany(BitConverter.GetBytes)]);
            using var answer = await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/sound-check?quiet={quiet}", content);
            return (answer.StatusCode, await answer.Content.ReadAsStringAsync());
        }

        var (status, body) = await CheckAsync(4 * Clock.SampleRate, 4 * Clock.SampleRate);
        status.ShouldBe(HttpStatusCode.OK);
        using var check = JsonDocument.Parse(body);
        check.RootElement.GetProperty("advice").GetString().ShouldBe("good");
        check.RootElement.GetProperty("speechLufs").GetDouble().ShouldBe(20 * Math.Log10(3000 / 32768.0), 1);
        (await CheckAsync(4 * Clock.SampleRate, 100)).Body.ShouldContain("Too little sound arrived");
        (await CheckAsync(20 * Clock.SampleRate, 20 * Clock.SampleRate)).Status.ShouldBe(HttpStatusCode.RequestEntityTooLarge);
    }

    [Fact]
    public async Task What_was_noted_is_in_the_lessons_lists_when_the_take_has_ended_beside_what_was_there()
    {
        var chapters = $"/api/lessons/{lesson}/sections/Chapters";
        object[] before = [new { id = Guid.NewGuid(), title = "Before", takeSample = 0 }];
        await ida.SendAsync(HttpMethod.Put, chapters, new { version = 0, content = before });
        var journal = Second().Events(0, new NoteMade(400, 1, "chapter", "Forces", 0), new NoteMade(600, 2, "repeat", "Say it.", 4000)).End();
        (await SendAsync(Bytes(journal.Records))).Problem.ShouldBe("saved");

        using var found = JsonDocument.Parse(await ida.Http.GetStringAsync(chapters));
        found.RootElement.GetProperty("content").EnumerateArray().Select(c => c.GetProperty("title").GetString()).ShouldBe(["Before", "Forces"]);
        found.RootElement.GetProperty("canUndo").GetBoolean().ShouldBeTrue();
        using var timeline = JsonDocument.Parse(await ida.Http.GetStringAsync($"/lessons/{lesson:N}/timeline.json"));
        var stop = timeline.RootElement.GetProperty("stops").EnumerateArray().ShouldHaveSingleItem();
        (stop.GetProperty("question").GetString(), stop.GetProperty("wait").GetInt32()).ShouldBe(("Say it.", 4000));

        // The same bytes once more end nothing twice.
        (await SendAsync(Bytes(journal.Records))).Problem.ShouldBe("saved");
        using var again = JsonDocument.Parse(await ida.Http.GetStringAsync(chapters));
        again.RootElement.GetProperty("content").GetArrayLength().ShouldBe(2);
    }

    [Fact]
    public async Task A_bad_event_is_kept_passed_over_and_noted()
    {
        var builder = Second();
        var json = "[{\"e\":\"view\",\"t\":1,\"b\":\"" + Guid.NewGuid() + "\",\"v\":[null,null,16000]},{\"e\":\"of a later release\"}]";
        var bad = new JournalRecord(
            JournalRecordKind.Events,
            builder.Records[0].Epoch,
            4,
            new byte[4].Concat(System.Text.Encoding.UTF8.GetBytes(json)).ToArray());
        (await SendAsync(Bytes([.. builder.Records, bad]))).ShouldBe((HttpStatusCode.OK, "saved", 5u));
        app.Log.ShouldContain(l => l.Contains("1 events of record 4 can't be used", StringComparison.Ordinal));
        (await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes/{take.Take}/finish")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await ida.Http.GetStringAsync($"/lessons/{lesson:N}/timeline.json")).ShouldContain("\"length\":1000");
    }
}
