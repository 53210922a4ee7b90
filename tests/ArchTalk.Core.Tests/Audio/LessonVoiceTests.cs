using ArchTalk.Core.Audio;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Demo;
using ArchTalk.Tests;

namespace ArchTalk.Core.Tests.Audio;

/// <summary>
/// What is heard at the joins. The bound for "no click": the step from one sample to the next, and the energy above 8 kHz within 2 ms,
/// are nowhere around a join above twice the most that the take itself has elsewhere. (Of a low tone that meets itself in phase the step
/// grows 1.56 times.) What has nothing up there itself, a pure tone, may have 75 dB less than full scale, which nobody hears beside it
/// (common practice, no source); a join without a fade has 45 dB.
/// </summary>
public class LessonVoiceTests
{
    private const double Bound = 2;
    private const int Window = Clock.SampleRate / 500;
    private static readonly double Unheard = Window * Math.Pow(10, -75 / 10.0);
    private static readonly Guid Take = Guid.Parse("00000000-0000-0000-0000-0000000000d1");
    private static readonly TakeId Id = new(Take);

    private static readonly SegmentStart Microphone = new(0, 48_000, 0, "", false, false, false);

    /// <summary>A take with made sound, and a lesson of it with edits.</summary>
    private sealed class Lesson : IDisposable
    {
        private readonly MemoryStream journal;
        private readonly TakeVoice voice;

        public Lesson(short[] sound)
        {
            var builder = new JournalBuilder().Segment(Microphone);
            for (var at = 0; at < sound.Length; at += 12_000)
            {
                builder.Audio(0, at, sound.AsSpan(at, Math.Min(12_000, sound.Length - at)).ToArray());
            }

            var bytes = builder.End().ToBytes(Take);
            journal = new MemoryStream(bytes);
            Log = Takes.Log(bytes);
            voice = new TakeVoice(journal, Log.Sound);
        }

        public TakeLog Log { get; }

        public VoicePlan Plan(EditList edits) => VoicePlan.Of(Arrangement.Resolve([Log], edits));

        public LessonVoice Voice(EditList edits, double gainDb = 0) => new(Plan(edits), _ => voice, gainDb: gainDb);

        public float[] Heard(EditList edits) => Sounds.Read(Voice(edits), 9000);

        public void Dispose() => journal.Dispose();
    }

    private static short[] Made(double seconds, Func<double, double> value) =>
        [.. Enumerable.Range(0, (int)(seconds * Clock.SampleRate)).Select(i => (short)(32767 * value((double)i / Clock.SampleRate)))];

    private static short[] Noise(double seconds, double level, int seed = 1)
    {
        var random = new Random(seed);
        return Made(seconds, _ => level * ((2 * random.NextDouble()) - 1));
    }

    private static TimeRange<TakeTime> From(double from, double to) => new(TakeTime.FromSeconds(from), TakeTime.FromSeconds(to));

    private static EditList Cuts(params (double From, double To)[] cuts) => new() { Cuts = [.. cuts.Select(c => new Cut(Id, From(c.From, c.To)))] };

    [Fact]
    public void A_tone_is_six_below_speech_whatever_the_lesson_is_raised_by_and_begins_and_ends_without_a_click()
    {
        const double GainDb = 9;
        using var lesson = new Lesson(new short[10 * Clock.SampleRate]);
        var edits = EditList.Empty with { Mutes = [new Mute(Id, new(TakeTime.FromSeconds(2), TakeTime.FromSeconds(8)), HasTone: true)] };
        var heard = Sounds.Read(lesson.Voice(edits, GainDb), 9000);
        var within = heard[(3 * Clock.SampleRate)..(7 * Clock.SampleRate)];
        var meter = new LoudnessMeter();
        meter.Add(within);

        // EBU Tech 3341, case 1: a stereo sine of 1 kHz at -23 dBFS gives -23.0 ± 0.1 LUFS.
        (meter.Integrated!.Value + GainDb).ShouldBe(LessonVoice.ToneLufs, 0.1);
        heard[..(2 * Clock.SampleRate)].ShouldAllBe(s => s == 0);
        heard[(8 * Clock.SampleRate)..].ShouldAllBe(s => s == 0);
        var most = Steps(within).Max();
        Steps(heard).Max().ShouldBeLessThanOrEqualTo(most * 1.01f);
        static IEnumerable<float> Steps(float[] samples) => samples.Zip(samples.Skip(1), (a, b) => Math.Abs(b - a));
    }

    [Fact]
    public void An_unedited_take_is_heard_sample_for_sample()
    {
        var sound = Noise(3.21, 0.8);
        using var lesson = new Lesson(sound);

        Sounds.To16Bit(lesson.Heard(EditList.Empty)).ShouldBe(sound);
        Sounds.To16Bit(lesson.Heard(new EditList { Sequence = [new(Id, From(0, 1)), new(Id, From(1, 9))] })).ShouldBe(sound, "split");
    }

