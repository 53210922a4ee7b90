using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>What a sound check says first: the thing that spoils the lesson most.</summary>
public enum SoundAdvice
{
    Good = 0,

    /// <summary>No voice stands out from the room.</summary>
    NobodySpoke = 1,

    /// <summary>The microphone or the sound card cuts the loudest moments off.</summary>
    TooLoud = 2,

    Hum = 3,

    /// <summary>The room is loud against the voice.</summary>
    Noisy = 4,

    TooQuiet = 5,
}

/// <summary>What a few seconds of a quiet room and a few of speech say about how a lesson will sound.</summary>
/// <param name="SpeechLufs">How loud the voice is; null when nobody speaks.</param>
/// <param name="NoiseDb">The room's own noise without hum, in dB of full scale (mean power).</param>
/// <param name="Hum">Of the mains; null when there is none.</param>
/// <param name="Clipped">How often the voice was cut off at full scale.</param>
/// <param name="Advice">What to do first.</param>
public sealed record SoundCheck(double? SpeechLufs, double NoiseDb, Hum? Hum, int Clipped, SoundAdvice Advice)
{
    /// <summary>Least length of either stretch.</summary>
    public static readonly Duration Shortest = Duration.FromSeconds(2);

    // All of these in dB or LU: common practice, no source.
    private const double LeastOverNoise = 6;
    private const double ClearOverNoise = 25;
    private const double ClearOverHum = 35;
    private const double QuietLufs = -40;

    // Three samples in a row at the end of the scale are no chance; 16-bit sound of a browser reaches 32767.
    private const int FullScale = 32_700;
    private const int FullInARow = 3;

    private const double Faintest = 1e-12;

    /// <param name="quiet">16-bit mono at 48 kHz in which nobody speaks, at least <see cref="Shortest"/> long.</param>
    /// <param name="speech">16-bit mono at 48 kHz in which somebody speaks as in a lesson.</param>
    /// <exception cref="ArgumentException">Either is shorter.</exception>
    public static SoundCheck Of(ReadOnlySpan<short> quiet, ReadOnlySpan<short> speech)
    {
        if (quiet.Length < Shortest.Samples || speech.Length < Shortest.Samples)
        {
            throw new ArgumentException("The stretches of a sound check are too short.", nameof(quiet));
        }

        var (room, voice) = (Measure(quiet), Measure(speech));
        var hum = room.Hum;
        var power = Math.Max(Faintest, Power(quiet) - Math.Pow(10, (hum?.Decibels ?? double.NegativeInfinity) / 10));
        var noise = 10 * Math.Log10(power);
        var clipped = Clips(speech);

        // The voice is held against the room as both are heard.
        var roomLufs = Loudness.Of(Math.Max(Faintest, room.Steps.Average()));
        return new SoundCheck(voice.Loudness, noise, hum, clipped, AdviceOf(voice.Loudness, roomLufs, hum, clipped));
    }

    private static SoundAdvice AdviceOf(double? lufs, double room, Hum? hum, int clipped)
    {
        if (lufs is not { } level || level - room < LeastOverNoise)
        {
            return SoundAdvice.NobodySpoke;
        }

        return clipped > 0 ? SoundAdvice.TooLoud
            : hum is not null && level - hum.Decibels < ClearOverHum ? SoundAdvice.Hum
            : level - room < ClearOverNoise ? SoundAdvice.Noisy
            : level < QuietLufs ? SoundAdvice.TooQuiet : SoundAdvice.Good;
    }

    private static TakeMeasures Measure(ReadOnlySpan<short> samples)
    {
        var meter = new TakeMeter();
        meter.Add(samples);
        return meter.Measures();
    }

    // Around its mean: a microphone's constant offset is no sound.
    private static double Power(ReadOnlySpan<short> samples)
    {
        double sum = 0, squares = 0;
        foreach (var sample in samples)
        {
            var value = sample / 32768.0;
            sum += value;
            squares += value * value;
        }

        var mean = sum / samples.Length;
        return (squares / samples.Length) - (mean * mean);
    }

    private static int Clips(ReadOnlySpan<short> samples)
    {
        var (clips, row) = (0, 0);
        foreach (var sample in samples)
        {
            row = Math.Abs((int)sample) >= FullScale ? row + 1 : 0;
            clips += row == FullInARow ? 1 : 0;
        }

        return clips;
    }
}
