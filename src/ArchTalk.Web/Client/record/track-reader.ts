// Reads the microphone's own frames in the worker, where the browser offers them: each comes with the time it was captured,
// so lost sound is seen, and nothing is inserted when the computer is busy.

import type { SoundBlock } from "./intake";

/** Resolves when the track has ended, or when nobody hears it any more: `hear` says whether it still does. */
export async function readTrack(frames: ReadableStream<AudioData>, hear: (block: SoundBlock) => boolean): Promise<void> {
  const reader = frames.getReader();
  for (;;) {
    const { value, done } = await reader.read();
    if (done) {
      return;
    }

    const block = { samples: mono(value), rate: value.sampleRate, stamp: value.timestamp / 1000 };
    value.close();
    if (!hear(block)) {
      await reader.cancel();
      return;
    }
  }
}

function mono(data: AudioData): Float32Array<ArrayBuffer> {
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
