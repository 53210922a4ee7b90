using System.Numerics.Tensors;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Audio;

/// <summary>
/// Measures a take's sound in one pass, as it comes or all at once: what it gives depends on the sound alone, not on how it was cut
/// up. It holds about 6 MB for an hour, none of it sound.
/// </summary>
public sealed class TakeMeter
{
    // What is looked at together: 10 ms of samples, and what the search for true peaks reaches beyond them.
    private const int Frame = SpeechBands.Frame;
    private const int Margin = 2 * TruePeak.Reach;

    private readonly float[] window = new float[Margin + Frame];
    private readonly LoudnessMeter loudness = new();
    private readonly SpeechBands bands = new();
    private readonly HumMeter hum = new();
    private readonly Waveform waveform = new();
    private float peak;
    private int filled = Margin;

    /// <summary>The sound that has come.</summary>
    public Duration Length { get; private set; }

    /// <summary>
    /// Where somebody speaks after a moment, of what has come so far: the phrases that <see cref="Measures"/> has, without going through
    /// what came long before.
    /// </summary>
    public IReadOnlyList<TimeRange<TakeTime>> PhrasesSince(TakeTime since) => PhraseFinder.FindSince(bands.Levels, since);

    /// <summary>Measures a whole take, block by block.</summary>
    public static TakeMeasures Measure(TakeVoice voice, CancellationToken cancel)
    {
        var meter = new TakeMeter();
        while (meter.Follow(voice, Duration.FromSeconds(60)))
        {
            cancel.ThrowIfCancellationRequested();
        }

        return meter.Measures();
    }

    /// <summary>Takes in what a voice has beyond what has come; false when that is all there is.</summary>
    /// <param name="most">How much of it at most.</param>
    public bool Follow(TakeVoice voice, Duration most)
    {
        var buffer = new short[Clock.SampleRate / 2];
        var at = TakeTime.Zero + Length;
        for (var end = voice.End < at + most ? voice.End : at + most; at < end; at = TakeTime.Zero + Length)
        {
            var samples = buffer.AsSpan(0, (int)Math.Min(buffer.Length, (end - at).Samples));
            voice.Read(at, samples);
            Add(samples);
        }

        return at < voice.End;
    }

    /// <param name="samples">16-bit mono at 48 kHz.</param>
    public void Add(ReadOnlySpan<short> samples)
    {
        Length += new Duration(samples.Length);
        while (!samples.IsEmpty)
        {
            var part = samples[..Math.Min(samples.Length, window.Length - filled)];
            var into = window.AsSpan(filled, part.Length);
            TensorPrimitives.ConvertTruncating<short, float>(part, into);
            TensorPrimitives.Multiply(into, 1 / 32768f, into);
            filled += part.Length;
            samples = samples[part.Length..];
            if (filled == window.Length)
            {
                AddFrame();
            }
        }
    }

    /// <summary>What was measured of all that has come; an incomplete last frame of 10 ms counts for peaks only.</summary>
    public TakeMeasures Measures()
    {
        // The last samples and what might swing after them.
        var rest = new float[filled + Margin];
        window.AsSpan(0, filled).CopyTo(rest);
        return new TakeMeasures(
            Length,
            PhraseFinder.Find(bands.Levels),
            [.. loudness.Steps],
            TruePeak.Of(rest, peak),
            PhraseFinder.NoiseFloorDb(bands.Levels),
            hum.Found,
            waveform);
    }

    private void AddFrame()
    {
        peak = TruePeak.Of(window, peak);
        var frame = window.AsSpan(Margin);
        loudness.Add(frame);
        bands.Add(frame);
        hum.Add(frame);
        for (var at = 0; at < Frame; at += Waveform.Finest)
        {
            waveform.Add(frame.Slice(at, Waveform.Finest));
        }

        window.AsSpan(Frame).CopyTo(window);
        filled = Margin;
    }
}
