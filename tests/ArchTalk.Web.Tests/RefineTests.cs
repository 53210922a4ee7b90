using System.Net;
using System.Text.Json;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Recording;
using static ArchTalk.Tests.Sounds;
using static ArchTalk.Web.Tests.Spoken;

namespace ArchTalk.Web.Tests;

/// <summary>The edits of a lesson as Refine does them.</summary>
public sealed class RefineTests : IAsyncLifetime
{
    private readonly App app = new();
    private Client ida = null!;
    private Guid lesson;
    private Guid take;

    private string Edits => $"/api/lessons/{lesson}/edits";

    public async ValueTask InitializeAsync()
    {
        ida = await app.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Arch");
        await ida.CallAsync(HttpMethod.Post, $"/api/lessons/{lesson}/boards", new { title = "One" });

        // 3 s of room, words from 3 to 9.4 s with a silence of 2 s between them, and the room again.
        take = await RecordAsync(app, lesson, [.. Speech(3, 0), .. Speech(2.2), .. Speech(2, 0), .. Speech(2.2), .. Speech(4, 0)]);
    }

    public ValueTask DisposeAsync()
    {
        app.Dispose();
        return ValueTask.CompletedTask;
    }

    [Fact]
    public async Task What_is_proposed_is_accepted_undone_and_gone_back_to_and_the_voice_follows()
    {
        var view = await ida.CallAsync(HttpMethod.Get, Edits);
        Length(view).ShouldBe((13.4, 13.4));
        view.GetProperty("proposals").EnumerateArray().Select(p => p.GetProperty("key").GetProperty("kind").GetString())
            .ShouldBe(["Beginning", "Silence", "Ending"]);
        foreach (var proposal in view.GetProperty("proposals").EnumerateArray())
        {
            view = await DoAsync(view, new { @do = "accept", proposals = new[] { new { key = proposal.GetProperty("key") } } });
        }

        Length(view).Lesson.ShouldBe(13.4 - 2.7 - 1.6 - 3.5, 0.1, "0.3 s before the words, 0.4 s between them, 0.5 s after them");
        view.GetProperty("proposals").GetArrayLength().ShouldBe(0);
        view.GetProperty("edits").EnumerateArray().Select(e => e.GetProperty("kind").GetString()).ShouldBe(["TakenOut", "MadeShort", "TakenOut"]);
        var voice = await ida.Http.GetByteArrayAsync($"/lessons/{lesson:N}/voice.wav");
        ((voice.Length - 44) / 96_000.0).ShouldBe(Length(view).Lesson, 0.01);

        view = await ida.CallAsync(HttpMethod.Post, $"{Edits}/go-to", new { number = 1, version = 3 });
        Length(view).Lesson.ShouldBe(13.4 - 2.7, 0.1);
        (view.GetProperty("version").GetInt32(), view.GetProperty("canRedo").GetBoolean()).ShouldBe((1, true));
        view.GetProperty("steps").EnumerateArray().Select(s => s.GetProperty("said").GetString()!.Split(' ')[0]).ShouldBe(["Took", "Made", "Took"]);
        view = await ida.CallAsync(HttpMethod.Post, $"{Edits}/go-to", new { number = 0, version = 1 });
        Length(view).ShouldBe((13.4, 13.4));
        view.GetProperty("canUndo").GetBoolean().ShouldBeFalse();
    }

    [Fact]
    public async Task A_stretch_is_taken_out_and_put_back()
    {
        var view = await DoAsync(await ida.CallAsync(HttpMethod.Get, Edits), new { @do = "takeOut", fromMs = 2000, toMs = 4000 });
        Length(view).ShouldBe((11.4, 13.4));
        var cut = view.GetProperty("edits")[0];
        var source = cut.GetProperty("source").EnumerateArray().Select(s => s.GetInt64()).ToArray();
        source.ShouldBe([96_000, 192_000]);
        view = await DoAsync(view, new { @do = "putBack", kind = "TakenOut", take, source = new { start = source[0], end = source[1] } });
        Length(view).ShouldBe((13.4, 13.4));
    }

