// Views for those who don't want motion: what glides becomes a jump to where it ends.

/** Steps that follow each other this fast (ms) are one motion. */
const sameMotionMs = 150;

/** A motion that goes on for longer is several jumps, each so long after the one before (ms). */
const longestMs = 600;

/** @param steps Rows of time, left, top and width. Gives rows of the same kind. */
export function jumps(steps: readonly number[][]): number[][] {
  const found: number[][] = [];
  let begun = -Infinity;
  let last = -Infinity;
  for (const step of steps) {
    const at = step[0]!;
    if (at - last > sameMotionMs || at - begun > longestMs) {
      begun = at;
      found.push(step);
    } else {
      found[found.length - 1] = [begun, ...step.slice(1)];
    }

    last = at;
  }

  return found;
}
