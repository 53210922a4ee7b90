using ArchTalk.Core.Audio;
using ArchTalk.Core.Time;

namespace ArchTalk.Media.Tests;

/// <summary>
/// Speech of which it is known where it is silent: spoken pieces, cut where they rise above 38 dB under their loudest 5 ms, joined with
/// silences of known length. Two synthesisers, and telephone prompts read by people (Debian's asterisk-core-sounds-en-g722).
/// </summary>
public sealed class SpokenTruth
{
    private const int Part = Clock.SampleRate / 200;
    private const double EdgeDb = -38;
    private const double Loudest = 0.25;

    private static readonly string[] Sentences =
    [
        "The thrust of the arch", "Voussoirs", "stand on the springing line", "each stone pushes on the next", "First we look at the keystone",
        "six feet of fill", "Half of this force goes left", "which is what holds it up", "abutments", "a chain hangs in the same curve",
        "so it cannot fall", "then a hinge opens",
    ];

    private SpokenTruth(float[] sound, IReadOnlyList<(double From, double To)> silences) => (Sound, Silences) = (sound, silences);

    /// <summary>Full scale being 1; digital silence between the pieces.</summary>
    public float[] Sound { get; }

    /// <summary>In seconds; the first and the last lie at the ends.</summary>
    public IReadOnlyList<(double From, double To)> Silences { get; }

    public static async Task<SpokenTruth> OfAsync(string speaker, Samples work, Voice voice)
    {
        var pieces = await PiecesAsync(speaker, work, voice);
        var random = new Random(1);
        random.Shuffle(pieces);
        return Join(pieces, [0.8, .. pieces.Select(_ => 0.42 + (2.2 * random.NextDouble() * random.NextDouble()))]);
    }

    /// <summary>One piece between each two of the silences, in seconds, as loud as asked for.</summary>
    /// <param name="db">Of each piece, under the loudest; null for all alike.</param>
    public static async Task<SpokenTruth> OfAsync(
        string speaker, Samples work, Voice voice, IReadOnlyList<double> silences, Func<int, double>? db = null)
    {
        var pieces = await PiecesAsync(speaker, work, voice);
        return Join([.. Enumerable.Range(0, silences.Count - 1).Select(i => pieces[i % pieces.Length])], silences, db);
    }

    private static async Task<short[][]> PiecesAsync(string speaker, Samples work, Voice voice)
    {
        var files = speaker switch
        {
            "flite" => await SpeakAsync(work, (s, file) => work.RunAsync("flite", "-voice", s.Voice, "-t", s.Text, "-o", file), "slt", "rms", "awb"),
            "espeak" => await SpeakAsync(
                work, (s, file) => work.RunAsync("espeak-ng", "-v", s.Voice, "-s", "145", "-w", file, s.Text), "en-gb", "en-us+f3", "en-gb+m3"),
            _ => Directory.GetFiles("/usr/share/asterisk/sounds/en_US_f_Allison/", "vm-*.g722").Order(StringComparer.Ordinal).Take(45).ToArray(),
        };
        var pieces = new List<short[]>();
        foreach (var file in files)
        {
            pieces.Add(await voice.DecodeAsync(file, CancellationToken.None));
        }

        return [.. pieces.Where(p => p.Length > Clock.SampleRate / 5)];
    }

    /// <summary>The same with noise and hum, so many dB under the power of the speech.</summary>
    /// <param name="isPink">As the noise of rooms and fans is; white is as that of microphones.</param>
    public float[] With(double underDb, bool isPink, bool hum)
    {
        var spoken = Sound.Where(s => s != 0).Average(s => (double)s * s);
        var random = new Random(3);
        var noise = new double[Sound.Length];
        double b0 = 0, b1 = 0, b2 = 0;
        for (var i = 0; i < noise.Length; i++)
        {
            var white = random.NextDouble() + random.NextDouble() + random.NextDouble() + random.NextDouble() - 2;

            // Pink by three poles (P. Kellet's figures, from memory).
            (b0, b1, b2) = ((0.99765 * b0) + (white * 0.0990460), (0.96300 * b1) + (white * 0.2965164), (0.57000 * b2) + (white * 1.0526913));
            noise[i] = isPink ? b0 + b1 + b2 + (white * 0.1848) : white;
        }

        var gain = Math.Sqrt(spoken * Math.Pow(10, -underDb / 10) / noise.Average(n => n * n));
        double Hum(int i) => hum
            ? (0.05 * Math.Sin(2 * Math.PI * 50 * i / Clock.SampleRate)) + (0.02 * Math.Sin(2 * Math.PI * 150 * i / Clock.SampleRate))
            : 0;
        return [.. Sound.Select((s, i) => (float)Math.Clamp(s + (gain * noise[i]) + Hum(i), -1, 1))];
    }

