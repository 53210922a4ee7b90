// How the boards were at any moment since the take was opened here, so that a retake can go back to it: what was done since, and a
// state kept every now and then from which it is done again.

import type { BoardEvent } from "../journal/events";
import { type BoardsState, reduce, type Styles } from "../scene/boards-state";

/** The boards at a moment, and what can be undone there. */
export interface Snapshot<History> {
  readonly state: BoardsState;
  readonly history: History;
}

/** A state is kept after so many events; to do them again takes a few milliseconds. */
const eventsBetween = 200;

/** What is told by one hand may come after what was told by another and was done later, by less than this (ms). */
const mostLate = 2000;

interface Kept<History> extends Snapshot<History> {
  /** How many entries are in it. */
  readonly entries: number;
  /** The latest stamp of what is in it, in ms. */
  readonly stamp: number;
  /** Whether the boards were set back to it. */
  readonly isReturn: boolean;
}

interface Entry<History> {
  readonly stamp: number;
  /** Null when only what can be undone is another. */
  readonly event: BoardEvent | null;
  readonly history: History;
}

export class Past<History> {
  private readonly entries: Entry<History>[] = [];
  private readonly kept: Kept<History>[];
  private latest: number;

  /** @param begunAt When the take was opened (ms). */
  constructor(
    private readonly styles: Styles,
    readonly begunAt: number,
    begin: Snapshot<History>,
  ) {
    this.kept = [{ ...begin, entries: 0, stamp: -Infinity, isReturn: true }];
    this.latest = begunAt;
  }

  /** Something was done, or what can be undone became another; `after` is how it is then. */
  add(event: BoardEvent | null, stamp: number, after: Snapshot<History>): void {
    this.entries.push({ stamp, event, history: after.history });
    this.latest = Math.max(this.latest, stamp);
    if (this.entries.length - this.kept.at(-1)!.entries >= eventsBetween) {
      this.keep(after);
    }
  }

  /** Something else than a deed has changed the boards: what comes after follows from this state. */
  keep(after: Snapshot<History>): void {
    this.kept.push({ ...after, entries: this.entries.length, stamp: this.latest, isReturn: false });
  }

  /** The stamp of the last thing that was done (ms). */
  get last(): number {
    return this.latest;
  }

  /** From a stamp on (ms) everything follows from this state, which is an earlier one. */
  goesOn(stamp: number, from: Snapshot<History>): void {
    this.latest = stamp;
    this.kept.push({ ...from, entries: this.entries.length, stamp, isReturn: true });
  }

  /** How it was just before a moment (ms); a stroke that was being drawn is still wet. */
  at(stamp: number): Snapshot<History> {
    const index = Math.max(0, this.kept.findLastIndex((k) => k.stamp < stamp));
    let { state, history, entries } = this.kept[index]!;
    const end = this.kept.slice(index + 1).find((k) => k.isReturn)?.entries ?? this.entries.length;
    for (; entries < end && this.entries[entries]!.stamp < stamp + mostLate; entries++) {
      const entry = this.entries[entries]!;
      const event = before(entry, stamp);
      state = event ? reduce(state, event, this.styles) : state;
      history = entry.stamp < stamp ? entry.history : history;
    }

    return { state, history };
  }

  /**
   * The latest moment up to `to` (ms) before anything that was done after `from` and is either there or not, and so many ms away from
   * it and from what was done before.
   */
  clearOf(from: number, to: number, ms: number): number {
    let [before, after] = [-Infinity, Infinity];
    for (const { event, stamp } of this.entries) {
      if (event && event.e !== "points" && event.e !== "pointer") {
        [before, after] = stamp <= from ? [Math.max(before, stamp), after] : [before, Math.min(after, stamp)];
      }
    }

    const least = before + ms < after ? before + ms : (before + after) / 2;
    return Math.max(least, Math.min(to, after - ms));
  }
}

// Of what has many points, those before the moment.
function before({ event, stamp }: Entry<unknown>, until: number): BoardEvent | null {
  const width = event?.e === "points" ? 4 : event?.e === "pointer" ? 3 : 0;
  if (event && width > 0 && "d" in event) {
    const rows = Array.from({ length: event.d.length / width }, (_, i) => event.d.slice(i * width, (i + 1) * width));
    const d = rows.filter((row) => row.at(-1)! / 10 < until).flat();
    return d.length > 0 ? { ...event, d } : null;
  }

  return stamp < until ? event : null;
}
