// Reads the microphone's own frames in the worker, where the browser offers them: each comes with the time it was captured,
// so lost sound is seen, and nothing is inserted when the computer is busy.

import { type Block, toBlock } from "./capture-block";
import { Resampler } from "./resampler";

/**
 * A jump of the stamps by this much, in ms, is lost sound and kept as such. Smaller ones may be a device's uneven stamps; if
 * frames were lost in them, the count falls behind the clock, which the fit of both clocks finds from the arrivals.
 */
const lostMs = 250;

export async function readTrack(frames: ReadableStream<AudioData>, hear: (block: Block) => void): Promise<void> {
  const reader = frames.getReader();
  let resampler = null as Resampler | null;
  let received = 0;
  let due: number | null = null;
  let arrived = 0;
  for (;;) {
    const { value, done } = await reader.read();
    if (done) {
      return;
    }

    // Stamps alone may jump (their zero moves as a device starts); sound is lost when nothing arrived for as long.
    const waited = performance.now() - arrived;
    arrived += waited;

    resampler = resampler?.rate === value.sampleRate ? resampler : new Resampler(value.sampleRate);
    const stamp = value.timestamp / 1000;
    if (due !== null && stamp - due > lostMs && waited > lostMs) {
      received += Math.round((stamp - due) * 48);
    }

    due = stamp + (value.numberOfFrames * 1000) / value.sampleRate;
    const samples = resampler.push(mono(value));
    value.close();
    received += samples.length;
    hear(toBlock(samples, samples.length, received));
  }
}

function mono(data: AudioData): Float32Array {
  const sum = new Float32Array(data.numberOfFrames);
  const channel = new Float32Array(data.numberOfFrames);
  for (let c = 0; c < data.numberOfChannels; c++) {
    data.copyTo(channel, { planeIndex: c, format: "f32-planar" });
    for (let i = 0; i < sum.length; i++) {
      sum[i]! += channel[i]! / data.numberOfChannels;
    }
  }

  return sum;
}
