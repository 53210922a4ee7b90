using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using ArchTalk.Core;
using ArchTalk.Core.Audio;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Web.Recording;

namespace ArchTalk.Web.Timelines;

/// <summary>A take's part in a lesson's voice.</summary>
public sealed record TakePart(TakeLog Log, TakeMeasures Measures, GainCurve Curve);

/// <summary>All that decides how a lesson sounds.</summary>
/// <param name="Lufs">What its loudness is without <paramref name="GainDb"/>, as its takes promise; null for silence.</param>
/// <param name="GainDb">By how much all of it is raised.</param>
public sealed record VoiceMix(
    Guid Lesson,
    VoicePlan Plan,
    IReadOnlyDictionary<TakeId, TakePart> Takes,
    VoiceSettings Settings,
    double? Lufs,
    double GainDb)
{
    // Of the way in which all this becomes files: another number where copies made before must be made again.
    private const int Version = 1;

    /// <summary>ffmpeg's filters for it; empty for none.</summary>
    public string Filters
    {
        get
        {
            var loudest = Takes.Values.Where(t => t.Measures.Hum is not null).MaxBy(t => t.Measures.Hum!.Decibels);
            var noise = Takes.Count == 0 ? -80 : Takes.Values.Max(t => t.Measures.NoiseFloorDb + t.Curve.Decibels.Average()) + GainDb;
            return VoiceFilters.Of(Settings, loudest?.Measures.Hum, noise);
        }
    }

    /// <summary>A name for what students hear: the same for the same sound, whatever else changes in the lesson.</summary>
    public string Name => NameAs(VoiceAs.Students);

    /// <summary>A name for what is heard, with as much done to it as is asked for.</summary>
    public string NameAs(VoiceAs heard)
    {
        var text = new StringBuilder();
        text.Append(CultureInfo.InvariantCulture, $"{Version} {heard}");
        text.Append(CultureInfo.InvariantCulture, $"{(heard == VoiceAs.Recorded ? 0 : GainDb):R} {(heard == VoiceAs.Students ? Filters : "")}");
        foreach (var (target, from, hasTone) in Plan.Stretches)
        {
            text.Append(CultureInfo.InvariantCulture, $" {target.Start.Samples}:{target.End.Samples}");
            text.Append(CultureInfo.InvariantCulture, $"={from?.Take.Value:N}@{from?.At.Samples}{(hasTone ? "~" : "")}");
        }

        // A take that is still being recorded changes its curve as it grows.
        foreach (var take in Takes.Values.OrderBy(t => t.Log.Id.Value))
        {
            text.Append(CultureInfo.InvariantCulture, $" {take.Log.Id.Value:N}+{take.Log.Length.Samples}");
        }

        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text.ToString())))[..32];
    }

    /// <summary>Opens it for reading, or a stretch of one take in its place.</summary>
    public OpenVoice Open(LessonFiles files, VoicePlan? plan = null) => new(this, files, plan ?? Plan);
}

/// <summary>A lesson's voice with the journals it is read from.</summary>
public sealed class OpenVoice(VoiceMix mix, LessonFiles files, VoicePlan plan) : IDisposable
{
    private readonly Dictionary<TakeId, (FileStream File, TakeVoice Voice)> open = [];

    /// <summary>As it was recorded.</summary>
    public IVoice Recorded => new LessonVoice(plan, VoiceOf);

    /// <summary>Each take at the level of speech.</summary>
    public IVoice Levelled => new LessonVoice(plan, VoiceOf, take => mix.Takes[take].Curve, mix.GainDb);

    public void Dispose()
    {
        foreach (var (file, _) in open.Values)
        {
            file.Dispose();
        }
    }

    private TakeVoice VoiceOf(TakeId take)
    {
        if (!open.TryGetValue(take, out var found))
        {
            var file = TakeJournals.OpenToRead(files.Journal(mix.Lesson, take.Value));
            open[take] = found = (file, new TakeVoice(file, mix.Takes[take].Log.Sound));
        }

        return found.Voice;
    }
}
