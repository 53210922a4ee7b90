using System.Net;
using System.Net.Http.Headers;
using System.Runtime.InteropServices;
using System.Text.Json;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Publishing;
using ArchTalk.Web.Recording;
using ArchTalk.Web.Timelines;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging.Abstractions;
using static ArchTalk.Tests.Sounds;

namespace ArchTalk.Web.Tests;

/// <summary>A lesson's voice: measured as it comes, heard at once, made ready, published and shared.</summary>
public sealed class VoiceTests : IAsyncLifetime
{
    private readonly App app = new();
    private Client ida = null!;
    private Guid lesson;

    private string Api => $"/api/lessons/{lesson}";

    private LessonFiles Files => app.Services.GetRequiredService<LessonFiles>();

    // Of bytes; without a beginning, the last so many.
    private static readonly (long? From, long? To)[] Pieces =
        [(0, 99), (43, 45), (44, 44), (45, 100_000), (100_001, 300_000), (383_000, null), (null, 7)];

    private string Preview => $"/lessons/{lesson:N}/voice.wav";

    public async ValueTask InitializeAsync()
    {
        ida = await app.SignInAsync("ida@example.org");
        lesson = await ida.CreateLessonAsync("Arch");
        await ida.CallAsync(HttpMethod.Post, $"{Api}/boards", new { title = "One" });
    }

    public ValueTask DisposeAsync()
    {
        app.Dispose();
        return ValueTask.CompletedTask;
    }

    private Task<Guid> RecordAsync(short[] sound, bool ends = true) => Spoken.RecordAsync(app, lesson, sound, ends);

