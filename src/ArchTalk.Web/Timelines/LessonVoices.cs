using System.Runtime.InteropServices;
using ArchTalk.Core;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Time;
using ArchTalk.Data;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Recording;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Timelines;

/// <summary>What is done to a voice that is listened to.</summary>
public enum VoiceAs
{
    /// <summary>At the level at which students hear it; without the filters, which take their time.</summary>
    Preview = 0,

    /// <summary>As it was recorded.</summary>
    Recorded = 1,

    /// <summary>With everything that students hear; for a minute at most.</summary>
    Students = 2,
}

/// <summary>What a teacher is told of a lesson's voice.</summary>
/// <param name="RecordedLufs">How loud it was recorded, the loudest take; null when nobody speaks.</param>
/// <param name="Hum">The hum that was heard.</param>
public sealed record VoiceFacts(double? RecordedLufs, double TargetLufs, Hum? Hum);

/// <summary>How a lesson's voice is asked for.</summary>
/// <param name="Take">A stretch of this take alone, in take time; null for the lesson, in lesson time.</param>
/// <param name="FromMs">Where the stretch begins; null for the beginning.</param>
/// <param name="ToMs">Where it ends; null for the end.</param>
public sealed record VoiceAsked(Guid? Take, double? FromMs, double? ToMs, VoiceAs As);

/// <summary>A voice as an answer.</summary>
/// <param name="Tag">Another for other samples.</param>
public sealed record VoiceAnswer(Stream Wav, string Tag);