    [Fact]
    public async Task A_stretch_is_said_again_and_what_was_there_comes_back_when_it_is_undone_put_back_or_put_aside()
    {
        // The second phrase, from 7.2 to 9.4 s, again in 3 s; its chapter and a stop in it are where the new one begins, and behind it.
        var view = await DoAsync(await ida.CallAsync(HttpMethod.Get, Edits), new { @do = "addStop", id = Guid.NewGuid(), atMs = 9000 });
        var again = await RecordAsync(
            app, lesson, [.. Speech(0.3, 0), .. Speech(2.4), .. Speech(0.3, 0)], true, new PlaceTaken(0, take, 7 * 48_000, take, 10 * 48_000));
        view = await ida.CallAsync(HttpMethod.Get, Edits);
        Length(view).ShouldBe((13.4, 13.4));
        var edit = view.GetProperty("edits").EnumerateArray().ShouldHaveSingleItem();
        (edit.GetProperty("kind").GetString(), edit.GetProperty("atMs").GetDouble(), edit.GetProperty("lengthMs").GetDouble())
            .ShouldBe(("SaidAgain", 7000, 3000));
        view.GetProperty("stops")[0].GetProperty("atMs").GetDouble().ShouldBe(10_000);
        view.GetProperty("steps").EnumerateArray().Last().GetProperty("said").GetString().ShouldBe("Said 3.0 s again at 0:07");
        (await PiecesAsync()).ShouldBe([(take, 0, 336_000), (again, 0, 144_000), (take, 480_000, 643_200)]);

        (long, long)[] whole = [(0, 643_200)];
        var undone = await ida.CallAsync(HttpMethod.Post, $"{Edits}/go-to", new { number = 1, version = view.GetProperty("version").GetInt32() });
        (await PiecesAsync()).Select(p => (p.From, p.To)).ShouldBe(whole, "undone it is in the lesson nowhere");
        view = await ida.CallAsync(HttpMethod.Post, $"{Edits}/go-to", new { number = 2, version = undone.GetProperty("version").GetInt32() });
        await DoAsync(view, new { @do = "putBack", kind = "SaidAgain", take = again, source = new { start = 0, end = 144_000 } });
        (await PiecesAsync()).Select(p => (p.From, p.To)).ShouldBe(whole, "put back");

        await ida.CallAsync(HttpMethod.Post, $"{Edits}/go-to", new { number = 2, version = 3 });
        using var aside = await ida.SendAsync(HttpMethod.Delete, $"/api/lessons/{lesson}/takes/{again}");
        aside.EnsureSuccessStatusCode();
        (await PiecesAsync()).Select(p => (p.From, p.To)).ShouldBe(whole, "put aside");
        using var restored = await ida.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes/{again}/restore");
        restored.EnsureSuccessStatusCode();
        (await PiecesAsync()).Count.ShouldBe(3, "and put back it is there again");
    }

    [Fact]
    public async Task What_holds_only_this_time_is_left_out_or_in_or_holds_always()
    {
        // A second take of 5 s, of which 2 s hold only this time.
        await RecordAsync(
            app, lesson, [.. Speech(5)], true, new NoteMade(1000, 1, "once", "", 0), new NoteOver(3000, 1));
        var view = await ida.CallAsync(HttpMethod.Get, Edits);
        Length(view).Lesson.ShouldBe(18.4);
        view = await DoAsync(view, new { @do = "leaveOutTemporary", isOut = true });
        Length(view).Lesson.ShouldBe(16.4, 0.02);
        view.GetProperty("leavesOutTemporary").GetBoolean().ShouldBeTrue();
        var edit = view.GetProperty("edits").EnumerateArray().ShouldHaveSingleItem();
        edit.GetProperty("kind").GetString().ShouldBe("OnlyThisTime");
        (await RefusedAsync(view, new { @do = "leaveOutTemporary", isOut = true })).ShouldContain("changed meanwhile");
        var source = edit.GetProperty("source");
        var always = new { start = source[0].GetInt64(), end = source[1].GetInt64() };
        view = await DoAsync(view, new { @do = "putBack", kind = "OnlyThisTime", take = edit.GetProperty("take").GetGuid(), source = always });
        Length(view).Lesson.ShouldBe(18.4);
        var page = await ida.Http.GetStringAsync($"/lessons/{lesson:N}/publish");
        page.ShouldNotContain("only this time");
    }

