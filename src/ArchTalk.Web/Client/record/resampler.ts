// Brings sound of any rate to 48 kHz: a windowed-sinc filter, one row of taps for each of the phases that the two rates
// have to each other (Crochiere & Rabiner 1983). Output sample n lies exactly at input time n · rate / 48000.

import { sampleRate as target } from "../journal/record";

const halfTaps = 24;

export class Resampler {
  private readonly up: number;
  private readonly down: number;
  private readonly taps: Float32Array[];
  private kept = new Float32Array(halfTaps);
  private keptFrom = -halfTaps;
  private produced = 0;

  constructor(readonly rate: number) {
    const divisor = greatestCommonDivisor(rate, target);
    this.up = target / divisor;
    this.down = rate / divisor;
    this.taps = rate === target ? [] : Array.from({ length: this.up }, (_, phase) => row(phase / this.up, Math.min(1, target / rate) * 0.96));
  }

  /** Takes in what follows and gives back what can be computed of it: all but the last half millisecond. */
  push(input: Float32Array): Float32Array {
    if (this.taps.length === 0) {
      return input;
    }

    const all = new Float32Array(this.kept.length + input.length);
    all.set(this.kept);
    all.set(input, this.kept.length);
    const end = this.keptFrom + all.length;
    const output: number[] = [];
    for (;;) {
      const position = this.produced * this.down;
      const whole = Math.floor(position / this.up);
      if (whole + halfTaps >= end) {
        break;
      }

      const taps = this.taps[position - whole * this.up]!;
      const from = whole - halfTaps + 1 - this.keptFrom;
      let sum = 0;
      for (let k = 0; k < taps.length; k++) {
        sum += taps[k]! * (all[from + k] ?? 0);
      }

      output.push(sum);
      this.produced++;
    }

    const needed = Math.floor((this.produced * this.down) / this.up) - halfTaps - this.keptFrom;
    const drop = Math.max(0, Math.min(needed, all.length));
    this.kept = all.slice(drop);
    this.keptFrom += drop;
    return Float32Array.from(output);
  }
}

function row(fraction: number, cutoff: number): Float32Array {
  const taps = Float32Array.from({ length: halfTaps * 2 }, (_, k) => {
    const x = k - halfTaps + 1 - fraction;
    const window = 0.42 + 0.5 * Math.cos((Math.PI * x) / halfTaps) + 0.08 * Math.cos((2 * Math.PI * x) / halfTaps);
    return x === 0 ? cutoff : (Math.sin(Math.PI * cutoff * x) / (Math.PI * x)) * Math.max(0, window);
  });
  const sum = taps.reduce((total, tap) => total + tap, 0);
  return taps.map((tap) => tap / sum);
}

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b);
}
