using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>A stretch of a voice as a voice of its own.</summary>
public sealed class PartOfVoice(IVoice voice, TimeRange<LessonTime> part) : IVoice
{
    public Duration Length => part.End - part.Start;

    public void Read(LessonTime from, Span<float> samples)
    {
        var own = samples[..(int)Math.Clamp(Length.Samples - from.Samples, 0, samples.Length)];
        voice.Read(part.Start + (from - LessonTime.Zero), own);
        samples[own.Length..].Clear();
    }
}