    private async Task<IReadOnlyList<(Guid Take, long From, long To)>> PiecesAsync()
    {
        var file = JsonDocument.Parse(await ida.Http.GetStringAsync($"/lessons/{lesson:N}/timeline.json")).RootElement;
        return
        [
            .. from placement in file.GetProperty("placements").EnumerateArray()
               let source = placement.GetProperty("pieces")[0].GetProperty("source")
               select (placement.GetProperty("take").GetGuid(), source[0].GetInt64(), source[1].GetInt64()),
        ];
    }

    [Fact]
    public async Task What_two_windows_do_at_once_is_done_once_and_what_cannot_be_done_says_why()
    {
        var view = await ida.CallAsync(HttpMethod.Get, Edits);
        await DoAsync(view, new { @do = "takeOut", fromMs = 2000, toMs = 4000 });
        (await RefusedAsync(view, new { @do = "takeOut", fromMs = 6000, toMs = 7000 })).ShouldContain("another window");
        (await RefusedAsync(view, new { @do = "takeOut", fromMs = 0, toMs = 20_000 })).ShouldContain("whole lesson");
        using var unknown = await ida.SendAsync(HttpMethod.Post, Edits, new { version = 1, step = new { @do = "nothing" } });
        unknown.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        var ben = await app.SignInAsync("ben@example.org");
        using var strange = await ben.SendAsync(HttpMethod.Get, Edits);
        strange.StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task The_waveform_comes_in_pieces()
    {
        async Task<byte[]> PeaksAsync(int resolution, int from, int count) =>
            await ida.Http.GetByteArrayAsync($"/lessons/{lesson:N}/peaks/{take:N}/{resolution}?from={from}&count={count}");
        var whole = await PeaksAsync(0, 0, 10_000);
        whole.Length.ShouldBe((int)(13.4 * 200) * 4, "two numbers of 16 bit for each 5 ms");
        (await PeaksAsync(0, 700, 10)).ShouldBe(whole[2800..2840]);
        (await PeaksAsync(1, 0, 10_000)).Length.ShouldBe((int)(13.4 * 20) * 4);
        (await PeaksAsync(0, 1_000_000, 10)).ShouldBeEmpty();
        (await PeaksAsync(0, -5, -5)).ShouldBeEmpty();
        using var none = await ida.SendAsync(HttpMethod.Get, $"/lessons/{lesson:N}/peaks/{Guid.NewGuid():N}/0?from=0&count=1");
        none.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        using var coarse = await ida.SendAsync(HttpMethod.Get, $"/lessons/{lesson:N}/peaks/{take:N}/{Waveform.Resolutions}?from=0&count=1");
        coarse.StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    private static (double Lesson, double Whole) Length(JsonElement view)
    {
        double Seconds(string name) => Math.Round(view.GetProperty(name).GetDouble() / 1000, 2);
        return (Seconds("lengthMs"), Seconds("wholeMs"));
    }

    private Task<JsonElement> DoAsync(JsonElement view, object step) => ida.CallAsync(HttpMethod.Post, Edits, Body(view, step));

    private Task<string> RefusedAsync(JsonElement view, object step) => ida.RefusalAsync(HttpMethod.Post, Edits, Body(view, step));

    private static object Body(JsonElement view, object step) => new { version = view.GetProperty("version").GetInt32(), step };
}