    /// <summary>How silences that were found compare with the true ones.</summary>
    public SilenceScore Score(IEnumerable<(double From, double To)> found)
    {
        var all = found.ToArray();
        var used = new HashSet<int>();
        var errors = new List<double>();
        var missed = 0;
        for (var i = 0; i < Silences.Count; i++)
        {
            var (from, to) = Silences[i];
            double Shared(int k) => Math.Min(to, all[k].To) - Math.Max(from, all[k].From);
            var best = Enumerable.Range(0, all.Length).OrderByDescending(Shared).DefaultIfEmpty(-1).First();
            if (best < 0 || Shared(best) < (to - from) / 2)
            {
                missed++;
                continue;
            }

            used.Add(best);
            errors.AddRange(i == 0 ? [] : [Math.Abs(all[best].From - from)]);
            errors.AddRange(i == Silences.Count - 1 ? [] : [Math.Abs(all[best].To - to)]);
        }

        errors.Sort();
        return new SilenceScore(
            errors.Count == 0 ? double.PositiveInfinity : errors[errors.Count / 2] * 1000,
            errors.Count == 0 ? 0 : (double)errors.Count(e => e <= 0.030001) / errors.Count,
            missed,
            all.Length - used.Count);
    }

    private static async Task<string[]> SpeakAsync(Samples work, Func<(string Voice, string Text), string, Task> speak, params string[] voices)
    {
        var files = new List<string>();
        foreach (var (voice, text) in voices.SelectMany(v => Sentences.Select(s => (v, s))))
        {
            files.Add(work.Path($"{voice}-{files.Count}.wav"));
            await speak((voice, text), files[^1]);
        }

        return [.. files];
    }

    private static SpokenTruth Join(short[][] pieces, IReadOnlyList<double> rests, Func<int, double>? db = null)
    {
        var sound = new List<float>();
        var silences = new List<(double, double)>();
        for (var i = 0; i < rests.Count; i++)
        {
            var from = sound.Count;
            sound.AddRange(new float[(int)(rests[i] * Clock.SampleRate)]);
            silences.Add(((double)from / Clock.SampleRate, (double)sound.Count / Clock.SampleRate));
            if (i < pieces.Length)
            {
                var gain = (float)Math.Pow(10, (db?.Invoke(i) ?? 0) / 20);
                sound.AddRange(Trim(pieces[i]).Select(s => s * gain));
            }
        }

        return new SpokenTruth([.. sound], silences);
    }

    private static float[] Trim(short[] piece)
    {
        var levels = piece.Chunk(Part).Where(c => c.Length == Part).Select(c => Math.Sqrt(c.Average(s => (double)s * s))).ToArray();
        var edge = levels.Max() * Math.Pow(10, EdgeDb / 20);
        var (first, last) = (Array.FindIndex(levels, l => l > edge), Array.FindLastIndex(levels, l => l > edge) + 1);
        var scale = (float)(Loudest / levels.Max());
        return [.. piece[(first * Part)..(last * Part)].Select(s => s * scale)];
    }
}

/// <summary>How silences that were found compare with the true ones.</summary>
/// <param name="MedianMs">Of the errors of edges.</param>
/// <param name="Within30Ms">The share of edges so near.</param>
public sealed record SilenceScore(double MedianMs, double Within30Ms, int Missed, int Extra)
{
    public override string ToString() => FormattableString.Invariant(
        $"median {MedianMs:0} ms, {Within30Ms:P0} within 30 ms, {Missed} missed, {Extra} too many");

    public bool IsBetterThan(SilenceScore other) => MedianMs + Missed + Extra < other.MedianMs + other.Missed + other.Extra;
}