    private async Task<byte[]> HearAsync(string query = "", long? from = null, long? to = null)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, Preview + query);
        if (from is not null || to is not null)
        {
            request.Headers.Range = new RangeHeaderValue(from, to);
        }

        using var answer = await ida.Http.SendAsync(request);
        answer.StatusCode.ShouldBe(from is null && to is null ? HttpStatusCode.OK : HttpStatusCode.PartialContent);
        return await answer.Content.ReadAsByteArrayAsync();
    }

    private static short[] SamplesOf(byte[] wav) => MemoryMarshal.Cast<byte, short>(wav.AsSpan(WavFile.HeaderSize)).ToArray();

    private async Task SaveEditsAsync(EditList edits, int version) =>
        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/Edits", new { content = edits, version });

    private Task<VoiceMix> MixAsync() => app.Services.GetRequiredService<LessonVoices>().MixAsync(lesson, CancellationToken.None);

    private async Task<string> PublishAsync(int number)
    {
        await app.WithAsync(async s => await s.GetRequiredService<PublishingService>().PublishAsync(lesson, CancellationToken.None));
        await app.RunJobsAsync();
        var job = await app.QueryAsync(db => db.Jobs.OrderBy(j => j.CreatedAt).LastAsync(j => j.Kind == JobKind.Publish));
        job.State.ShouldBe(JobState.Done, $"{job.Message} {string.Join('\n', app.Log)}");
        return Files.Publication(lesson, number);
    }

    private static TimeRange<TakeTime> From(double from, double to) => new(TakeTime.FromSeconds(from), TakeTime.FromSeconds(to));

    [Fact]
    public async Task The_preview_is_there_at_once_in_any_piece_and_leaves_nothing_on_the_disk()
    {
        var sound = Speech(4);
        await RecordAsync(sound);
        var whole = await HearAsync();

        whole.Length.ShouldBe(WavFile.HeaderSize + (sound.Length * 2));
        foreach (var (from, to) in Pieces)
        {
            var first = from ?? whole.Length - to!.Value;
            var last = from is null || to is null ? whole.Length - 1 : to.Value;
            (await HearAsync("", from, to)).SequenceEqual(whole[(int)first..(int)(last + 1)]).ShouldBeTrue($"{from}-{to}");
        }

        using var beyond = new HttpRequestMessage(HttpMethod.Get, Preview) { Headers = { Range = new RangeHeaderValue(whole.Length, null) } };
        (await ida.Http.SendAsync(beyond)).StatusCode.ShouldBe(HttpStatusCode.RequestedRangeNotSatisfiable);
        using var head = await ida.Http.SendAsync(new HttpRequestMessage(HttpMethod.Head, Preview));
        head.Content.Headers.ContentLength.ShouldBe(whole.Length);
        head.Content.Headers.ContentType!.MediaType.ShouldBe("audio/wav");
        Directory.GetFileSystemEntries(Files.Lesson(lesson)).Select(Path.GetFileName).ShouldBe(["takes"]);
    }

    [Fact]
    public async Task As_it_was_recorded_it_is_sample_for_sample_and_any_stretch_of_the_lesson_or_of_a_take_is_heard_by_itself()
    {
        var (one, two) = (Speech(3), Speech(2, 0.02, 5));
        await RecordAsync(one);
        var second = await RecordAsync(two);
        short[] both = [.. one, .. two];
        var fade = (int)LessonVoice.HalfFade.Samples * 2;

        var recorded = SamplesOf(await HearAsync("?as=Recorded"));
        recorded[..(one.Length - fade)].ShouldBe(one[..^fade]);
        recorded[(one.Length + fade)..].ShouldBe(two[fade..]);
        SamplesOf(await HearAsync("?as=Recorded&from=500&to=1250")).ShouldBe(both[24_000..60_000]);
        SamplesOf(await HearAsync($"?as=Recorded&take={second}&from=1000&to=1500")).ShouldBe(two[48_000..72_000]);
        SamplesOf(await HearAsync($"?as=Recorded&take={second}")).ShouldBe(two);
        var preview = SamplesOf(await HearAsync());
        SamplesOf(await HearAsync("?from=3100&to=4000")).ShouldBe(preview[(31 * 4800)..(40 * 4800)]);
        SamplesOf(await HearAsync("?from=4000&to=99999999")).ShouldBe(preview[(40 * 4800)..]);

        (await ida.RefusalAsync(HttpMethod.Get, $"{Preview}?take={Guid.NewGuid()}")).ShouldContain("not in the lesson any more");
        (await ida.RefusalAsync(HttpMethod.Get, $"{Preview}?from=900&to=400")).ShouldContain("ends before it begins");
    }

    [Fact]
    public async Task An_edit_is_heard_at_once_and_the_tag_says_so()
    {
        var sound = Speech(6);
        var take = new TakeId(await RecordAsync(sound));
        async Task<string> TagAsync() => (await ida.Http.GetAsync(Preview)).Headers.ETag!.Tag;
        var before = await TagAsync();
        (await TagAsync()).ShouldBe(before);
        using var known = new HttpRequestMessage(HttpMethod.Get, Preview) { Headers = { IfNoneMatch = { new EntityTagHeaderValue(before) } } };
        (await ida.Http.SendAsync(known)).StatusCode.ShouldBe(HttpStatusCode.NotModified);

        await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/Chapters", new { content = Array.Empty<object>(), version = 0 });
        (await TagAsync()).ShouldBe(before, "another chapter sounds the same");
        await SaveEditsAsync(new EditList { Cuts = [new Cut(take, From(1, 3))], Mutes = [new Mute(take, From(4, 5))] }, 0);
        (await TagAsync()).ShouldNotBe(before);
        var heard = SamplesOf(await HearAsync("?as=Recorded"));
        var fade = (int)LessonVoice.HalfFade.Samples;
        heard.Length.ShouldBe(4 * Clock.SampleRate);
        heard[..(Clock.SampleRate - fade)].ShouldBe(sound[..(Clock.SampleRate - fade)]);
        heard[((2 * Clock.SampleRate) + fade)..((3 * Clock.SampleRate) - fade)].ShouldAllBe(s => s == 0);
        heard[((3 * Clock.SampleRate) + fade)..].ShouldBe(sound[((5 * Clock.SampleRate) + fade)..]);
        await ida.CallAsync(HttpMethod.Post, $"{Api}/sections/Edits/undo", new { version = 1 });
        (await TagAsync()).ShouldBe(before);
    }

    [Fact]
    public async Task A_take_is_measured_as_it_comes_and_the_same_is_measured_from_its_journal()
    {
        var take = await RecordAsync(Speech(7.3));
        var kept = await File.ReadAllBytesAsync(Files.Measures(lesson, take));
        File.Delete(Files.Measures(lesson, take));
        (await ida.CallAsync(HttpMethod.Get, $"{Api}/voice")).GetProperty("recordedLufs").GetDouble().ShouldBeInRange(-30, -10);

        (await File.ReadAllBytesAsync(Files.Measures(lesson, take))).ShouldBe(kept);
        await File.WriteAllTextAsync(Files.Measures(lesson, take), "something else");
        await RecordAsync(Speech(1));
        SamplesOf(await HearAsync()).Length.ShouldBe((int)(8.3 * Clock.SampleRate), "a damaged file is measured anew");
    }

    [Fact]
    public async Task A_server_that_was_started_again_in_the_middle_of_a_take_catches_up_and_an_unfinished_one_is_heard()
    {
        var sound = Speech(5);
        var take = await RecordAsync(sound, ends: false);
        SamplesOf(await HearAsync("?as=Recorded")).ShouldBe(sound);
        File.Exists(Files.Measures(lesson, take)).ShouldBeFalse();
        await app.Services.GetRequiredService<TakeJournals>().CloseAsync(take);

        var open = await app.WithAsync(s => s.GetRequiredService<RecordingService>().ReopenAsync(lesson, take, CancellationToken.None));
        var rest = new JournalRecord(JournalRecordKind.End, (ushort)open.Epoch, open.Next, default);
        await app.WithAsync(async s =>
        {
            var recording = s.GetRequiredService<RecordingService>();
            return await recording.AppendAsync((await recording.AdmitAsync(take, open.Token, default))!, open.Token, rest.ToBytes(), default);
        });
        File.Exists(Files.Measures(lesson, take)).ShouldBeTrue();
    }

    /// <summary>Row C12: handles of takes that nobody finished stayed open.</summary>
    [Fact]
    public async Task The_journal_of_a_take_that_nobody_goes_on_with_is_closed_after_a_while()
    {
        var clock = new ManualClock();
        var sounds = app.Services.GetRequiredService<TakeSounds>();
        using var journals = new TakeJournals(Files, sounds, clock);
        var take = Guid.NewGuid();
        (await journals.UseAsync(lesson, take, j => Task.FromResult(j.NextSequence), default)).ShouldBe(0u);
        clock.Advance(TimeSpan.FromMinutes(9));
        journals.Open.ShouldBe(1);
        clock.Advance(TimeSpan.FromMinutes(30));
        journals.Open.ShouldBe(0);
        (await journals.UseAsync(lesson, take, j => Task.FromResult(j.NextSequence), default)).ShouldBe(0u, "it is opened again");
    }

    [Fact]
    public async Task The_gain_of_a_lesson_is_kept_as_long_as_its_level_stays()
    {
        var take = new TakeId(await RecordAsync([.. Speech(20, 0.05), .. Speech(20, 0.08)]));
        var first = await MixAsync();
        (first.Lufs!.Value + first.GainDb).ShouldBe(VoiceLevel.TargetLufs, 0.01);
        await SaveEditsAsync(new EditList { Cuts = [new Cut(take, From(1, 3))] }, 0);
        var second = await MixAsync();
        second.Lufs.ShouldNotBe(first.Lufs);
        second.GainDb.ShouldBe(first.GainDb);

        // As when something else were learnt: what is off by more is brought back.
        await app.QueryAsync(db => db.Lessons.ExecuteUpdateAsync(s => s.SetProperty(l => l.VoiceShiftLu, 1.2)));
        (await MixAsync()).GainDb.ShouldBe(VoiceLevel.TargetLufs - second.Lufs!.Value - 1.2, 1e-6);
    }

    /// <summary>AES TD1008: -18 LUFS within 0.5 LU and at most -1 dBTP, on what students decode, by ffmpeg.</summary>
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task What_students_hear_is_at_one_level(bool isFiltered)
    {
        short Knocked(short s, int i) => (short)Math.Clamp(s + (i % 40_000 < 30 ? 20_000 : 0), short.MinValue, short.MaxValue);
        short[] shouted = [.. Speech(9, 0.35, 3).Select(Knocked)];
        await RecordAsync(Speech(12, 0.008));
        await RecordAsync(shouted);
        await RecordAsync([.. Speech(12, 0.1), .. Speech(15, 0.02), .. Speech(8, 0.1)]);
        if (isFiltered)
        {
            await ida.CallAsync(
                HttpMethod.Put, $"{Api}/sections/Voice", new { content = new VoiceSettings(true, true, true), version = 0 });
        }

        var folder = await PublishAsync(1);
        foreach (var name in Voice.CopyNames)
        {
            var decoded = await app.Services.GetRequiredService<Voice>().DecodeAsync(Path.Combine(folder, name), default);
            var meter = new TakeMeter();
            meter.Add(decoded);
            meter.Measures().Loudness!.Value.ShouldBe(VoiceLevel.TargetLufs, VoiceLevel.Tolerance, name);
            TruePeak.Decibels(meter.Measures().TruePeak).ShouldBeLessThanOrEqualTo(VoiceLevel.HighestPeakDb, name);
        }
    }

    /// <summary>A sound that no gain brings to the level, because its peaks are held, is published all the same.</summary>
    [Fact]
    public async Task What_can_not_be_brought_to_the_level_is_published_as_near_as_it_comes()
    {
        var random = new Random(5);
        var sound = Enumerable.Range(0, 12 * Clock.SampleRate).Select(i => (short)(random.Next(-40, 41)
            + (i % Clock.SampleRate < 240 ? (i / 24 % 2 == 0 ? 20_000 : -20_000) * (1 - (i % Clock.SampleRate / 240.0)) : 0))).ToArray();
        await RecordAsync(sound);
        File.Exists(Path.Combine(await PublishAsync(1), "voice.webm")).ShouldBeTrue();
    }

    [Fact]
    public async Task With_the_filters_a_minute_is_heard_as_students_do()
    {
        var hummed = Speech(4).Select((s, i) => (short)(s + (800 * Math.Sin(2 * Math.PI * 50 * i / 48_000.0)))).ToArray();
        await RecordAsync([.. hummed, .. hummed]);
        var facts = await ida.CallAsync(HttpMethod.Get, $"{Api}/voice");
        facts.GetProperty("hum").GetProperty("hertz").GetInt32().ShouldBe(50);
        var plain = SamplesOf(await HearAsync("?as=Students&from=2200&to=3000"));
        await ida.CallAsync(
            HttpMethod.Put, $"{Api}/sections/Voice", new { content = new VoiceSettings(false, HumOut: true, false), version = 0 });
        var filtered = SamplesOf(await HearAsync("?as=Students&from=2200&to=3000"));

        plain.Length.ShouldBe(filtered.Length);
        double Power(short[] s) => s.Average(v => (double)v * v);
        (10 * Math.Log10(Power(plain) / Power(filtered))).ShouldBeGreaterThan(20);
        SamplesOf(await HearAsync("?from=2200&to=3000")).ShouldBe(plain, "the whole lesson is heard without them");
    }

    private static ulong PlaceOf(string folder, string name) => SharedFiles.Identity(Path.Combine(folder, name)).Place;

    [Fact]
    public async Task The_voice_is_encoded_once_for_what_it_sounds_like_and_the_tenth_publication_costs_little()
    {
        var take = new TakeId(await RecordAsync(Speech(5)));
        var first = await PublishAsync(1);
        var bytes = Directory.GetFiles(first, "*", SearchOption.AllDirectories).Sum(f => new FileInfo(f).Length);
        for (var number = 2; number <= 10; number++)
        {
            object[] chapters = [new { id = Guid.NewGuid(), title = $"Part {number}", take = (Guid?)null, takeSample = 0 }];
            await ida.CallAsync(HttpMethod.Put, $"{Api}/sections/Chapters", new { content = chapters, version = number - 2 });
            var folder = await PublishAsync(number);
            foreach (var name in Voice.CopyNames)
            {
                PlaceOf(folder, name).ShouldBe(PlaceOf(first, name));
            }
        }

        var places = new HashSet<ulong>();
        var all = Directory.GetFiles(Path.GetDirectoryName(first)!, "*", SearchOption.AllDirectories)
            .Select(SharedFiles.Identity).Where(f => places.Add(f.Place)).Sum(f => f.Bytes);
        all.ShouldBeLessThan(bytes * 2, "ten of them");
        await SaveEditsAsync(new EditList { Cuts = [new Cut(take, From(1, 2))] }, 0);
        PlaceOf(await PublishAsync(11), "voice.m4a").ShouldNotBe(PlaceOf(first, "voice.m4a"));
        Directory.GetDirectories(Files.Encoded(lesson)).Length.ShouldBe(1, "what the lesson no longer sounds like is kept by its versions only");
        PlaceOf(first, "voice.m4a");
    }

    [Fact]
    public async Task Copies_are_made_some_time_after_the_last_change_and_publishing_takes_them()
    {
        var clock = new ManualClock();
        using var worker = new VoiceWorker(
            app.Services.GetRequiredService<IDbContextFactory<Data.ArchTalkDb>>(),
            app.Services.GetRequiredService<LessonCompiler>(),
            app.Services.GetRequiredService<LessonVoices>(),
            app.Services.GetRequiredService<VoiceCopies>(),
            clock,
            NullLogger<VoiceWorker>.Instance);
        var copies = app.Services.GetRequiredService<VoiceCopies>();
        await worker.StepAsync(default);
        var take = new TakeId(await RecordAsync(Speech(5)));
        await worker.StepAsync(default);
        clock.Advance(TimeSpan.FromSeconds(12));
        await SaveEditsAsync(new EditList { Cuts = [new Cut(take, From(1, 2))] }, 0);
        await worker.StepAsync(default);
        clock.Advance(TimeSpan.FromSeconds(12));
        await worker.StepAsync(default);
        copies.IsMaking(lesson).ShouldBeFalse("12 s after the last change");

        clock.Advance(TimeSpan.FromSeconds(9));
        await worker.StepAsync(default);
        await worker.Making;
        copies.AreThere(await MixAsync()).ShouldBeTrue();
        var made = Directory.GetDirectories(Files.Encoded(lesson)).ShouldHaveSingleItem();
        PlaceOf(await PublishAsync(1), "voice.webm").ShouldBe(PlaceOf(made, "voice.webm"));
        clock.Advance(TimeSpan.FromMinutes(5));
        await worker.StepAsync(default);
        await worker.Making;
        Directory.GetDirectories(Files.Encoded(lesson)).ShouldBe([made], "nothing is made twice");
    }

    [Fact]
    public async Task What_is_made_ahead_of_time_is_given_up_when_the_lesson_changes_unless_somebody_waits_for_it()
    {
        var take = new TakeId(await RecordAsync(Speech(200)));
        var copies = app.Services.GetRequiredService<VoiceCopies>();
        var compiler = app.Services.GetRequiredService<LessonCompiler>();
        var before = await compiler.CompileAsync(lesson, default);
        var ahead = copies.MakeAheadAsync(before, default);
        await SaveEditsAsync(new EditList { Cuts = [new Cut(take, From(1, 2))] }, 0);
        await UntilAsync(() => copies.IsMaking(lesson));
        await copies.StopOutdatedAsync(await MixAsync());
        await Should.ThrowAsync<OperationCanceledException>(() => ahead);
        await UntilAsync(() => !copies.IsMaking(lesson));
        Directory.GetFileSystemEntries(Files.Encoded(lesson)).ShouldBeEmpty();

        var target = Directory.CreateDirectory(Path.Combine(app.DataFolder, "target")).FullName;
        var waited = copies.PutAsync(before, target, _ => { }, default);
        await UntilAsync(() => copies.IsMaking(lesson));
        await copies.StopOutdatedAsync(await MixAsync());
        await waited;
        Voice.CopyNames.ShouldAllBe(n => File.Exists(Path.Combine(target, n)));

        using var cancel = new CancellationTokenSource();
        var cancelled = copies.PutAsync(await compiler.CompileAsync(lesson, default), target, _ => cancel.Cancel(), cancel.Token);
        await Should.ThrowAsync<OperationCanceledException>(() => cancelled);
        await UntilAsync(() => !copies.IsMaking(lesson));
        Directory.GetDirectories(Files.Encoded(lesson)).Length.ShouldBe(1, "nothing half made stays");
    }

    private static async Task UntilAsync(Func<bool> holds)
    {
        for (var i = 0; i < 600 && !holds(); i++)
        {
            await Task.Delay(50);
        }

        holds().ShouldBeTrue();
    }
}
