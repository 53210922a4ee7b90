// Sound on its way to the journal: brought to 48 kHz, counted, and lost pieces found. Both ways in (the track's own frames, the
// audio worklet) end here.

import { sampleRate, samplesPerMs } from "../journal/record";
import { Resampler } from "./resampler";

/** Sound as it comes from the device. */
export interface SoundBlock {
  /** -1 to 1, mono. */
  samples: Float32Array<ArrayBuffer>;
  /** Of the device, in Hz. */
  rate: number;
  /** When the first sample was captured, in ms of a clock of its own; only differences count. */
  stamp: number;
}

/** A piece of sound of the journal. */
export interface Piece {
  /** Index of the first sample after it, counted from the segment's beginning, lost ones included. */
  end: number;
  pcm: Int16Array<ArrayBuffer>;
  /** Greatest and mean level, 0 to 1. */
  peak: number;
  rms: number;
  /** Samples that were lost just before it. */
  lost: number;
}

/** Stamps that differ by less than this from the length of what lies between, in ms, are even. */
const evenMs = 1;

/** After so many even stamps in a row the stream is steady, and a jump means a loss. At the start the stamps' zero moves. */
const steadyAfter = 20;

/** A jump by more than this, in ms, is no loss: the computer slept, or the device was away. */
const longestLossMs = 20_000;

export class Intake {
  private resampler: Resampler | null = null;
  /** What the resampler was given, and what it gave. */
  private given = 0;
  private gave = 0;
  private received = 0;
  private due: number | null = null;
  private even = 0;

  take(block: SoundBlock): Piece {
    let lost = this.lostBefore(block);
    if (lost > 0 || this.resampler?.rate !== block.rate) {
      lost += this.begin(block.rate);
    }

    const samples = this.resampler!.push(block.samples);
    this.given += block.samples.length;
    this.gave += samples.length;
    this.received += lost + samples.length;
    return toPiece(samples, this.received, lost);
  }

  /** Begins anew at a rate; gives back what the resampler before held back, half a millisecond, which is lost with it. */
  private begin(rate: number): number {
    const owed = this.resampler ? Math.round((this.given * sampleRate) / this.resampler.rate) - this.gave : 0;
    this.resampler = new Resampler(rate);
    this.given = this.gave = 0;
    return owed;
  }

  private lostBefore({ stamp, samples, rate }: SoundBlock): number {
    const jump = this.due === null ? 0 : stamp - this.due;
    const isEven = Math.abs(jump) < evenMs;
    const wasSteady = this.even >= steadyAfter;
    this.due = stamp + (samples.length * 1000) / rate;
    if (isEven) {
      this.even++;
      return 0;
    }

    if (wasSteady && jump > 0 && jump <= longestLossMs) {
      return Math.round(jump * samplesPerMs);
    }

    this.even = 0;
    return 0;
  }
}

function toPiece(samples: Float32Array, end: number, lost: number): Piece {
  const pcm = new Int16Array(samples.length);
  let peak = 0;
  let square = 0;
  for (let i = 0; i < samples.length; i++) {
    const value = samples[i]!;
    peak = Math.max(peak, Math.abs(value));
    square += value * value;
    pcm[i] = Math.max(-32768, Math.min(32767, Math.round(value * 32767)));
  }

  return { end, pcm, peak, rms: samples.length > 0 ? Math.sqrt(square / samples.length) : 0, lost };
}
