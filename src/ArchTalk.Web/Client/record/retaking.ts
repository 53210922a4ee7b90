// A retake while recording: where to go back to, and what is shown and heard until it goes on. It knows no page and no browser.

import { samplesPerMs } from "../journal/record";
import { type Phrase, type TakePoint, type ToWorker } from "./messages";

/** Of the take, in ms; what lies in it was taken back. */
export interface TakenBack {
  from: number;
  to: number;
}

/** A phrase that still counts, and where it would go on after it. */
export interface Bar extends Phrase {
  back: TakePoint;
}

/** Goes on where the take was begun here. */
export const atBegin = -1;

/** Goes on at the end of what the last retake took back: it counts again. */
export const atBranch = -2;

export interface RetakeView {
  /** "looking" for phrases; "hearing" the last words before; "counting"; "waiting" until the teacher goes on. */
  stage: "looking" | "hearing" | "counting" | "waiting";
  /** In order; the last one is the newest. */
  bars: readonly Bar[];
  /** The bar after which it goes on; or `atBegin`, or `atBranch`. */
  chosen: number;
  /** Seconds to go. */
  countdown: number;
  isRough: boolean;
  /** Where the take goes on, in ms of it. */
  back: number;
}

/** The boards, which go back with the voice. */
export interface Boards {
  /** When they were set up for this take, in ms; a moment later everything about them is journalled. */
  readonly begunAt: number;
  /** When something was last done on them, in ms. */
  readonly lastDeed: number;
  /** Shows them as they were at a stamp (`to`, in ms), or before what was done first after `from`; gives the moment. */
  goBack(from: number, to: number): number;
  /** They are as they were when it was held. */
  putBack(): void;
  /** From here on they go on from what they were set back to. */
  goOn(stamp: number): void;
}

export interface RetakeNeeds {
  post(message: ToWorker): void;
  boards: Boards;
  clock: { now(): number; after(ms: number, then: () => void): () => void };
  /** Plays sound of 48 kHz; ends when it has been heard, or when something else is played. */
  play(pcm: Int16Array<ArrayBuffer>): Promise<void>;
  changed(): void;
  /** Nobody spoke in all the time that is at hand. */
  nowhere(): void;
  /** The boards are set, the count is over. */
  goesOn(): void;
}

/** A rest after the words that stay, in ms, so that their end isn't cut off; half the silence at most. */
const restMs = 200;

/** What is played before it goes on, in ms. */
const leadInMs = 3000;

/** Silence longer than this (ms) was meant: what was drawn in it is what is taken back, and not what was said before. */
const meantMs = 1500;

/** Longer than it takes to journal how the boards begin, in ms. */
const openingMs = 20;

/** What a retake took back, so that it can be put back at once. */
export interface Branch {
  /** Where it was held. */
  at: TakePoint;
  /** How much was taken back, in ms. */
  ms: number;
  /** What was taken back by then. */
  before: readonly TakenBack[];
}

export class Retaking {
  /** Null while none is going on. */
  view: RetakeView | null = null;
  /** What counts no more, in ms of the take, in order. */
  takenBack: readonly TakenBack[] = [];
  /** The last retake's. */
  branch: Branch | null = null;

  /** What was taken back before the take was opened here, in ms. */
  private before = 0;
  private now: TakePoint | null = null;
  private begin: TakePoint | null = null;
  /** Where it goes on if nothing else is chosen. */
  private back: TakePoint | null = null;
  private countFrom = 0;
  private isPuttingBack = false;
  private stopTimer: () => void = () => undefined;
  /** Which choice what is heard belongs to. */
  private turn = 0;

  constructor(private readonly needs: RetakeNeeds) {}

  /** How long what counts is, of so many ms of the take. */
  live(ms: number): number {
    return this.takenBack.reduce((left, t) => left - Math.max(0, Math.min(t.to, ms) - Math.min(t.from, ms)), ms - this.before);
  }

  /** @param isPuttingBack What the last retake took back counts again, and what was said since doesn't. */
  start(countFrom: number, isPuttingBack: boolean): void {
    this.countFrom = countFrom;
    this.isPuttingBack = isPuttingBack;
    this.view = { stage: "looking", bars: [], chosen: 0, countdown: 0, isRough: false, back: 0 };
    this.needs.post({ say: "phrases", begunAt: this.needs.boards.begunAt + openingMs });
  }

  found(phrases: readonly Phrase[], begin: TakePoint | null, now: TakePoint | null, isRough: boolean): void {
    if (this.view?.stage !== "looking") {
      return;
    }

    const bars = now ? barsOf(phrases, this.takenBack, now) : [];
    if (!now || (bars.length === 0 && !begin)) {
      this.needs.nowhere();
      return;
    }

    this.now = now;
    this.begin = begin;
    this.view = { ...this.view, bars, isRough };
    this.choose(this.isPuttingBack ? atBranch : Math.max(firstChoice(bars, now, this.needs.boards.lastDeed), this.farthest));
  }

  /** The bar before the chosen one; null when there is none. */
  private get nextFarther(): number | null {
    const { view } = this;
    if (!view || view.stage === "looking") {
      return null;
    }

    const next = (view.chosen === atBranch ? view.bars.length : view.chosen) - 1;
    return next >= this.farthest ? next : null;
  }

  get canGoFarther(): boolean {
    return this.nextFarther !== null;
  }

