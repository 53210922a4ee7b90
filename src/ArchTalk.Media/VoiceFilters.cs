using System.Globalization;
using ArchTalk.Core.Audio;

namespace ArchTalk.Media;

/// <summary>ffmpeg's filters for what a teacher has switched on.</summary>
public static class VoiceFilters
{
    // Below the lowest voices (85 Hz, common practice, no source); 12 dB an octave.
    private const int RumbleHertz = 70;

    // The fundamental and three overtones, each about 2 Hz wide.
    private const int Tones = 4;
    private const int TonesQ = 30;

    // The filter against noise gives everything so many samples later (measured with ffmpeg 5.1): so many are put in behind and cut off
    // in front. The voice would come later than the ink.
    private const int NoiseDelay = 1200;

    // More sounds as if one spoke under water.
    private const int NoiseDb = 12;

    /// <summary>The chain, one filter after another; empty for none.</summary>
    /// <param name="hum">What is to go, if any was found.</param>
    /// <param name="noiseDb">How loud the room's noise is at the filter, in dB of full scale.</param>
    public static string Of(VoiceSettings settings, Hum? hum, double noiseDb)
    {
        List<string> filters = [];
        if (settings.RumbleOut)
        {
            filters.Add($"highpass=f={RumbleHertz}");
        }

        if (settings.HumOut && hum is not null)
        {
            filters.AddRange(Enumerable.Range(1, Tones).Select(k => $"bandreject=f={hum.Hertz * k}:width_type=q:w={TonesQ * k}"));
        }

        if (settings.NoiseLower)
        {
            var floor = Math.Clamp(noiseDb, -80, -20).ToString("0", CultureInfo.InvariantCulture);
            filters.AddRange([$"apad=pad_len={NoiseDelay}", $"afftdn=nr={NoiseDb}:nf={floor}", $"atrim=start_sample={NoiseDelay}"]);
        }

        return string.Join(',', filters);
    }
}