    [Fact]
    public void A_cut_changes_nothing_but_a_few_milliseconds_on_either_side_and_no_length()
    {
        var sound = Noise(4, 0.5);
        using var lesson = new Lesson(sound);
        var heard = Sounds.To16Bit(lesson.Heard(Cuts((1, 2))));
        var (second, fade) = (Clock.SampleRate, (int)LessonVoice.HalfFade.Samples);

        heard.Length.ShouldBe(3 * second);
        heard[..(second - fade)].ShouldBe(sound[..(second - fade)]);
        heard[(second + fade)..].ShouldBe(sound[((2 * second) + fade)..]);
        heard[(second - fade)..(second + fade)].ShouldNotBe(sound[(second - fade)..(second + fade)]);
    }

    [Fact]
    public void A_lesson_that_begins_and_ends_in_the_middle_of_a_take_rises_from_silence_and_falls_to_it()
    {
        var sound = Noise(4, 0.5);
        using var lesson = new Lesson(sound);
        var heard = lesson.Heard(Cuts((0, 1), (3, 4)));
        var fade = 2 * (int)LessonVoice.HalfFade.Samples;

        heard.Length.ShouldBe(2 * Clock.SampleRate);
        Math.Abs(heard[0]).ShouldBeLessThan(0.01f);
        Math.Abs(heard[^1]).ShouldBeLessThan(0.01f);
        Sounds.To16Bit(heard.AsSpan(fade..^fade)).ShouldBe(sound[(Clock.SampleRate + fade)..((3 * Clock.SampleRate) - fade)]);
    }

    [Fact]
    public void Noise_keeps_its_power_through_a_join_since_each_side_borrows_what_was_removed()
    {
        using var lesson = new Lesson(Noise(120, 0.5));
        var heard = lesson.Heard(Cuts([.. Enumerable.Range(0, 100).Select(i => (1 + (i * 1.1), 1.5 + (i * 1.1)))]));
        var fade = (int)LessonVoice.HalfFade.Samples;
        double within = 0;
        for (var join = 0; join < 100; join++)
        {
            var at = (int)(Clock.SampleRate * (1 + (join * 0.6)));
            within += heard[(at - fade)..(at + fade)].Average(s => (double)s * s) / 100;
        }

        (10 * Math.Log10(within / heard.Average(s => (double)s * s))).ShouldBe(0, 0.3);
    }

    public static TheoryData<string> Kinds => ["low tone", "tone", "noise", "speech"];

    // Speech as buzzing vowels with formants and hissing consonants, 4 syllables a second.
    private static short[] Sound(string kind, double seconds)
    {
        var random = new Random(11);
        double last = 0;
        return kind switch
        {
            "low tone" => Made(seconds, t => 0.7 * Math.Sin(2 * Math.PI * 61 * t)),
            "tone" => Made(seconds, t => 0.5 * Math.Sin(2 * Math.PI * 437 * t)),
            "noise" => Noise(seconds, 0.2),
            _ => Made(seconds, t =>
            {
                var syllable = (t * 4) % 1;
                var vowel = Enumerable.Range(1, 18).Sum(k => Math.Sin(2 * Math.PI * 140 * k * t) * Math.Exp(-Math.Pow((140 * k) - 650, 2) / 5e5));
                last = (0.3 * last) + random.NextDouble() - 0.5;
                return syllable < 0.6 ? 0.12 * Math.Sin(Math.PI * syllable / 0.6) * vowel : syllable < 0.75 ? 0.15 * last : 0.001 * last;
            }),
        };
    }

    [Theory]
    [MemberData(nameof(Kinds))]
    public void No_join_clicks(string kind)
    {
        using var lesson = new Lesson(Sound(kind, 40));
        var recorded = Sounds.Read(lesson.Voice(EditList.Empty));
        var (step, high) = (recorded.Zip(recorded.Skip(1), (a, b) => Math.Abs(a - b)).Max(), MostAbove8kHz(recorded, _ => true));
        var random = new Random(6);
        for (var round = 0; round < 2; round++)
        {
            // Cuts, mutes and pauses at any place, also within vowels.
            var at = 0.3 + random.NextDouble();
            var edits = new EditList
            {
                Cuts = [.. Enumerable.Range(0, 9).Select(i => new Cut(Id, From(at + (i * 4), at + (i * 4) + 0.05 + random.NextDouble())))],
                Mutes = [.. Enumerable.Range(0, 9).Select(i => new Mute(Id, From(at + (i * 4) + 1.3, at + (i * 4) + 1.5 + random.NextDouble())))],
                Pauses = [.. Enumerable.Range(0, 9).Select(i => new InsertedPause(
                    Id, TakeTime.FromSeconds(at + (i * 4) + 3.1), Duration.FromSeconds(0.4)))],
            };
            var heard = lesson.Heard(edits);
            var joins = lesson.Plan(edits).Stretches.Skip(1).Select(s => s.Target.Start.Samples).ToArray();
            joins.Length.ShouldBeGreaterThan(30);
            bool IsNear(int i) => Array.Exists(joins, j => Math.Abs(j - i) < Clock.SampleRate / 50);

            heard.Zip(heard.Skip(1), (a, b) => Math.Abs(a - b)).Where((_, i) => IsNear(i)).Max().ShouldBeLessThan((float)(Bound * step));
            MostAbove8kHz(heard, IsNear).ShouldBeLessThan(Math.Max(Bound * high, Unheard));
        }
    }

