namespace ArchTalk.Core.Audio;

/// <summary>What is done to the sound of a lesson beside its level; each off at first.</summary>
/// <param name="RumbleOut">Steps, knocks on the desk and wind: what lies below a voice goes.</param>
/// <param name="HumOut">The hum of the mains and its overtones go.</param>
/// <param name="NoiseLower">The steady noise of a room or a fan is made quieter.</param>
public sealed record VoiceSettings(bool RumbleOut, bool HumOut, bool NoiseLower)
{
    public static readonly VoiceSettings None = new(RumbleOut: false, HumOut: false, NoiseLower: false);
}
