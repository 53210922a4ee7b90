using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>A voice that can be read from any place on, as often as one likes: mono at 48 kHz, full scale being 1.</summary>
public interface IVoice
{
    Duration Length { get; }

    /// <summary>
    /// Fills <paramref name="samples"/> with what is heard from a time on; silence beyond the end. A sample is the same however it is
    /// asked for.
    /// </summary>
    void Read(LessonTime from, Span<float> samples);
}