  /** One phrase further back. */
  farther(): void {
    if (this.nextFarther !== null) {
      this.choose(this.nextFarther);
    }
  }

  /** It goes on after this phrase; its last words are played, and then it is counted. */
  choose(bar: number): void {
    const view = this.view!;
    const point = this.pointOf(bar);
    this.stopTimer();
    const stamp = this.needs.boards.goBack(view.bars[bar]?.to.stamp ?? point.stamp, point.stamp);
    this.back = later(point, stamp - point.stamp);
    this.turn++;
    this.view = { ...view, stage: "hearing", chosen: bar, back: this.back.ms };
    this.needs.changed();
    const from = view.bars[bar]?.from.ms ?? 0;
    this.needs.post({ say: "sound", from: Math.max(from, this.back.ms - leadInMs), to: this.back.ms });
  }

  /** @param to Where it ends, in ms of the take: another place was chosen since if it isn't where it goes on. */
  async heard(pcm: Int16Array<ArrayBuffer>, to: number): Promise<void> {
    const turn = this.turn;
    if (this.view?.stage !== "hearing" || this.view.back !== to) {
      return;
    }

    await this.needs.play(pcm);
    if (turn === this.turn && this.view?.stage === "hearing") {
      this.count(this.countFrom);
    }
  }

  /** Counting stops, or what is heard; it goes on when the teacher says so. */
  wait(): void {
    if (this.view && this.view.stage !== "looking") {
      this.stopTimer();
      this.turn++;
      void this.needs.play(new Int16Array());
      this.view = { ...this.view, stage: "waiting" };
      this.needs.changed();
    }
  }

  goOn(): void {
    const { view, back, now, branch } = this;
    if (!view || !back || !now) {
      return;
    }

    const stamp = this.needs.clock.now();
    this.needs.post({ say: "retake", to: { segment: back.segment, sample: back.sample }, stamp });
    this.needs.boards.goOn(stamp);
    const before = this.takenBack;
    const stays = branch && view.chosen === atBranch ? branch.before : before;
    this.branch = { at: now, ms: this.live(now.ms) - this.live(back.ms), before };
    this.takenBack = joined([...stays, { from: back.ms, to: now.ms }]);
    this.end();
    this.needs.goesOn();
  }

  /** Nothing is taken back; the boards are as they were. */
  cancel(): void {
    if (this.view) {
      this.needs.boards.putBack();
      this.end();
    }
  }

  /** A take is opened. @param takenBackMs How much of it was taken back before. */
  reset(takenBackMs: number): void {
    this.end();
    this.before = takenBackMs;
    this.takenBack = [];
    this.branch = null;
  }

  private end(): void {
    this.stopTimer();
    this.turn++;
    void this.needs.play(new Int16Array());
    this.view = this.now = this.begin = this.back = null;
  }

  private get farthest(): number {
    return this.begin ? atBegin : 0;
  }

  private pointOf(bar: number): TakePoint {
    return (bar === atBegin ? this.begin : bar === atBranch ? this.branch?.at : this.view!.bars[bar]?.back) ?? this.now!;
  }

  private count(from: number): void {
    this.view = { ...this.view!, stage: "counting", countdown: from };
    this.needs.changed();
    if (from === 0) {
      this.goOn();
      return;
    }

    this.stopTimer = this.needs.clock.after(1000, () => this.count(from - 1));
  }
}

/** The phrases that still count, each with where it would go on after it. */
export function barsOf(phrases: readonly Phrase[], takenBack: readonly TakenBack[], now: TakePoint): Bar[] {
  return phrases.flatMap((phrase, i) => {
    const silence = (phrases[i + 1]?.from ?? now).ms - phrase.to.ms;
    const bar = { ...phrase, back: later(phrase.to, Math.min(restMs, silence / 2)) };
    return takenBack.reduce<Bar[]>((bars, taken) => bars.flatMap((b) => outside(b, taken)), [bar]);
  });
}

// Words just before and just after a retake lie close together in the take and may be heard as one phrase.
function outside(bar: Bar, taken: TakenBack): Bar[] {
  const [from, to] = [bar.from.ms, bar.to.ms];
  if (to <= taken.from || from >= taken.to) {
    return [bar];
  }

  return to > taken.to ? [{ ...bar, from: later(bar.from, taken.to - from) }] : [];
}

/**
 * The phrase that is being said or was said last is the one that went wrong, so it goes on after the one before; but when something
 * was done on the boards in a long silence since, only that is taken back.
 */
export function firstChoice(bars: readonly Bar[], now: TakePoint, lastDeed: number): number {
  const last = bars.at(-1);
  const drewSince = last !== undefined && now.ms - last.to.ms > meantMs && lastDeed > last.back.stamp;
  return bars.length - (drewSince ? 1 : 2);
}

function later(point: TakePoint, ms: number): TakePoint {
  return { segment: point.segment, sample: point.sample + Math.round(ms * samplesPerMs), ms: point.ms + ms, stamp: point.stamp + ms };
}

// In order, without overlaps.
function joined(stretches: readonly TakenBack[]): TakenBack[] {
  const found: TakenBack[] = [];
  for (const { from, to } of stretches.toSorted((a, b) => a.from - b.from)) {
    const last = found.at(-1);
    if (last && from <= last.to) {
      last.to = Math.max(last.to, to);
    } else {
      found.push({ from, to });
    }
  }

  return found;
}