    [Fact]
    public void The_bound_sees_a_join_without_a_fade()
    {
        using var lesson = new Lesson(Sound("tone", 10));
        var recorded = Sounds.Read(lesson.Voice(EditList.Empty));
        var hard = recorded[..100_000].Concat(recorded[147_411..]).ToArray();

        var click = MostAbove8kHz(hard, i => Math.Abs(i - 100_000) < 960);
        click.ShouldBeGreaterThan(Math.Max(Bound * MostAbove8kHz(recorded, _ => true), Unheard));
        (10 * Math.Log10(click / Window)).ShouldBe(-45, 5);
    }

    // The most energy that 2 ms have above 8 kHz (a high pass of fourth order).
    private static double MostAbove8kHz(float[] samples, Func<int, bool> isMeant)
    {
        var k = Math.Tan(Math.PI * 8000 / Clock.SampleRate);
        var norm = 1 / (1 + (Math.Sqrt(2) * k) + (k * k));
        var filtered = samples.Select(s => (double)s).ToArray();
        for (var pass = 0; pass < 2; pass++)
        {
            double s1 = 0, s2 = 0;
            for (var i = 0; i < filtered.Length; i++)
            {
                var x = filtered[i];
                var y = (norm * x) + s1;
                s1 = (-2 * norm * x) - (2 * ((k * k) - 1) * norm * y) + s2;
                s2 = (norm * x) - ((1 - (Math.Sqrt(2) * k) + (k * k)) * norm * y);
                filtered[i] = y;
            }
        }

        // What a filter makes of the first sample is no click.
        double sum = 0, most = 1e-9;
        for (var i = 4800; i < filtered.Length; i++)
        {
            sum += (filtered[i] * filtered[i]) - (i - 4800 >= Window ? filtered[i - Window] * filtered[i - Window] : 0);
            most = isMeant(i) ? Math.Max(most, sum) : most;
        }

        return most;
    }

    [Fact]
    public void What_is_muted_is_silent_but_for_the_fades()
    {
        using var lesson = new Lesson(Noise(3, 0.5));
        var heard = lesson.Heard(new EditList { Mutes = [new(Id, From(1, 2))] });
        var fade = (int)LessonVoice.HalfFade.Samples;

        heard[(Clock.SampleRate + fade)..((2 * Clock.SampleRate) - fade)].ShouldAllBe(s => s == 0);
        heard.Length.ShouldBe(3 * Clock.SampleRate);
    }

    [Fact]
    public void Any_stretch_is_the_same_however_it_is_asked_for_also_across_many_joins()
    {
        using var lesson = new Lesson(Noise(20, 0.5));
        var edits = Cuts([.. Enumerable.Range(0, 150).Select(i => (0.1 + (i * 0.13), 0.1 + (i * 0.13) + 0.002 + (i % 7 * 0.015)))]);
        var whole = Sounds.Read(lesson.Voice(edits));
        var random = new Random(3);
        for (var i = 0; i < 100; i++)
        {
            var from = random.Next(whole.Length - 1);
            var part = new float[random.Next(1, Math.Min(20_000, whole.Length - from))];
            lesson.Voice(edits).Read(new LessonTime(from), part);
            part.SequenceEqual(whole[from..(from + part.Length)]).ShouldBeTrue();
        }
    }

    [Fact]
    public void Silences_of_the_lesson_are_those_of_the_take_where_they_lie_now()
    {
        var sound = Sound("speech", 20);
        sound.AsSpan(5 * Clock.SampleRate, 4 * Clock.SampleRate).Clear();
        sound.AsSpan(14 * Clock.SampleRate, 2 * Clock.SampleRate).Clear();
        using var lesson = new Lesson(sound);
        var meter = new TakeMeter();
        meter.Add(sound);
        var measures = meter.Measures();
        double[] Long(EditList edits) => [.. LessonSilences.Of(Arrangement.Resolve([lesson.Log], edits), _ => measures)
            .Where(s => (s.End - s.Start).Seconds > 0.7).SelectMany(s => (double[])[s.Start.Milliseconds / 1000, s.End.Milliseconds / 1000])];

        Within(Long(EditList.Empty), 5, 9, 14, 16);
        Within(Long(Cuts((6, 8))), 5, 7, 12, 14);
        Within(Long(Cuts((1, 2), (4, 10))), 11 - 7 + 3, 16 - 7);
        Within(Long(new EditList { Pauses = [new(Id, TakeTime.FromSeconds(15), Duration.FromSeconds(1))] }), 5, 9, 14, 17);
    }

    private static void Within(double[] found, params double[] expected)
    {
        found.Length.ShouldBe(expected.Length, string.Join(' ', found));
        found.Zip(expected).ShouldAllBe(p => Math.Abs(p.First - p.Second) < 0.11);
    }
}
