// A stretch of the lesson that is chosen, and where its edges settle. Computes only.

import { countUpTo } from "../timeline/rows";

/** In ms. */
export interface Stretch {
  from: number;
  to: number;
}

/** @param phrases From and to by turns, in order. */
export function edgeNear(ms: number, phrases: readonly number[], within: number): number {
  const after = countUpTo(phrases.length, (i) => phrases[i]! < ms);
  const [before, next] = [phrases[after - 1] ?? -Infinity, phrases[after] ?? Infinity];
  const nearest = ms - before <= next - ms ? before : next;
  return Math.abs(nearest - ms) <= within ? nearest : ms;
}

/** The edge of a phrase before (-1) or after (+1) a moment; the end of the lesson where there is none. */
export function edgeBeside(ms: number, phrases: readonly number[], by: -1 | 1, length: number): number {
  const apart = 20;
  const edges = by < 0 ? phrases.filter((p) => p < ms - apart) : phrases.filter((p) => p > ms + apart);
  return (by < 0 ? edges.at(-1) : edges[0]) ?? (by < 0 ? 0 : length);
}

export function between(a: number, b: number): Stretch {
  return { from: Math.min(a, b), to: Math.max(a, b) };
}

/** How many phrases and how many marks (from, to, style by turns) a stretch touches. */
export function holds({ from, to }: Stretch, phrases: readonly number[], marks: ArrayLike<number>): { phrases: number; marks: number } {
  const count = (flat: ArrayLike<number>, columns: number) => {
    let touched = 0;
    for (let i = 0; i < flat.length; i += columns) {
      const at = flat[i]!;
      touched += at < to && Math.max(flat[i + 1]!, at + 1) > from ? 1 : 0;
    }

    return touched;
  };
  return { phrases: count(phrases, 2), marks: count(marks, 3) };
}
