// The pointer between the places that the file has: it moves straight from row to row and rests after the last.

import { type Pointer, trailMs } from "../scene/scene";
import type { PointerEntry } from "./files";
import { countUpTo, rowsOf } from "./rows";

export interface PointerRun {
  board: number;
  from: number;
  /** -1 for never. */
  to: number;
  /** Rows of time, x, y. */
  path: number[][];
}

export function runOf(entry: PointerEntry): PointerRun {
  return { ...entry, path: rowsOf(entry.path, 3) };
}

/** The pointer on a board at a time. The trail is of the one run it is in, so it never leads across a seek or from another board. */
export function pointerAt(runs: readonly PointerRun[], board: number, ms: number): Pointer | null {
  const run = runs.findLast((r) => r.from <= ms);
  if (!run || run.board !== board || (run.to >= 0 && ms >= run.to)) {
    return null;
  }

  const since = Math.max(run.from, ms - trailMs);
  const between = run.path.filter((row) => row[0]! > since && row[0]! < ms);
  const places = [placeAt(run, since), ...between, placeAt(run, ms)];
  const here = places.at(-1)!;
  const hasMoved = places.some((row) => row[1] !== here[1] || row[2] !== here[2]);
  return { x: here[1]!, y: here[2]!, trail: hasMoved ? places.map(([at, x, y]) => ({ x: x!, y: y!, age: ms - at! })) : [] };
}

function placeAt({ path }: PointerRun, ms: number): number[] {
  const count = Math.max(1, countUpTo(path.length, (i) => path[i]![0]! <= ms));
  const [from, to] = [path[count - 1]!, path[count]];
  const share = to ? Math.min(Math.max((ms - from[0]!) / Math.max(1, to[0]! - from[0]!), 0), 1) : 0;
  return [ms, from[1]! + Math.round(((to?.[1] ?? 0) - from[1]!) * share), from[2]! + Math.round(((to?.[2] ?? 0) - from[2]!) * share)];
}
