using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>What was measured of a take's sound, in take time; kept with the take.</summary>
/// <param name="Length">Of the sound.</param>
/// <param name="Phrases">Where somebody speaks; between them is silence.</param>
/// <param name="Steps">K-weighted mean squares of steps of 100 ms, for loudness.</param>
/// <param name="TruePeak">The highest peak at and between samples, full scale being 1.</param>
/// <param name="NoiseFloorDb">The room's own noise, in dB of full scale.</param>
/// <param name="Hum">Of the mains; null when there is none.</param>
/// <param name="Waveform">For drawing it.</param>
public sealed record TakeMeasures(
    Duration Length,
    IReadOnlyList<TimeRange<TakeTime>> Phrases,
    float[] Steps,
    float TruePeak,
    double NoiseFloorDb,
    Hum? Hum,
    Waveform Waveform)
{
    /// <summary>In LUFS; null when nobody speaks.</summary>
    public double? Loudness => Audio.Loudness.Integrated(Steps);

    /// <summary>What lies before, between and behind the phrases, in order.</summary>
    public IReadOnlyList<TimeRange<TakeTime>> Silences
    {
        get
        {
            var silences = new List<TimeRange<TakeTime>>();
            var at = TakeTime.Zero;
            foreach (var phrase in Phrases.Append(new(TakeTime.Zero + Length, TakeTime.Zero + Length)))
            {
                if (at < phrase.Start)
                {
                    silences.Add(new(at, phrase.Start));
                }

                at = phrase.End;
            }

            return silences;
        }
    }
}