/// <summary>The voices of lessons: how each sounds, heard at once, and silences found in it.</summary>
public sealed class LessonVoices(
    IServiceScopeFactory scopes, LessonCompiler compiler, TakeSounds sounds, Voice programs, LessonFiles files, ComputedCache cache)
{
    // What goes through the filters is answered whole.
    private static readonly Duration LongestFiltered = Duration.FromSeconds(60);

    // What is kept of a mix beside the takes: its stretches.
    private const int BytesOfMix = 20_000;
    private const int BytesOfStretch = 64;
    private const int BytesOfSecond = 12;

    /// <summary>How a lesson sounds now. Its gain is kept with the lesson when it has to change.</summary>
    public async Task<VoiceMix> MixAsync(Guid lesson, CancellationToken cancel) =>
        await MixAsync(await compiler.CompileAsync(lesson, cancel), cancel);

    /// <summary>How a compiled lesson sounds.</summary>
    public async Task<VoiceMix> MixAsync(CompiledLesson compiled, CancellationToken cancel)
    {
        var lesson = compiled.Key.Lesson;
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<ArchTalkDb>();
        var kept = await db.Lessons.Where(l => l.Id == lesson).Select(l => new { l.VoiceGainDb, l.VoiceShiftLu }).SingleAsync(cancel);
        var unraised = await cache.GetAsync((compiled.Key, "mix"), () => UnraisedAsync(compiled), cancel);

        // What the filters and held peaks do to the loudness is known once a copy was made.
        var gain = VoiceLevel.Gain(kept.VoiceGainDb, unraised.Lufs + (kept.VoiceShiftLu ?? 0));
        if (kept.VoiceGainDb is not { } before || before != gain)
        {
            await db.Lessons.Where(l => l.Id == lesson).ExecuteUpdateAsync(s => s.SetProperty(l => l.VoiceGainDb, gain), cancel);
        }

        return unraised with { GainDb = gain };
    }

    /// <summary>
    /// Takes in how loud a copy came out. False when that is too far from what it should be: with what was learnt the gain is another,
    /// and the copy is to be made again.
    /// </summary>
    public async Task<bool> LearnAsync(VoiceMix mix, double? lufs, CancellationToken cancel)
    {
        if (mix.Lufs is not { } promised || lufs is not { } made)
        {
            return true;
        }

        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<ArchTalkDb>();
        var shift = made - (promised + mix.GainDb);
        await db.Lessons.Where(l => l.Id == mix.Lesson).ExecuteUpdateAsync(s => s.SetProperty(l => l.VoiceShiftLu, shift), cancel);
        return Math.Abs(made - VoiceLevel.TargetLufs) <= VoiceLevel.Tolerance;
    }

    /// <summary>
    /// The voice as a WAV file whose bytes are worked out as they are read: any stretch of the lesson, or of one take.
    /// </summary>
    /// <exception cref="Refusal">There is no such take, or the stretch is none.</exception>
    public async Task<VoiceAnswer> HearAsync(Guid lesson, VoiceAsked asked, CancellationToken cancel)
    {
        var mix = await MixAsync(lesson, cancel);
        var plan = asked.Take is { } take ? PlanOf(mix, new TakeId(take)) : mix.Plan;
        var (from, to) = Stretch(asked, plan.Length);
        var tag = $"{mix.NameAs(asked.As)}-{asked.Take:N}-{from.Samples}-{to.Samples}";
        var stretch = new TimeRange<LessonTime>(from, to);
        var open = mix.Open(files, plan);
        if (asked.As == VoiceAs.Students && mix.Filters.Length > 0)
        {
            using (open)
            {
                return new VoiceAnswer(await FilteredAsync(mix, open.Levelled, stretch, cancel), tag);
            }
        }

        IVoice voice = asked.As == VoiceAs.Recorded ? open.Recorded : new LimitedVoice(open.Levelled, mix.GainDb, VoiceLevel.CeilingDb);
        return new VoiceAnswer(new WavStream(new PartOfVoice(voice, stretch), open), tag);
    }

    /// <summary>What a teacher is told of a lesson's voice.</summary>
    public async Task<VoiceFacts> FactsAsync(Guid lesson, CancellationToken cancel)
    {
        var takes = (await MixAsync(lesson, cancel)).Takes.Values.Select(t => t.Measures).ToArray();
        return new VoiceFacts(takes.Max(t => t.Loudness), VoiceLevel.TargetLufs, takes.Select(t => t.Hum).OfType<Hum>().MaxBy(h => h.Decibels));
    }

    /// <summary>The silences of a compiled lesson, in order.</summary>
    public async Task<IReadOnlyList<TimeRange<LessonTime>>> SilencesAsync(CompiledLesson compiled, CancellationToken cancel)
    {
        var mix = await MixAsync(compiled, cancel);
        return LessonSilences.Of(compiled.Arrangement, take => mix.Takes[take].Measures);
    }

    private async Task<Stream> FilteredAsync(VoiceMix mix, IVoice voice, TimeRange<LessonTime> stretch, CancellationToken cancel)
    {
        if (stretch.End - stretch.Start > LongestFiltered)
        {
            throw new Refusal("With the filters a minute can be heard at once. Choose a shorter stretch.");
        }

        var samples = await programs.HearAsync(voice, stretch, mix.GainDb, mix.Filters, cancel);
        return new MemoryStream([.. WavFile.Header(new Duration(samples.Length)), .. MemoryMarshal.AsBytes(samples.AsSpan())]);
    }

    private static VoicePlan PlanOf(VoiceMix mix, TakeId take) => mix.Takes.TryGetValue(take, out var part)
        ? VoicePlan.Of(take, new(TakeTime.Zero, part.Log.End))
        : throw new Refusal("This take is not in the lesson any more. Reload the page to see the lesson as it is.");

    private static (LessonTime From, LessonTime To) Stretch(VoiceAsked asked, Duration length)
    {
        var end = LessonTime.Zero + length;
        LessonTime Place(double ms) => ms * Clock.SamplesPerMillisecond < length.Samples ? LessonTime.FromMilliseconds(ms) : end;
        if (asked.FromMs is < 0 or double.NaN || asked.ToMs is < 0 or double.NaN || asked.ToMs < asked.FromMs)
        {
            throw new Refusal("The stretch ends before it begins. Choose it again.");
        }

        return (Place(asked.FromMs ?? 0), asked.ToMs is { } to ? Place(to) : end);
    }

    private async Task<(VoiceMix Mix, long Bytes)> UnraisedAsync(CompiledLesson compiled)
    {
        var takes = new Dictionary<TakeId, TakePart>();
        foreach (var log in compiled.Arrangement.Placements.Select(p => p.Log).DistinctBy(l => l.Id))
        {
            var measures = await sounds.MeasuresAsync(compiled.Key.Lesson, log, CancellationToken.None);
            var curve = await cache.GetAsync((log.Id, "curve", log.Length), () =>
            {
                var worked = GainCurve.Of(measures);
                return Task.FromResult((worked, (long)BytesOfSecond * worked.Decibels.Count));
            }, CancellationToken.None);
            takes[log.Id] = new TakePart(log, measures, curve);
        }

        await using var scope = scopes.CreateAsyncScope();
        var settings = await scope.ServiceProvider.GetRequiredService<SectionService>().VoiceAsync(compiled.Key.Lesson, CancellationToken.None);
        var plan = VoicePlan.Of(compiled.Arrangement);
        var lufs = VoiceLevel.Expected(plan, take => takes[take].Measures, take => takes[take].Curve);
        var mix = new VoiceMix(compiled.Key.Lesson, plan, takes, settings, lufs, GainDb: 0);
        return (mix, BytesOfMix + (BytesOfStretch * (long)plan.Stretches.Count));
    }
}
