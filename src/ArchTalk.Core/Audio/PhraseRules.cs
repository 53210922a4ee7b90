namespace ArchTalk.Core.Audio;

/// <summary>
/// What <see cref="PhraseFinder"/> goes by. The figures were chosen on joined words of two speech synthesisers and of people, clean and
/// at 20, 10 and 5 dB of white and pink noise; VoiceTruthTests hold what they reach.
/// </summary>
internal static class PhraseRules
{
    /// <summary>
    /// In frames (15 s): the noise is looked for so far on either side. Every half minute of speech has pauses, and a fan that is
    /// switched on is the room's noise soon after.
    /// </summary>
    public const int HalfWindow = 1500;

    /// <summary>The share of frames that are surely noise: who speaks without a rest still breathes and closes the lips.</summary>
    public const double NoiseShare = 0.1;

    /// <summary>In dB: noise of 10 ms leaps, so that its quietest tenth lies about this far under its mean.</summary>
    public const float NoiseOverDb = 3;

    /// <summary>The share of frames below the loudest ones, which show how loud the voice is.</summary>
    public const double LoudShare = 0.95;

    /// <summary>In dB: what is this far under the loud frames is no part of a word, however quiet the room is. A breath lies there.</summary>
    public const float RangeDb = 45;

    /// <summary>In dB of full scale: fainter than any microphone's own noise. It is the floor of a file with digital silence.</summary>
    public const double FaintestDb = -90;

    /// <summary>In dB: more than this in one band says nothing more.</summary>
    public const float MostOfBandDb = 20;

    /// <summary>Vowels fill two bands or more, and so do hissing sounds. One band alone may be a whistling fan.</summary>
    public const int BestBands = 2;

    /// <summary>In dB over the noise: here somebody surely speaks.</summary>
    public const float SpeaksDb = 3;

    /// <summary>In dB over the noise: from there on outwards the end of a word can't be told from the room.</summary>
    public const float FaintDb = 1;

    /// <summary>In frames (200 ms): shorter ones are stopped consonants within words.</summary>
    public const int ShortestSilence = 20;

    /// <summary>In frames (50 ms): a shorter sound is a click or a knock, not a word.</summary>
    public const int ShortestSound = 5;
}
