/** Some milliseconds of sound on its way to the journal. */
export interface Block {
  /** Index of the first sample after this block, counted from the segment's beginning. */
  end: number;
  pcm: Int16Array<ArrayBuffer>;
  /** Greatest and mean level, 0 to 1. */
  peak: number;
  rms: number;
}

/** Makes a block of the first samples given, each -1 to 1. */
export function toBlock(samples: Float32Array, length: number, end: number): Block {
  const pcm = new Int16Array(length);
  let peak = 0;
  let square = 0;
  for (let i = 0; i < length; i++) {
    const value = samples[i]!;
    peak = Math.max(peak, Math.abs(value));
    square += value * value;
    pcm[i] = Math.max(-32768, Math.min(32767, Math.round(value * 32767)));
  }

  return { end, pcm, peak, rms: length > 0 ? Math.sqrt(square / length) : 0 };
}
