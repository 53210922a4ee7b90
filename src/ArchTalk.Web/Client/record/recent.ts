// The last minutes of what was recorded, at hand while the take runs: to be heard again, to find where a phrase ended, and to tell
// when a sample was heard in the page's own clock.

import { sampleRate, samplesPerMs } from "../journal/record";
import { spoken } from "./level-gate";
import type { HeardPhrase, Phrase, Spot, TakePoint } from "./messages";

/** As far as one can go back while recording, in samples; 17 MB. */
const mostSamples = 180 * sampleRate;

/** A piece of sound comes late by chance; the least late one within so many samples around says when it was heard. */
const nearSamples = sampleRate;

const frameSamples = sampleRate / 100;

interface Block extends Spot {
  /** Where it begins in the take, in samples. */
  at: number;
  pcm: Int16Array<ArrayBuffer>;
  /** By how much it came later than its samples were counted, in ms of the page's clock. */
  lateMs: number;
}

export class Recent {
  private blocks: Block[] = [];
  /** Whether nothing of what was recorded here is gone. */
  private isWhole = true;

  /**
   * @param at Where it begins in the take, in samples.
   * @param endedMs When its end was heard at the latest, in ms of the page's clock.
   */
  add(spot: Spot, at: number, pcm: Int16Array<ArrayBuffer>, endedMs: number): void {
    this.blocks.push({ ...spot, at, pcm, lateMs: endedMs - (spot.sample + pcm.length) / samplesPerMs });

    // An eighth at once, since that moves all the others.
    const eighth = Math.floor(this.blocks.length / 8);
    if (this.blocks[eighth]!.at <= this.end - mostSamples) {
      this.blocks = this.blocks.slice(eighth);
      this.isWhole = false;
    }
  }

  /** The moment of the last sample; null while there is none. */
  get now(): TakePoint | null {
    return this.blocks.length > 0 ? this.pointOf(this.blocks.at(-1)!, this.end) : null;
  }

  /** What was heard at a stamp of the page's clock; null when it is not at hand any more. */
  pointAt(stamp: number): TakePoint | null {
    const found = this.blocks.findIndex((b) => this.pointOf(b, b.at + b.pcm.length).stamp > stamp);
    const block = this.blocks[found];
    if (!block) {
      return null;
    }

    // Before the first sound, or in a pause, it is where the sound begins.
    const within = Math.max(0, Math.round((stamp - this.pointOf(block, block.at).stamp) * samplesPerMs));
    return found > 0 || within > 0 || this.isWhole ? this.pointOf(block, block.at + within) : null;
  }

  /** The phrases that the server has heard, as far as their sound is still at hand. */
  known(heard: readonly HeardPhrase[]): Phrase[] {
    return heard.flatMap((h) => {
      const from = this.find({ segment: h.fromSegment, sample: h.from });
      const to = this.find({ segment: h.toSegment, sample: h.to });
      return from && to ? [{ from, to }] : [];
    });
  }

  /** The phrases by the level alone: rougher, for when the server can't be asked. */
  rough(): Phrase[] {
    const begin = this.blocks[0]?.at ?? 0;
    const levels = this.levels(begin);
    const pointOf = (frame: number) => this.placeAt(Math.min(begin + frame * frameSamples, this.end));
    return spoken(levels).map(({ from, to }) => ({ from: pointOf(from), to: pointOf(to) }));
  }

  /** The sound between two times of the take, in ms; what is missing in it is silent. */
  sound(fromMs: number, toMs: number): Int16Array<ArrayBuffer> {
    const [from, to] = [Math.round(fromMs * samplesPerMs), Math.round(toMs * samplesPerMs)];
    const sound = new Int16Array(Math.max(0, to - from));
    for (const { at, pcm } of this.blocks) {
      if (at < to && at + pcm.length > from) {
        const [begin, end] = [Math.max(0, from - at), Math.min(pcm.length, to - at)];
        sound.set(pcm.subarray(begin, end), at + begin - from);
      }
    }

    return sound;
  }

  private get end(): number {
    const last = this.blocks.at(-1);
    return last ? last.at + last.pcm.length : 0;
  }

  private find({ segment, sample }: Spot): TakePoint | null {
    const block = this.blocks.find((b) => b.segment === segment && b.sample + b.pcm.length >= sample);
    return block && block.sample <= sample ? this.pointOf(block, block.at + sample - block.sample) : null;
  }

  private placeAt(at: number): TakePoint {
    return this.pointOf(this.blocks.find((b) => b.at + b.pcm.length >= at)!, at);
  }

  private pointOf(block: Block, at: number): TakePoint {
    const sample = block.sample + at - block.at;
    return { segment: block.segment, sample, ms: at / samplesPerMs, stamp: sample / samplesPerMs + this.lateness(block) };
  }

  private lateness(block: Block): number {
    const index = this.blocks.indexOf(block);
    let least = block.lateMs;
    for (const step of [-1, 1]) {
      for (let i = index + step; isNear(this.blocks[i], block); i += step) {
        least = Math.min(least, this.blocks[i]!.lateMs);
      }
    }

    return least;
  }

  // The mean power of each frame, in dB.
  private levels(begin: number): Float64Array {
    const power = new Float64Array(Math.floor((this.end - begin) / frameSamples));
    for (const { at, pcm } of this.blocks) {
      for (let i = 0; i < pcm.length; i++) {
        const frame = Math.floor((at - begin + i) / frameSamples);
        if (frame < power.length) {
          power[frame]! += pcm[i]! * pcm[i]!;
        }
      }
    }

    return power.map((sum) => 10 * Math.log10(sum / frameSamples + 1));
  }
}

function isNear(other: Block | undefined, block: Block): boolean {
  return other !== undefined && other.segment === block.segment && Math.abs(other.sample - block.sample) < nearSamples;
}
