// Finds where somebody speaks by the level alone. The server's finder (Core/Audio/PhraseFinder) is better in noise; this one does
// while it can't be asked.

/** The share of frames taken for the room's own noise, and the share below the loud ones. */
const quietShare = 0.2;
const loudShare = 0.95;

/** A voice lies this far above the noise, in dB, or this share of the way up to the loud frames, whichever is more. */
const leastRise = 8;
const shareOfRange = 0.35;

/** In frames of 10 ms: shorter silences lie within words, shorter sounds are clicks. */
const shortestSilence = 30;
const shortestSound = 10;

/** A stretch in frames, its end not included. */
export interface Frames {
  from: number;
  to: number;
}

/** @param levels Of frames of 10 ms, in dB. */
export function spoken(levels: Float64Array): Frames[] {
  const sorted = levels.toSorted();
  const [quiet, loud] = [sorted[Math.floor(sorted.length * quietShare)]!, sorted[Math.floor(sorted.length * loudShare)]!];
  const least = quiet + Math.max(leastRise, (loud - quiet) * shareOfRange);
  const found: Frames[] = [];
  levels.forEach((level, i) => {
    const last = found.at(-1);
    if (level < least) {
      return;
    }

    if (last && i - last.to < shortestSilence) {
      last.to = i + 1;
    } else {
      found.push({ from: i, to: i + 1 });
    }
  });
  return found.filter(({ from, to }) => to - from >= shortestSound);
}
