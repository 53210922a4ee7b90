// Lists of numbers as the files have them, and steps: rows of a time and what holds from then on.

import type { Rows } from "./files";

/** Turns differences back into values, in place. */
export function undoDifferences(flat: number[], columns: number): number[] {
  for (let i = columns; i < flat.length; i++) {
    flat[i]! += flat[i - columns]!;
  }

  return flat;
}

export function rowsOf(flat: Rows, columns: number): number[][] {
  const sums = undoDifferences([...flat], columns);
  return Array.from({ length: sums.length / columns }, (_, i) => sums.slice(i * columns, (i + 1) * columns));
}

/** The row that holds at a time. */
export function rowAt(steps: readonly number[][], ms: number): number[] | undefined {
  return steps[countUpTo(steps.length, (i) => steps[i]![0]! <= ms) - 1];
}

/** How many of the first `length` indexes fulfil a condition that holds up to some index and not beyond. */
export function countUpTo(length: number, holds: (index: number) => boolean): number {
  let low = 0;
  let high = length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }

  return low;
}
