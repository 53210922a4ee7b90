// The sound check: a few seconds of the quiet room, a few of speech, and what the server says about them.

import { sampleRate } from "../journal/record";
import { sendFile } from "../shared/api";

/** Of silence and of speech, in seconds. */
export const checkSeconds = 5;

/** What is said and done at the turn from one to the other belongs to neither, in seconds. */
const turnSeconds = 0.4;

/** The answer, as Core/Audio/SoundCheck.cs has it. */
export interface SoundCheck {
  speechLufs: number | null;
  noiseDb: number;
  hum: { hertz: number; decibels: number } | null;
  clipped: number;
  advice: "good" | "nobodySpoke" | "tooLoud" | "hum" | "noisy" | "tooQuiet";
}

/** All that is gathered, in samples. */
export const checkSamples = 2 * checkSeconds * sampleRate;

/** @param pcm {@link checkSamples} of 48 kHz. */
export function judge(api: string, pcm: Int16Array<ArrayBuffer>): Promise<SoundCheck> {
  const turn = turnSeconds * sampleRate;
  const [quiet, speech] = [pcm.subarray(0, pcm.length / 2 - turn), pcm.subarray(pcm.length / 2 + turn)];
  return sendFile<SoundCheck>("POST", `${api}/sound-check?quiet=${quiet.length}`, new File([quiet, speech], "sound-check"));
}

const sentences: Record<SoundCheck["advice"], string> = {
  good: "This sounds good. You can record like this.",
  nobodySpoke: "No voice stands out from the room. Be quiet first and then speak; if you did, check that the right microphone is chosen and on.",
  tooLoud: "Your voice is too loud for the microphone and is cut off. Move back a little, or turn the microphone down, and check once more.",
  hum: "Mains hum can be heard. Move the microphone and its cable away from lamps and chargers; what is left can be lowered in Refine.",
  noisy: "The room is loud against your voice. Come nearer to the microphone, or close the window; the rest can be lowered in Refine.",
  tooQuiet: "Your voice is quiet. Come nearer to the microphone, about a hand's length, or turn it up.",
};

/** One plain sentence of advice. */
export function adviceOf({ advice }: SoundCheck): string {
  return sentences[advice];
}

/** The figures, in a line. */
export function figuresOf({ speechLufs, noiseDb, hum, clipped }: SoundCheck): string {
  const words = [
    `voice ${speechLufs === null ? "not heard" : `${speechLufs.toFixed(0)} LUFS`}`,
    `room ${noiseDb.toFixed(0)} dB`,
    hum ? `hum ${hum.hertz} Hz, ${hum.decibels.toFixed(0)} dB` : "no hum",
    clipped > 0 ? `cut off ${clipped} times` : "never cut off",
  ];
  return words.join(" · ");
}
